import type { Order } from '#model/order';
import type { PlannedStep } from '../plan/planned';
import type { Worked } from './learn';

/** Seconds under which a clock was only brushed. */
const BRUSHED_S = 5;

/**
 * What each kit of an order took beside what was planned: of the steps that were done with a clock running. Under the empty
 * name, the unit’s own: panels, power and proofs of the whole. Who took the most time of it counts as who did it.
 */
export function workedOf(order: Order, steps: readonly PlannedStep[], at: string): Omit<Worked, 'nth'>[] {
  const kits = [...new Set(steps.map((s) => s.kit ?? ''))];
  const kitOf = new Map(steps.map((s) => [s.id, s.kit ?? '']));
  return kits.flatMap((kit) => {
    const own = steps.filter((s) => (s.kit ?? '') === kit);
    const state = (s: PlannedStep) => order.steps[s.id];
    const timed = own.filter((s) => state(s)?.status === 'done' && state(s)!.seconds >= BRUSHED_S);
    if (!timed.length) return [];
    const by = new Map<string, number>();
    for (const s of timed) by.set(state(s)!.by ?? '', (by.get(state(s)!.by ?? '') ?? 0) + state(s)!.seconds);
    const [who] = [...by].sort((a, b) => b[1] - a[1])[0]!;
    const of = (list: readonly { step?: string }[]) => list.filter((x) => x.step !== undefined && kitOf.get(x.step) === kit).length;
    return [
      {
        order: order.number,
        kit,
        model: order.unit.model.id,
        by: who,
        planned: timed.reduce((s, x) => s + x.minutes, 0),
        spent: timed.reduce((s, x) => s + state(x)!.seconds / 60, 0),
        skipped: own.filter((s) => state(s)?.status === 'skipped').length,
        findings: of(order.findings),
        mended: of(order.mended),
        at,
      },
    ];
  });
}
