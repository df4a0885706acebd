import { LRUCache } from 'lru-cache';
import type { Worked } from '#core/learn/learn';
import type { Pace } from '#core/learn/pace';
import type { PaceAsk } from '../work/tasks';
import type { Workers } from '../work/workers';
import { row, rows, run, shopOf, type Store, type Tx } from './db';

/** Times are learned from this many of the latest. */
const LATEST = 3000;

/** Counts what was finished, so that nobody has to count the jobs to see that there are new ones. */
const FINISHED = 'finished';

/** Keeps what an order took, numbering each person’s jobs of a kit as they come. */
export async function keepWorked(conn: Tx, list: readonly Omit<Worked, 'nth'>[]): Promise<void> {
  for (const w of list) {
    const before = await row<{ n: number }>(conn, 'SELECT COUNT(*) n FROM worked WHERE kit = ? AND by_person = ?', [w.kit, w.by]);
    await run(
      conn,
      'INSERT IGNORE INTO worked (number, kit, model, by_person, planned, spent, nth, skipped, findings, mended, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)',
      [w.order, w.kit, w.model, w.by, w.planned, w.spent, before!.n + 1, w.skipped, w.findings, w.mended, new Date(w.at)],
    );
  }
  await run(conn, `INSERT INTO counters (name, value) VALUES ('${FINISHED}', 1) ON DUPLICATE KEY UPDATE value = value + 1`);
}

type WorkedRow = Omit<Worked, 'order' | 'by' | 'at'> & { number: number; by_person: string; at: Date };
const toWorked = ({ number, by_person, at, ...w }: WorkedRow): Worked => ({ ...w, order: number, by: by_person, at: at.toISOString() });
const COLUMNS = 'number, kit, model, by_person, planned, spent, nth, skipped, findings, mended, at';

/** Names what the shop has learned from up to now: another one once a further job is finished. */
async function learnedUpTo(s: Store): Promise<string> {
  const r = await row<{ value: number }>(s, `SELECT value FROM counters WHERE name = '${FINISHED}'`);
  return `${shopOf(s).memo.name} ${r?.value ?? 0}`;
}

/** What the shop's times are learned from, as JSON under a key that changes when another job is finished. */
export async function learning(s: Store): Promise<{ key: string; jobs: string }> {
  const { made } = shopOf(s).memo;
  const key = await learnedUpTo(s);
  const known = made.get('worked');
  if (known?.key === key) return { key, jobs: known.value as string };
  const list = await rows<WorkedRow>(s, `SELECT ${COLUMNS} FROM worked ORDER BY number DESC LIMIT ${LATEST}`);
  const jobs = JSON.stringify(list.map(toWorked));
  made.set('worked', { key, value: jobs });
  return { key, jobs };
}

/** Paces that one shop remembers: of kits, on models, by people. */
const MOST_PACES = 2000;

/** How this shop's times stand to the sheets', for each of these. What was worked out is remembered until another job is finished. */
export async function pacesFor(s: Store, workers: Workers, asks: readonly PaceAsk[]): Promise<Pace[]> {
  if (!asks.length) return [];
  const { made } = shopOf(s).memo;
  const name = (a: PaceAsk): string => JSON.stringify([a.kit, a.model, a.by]);
  const remembered = (key: string): LRUCache<string, Pace> => {
    const known = made.get('paces');
    if (known?.key === key) return known.value as LRUCache<string, Pace>;
    const value = new LRUCache<string, Pace>({ max: MOST_PACES });
    made.set('paces', { key, value });
    return value;
  };
  const had = remembered(await learnedUpTo(s));
  const found = asks.map((a) => had.get(name(a)));
  if (!found.includes(undefined)) return found as Pace[];
  const { key, jobs } = await learning(s);
  const anew = await workers.run('paces', { key, jobs, asks: [...asks] });
  const kept = remembered(key);
  asks.forEach((a, i) => kept.set(name(a), anew[i]!));
  return anew;
}
