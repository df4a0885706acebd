import type { Evidence } from '#core/known/proposals';
import type { OwnOfOrder } from '#core/known/own-found';
import type { Kit } from '#model/kit';
import type { ValueRead } from '#model/known';
import type { Place, Run } from '#model/unit-model';
import { rows, run, type Store } from './db';

/** What orders on a model found its values to be, the oldest first, without what a lead declined and what was done to practise. */
export async function evidenceFor(s: Store, model: string): Promise<Evidence[]> {
  const list = await rows<{ id: string; number: number; build: string; found: string }>(
    s,
    "SELECT id, number, JSON_VALUE(state, '$.unit.build') build, CONVERT(JSON_EXTRACT(state, '$.values') USING utf8mb4) found FROM orders WHERE model = ? AND status <> 'cancelled' AND JSON_TYPE(JSON_EXTRACT(state, '$.values')) = 'OBJECT' AND COALESCE(JSON_VALUE(state, '$.trial'), '') <> 'practice' ORDER BY number",
    [model],
  );
  if (!list.length) return [];
  const out = await declinedOf(s, model);
  return list.flatMap(({ id, number, build, found }) =>
    Object.entries(JSON.parse(found) as Record<string, ValueRead>).flatMap(([pointer, v]) =>
      out.has(`${id} ${pointer}`) ? [] : [{ pointer, ...v, order: id, number, build }],
    ),
  );
}

/** What orders on a model have of their own, the oldest first, without those that were cancelled or done to practise. */
export async function ownOfOrders(s: Store, model: string): Promise<OwnOfOrder[]> {
  const part = (key: string) => `CONVERT(JSON_EXTRACT(state, '$.${key}') USING utf8mb4) ${key}`;
  const list = await rows<{ id: string; number: number } & Record<'ways' | 'spots' | 'own', string | null>>(
    s,
    `SELECT id, number, ${part('ways')}, ${part('spots')}, ${part('own')} FROM orders WHERE model = ? AND status <> 'cancelled' AND COALESCE(JSON_VALUE(state, '$.trial'), '') <> 'practice' AND JSON_EXISTS(state, '$.ways') + JSON_EXISTS(state, '$.spots') + JSON_EXISTS(state, '$.own') > 0 ORDER BY number`,
    [model],
  );
  return list.map(({ id, number, ways, spots, own }) => ({
    order: id,
    number,
    ways: JSON.parse(ways ?? '[]') as Run[],
    spots: JSON.parse(spots ?? '[]') as Place[],
    own: JSON.parse(own ?? 'null') as Kit | null,
  }));
}

/** What a lead left out of a model’s sheet, by order and pointer. */
export async function declinedOf(s: Store, model: string): Promise<Set<string>> {
  const list = await rows<{ pointer: string; order_id: string }>(s, 'SELECT pointer, order_id FROM declined_values WHERE model = ?', [
    model,
  ]);
  return new Set(list.map((d) => `${d.order_id} ${d.pointer}`));
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
