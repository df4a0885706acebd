import { takenBack } from '#core/events/undo';
import { randomUUID } from 'node:crypto';
import { replay, STATE_VERSION } from '#core/events/apply';
import { doneAtOf, type OrderEvent } from '#core/events/record';
import { clashes, say, type OrderCommand } from '#core/events/registry';
import { together } from '#core/learn/pace';
import { eventWords, nameWords } from '#core/order/search';
import type { ListedOrder, OrderSummary } from '#core/order/summary';
import type { OrderOpening } from '#model/opening';
import type { Order } from '#model/order';
import type { Asker } from '#model/person';
import type { SheetKind, SheetRef } from '#model/sheet';
import type { OrderInput } from '../work/memo';
import type { Prepared } from '../work/record-task';
import type { Workers } from '../work/workers';
import { keepAnswer, keptAnswer, type Answer } from './answers';
import { inTurn, row, rows, run, shopOf, transact, type Shop, type Store, type Tx } from './db';
import { chainEnd, readEvents, writeEvent, type ChainEnd } from './events';
import { withLease } from './lease';
import { writeMessages } from './messages';
import { isPassing } from './passing';
import { listPeople } from './people';
import { hasPhoto } from './photos';
import { addWords, dropWord, LISTED, toListed, type ListedRow } from './search';
import { moveStock, readSettings } from './settings';
import { newestRef, refsOf, sheetsOf } from './sheets';
import { keepTold } from './told';
import { keepWorked, pacesFor } from './worked';

interface OrderRow {
  id: string;
  version: number;
  state: string;
  state_version: number;
}

/** An order's state. One kept by an older version of the program is made anew from what was recorded. */
const stateOf = async (s: Store, r: OrderRow): Promise<Order> =>
  r.state_version === STATE_VERSION ? (JSON.parse(r.state) as Order) : replay(r.id, await readEvents(s, r.id));

/** An order and what its next event is chained to, as they are at one moment. */
async function readToChange(s: Store, id: string): Promise<{ order: Order; before: ChainEnd | null } | null> {
  const r = await row<OrderRow & { hash: string | null; at: Date }>(
    s,
    `SELECT o.id, o.version, o.state, o.state_version, e.hash, e.at FROM orders o
     LEFT JOIN order_events e ON e.order_id = o.id AND e.seq = o.version WHERE o.id = ?`,
    [id],
  );
  return r && { order: await stateOf(s, r), before: r.hash === null ? null : { hash: r.hash, recordedAt: r.at } };
}

export async function readOrder(s: Store, id: string): Promise<Order | null> {
  const r = await row<OrderRow>(s, 'SELECT id, version, state, state_version FROM orders WHERE id = ?', [id]);
  return r && stateOf(s, r);
}

/** An order with all that it is computed from, for a thread to compute. */
export async function orderInput(
  s: Store,
  workers: Workers,
  order: Order,
  also: readonly (readonly [SheetKind, SheetRef])[] = [],
): Promise<OrderInput> {
  const [{ bag, packs }, settings] = await Promise.all([sheetsOf(s, workers, order, also), readSettings(s)]);
  return { shop: shopOf(s).id, order, bag, packs, settings: JSON.stringify(settings) };
}

/** Somebody recorded something on the order while this was being worked out: it is worked out again. */
class Moved extends Error {}
/** The same request came twice at once, and the other one was first. */
class HadAnswer extends Error {
  constructor(readonly answer: Answer | 'other request') {
    super('had answer');
  }
}

/** There is no such order. */
class Missing extends Error {}

/** An Idempotency-Key was used for another request. */
export class KeyUsed extends Error {}

/** The key under which a request's answer is kept, and what it asked for. */
export interface Once {
  key: string;
  person: string;
  fingerprint: string;
}

/** How often something is worked out anew because others came between. */
const MOST_TRIES = 20;

/** Writes something worked out before, once per key; where the record moved meanwhile it is worked out again. */
async function written(
  shop: Shop,
  once: Once | null,
  attempt: () => Promise<{ write: (tx: Tx) => Promise<void>; answer: Answer }>,
): Promise<Answer> {
  const had = async () => once && keptAnswer(shop, once.key, once.person, once.fingerprint);
  for (let n = 1; ; n++)
    try {
      const { write, answer } = await attempt();
      await transact(shop, async (tx) => {
        await write(tx);
        const other = once && (await keepAnswer(tx, once.key, once.person, once.fingerprint, answer));
        if (other) throw new HadAnswer(other);
      });
      return answer;
    } catch (e) {
      // what the same request did before is no reason to refuse it, and is not done again; who is away is not asked a second time
      const before = e instanceof HadAnswer ? e.answer : isPassing(e) ? null : await had();
      if (before === 'other request') throw new KeyUsed();
      if (before) return before;
      if (!(e instanceof Moved) || n >= MOST_TRIES) throw e;
    }
}

/** Writes what was worked out of one event. The order must still be where it was. */
async function write(
  tx: Tx,
  id: string,
  p: Prepared,
  when: { doneAt: string; recordedAt: string; by: string },
  before: ChainEnd | null,
): Promise<void> {
  const { order } = p;
  const recordedAt = new Date(when.recordedAt);
  if (order.version === 1)
    await run(
      tx,
      'INSERT INTO orders (id, number, version, status, model, build, opened_at, promised_at, updated_at, state, state_version, summary, demands) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)',
      [
        id,
        order.number,
        order.version,
        order.status,
        order.model,
        order.build,
        new Date(when.doneAt),
        new Date(order.promisedAt),
        recordedAt,
        p.state,
        STATE_VERSION,
        p.summary,
        p.demands,
      ],
    );
  else {
    const r = await run(
      tx,
      'UPDATE orders SET version = ?, status = ?, build = ?, promised_at = ?, updated_at = ?, state = ?, state_version = ?, summary = ?, demands = ? WHERE id = ? AND version = ?',
      [
        order.version,
        order.status,
        order.build,
        new Date(order.promisedAt),
        recordedAt,
        p.state,
        STATE_VERSION,
        p.summary,
        p.demands,
        id,
        order.version - 1,
      ],
    );
    if (r.affectedRows !== 1) throw new Moved();
  }
  await writeEvent(tx, id, { seq: order.version, version: p.bodyVersion, ...when, body: p.body, says: p.says }, before);
  await keepTold(tx, { id, ...order }, { seq: order.version, ...when, body: p.body });
  await addWords(tx, order.number, p.addWords);
  for (const w of p.dropWords) await dropWord(tx, order.number, w);
  if (p.moves.length) await moveStock(tx, p.moves, when.by, `order ${order.number}`);
  if (p.messages.length) await writeMessages(tx, id, p.messages);
  if (p.sealed) {
    await run(tx, 'INSERT INTO sealed_sheets (order_id, json, hash) VALUES (?, ?, ?)', [id, p.sealed.json, p.sealed.hash]);
    await keepWorked(tx, p.sealed.worked);
  }
}

/** The next order's number as it stands; 1001 for the first. */
const nextNumber = async (s: Store): Promise<number> =>
  ((await row<{ value: number }>(s, "SELECT value FROM counters WHERE name = 'order'"))?.value ?? 1000) + 1;

/** Takes a number, if it is still the next. */
async function takeNumber(tx: Tx, number: number): Promise<void> {
  const r =
    number === 1001
      ? await run(tx, "INSERT IGNORE INTO counters (name, value) VALUES ('order', 1001)")
      : await run(tx, "UPDATE counters SET value = value + 1 WHERE name = 'order' AND value = ?", [number - 1]);
  if (r.affectedRows !== 1) throw new Moved();
}

/** Works out what taking a unit in writes. @throws Refused when model, build and year do not go together */
async function prepareOpening(s: Store, workers: Workers, opening: OrderOpening, by: string, at: Date) {
  const id = randomUUID();
  const when = { by, doneAt: at.toISOString(), recordedAt: at.toISOString() };
  const number = await nextNumber(s);
  const { bag, packs } = await sheetsOf(s, workers, { unit: { model: opening.model } as Order['unit'], kits: [] });
  const x = { shop: shopOf(s).id, bag, packs, settings: JSON.stringify(await readSettings(s)) };
  const p = await workers.run('open', { x, id, number, opening, by, doneAt: when.doneAt });
  return { id, number, p, write: async (tx: Tx) => (await takeNumber(tx, number), write(tx, id, p, when, null)) };
}

/** Takes in a unit under the next number, once per key. */
export const openOrder = (shop: Shop, workers: Workers, opening: OrderOpening, by: string, once: Once | null): Promise<Answer> =>
  written(shop, once, async () => {
    const { id, number, p, write } = await prepareOpening(shop, workers, opening, by, new Date());
    return { write, answer: { status: 201, body: { id, number, version: p.order.version } } };
  });

/** The same within a transaction under way, at a moment of its own. */
export async function openWithin(tx: Tx, workers: Workers, opening: OrderOpening, by: string, at: Date): Promise<string> {
  const { id, write } = await prepareOpening(tx, workers, opening, by, at);
  await write(tx);
  return id;
}

/** The version a change was made on is no longer the newest, and what came between touches the same part. */
export class StaleVersion extends Error {
  constructor(
    readonly current: Order,
    readonly between: OrderEvent[],
    readonly clashing: OrderEvent[],
  ) {
    super('stale version');
  }
}

/** Who asks: somebody of the shop, or the unit’s owner. */
export interface AskedBy {
  id: string;
  role: Asker;
}

/** A command as it was asked for: by whom, on which version, and when it was done as far as the device can tell. */
export interface Asked {
  command: OrderCommand;
  person: AskedBy;
  onVersion: number;
  /** carry it out on a newer version too, if what came between touches nothing of the same */
  merge: boolean;
  doneAt: string | null;
}

/** Clocks of one person's devices may differ by this, milliseconds, once the server has put them right. */
const CLOCKS_APART_MS = 2000;

/**
 * What came between, and what of it touches the same. One person's own changes, sent one after another, never clash; one that was
 * done before another of theirs that stands already, as from a second device that had no network, does: the older never wins in
 * silence.
 */
async function checkVersion(s: Store, order: Order, { command, person, onVersion, merge, doneAt }: Asked): Promise<void> {
  if (onVersion === order.version) return;
  const between = await readEvents(s, order.id, onVersion);
  const overtook = (e: OrderEvent) => doneAt !== null && Date.parse(e.doneAt) - Date.parse(doneAt) > CLOCKS_APART_MS;
  const bodies = clashes(
    command,
    between.filter((e) => e.by !== person.id || overtook(e)).map((e) => e.body),
  );
  if (!merge || bodies.length || onVersion > order.version)
    throw new StaleVersion(
      order,
      between,
      between.filter((e) => bodies.includes(e.body)),
    );
}

/**
 * Works out what a command writes. No row is locked meanwhile.
 * @throws Refused, StaleVersion
 */
async function prepare(s: Store, workers: Workers, order: Order, before: ChainEnd | null, asked: Asked, at: Date) {
  await checkVersion(s, order, asked);
  const { command, person } = asked;
  // a clock that was set back does not turn the record round
  const recordedAt = (before && before.recordedAt > at ? before.recordedAt : at).toISOString();
  const when = { by: person.id, recordedAt, doneAt: doneAtOf(asked.doneAt, recordedAt, person.id, order) };
  const kit = command.type === 'kit.added' ? await newestRef(s, 'kit', command.kit) : null;
  const model = command.type === 'model.renewed' ? await newestRef(s, 'model', order.unit.model.id) : null;
  const people = 'to' in command ? (await listPeople(s)).filter((p) => !p.ended).map((p) => p.id) : [];
  const known = { people, kit, model, hasPhoto: 'photo' in command && command.photo ? await hasPhoto(s, command.photo) : false };
  const history = command.type === 'order.sealed' ? await readEvents(s, order.id) : [];
  const x = await orderInput(s, workers, order, [
    ...(kit ? [['kit', kit] as const] : []),
    ...(model ? [['model', model] as const] : []),
    // what is taken back may bring back what the order does not name now
    ...(command.type === 'action.undone' ? refsOf(takenBack(order, person.id)) : []),
  ]);
  const p = await workers.run('decide', { x, command, person, known, history, ...when });
  return { p, write: (tx: Tx) => write(tx, order.id, p, when, before) };
}

/** Carries out a command on an order, once per key; null when there is no such order. */
export function carryOut(shop: Shop, workers: Workers, id: string, asked: Asked, once: Once | null): Promise<Answer | null> {
  const change = () =>
    written(shop, once, async () => {
      const now = await readToChange(shop, id);
      if (!now) throw new Missing();
      const { p, write } = await prepare(shop, workers, now.order, now.before, asked, new Date());
      return {
        write,
        answer: { status: 200, body: { version: p.order.version, doneAt: asked.doneAt === null ? undefined : asked.doneAt } },
      };
    });
  return inTurn(shop, id, () =>
    change().catch((e: unknown) => {
      if (e instanceof Missing) return null;
      throw e;
    }),
  );
}

/** The same within a transaction under way, at a moment of its own; answers the order after it. */
export async function carryOutWithin(
  tx: Tx,
  workers: Workers,
  order: Order,
  command: OrderCommand,
  person: AskedBy,
  at: Date,
): Promise<Order> {
  const asked = { command, person, onVersion: order.version, merge: false, doneAt: null };
  const { p, write } = await prepare(tx, workers, order, await chainEnd(tx, order.id, order.version), asked, at);
  await write(tx);
  return JSON.parse(p.state) as Order;
}

/** Orders that are gone over in one transaction. */
const AT_ONCE = 20;

interface Recorded {
  id: string;
  number: number;
  model: string;
  state: string;
  summary: string;
}
/**
 * What is kept beside the record and worked out from it alone, by name: a record from before there was such a thing is gone
 * over once.
 */
const BESIDE: Record<string, (tx: Tx, o: Recorded, events: readonly OrderEvent[]) => Promise<void>> = {
  words: (tx, o, events) => {
    const { condition } = JSON.parse(o.state) as Order;
    const summary = JSON.parse(o.summary) as OrderSummary;
    return addWords(
      tx,
      o.number,
      events.flatMap((e) => [...nameWords(e.body, o.number, o.model, condition, summary), ...eventWords(e.body, e.by)]),
    );
  },
  told: async (tx, o, events) => {
    for (const e of events) await keepTold(tx, o, e);
  },
};

/** Goes over every order recorded before what is kept beside the record was, and goes on where it was interrupted. */
export async function indexAgain(shop: Shop, onOrder: (number: number) => void = () => undefined): Promise<void> {
  for (const [name, keep] of Object.entries(BESIDE)) {
    const state = () => row<{ upto: number; done: number }>(shop, 'SELECT upto, done FROM progress WHERE name = ?', [name]);
    if ((await state())?.done) continue;
    await withLease(shop, 'index', async (held) => {
      await run(shop, 'INSERT IGNORE INTO progress (name, upto, done) VALUES (?, 0, 0)', [name]);
      for (;;) {
        const { upto, done } = (await state())!;
        if (done) return;
        const list = await rows<Recorded>(
          shop,
          `SELECT id, number, model, state, summary FROM orders WHERE number > ? ORDER BY number LIMIT ${AT_ONCE}`,
          [upto],
        );
        held();
        await transact(shop, async (tx) => {
          for (const o of list) {
            onOrder(o.number);
            await keep(tx, o, await readEvents(tx, o.id));
          }
          // what is recorded from now on keeps its own
          await run(tx, 'UPDATE progress SET upto = ?, done = ? WHERE name = ?', [list.at(-1)?.number ?? upto, list.length ? 0 : 1, name]);
        });
      }
    });
  }
}

/** The sealed hand-over sheet as it was sealed, as JSON; null while the order is open. */
export const readSealed = async (s: Store, id: string): Promise<string | null> =>
  (await row<{ json: string }>(s, 'SELECT json FROM sealed_sheets WHERE order_id = ?', [id]))?.json ?? null;

/** Units that a floor shows; more are said, not left out in silence. */
export const MOST_ON_FLOOR = 500;

/** Units in the shop now, the soonest promise first. */
export async function listFloor(s: Store, workers: Workers): Promise<{ orders: ListedOrder[]; more: number }> {
  const list = await rows<ListedRow>(
    s,
    `SELECT ${LISTED} FROM orders WHERE status = 'open' ORDER BY promised_at, number LIMIT ${MOST_ON_FLOOR}`,
  );
  const all =
    list.length < MOST_ON_FLOOR ? list.length : (await row<{ n: number }>(s, "SELECT COUNT(*) n FROM orders WHERE status = 'open'"))!.n;
  const listed = list.map(toListed);
  const asks = listed.flatMap(({ summary: { left = [], model = '', assignee } }) => left.map(({ kit }) => ({ kit, model, by: assignee })));
  const paces = await pacesFor(s, workers, asks);
  let next = 0;
  const orders = listed.map((o) => ({
    ...o,
    left: together((o.summary.left ?? []).map(({ minutes }) => ({ minutes, pace: paces[next++]! }))),
  }));
  return { orders, more: all - list.length };
}

/** An order's history as a log shows it. */
export const readLog = async (s: Store, id: string) => (await readEvents(s, id)).map((e) => ({ ...e, says: say(e.body) }));
