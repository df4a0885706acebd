import { CHARGING_STEP } from '#core/energy/measured';
import { judged, type EarlierFinding } from '#core/order/earlier-findings';
import { rows, type Store } from './db';

/** Leaves out what its author took back. */
const STANDS =
  "NOT EXISTS (SELECT 1 FROM order_events u WHERE u.order_id = e.order_id AND u.type = 'action.undone' AND JSON_VALUE(u.body, '$.seq') = e.seq)";

/** Findings made on earlier units of the same model, newest first, with what was said of them since. */
export async function findingsFor(s: Store, model: string, exceptOrder: string): Promise<EarlierFinding[]> {
  const list = await rows<{ id: string; number: number; seq: number; at: Date; by_person: string; body: string; build: string | null }>(
    s,
    `SELECT o.id, o.number, e.seq, e.at, e.by_person, e.body, JSON_VALUE(o.state, '$.unit.build') build FROM order_events e JOIN orders o ON o.id = e.order_id WHERE e.type = 'finding.added' AND o.model = ? AND o.id <> ? AND ${STANDS} ORDER BY e.id DESC LIMIT 20`,
    [model, exceptOrder],
  );
  if (!list.length) return [];
  const said = await rows<{ order_id: string; at: Date; by_person: string; body: string }>(
    s,
    `SELECT e.order_id, e.at, e.by_person, e.body FROM order_events e JOIN orders o ON o.id = e.order_id WHERE e.type = 'finding.judged' AND o.model = ? AND ${STANDS} ORDER BY e.id LIMIT 500`,
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
        build: r.build ?? '',
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
  s: Store,
  model: string,
  exceptOrder: string,
): Promise<{ number: number; at: string; what: 'volts' | 'amps'; value: number }[]> {
  const list = await rows<{ number: number; at: Date; body: string }>(
    s,
    `SELECT o.number, e.at, e.body FROM order_events e JOIN orders o ON o.id = e.order_id WHERE e.type = 'reading.taken' AND o.model = ? AND o.id <> ? AND JSON_VALUE(e.body, '$.step') = ? AND ${STANDS} ORDER BY e.id DESC LIMIT 40`,
    [model, exceptOrder, CHARGING_STEP],
  );
  return list.flatMap((r) => {
    const { reading, value } = JSON.parse(r.body) as { reading: string; value: number };
    return reading === 'volts' || reading === 'amps' ? [{ number: r.number, at: r.at.toISOString(), what: reading, value }] : [];
  });
}
