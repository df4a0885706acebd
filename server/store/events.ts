import { eventHash, FIRST_HASH } from './chain';
import { StoredEvent, upToDate, type OrderEvent } from '#core/events/record';
import type { EventBody } from '#core/events/registry';
import { rows, run, type Store, type Tx } from './db';

interface EventRow {
  seq: number;
  version: number;
  at: Date;
  done_at: Date | null;
  by_person: string;
  body: string;
  prev_hash: string;
  hash: string;
}

const COLUMNS = 'seq, version, at, done_at, by_person, body, prev_hash, hash';

const toStored = (r: EventRow): StoredEvent =>
  StoredEvent.parse({
    seq: r.seq,
    version: r.version,
    doneAt: (r.done_at ?? r.at).toISOString(),
    recordedAt: r.at.toISOString(),
    by: r.by_person,
    body: JSON.parse(r.body) as unknown,
    prevHash: r.prev_hash,
    hash: r.hash,
  });

/** Events that are parsed before others get their turn. */
const AT_ONCE = 200;

/** An order's events as they lie in the store, which is what their hashes were taken of. */
export async function readStored(s: Store, order: string, after = 0): Promise<StoredEvent[]> {
  const list = await rows<EventRow>(s, `SELECT ${COLUMNS} FROM order_events WHERE order_id = ? AND seq > ? ORDER BY seq`, [order, after]);
  const out: StoredEvent[] = [];
  for (const [i, r] of list.entries()) {
    if (i && i % AT_ONCE === 0) await new Promise((next) => setImmediate(next));
    out.push(toStored(r));
  }
  return out;
}

/** An order's events, brought up to date. */
export const readEvents = async (s: Store, order: string, after = 0): Promise<OrderEvent[]> =>
  (await readStored(s, order, after)).map(upToDate);

/** What the next event of an order is chained to: the last one's hash, and when it was recorded. */
export interface ChainEnd {
  hash: string;
  recordedAt: Date;
}
export async function chainEnd(s: Store, order: string, seq: number): Promise<ChainEnd | null> {
  const [r] = await rows<{ hash: string; at: Date }>(s, 'SELECT hash, at FROM order_events WHERE order_id = ? AND seq = ?', [order, seq]);
  return r ? { hash: r.hash, recordedAt: r.at } : null;
}

/** Writes one event, tied to the one before. */
export async function writeEvent(
  tx: Tx,
  order: string,
  e: { seq: number; version: number; doneAt: string; recordedAt: string; by: string; body: EventBody; says: string },
  before: ChainEnd | null,
): Promise<void> {
  const { says, ...rest } = e;
  const unhashed = { ...rest, body: e.body as StoredEvent['body'], prevHash: before?.hash ?? FIRST_HASH };
  await run(
    tx,
    'INSERT INTO order_events (order_id, seq, version, at, done_at, by_person, type, body, says, prev_hash, hash) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)',
    [
      order,
      e.seq,
      e.version,
      new Date(e.recordedAt),
      new Date(e.doneAt),
      e.by,
      e.body.type,
      JSON.stringify(e.body),
      says,
      unhashed.prevHash,
      eventHash(order, unhashed),
    ],
  );
}
