import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import { assign } from './assign';
import { boxSheets } from './chosen';
import { layWiring, loadWiring } from './load';
import type { Wiring } from './planned';
import { sizeWiring } from './size';

/**
 * Plans every circuit of the order's kits on this unit, stage by stage: each box as it was chosen; a feed for each, all together; everything laid along the
 * runs, what the box brings first; what flows; and gauge, fuse and judgement. What is set by hand is kept to, and its effect is told.
 * @param plainly the same with nothing set by hand, where it is known already
 */
export function planWiring(order: Order, given: Sheets, settings: Settings, plainly?: () => Wiring): Wiring {
  const sheets = boxSheets(order, given);
  const plan = (o: Order, plain: Wiring | null): Wiring =>
    sizeWiring(loadWiring(layWiring(assign(o, sheets, settings), o, sheets), settings), o, settings, plain);
  const plain = order.overrides.length ? (plainly ?? (() => plan({ ...order, overrides: [] }, null)))() : null;
  return plan(order, plain);
}
