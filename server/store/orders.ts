import { randomUUID } from 'node:crypto';
import { assess, type Assessment } from '#core/order/assess';
import { clashes } from '#core/order/touches';
import { decide } from '#core/order/decide';
import { judged, type EarlierFinding } from '#core/order/earlier-findings';
import { handoverSheet, type HandoverSheet } from '#core/order/handover-sheet';
import { applyEvent } from '#core/order/reduce';
import { say } from '#core/order/say';
import { together } from '#core/learn/pace';
import { workedOf } from '#core/learn/worked';
import { eventWords, nameWords, tokens } from '#core/order/search';
import { summarise, type ListedOrder, type OrderSummary } from '#core/order/summary';
import type { EventBody, OrderCommand, OrderEvent, OrderOpening } from '#model/event';
import { CHARGING_STEP } from '#core/energy/measured';
import type { Order } from '#model/order';
import type { Person } from '#model/person';
import type { Settings } from '#model/settings';
import type { SheetRef, Sheets } from '#model/sheet';
import { USUAL_PLAN } from '#model/work-plan';
import type { Kit } from '#model/kit';
import { canonical, eventHash, FIRST_HASH, sha256 } from './chain';
import { row, rows, run, transact, type Conn, type Db } from './db';
import { listPeople } from './people';
import { hasPhoto } from './photos';
import { keepWorked, learnedBy } from './worked';
import { addWords, dropWord, LISTED, toListed, type ListedRow } from './search';
import { readSettings } from './settings';
import { readNewest, sheetsOf } from './sheets';

interface OrderRow {
  id: string;
  state: string;
}
interface EventRow {
  seq: number;
  at: Date;
  by_person: string;
  body: string;
  prev_hash: string;
  hash: string;
}

const toEvent = (r: EventRow): OrderEvent => ({
  seq: r.seq,
  at: r.at.toISOString(),
  by: r.by_person,
  body: JSON.parse(r.body) as EventBody,
  prevHash: r.prev_hash,
  hash: r.hash,
});

export const readEvents = async (db: Db | Conn, id: string, after = 0): Promise<OrderEvent[]> =>
  (
    await rows<EventRow>(
      db,
      'SELECT seq, at, by_person, body, prev_hash, hash FROM order_events WHERE order_id = ? AND seq > ? ORDER BY seq',
      [id, after],
    )
  ).map(toEvent);

/** What came into an order’s state after the first orders were kept. */
type Since = 'days' | 'changes' | 'packs' | 'lamps' | 'fasteners' | 'plan' | 'clocks' | 'probes' | 'mended' | 'photos' | 'given';

/** A kept state, whole: what was not thought of yet when it was kept is as in a new order. */
export const readState = (json: string): Order => ({
  days: [],
  changes: [],
  packs: null,
  lamps: { placed: {}, added: [] },
  fasteners: {},
  plan: { choice: USUAL_PLAN, pins: [] },
  clocks: [],
  probes: [],
  mended: [],
  photos: [],
  given: {},
  ...(JSON.parse(json) as Omit<Order, Since>),
});

export async function readOrder(db: Db | Conn, id: string, lock = false): Promise<Order | null> {
  const r = await row<OrderRow>(db, `SELECT id, state FROM orders WHERE id = ?${lock ? ' FOR UPDATE' : ''}`, [id]);
  return r ? readState(r.state) : null;
}

interface Computed {
  sheets: Sheets;
  settings: Settings;
  assessment: Assessment;
}

/** The last few orders as computed: what one command ends with, the next begins with. Told by all that they came from. */
const computed: { state: string; computed: Computed }[] = [];
const KEPT = 12;

export async function compute(db: Db | Conn, order: Order, state = canonical(order)): Promise<Computed> {
  const sheets = await sheetsOf(db, order);
  const settings = await readSettings(db);
  const known = computed.find(
    (k) =>
      k.state === state &&
      k.computed.sheets.model === sheets.model &&
      k.computed.sheets.kits.every((x, i) => x === sheets.kits[i]) &&
      k.computed.sheets.packs.length === sheets.packs.length &&
      k.computed.sheets.packs.every((x, i) => x === sheets.packs[i]) &&
      JSON.stringify(k.computed.settings) === JSON.stringify(settings),
  );
  if (known) return known.computed;
  const made = { sheets, settings, assessment: assess(order, sheets, settings) };
  computed.push({ state, computed: made });
  if (computed.length > KEPT) computed.shift();
  return made;
}

/** Records one event: chained, applied, and the order's row made to agree. The order's row must be locked. */
async function record(conn: Conn, before: Order | null, id: string, body: EventBody, by: string, now: Date): Promise<Order> {
  const last = before
    ? await row<{ hash: string; at: Date }>(conn, 'SELECT hash, at FROM order_events WHERE order_id = ? AND seq = ?', [id, before.version])
    : null;
  // a clock that was set back does not turn the record round
  const at = last && last.at > now ? last.at : now;
  const unhashed = { seq: (before?.version ?? 0) + 1, at: at.toISOString(), by, body, prevHash: last?.hash ?? FIRST_HASH };
  const event: OrderEvent = { ...unhashed, hash: eventHash(id, unhashed) };
  const after = applyEvent(before, id, event);
  const state = canonical(after);
  const { sheets, assessment } = await compute(conn, after, state);
  const summary = summarise(after, sheets, assessment);
  if (!before)
    await run(
      conn,
      'INSERT INTO orders (id, number, version, status, model, opened_at, promised_at, updated_at, state, summary) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)',
      [
        id,
        after.number,
        after.version,
        after.status,
        after.unit.model.id,
        at,
        new Date(after.promisedAt),
        at,
        state,
        JSON.stringify(summary),
      ],
    );
  else
    await run(conn, 'UPDATE orders SET version = ?, status = ?, promised_at = ?, updated_at = ?, state = ?, summary = ? WHERE id = ?', [
      after.version,
      after.status,
      new Date(after.promisedAt),
      at,
      state,
      JSON.stringify(summary),
      id,
    ]);
  await run(
    conn,
    'INSERT INTO order_events (order_id, seq, at, by_person, type, body, says, prev_hash, hash) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)',
    [id, event.seq, at, by, body.type, JSON.stringify(body), say(body), event.prevHash, event.hash],
  );
  await addWords(conn, after.number, [
    ...nameWords(body, after.number, after.unit.model.id, after.condition, summary),
    ...eventWords(body, by),
  ]);
  if (body.type === 'kit.removed') await dropWord(conn, after.number, tokens.kit(body.kit));
  return after;
}

/** Writes the words of every order anew: for a record kept before there were any. */
export async function indexAgain(db: Db): Promise<void> {
  if ((await row(db, 'SELECT 1 FROM order_words LIMIT 1')) || !(await row(db, 'SELECT 1 FROM orders LIMIT 1'))) return;
  for (const o of await rows<{ id: string; number: number; summary: string; state: string }>(
    db,
    'SELECT id, number, summary, state FROM orders',
  )) {
    const order = readState(o.state);
    const summary = JSON.parse(o.summary) as OrderSummary;
    const events = await readEvents(db, o.id);
    await transact(db, (conn) =>
      addWords(
        conn,
        o.number,
        events.flatMap((e) => [...nameWords(e.body, o.number, order.unit.model.id, order.condition, summary), ...eventWords(e.body, e.by)]),
      ),
    );
  }
}

/** Takes in a unit under the next number. The model and year must be right for each other. */
export async function openOrder(conn: Conn, opening: OrderOpening, by: string, at = new Date()): Promise<Order> {
  await run(conn, "INSERT INTO counters (name, value) VALUES ('order', 1001) ON DUPLICATE KEY UPDATE value = value + 1");
  const { value } = (await row<{ value: number }>(conn, "SELECT value FROM counters WHERE name = 'order'"))!;
  return record(conn, null, randomUUID(), { type: 'order.opened', number: value, opening }, by, at);
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

/**
 * Carries out a command on an order inside a transaction.
 * @param onVersion the version the person saw; a newer one is refused, with what came between
 * @param merge carry it out all the same if what came between touches nothing of the same
 */
export async function carryOut(
  conn: Conn,
  id: string,
  command: OrderCommand,
  person: Person,
  onVersion: number,
  merge: boolean,
  at = new Date(),
): Promise<Order | null> {
  const order = await readOrder(conn, id, true);
  if (!order) return null;
  if (onVersion !== order.version) {
    const between = await readEvents(conn, id, onVersion);
    // one person's own changes, sent one after another, never clash with each other
    const bodies = clashes(
      command,
      between.filter((e) => e.by !== person.id).map((e) => e.body),
    );
    if (!merge || bodies.length || onVersion > order.version)
      throw new StaleVersion(
        order,
        between,
        between.filter((e) => bodies.includes(e.body)),
      );
  }
  const { sheets, assessment } = await compute(conn, order);
  let kit: { ref: SheetRef; kit: Kit } | null = null;
  if (command.type === 'kit.added') {
    const newest = await readNewest(conn, 'kit', command.kit);
    kit = newest && { ref: newest.ref, kit: newest.sheet };
  }
  const people = 'to' in command ? (await listPeople(conn)).map((p) => p.id) : [];
  const photo = 'photo' in command && command.photo ? await hasPhoto(conn, command.photo) : false;
  let sealed: { json: string; hash: string } | null = null;
  const history = command.type === 'order.sealed' ? await readEvents(conn, id) : [];
  const seal = () => {
    const json = canonical(handoverSheet({ ...order, status: 'sealed', sealedAt: at.toISOString() }, sheets, assessment, history));
    sealed = { json, hash: sha256(json) };
    return sealed.hash;
  };
  const body = decide(command, order, {
    role: person.role,
    sheets,
    assessment,
    kit: () => kit,
    people,
    by: person.id,
    hasPhoto: () => photo,
    seal,
  });
  if (sealed) {
    const { json, hash } = sealed as { json: string; hash: string };
    await run(conn, 'INSERT INTO sealed_sheets (order_id, json, hash) VALUES (?, ?, ?)', [id, json, hash]);
    await keepWorked(conn, workedOf(order, assessment.steps, at.toISOString()));
  }
  return record(conn, order, id, body, person.id, at);
}

/** The hand-over sheet: computed while the order is open, as sealed afterwards, with additions since. */
export async function readHandover(db: Db | Conn, order: Order): Promise<HandoverSheet> {
  const events = await readEvents(db, order.id);
  if (order.status === 'sealed') {
    const r = await row<{ json: string }>(db, 'SELECT json FROM sealed_sheets WHERE order_id = ?', [order.id]);
    const sheet = JSON.parse(r!.json) as HandoverSheet;
    return { ...sheet, additions: order.additions, history: events.map((e) => ({ at: e.at, by: e.by, says: say(e.body) })) };
  }
  const { sheets, assessment } = await compute(db, order);
  return handoverSheet(order, sheets, assessment, events);
}

/** Units in the shop now, the soonest promise first. */
export async function listFloor(db: Db): Promise<ListedOrder[]> {
  const list = await rows<ListedRow>(db, `SELECT ${LISTED} FROM orders WHERE status = 'open' ORDER BY promised_at, number LIMIT 200`);
  const learned = await learnedBy(db);
  return list.map(toListed).map((o) => {
    const { left = [], model = '', assignee } = o.summary;
    return { ...o, left: together(left.map(({ kit, minutes }) => ({ minutes, pace: learned.pace(kit, model, assignee) }))) };
  });
}

/** Findings made on earlier units of the same model, newest first, with what was said of them since. */
export async function findingsFor(db: Db, model: string, exceptOrder: string): Promise<EarlierFinding[]> {
  const list = await rows<{ id: string; number: number; seq: number; at: Date; by_person: string; body: string; state: string }>(
    db,
    "SELECT o.id, o.number, e.seq, e.at, e.by_person, e.body, o.state FROM order_events e JOIN orders o ON o.id = e.order_id WHERE e.type = 'finding.added' AND o.model = ? AND o.id <> ? ORDER BY e.id DESC LIMIT 20",
    [model, exceptOrder],
  );
  if (!list.length) return [];
  const said = await rows<{ order_id: string; at: Date; by_person: string; body: string }>(
    db,
    "SELECT e.order_id, e.at, e.by_person, e.body FROM order_events e JOIN orders o ON o.id = e.order_id WHERE e.type = 'finding.judged' AND o.model = ? ORDER BY e.id",
    [model],
  );
  return judged(
    list.map((r) => {
      const { text, step, photo } = JSON.parse(r.body) as { text: string; step?: string; photo?: string };
      return {
        key: `${r.id}:${r.seq}`,
        order: r.id,
        number: r.number,
        at: r.at.toISOString(),
        by: r.by_person,
        text,
        build: readState(r.state).unit.build,
        step: step ?? null,
        photo: photo ?? null,
      };
    }),
    said.map((r) => {
      const { finding, still } = JSON.parse(r.body) as { finding: string; still: boolean };
      return { key: finding, from: r.order_id, still, by: r.by_person, at: r.at.toISOString() };
    }),
  );
}

/** What the bench read of the source on other units of the same model, newest first. */
export async function measuredFor(
  db: Db,
  model: string,
  exceptOrder: string,
): Promise<{ number: number; at: string; what: 'volts' | 'amps'; value: number }[]> {
  const list = await rows<{ number: number; at: Date; body: string }>(
    db,
    "SELECT o.number, e.at, e.body FROM order_events e JOIN orders o ON o.id = e.order_id WHERE e.type = 'reading.taken' AND o.model = ? AND o.id <> ? AND JSON_VALUE(e.body, '$.step') = ? ORDER BY e.id DESC LIMIT 40",
    [model, exceptOrder, CHARGING_STEP],
  );
  return list.flatMap((r) => {
    const { reading, value } = JSON.parse(r.body) as { reading: string; value: number };
    return reading === 'volts' || reading === 'amps' ? [{ number: r.number, at: r.at.toISOString(), what: reading, value }] : [];
  });
}
