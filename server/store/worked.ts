import { Learned, type Worked } from '#core/learn/learn';
import { row, rows, run, shopOf, type Store, type Tx } from './db';

/** Times are learned from this many of the latest. */
const LATEST = 3000;

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
}

type WorkedRow = Omit<Worked, 'order' | 'by' | 'at'> & { number: number; by_person: string; at: Date };
const toWorked = ({ number, by_person, at, ...w }: WorkedRow): Worked => ({ ...w, order: number, by: by_person, at: at.toISOString() });
const COLUMNS = 'number, kit, model, by_person, planned, spent, nth, skipped, findings, mended, at';

/** What the shop has learned of its times; worked out anew only when another job was finished. */
export async function learnedBy(s: Store): Promise<Learned> {
  const r = await row<{ n: number; newest: number | null }>(s, 'SELECT COUNT(*) n, MAX(number) newest FROM worked');
  const key = `${r!.n} ${r!.newest}`;
  const { made } = shopOf(s).memo;
  const known = made.get('learned');
  if (known?.key === key) return known.value as Learned;
  const list = await rows<WorkedRow>(s, `SELECT ${COLUMNS} FROM worked ORDER BY number DESC LIMIT ${LATEST}`);
  const learned = new Learned(list.map(toWorked));
  made.set('learned', { key, value: learned });
  return learned;
}
