import { judged, type EarlierFinding, type Judgement } from '#core/order/earlier-findings';
import { takesBack, toldOf, type Told } from '#core/order/told';
import type { EventBody } from '#core/events/registry';
import { rows, run, type Store, type Tx } from './db';

/** Findings of other units that one is shown, and readings that it is compared with: the newest. */
const MOST_FINDINGS = 20;
const MOST_MEASURED = 40;

/** Keeps what an event tells the next units of the model, or drops what it takes back. */
export async function keepTold(
  tx: Tx,
  order: { id: string; number: number; model: string },
  e: { seq: number; recordedAt: string; by: string; body: EventBody },
): Promise<void> {
  const back = takesBack(e.body);
  if (back !== null) await run(tx, 'DELETE FROM told WHERE order_id = ? AND seq = ?', [order.id, back]);
  const told = toldOf(e.body);
  if (!told) return;
  const { kind, ...what } = told;
  await run(
    tx,
    'INSERT IGNORE INTO told (order_id, seq, model, kind, about, number, at, by_person, json) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)',
    [
      order.id,
      e.seq,
      order.model,
      kind,
      told.kind === 'judgement' ? told.finding : null,
      order.number,
      new Date(e.recordedAt),
      e.by,
      JSON.stringify(what),
    ],
  );
}

type Of<K extends Told['kind']> = Omit<Extract<Told, { kind: K }>, 'kind'>;
const NEWEST = 'ORDER BY at DESC, number DESC, seq DESC';
const FINDINGS = `SELECT order_id, seq, number, at, by_person, json FROM told WHERE model = ? AND kind = 'finding' AND order_id <> ? ${NEWEST} LIMIT ${MOST_FINDINGS}`;

/** Findings made on earlier units of the same model, newest first, with what was said of them since. */
export async function findingsFor(s: Store, model: string, exceptOrder: string): Promise<EarlierFinding[]> {
  const [list, said] = await Promise.all([
    rows<{ order_id: string; seq: number; number: number; at: Date; by_person: string; json: string; build: string }>(
      s,
      `SELECT f.*, o.build FROM (${FINDINGS}) f JOIN orders o ON o.id = f.order_id ${NEWEST.replaceAll(/\b(at|number|seq)\b/g, 'f.$1')}`,
      [model, exceptOrder],
    ),
    rows<{ order_id: string; at: Date; by_person: string; json: string }>(
      s,
      `SELECT j.order_id, j.at, j.by_person, j.json FROM (${FINDINGS}) f
       JOIN told j ON j.about = CONVERT(CONCAT(f.order_id, ':', f.seq) USING ascii) ORDER BY j.at, j.number, j.seq`,
      [model, exceptOrder],
    ),
  ]);
  return judged(
    list.map((r) => ({
      key: `${r.order_id}:${r.seq}`,
      order: r.order_id,
      number: r.number,
      at: r.at.toISOString(),
      by: r.by_person,
      build: r.build,
      ...(JSON.parse(r.json) as Of<'finding'>),
    })),
    said.map((r): Judgement => {
      const { finding, still } = JSON.parse(r.json) as Of<'judgement'>;
      return { key: finding, from: r.order_id, still, by: r.by_person, at: r.at.toISOString() };
    }),
  );
}

/** What the bench read of the source on other units of the same model, newest first. */
export async function measuredFor(
  s: Store,
  model: string,
  exceptOrder: string,
): Promise<({ number: number; at: string } & Of<'measured'>)[]> {
  const list = await rows<{ number: number; at: Date; json: string }>(
    s,
    `SELECT number, at, json FROM told WHERE model = ? AND kind = 'measured' AND order_id <> ? ${NEWEST} LIMIT ${MOST_MEASURED}`,
    [model, exceptOrder],
  );
  return list.map((r) => ({ number: r.number, at: r.at.toISOString(), ...(JSON.parse(r.json) as Of<'measured'>) }));
}
