import { eventWords, tokens, wordsOf, type OrderQuery } from '#core/order/search';
import type { EventBody } from '#core/events/registry';
import type { ListedOrder, OrderSummary } from '#core/order/summary';
import { STATIONS, type OrderStatus } from '#model/order';
import { row, rows, run, type Store, type Tx } from './db';

export const LISTED = 'id, number, version, status, promised_at, updated_at, summary';
export interface ListedRow {
  id: string;
  number: number;
  version: number;
  status: OrderStatus;
  promised_at: Date;
  updated_at: Date;
  summary: string;
}
/** A list never fails because of one row: one that cannot be read is shown as what is known of it. */
function summaryOf(r: ListedRow): OrderSummary {
  try {
    return JSON.parse(r.summary) as OrderSummary;
  } catch {
    const nothing = { verdict: null, owed: '' };
    return {
      unitName: `Order ${r.number}`,
      kind: 'side-by-side',
      owner: '',
      identity: '',
      kits: [],
      station: 'arrive',
      stations: Object.fromEntries(STATIONS.map((s) => [s, nothing])) as OrderSummary['stations'],
      waitsFor: 'cannot be read: tell whoever looks after Kadro',
      minutes: { planned: 0, spent: 0 },
      powerSays: '',
      assignee: null,
    };
  }
}
/** A day that the record holds, or none: a damaged one is no reason for a list to fail. */
const iso = (d: Date): string => (Number.isNaN(d.getTime()) ? new Date(0).toISOString() : d.toISOString());

export const toListed = (r: ListedRow): ListedOrder => ({
  id: r.id,
  number: r.number,
  version: r.version,
  status: r.status,
  promisedAt: iso(r.promised_at),
  updatedAt: iso(r.updated_at),
  summary: summaryOf(r),
});

/** Puts words beside an order; those that are there already stay. */
export async function addWords(conn: Tx, number: number, words: readonly string[]): Promise<void> {
  const all = [...new Set(words)];
  if (!all.length) return;
  await run(
    conn,
    `INSERT IGNORE INTO order_words (word, number) VALUES ${all.map(() => '(?, ?)').join(',')}`,
    all.flatMap((w) => [w, number]),
  );
  await run(conn, `INSERT IGNORE INTO words (word) VALUES ${all.map(() => '(?)').join(',')}`, all);
}
export const dropWord = (conn: Tx, number: number, word: string) =>
  run(conn, 'DELETE FROM order_words WHERE word = ? AND number = ?', [word, number]);

/** Words that an unfinished one may become. */
const MOST_ENDINGS = 8;
/** Shorter ones are taken as they are. */
const LEAST_UNFINISHED = 3;
const LINES = 3;

const marks = (list: readonly unknown[]) => list.map(() => '?').join(',');

/** What must all be so, each as the words of which one must stand there; null when one of them stands nowhere. */
async function termsOf(db: Store, query: OrderQuery): Promise<string[][] | null> {
  const typed = wordsOf(query.q).slice(0, 8);
  const unfinished = (typed.at(-1)?.length ?? 0) >= LEAST_UNFINISHED && !/[\s,;]$/.test(query.q) ? typed.pop()! : null;
  const exact = [
    ...typed,
    ...(query.kit ? [tokens.kit(query.kit)] : []),
    ...(query.model ? [tokens.model(query.model)] : []),
    ...(query.by ? [tokens.by(query.by)] : []),
    ...(query.mark ? [tokens.mark(query.mark)] : []),
  ].map((w) => [w]);
  if (!unfinished) return exact;
  const endings = await rows<{ word: string }>(
    db,
    `SELECT word FROM words WHERE word >= ? AND word < ? ORDER BY word LIMIT ${MOST_ENDINGS}`,
    [unfinished, `${unfinished}\u{10ffff}`],
  );
  return endings.length ? [...exact, endings.map((e) => e.word)] : null;
}

/** The numbers of orders in which all of it stands, the newest first. */
async function numbersFor(db: Store, query: OrderQuery, limit: number): Promise<number[]> {
  const period = await periodOf(db, query);
  if (!period) return [];
  const { from, until, least, most } = period;
  const within = period === EVER ? '' : 'AND o.opened_at >= ? AND o.opened_at < ?';
  const dates = period === EVER ? [] : [from, until];
  const terms = await termsOf(db, query);
  if (!terms) return [];
  if (!terms.length)
    return (
      await rows<{ number: number }>(
        db,
        `SELECT number FROM orders o WHERE number BETWEEN ? AND ? ${within} ORDER BY number DESC LIMIT ${limit}`,
        [least, most, ...dates],
      )
    ).map((r) => r.number);
  // the rarest leads: the others are only asked about what it names
  const counts = await Promise.all(terms.map(async (words) => ({ words, n: await aboutHowMany(db, words) })));
  // of equally common ones a single word, which is read in the order of its numbers
  counts.sort((a, b) => a.n - b.n || a.words.length - b.words.length);
  const [lead, ...others] = counts.map((c) => c.words);
  // asked of each row that leads, never worked out as a whole: the limit makes it stop at once
  const join = others
    .map((words, i) => (words.length === 1 ? `JOIN order_words w${i} ON w${i}.word = ? AND w${i}.number = a.number` : ''))
    .join(' ');
  const has = 'EXISTS (SELECT 1 FROM order_words w WHERE w.word = ? AND w.number = a.number)';
  const also = others.map((words) => (words.length === 1 ? '' : `AND (${words.map(() => has).join(' OR ')})`)).join(' ');
  const dated = within && `JOIN orders o ON o.number = a.number ${within}`;
  const one = `(SELECT STRAIGHT_JOIN a.number FROM order_words a ${join} ${dated} WHERE a.word = ? AND a.number BETWEEN ? AND ? ${also} ORDER BY a.number DESC LIMIT ${limit})`;
  const [singles, several] = [others.filter((w) => w.length === 1), others.filter((w) => w.length > 1)];
  const found = await rows<{ number: number }>(
    db,
    lead!.length === 1
      ? one
      : `SELECT DISTINCT number FROM (${lead!.map(() => one).join(' UNION ALL ')}) u ORDER BY number DESC LIMIT ${limit}`,
    lead!.flatMap((w) => [...singles.flat(), ...dates, w, least, most, ...several.flat()]),
  );
  return found.map((r) => r.number);
}

/** How many orders have one of these words, as the index guesses without counting. */
async function aboutHowMany(db: Store, words: readonly string[]): Promise<number> {
  const plan = await rows<{ rows: number }>(db, `EXPLAIN SELECT number FROM order_words WHERE word IN (${marks(words)})`, [...words]);
  return Number(plan[0]?.rows ?? 0);
}

/** Numbers that may be out of the order of their opening, as after a clock was set back. */
const ASTRAY = 200;
const EVER = { from: new Date(0), until: new Date('9999-12-31'), least: 0, most: 2_147_483_647 };

/**
 * Orders are numbered as they are opened, all but: a period is a range of numbers, somewhat wide, in which each is looked at.
 * Null when none was opened in it.
 */
async function periodOf(db: Store, query: OrderQuery): Promise<typeof EVER | null> {
  if (!query.from && !query.to) return EVER;
  const from = query.from ? new Date(query.from) : EVER.from;
  const until = query.to ? new Date(Math.min(Date.parse(query.to) + 86_400_000, EVER.until.getTime())) : EVER.until;
  const inside = 'FROM orders WHERE opened_at >= ? AND opened_at < ? ORDER BY opened_at';
  const first = await row<{ number: number }>(db, `SELECT number ${inside}, number LIMIT 1`, [from, until]);
  const last = await row<{ number: number }>(db, `SELECT number ${inside} DESC, number DESC LIMIT 1`, [from, until]);
  if (!first || !last) return null;
  const [least, most] = [Math.min(first.number, last.number), Math.max(first.number, last.number)];
  return { from, until, least: least - ASTRAY, most: most + ASTRAY };
}

/** Orders in whose record all of it stands, the newest first. Each comes with the lines of its history that say so. */
export async function searchOrders(db: Store, query: OrderQuery, limit = query.limit): Promise<ListedOrder[]> {
  const numbers = await numbersFor(db, query, limit);
  if (!numbers.length) return [];
  const found = await rows<ListedRow>(db, `SELECT ${LISTED} FROM orders WHERE number IN (${marks(numbers)}) ORDER BY number DESC`, numbers);
  const lines = await linesFor(
    db,
    query,
    found.map((o) => o.id),
  );
  return found.map((r) => ({ ...toListed(r), matches: lines.get(r.id) ?? [] }));
}

type Line = NonNullable<ListedOrder['matches']>[number];

/** The lines of these orders in which a word that was looked for stands, or what they were looked for by. */
async function linesFor(db: Store, query: OrderQuery, ids: readonly string[]): Promise<Map<string, Line[]>> {
  const words = wordsOf(query.q).filter((w) => w.length > 1);
  const like = words.map(() => 'says LIKE ?');
  const args: string[] = words.map((w) => `%${w.replace(/[%_\\]/g, '\\$&')}%`);
  if (query.mark) {
    like.push(query.mark === 'out-of-band' ? '(type = \'reading.taken\' AND body LIKE \'%"verdict":"fails"%\')' : 'type = ?');
    if (query.mark !== 'out-of-band')
      args.push({ finding: 'finding.added', skipped: 'step.skipped', mended: 'fault.mended', picture: 'photo.taken' }[query.mark]);
  }
  const out = new Map<string, Line[]>();
  if (!like.length) return out;
  const lines = await rows<{ order_id: string; at: Date; by_person: string; says: string; body: string }>(
    db,
    `SELECT order_id, at, by_person, says, body FROM order_events WHERE order_id IN (${marks(ids)}) AND (${like.join(' OR ')}) ORDER BY order_id, seq DESC`,
    [...ids, ...args],
  );
  const scored = new Map<string, { line: Line; score: number }[]>();
  for (const l of lines) {
    const has = eventWords(JSON.parse(l.body) as EventBody, l.by_person);
    // what happened stands before the words that were looked for, and more of those before fewer
    const score =
      (query.mark && has.includes(tokens.mark(query.mark)) ? words.length + 1 : 0) +
      words.filter((w) => has.some((x) => x.startsWith(w))).length;
    if (!score) continue;
    const list = scored.get(l.order_id) ?? [];
    list.push({ line: { at: l.at.toISOString(), by: l.by_person, says: l.says }, score });
    scored.set(l.order_id, list);
  }
  for (const [id, list] of scored)
    out.set(
      id,
      list
        .sort((x, y) => y.score - x.score)
        .slice(0, LINES)
        .map((x) => x.line),
    );
  return out;
}
