import { randomBytes, randomUUID } from 'node:crypto';
import { sha256 } from './chain';

/** A secret that stands in an address: what is kept of it is its hash, and it is told once. */
export function newSecret(): { id: string; secret: string; hash: string } {
  const secret = randomBytes(32).toString('base64url');
  return { id: randomUUID(), secret, hash: sha256(secret) };
}

/** By what a secret is looked for. */
export const hashOfSecret = (secret: string): string => sha256(secret);
