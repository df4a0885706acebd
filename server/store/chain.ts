import { createHash } from 'node:crypto';
import { hashedPart, type StoredEvent } from '#core/events/record';
import { canonical } from '#core/canonical';

export { canonical };

export const sha256 = (text: string | Buffer): string => createHash('sha256').update(text).digest('hex');

export const FIRST_HASH = '0'.repeat(64);

/** Ties an event to the one before: any later change to either shows. */
export const eventHash = (orderId: string, e: Omit<StoredEvent, 'hash'>): string => sha256(canonical(hashedPart(orderId, e)));
