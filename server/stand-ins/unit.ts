import { singleFaults, type Cause } from '#core/fault/causes';
import { liveModel } from '#core/fault/predict';
import type { Sight } from '#core/fault/sight';
import { NO_FAULTS } from '#core/harness/simulate';
import type { Harness } from '#model/harness';
import type { Order } from '#model/order';
import { row, run, type Conn, type Db } from '../store/db';

/** What is wrong with the unit that stands in for a real one on this order’s bench. */
export interface Planted {
  cause: Cause;
  variant: number;
}

/** What was planted, unless it was put right since, or its part is not there any more. */
export async function readPlanted(db: Db | Conn, order: Order, harness: Harness): Promise<Planted | null> {
  const r = await row<{ cause: string; variant: number; mended: number }>(
    db,
    'SELECT cause, variant, mended FROM stand_in_units WHERE order_id = ?',
    [order.id],
  );
  if (!r || order.mended.slice(r.mended).some((m) => m.cause === r.cause)) return null;
  const cause = singleFaults(harness).find((c) => c.id === r.cause);
  return cause?.variants[r.variant] ? { cause, variant: r.variant } : null;
}

export async function plant(db: Db | Conn, order: Order, cause: string | null, variant = 0): Promise<void> {
  if (cause === null) await run(db, 'DELETE FROM stand_in_units WHERE order_id = ?', [order.id]);
  else
    await run(
      db,
      'INSERT INTO stand_in_units (order_id, cause, variant, mended) VALUES (?, ?, ?, ?) ON DUPLICATE KEY UPDATE cause = VALUES(cause), variant = VALUES(variant), mended = VALUES(mended)',
      [order.id, cause, variant, order.mended.length],
    );
}

/** What a meter would show there on the unit as it stands; null where the model finds no answer. */
export const shows = (harness: Harness, sight: Sight, planted: Planted | null): number | null =>
  liveModel(harness).value(sight, planted ? planted.cause.variants[planted.variant]!.faults : NO_FAULTS);
