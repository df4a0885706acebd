import { z } from 'zod';

/** A picture by the SHA-256 of its bytes. */
export const PhotoId = z.string().regex(/^[0-9a-f]{64}$/, 'a picture goes by its SHA-256');
export const PhotoNote = z.string().trim().max(200, 'at most 200 characters').default('');
