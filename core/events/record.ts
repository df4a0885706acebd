import { z } from 'zod';
import type { Order } from '#model/order';
import { definitionOf, isEvent, type EventBody } from './registry';

/**
 * An event of an order's record, brought up to date: numbered within its order, chained by hash to the one before. When it
 * was done comes from the device it was done on; when it was recorded, from the server.
 */
export interface OrderEvent {
  seq: number;
  doneAt: string;
  recordedAt: string;
  by: string;
  body: EventBody;
  prevHash: string;
  hash: string;
}

/** An event as it lies in the store. `version` is that of its body; 0: from before bodies had one, and `doneAt` was kept. */
export const StoredEvent = z.object({
  seq: z.number().int().positive(),
  version: z.number().int().min(0),
  doneAt: z.iso.datetime(),
  recordedAt: z.iso.datetime(),
  by: z.string(),
  body: z.looseObject({ type: z.string() }),
  prevHash: z.string().length(64),
  hash: z.string().length(64),
});
export type StoredEvent = z.infer<typeof StoredEvent>;

/** An event of the record that this program does not understand. */
export class UnreadableEvent extends Error {
  override readonly name = 'UnreadableEvent';
}

/**
 * The one place where what was recorded long ago is brought up to date: a body of an older version is led through each
 * version since, and then parsed.
 * @throws UnreadableEvent for a kind, version or shape that is not known here
 */
export function upToDate(stored: StoredEvent): OrderEvent {
  const { type } = stored.body;
  const what = `event ${stored.seq} (${type})`;
  if (!isEvent(type)) throw new UnreadableEvent(`${what} is of a kind that this version of Kadro does not know`);
  const definition = definitionOf(type);
  if (stored.version > definition.version) throw new UnreadableEvent(`${what} was written by a newer version of Kadro: update this one`);
  let body: Record<string, unknown> = stored.body;
  for (let v = Math.max(1, stored.version); v < definition.version; v++) body = definition.earlier![v]!(body);
  const parsed = definition.body.safeParse(body);
  if (!parsed.success) {
    const i = parsed.error.issues[0]!;
    throw new UnreadableEvent(`${what} is damaged: ${i.path.join('.')}: ${i.message}`);
  }
  const { seq, doneAt, recordedAt, by, prevHash, hash } = stored;
  return { seq, doneAt, recordedAt, by, body: parsed.data as EventBody, prevHash, hash };
}

/** What an event's hash is taken over: everything but itself, and the order it belongs to. */
export const hashedPart = (orderId: string, e: Omit<StoredEvent, 'hash'>): Record<string, unknown> =>
  e.version === 0
    ? { orderId, seq: e.seq, at: e.recordedAt, by: e.by, body: e.body, prevHash: e.prevHash }
    : { orderId, seq: e.seq, version: e.version, doneAt: e.doneAt, recordedAt: e.recordedAt, by: e.by, body: e.body, prevHash: e.prevHash };

/**
 * When something was done, as far as can be told. The device says, corrected by its offset; but nothing is done after it was
 * received, before its order was opened, or before what the same person did there before.
 * @param told as the device has it, ISO 8601; null where nobody says
 */
export function doneAtOf(told: string | null, recordedAt: string, by: string, order: Order | null): string {
  const received = Date.parse(recordedAt);
  const said = told === null ? received : Math.min(Date.parse(told), received);
  const opened = order ? Date.parse(order.openedAt) : -Infinity;
  const before = order?.lastDone[by];
  const own = before ? Date.parse(before) + 1 : -Infinity;
  const at = Math.max(said, opened, own);
  return new Date(at).toISOString();
}
