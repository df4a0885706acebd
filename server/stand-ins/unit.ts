import type { Planted } from '../work/tasks';
import { row, run, type Store } from '../store/db';

/** What was planted in the unit that stands in for a real one on an order’s bench. */
export const readPlanted = (s: Store, order: string): Promise<Planted | null> =>
  row<Planted>(s, 'SELECT cause, variant, mended FROM stand_in_units WHERE order_id = ?', [order]);

/** Plants a fault, or takes out what was planted. */
export async function plant(s: Store, order: { id: string; mended: readonly unknown[] }, cause: string | null, variant = 0): Promise<void> {
  if (cause === null) await run(s, 'DELETE FROM stand_in_units WHERE order_id = ?', [order.id]);
  else
    await run(
      s,
      'INSERT INTO stand_in_units (order_id, cause, variant, mended) VALUES (?, ?, ?, ?) ON DUPLICATE KEY UPDATE cause = VALUES(cause), variant = VALUES(variant), mended = VALUES(mended)',
      [order.id, cause, variant, order.mended.length],
    );
}
