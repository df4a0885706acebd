import { createHash } from 'node:crypto';
import type { OrderEvent } from '#model/event';

/** JSON with keys in order, so that the same data always has the same hash. */
export function canonical(v: unknown): string {
  if (Array.isArray(v)) return `[${v.map(canonical).join(',')}]`;
  if (v && typeof v === 'object')
    return `{${Object.entries(v)
      .filter(([, x]) => x !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([k, x]) => `${JSON.stringify(k)}:${canonical(x)}`)
      .join(',')}}`;
  return JSON.stringify(v) ?? 'null';
}

export const sha256 = (text: string | Buffer): string => createHash('sha256').update(text).digest('hex');

export const FIRST_HASH = '0'.repeat(64);

/** Ties an event to the one before: any later change to either shows. */
export const eventHash = (orderId: string, e: Omit<OrderEvent, 'hash'>): string =>
  sha256(canonical({ orderId, seq: e.seq, at: e.at, by: e.by, body: e.body, prevHash: e.prevHash }));
