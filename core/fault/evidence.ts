import type { Order } from '#model/order';
import { judgeReading } from '../plan/judge';
import type { PlannedStep } from '../plan/planned';
import { sightOf, type Evidence } from './sight';
import type { Harness } from '#model/harness';
import type { Assessment } from '../order/assess';

/** Evidence with its words. */
export interface NamedEvidence extends Evidence {
  label: string;
  step: string;
}

/**
 * All that was read on an order so far and that the live model can foretell: readings of the plan and measurements beyond it,
 * without those that something was put right after.
 */
export function evidenceOf(order: Order, steps: readonly PlannedStep[], wiring: Assessment['wiring']): NamedEvidence[] {
  const { harness } = wiring;
  const read = steps.flatMap((step) =>
    step.readings.flatMap((r): NamedEvidence[] => {
      const taken = order.steps[step.id]?.readings[r.id];
      if (!taken) return [];
      const failing = judgeReading(taken.value, r.expected) === 'fails';
      if (failing && taken.mended) return [];
      // what was live before anything was joined to it says nothing of it afterwards
      if (!failing && step.stage === 'find') return [];
      const sight = sightOf(harness, step, r, wiring.circuits);
      return sight
        ? [
            {
              id: `${step.id}#${r.id}`,
              label: `${step.title}: ${r.label}`,
              step: step.id,
              sight,
              value: taken.value,
              failing,
            },
          ]
        : [];
    }),
  );
  return [...read, ...probesOf(order, harness)];
}

function probesOf(order: Order, harness: Harness): NamedEvidence[] {
  const has = new Set(harness.nodes.map((n) => n.id));
  const say = (id: string) => harness.nodes.find((n) => n.id === id)!.label;
  return order.probes.flatMap((p, i) => {
    const { look } = p.probe;
    if (!has.has(look.plus) || !has.has(look.minus)) return [];
    return [
      {
        id: `probe#${i}`,
        label: `${say(look.plus)} to ${say(look.minus)}`,
        step: p.step,
        sight: p.probe,
        value: p.value ?? Infinity,
        failing: false,
      },
    ];
  });
}
