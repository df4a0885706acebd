import type { Evidence } from '#core/known/proposals';
import type { ValueRead } from '#model/known';
import { rows, run, type Store } from './db';

/** What orders on a model found its values to be, the oldest first, without what a lead declined and what was done to practise. */
export async function evidenceFor(s: Store, model: string): Promise<Evidence[]> {
  const list = await rows<{ id: string; number: number; build: string; found: string }>(
    s,
    "SELECT id, number, JSON_VALUE(state, '$.unit.build') build, CONVERT(JSON_EXTRACT(state, '$.values') USING utf8mb4) found FROM orders WHERE model = ? AND status <> 'cancelled' AND JSON_TYPE(JSON_EXTRACT(state, '$.values')) = 'OBJECT' AND COALESCE(JSON_VALUE(state, '$.trial'), '') <> 'practice' ORDER BY number",
    [model],
  );
  if (!list.length) return [];
  const declined = await rows<{ pointer: string; order_id: string }>(s, 'SELECT pointer, order_id FROM declined_values WHERE model = ?', [
    model,
  ]);
  const out = new Set(declined.map((d) => `${d.order_id} ${d.pointer}`));
  return list.flatMap(({ id, number, build, found }) =>
    Object.entries(JSON.parse(found) as Record<string, ValueRead>).flatMap(([pointer, v]) =>
      out.has(`${id} ${pointer}`) ? [] : [{ pointer, ...v, order: id, number, build }],
    ),
  );
}

/** Leaves out of a sheet what one order found of a value, with the reason. Said twice, it is said once. */
export const decline = (s: Store, model: string, pointer: string, order: string, reason: string, by: string): Promise<unknown> =>
  run(s, 'INSERT IGNORE INTO declined_values (model, pointer, order_id, reason, by_person, at) VALUES (?, ?, ?, ?, ?, ?)', [
    model,
    pointer,
    order,
    reason,
    by,
    new Date(),
  ]);
