import type { Order } from '#model/order';
import type { UnitModel } from '#model/unit-model';
import type { PlannedStep } from './planned';

/** Panels that lie on the bench now: taken off and not back on. */
export function panelsOff(order: Order, steps: readonly PlannedStep[]): ReadonlySet<string> {
  const off = new Set<string>();
  for (const s of steps) {
    if (!s.panel || order.steps[s.id]?.status !== 'done') continue;
    if (s.stage === 'open') off.add(s.panel.id);
    else off.delete(s.panel.id);
  }
  return off;
}

/** Places that a panel which is on lies over. */
export function hiddenPlaces(model: UnitModel, off: ReadonlySet<string>): ReadonlySet<string> {
  return new Set(model.panels.filter((p) => !off.has(p.id)).flatMap((p) => p.hides));
}
