import { FaultFinder } from '#core/fault/find';
import { sightOf, type Evidence } from '#core/fault/sight';
import { assess } from '#core/order/assess';
import { judgeReading } from '#core/plan/judge';
import type { Faults } from '#core/harness/simulate';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoOrder } from './demo-sheets';

/** Demo units whose faults are hunted, with their kits. */
export const UNITS: [string, string[]][] = [
  ['drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']],
  ['parkway-48', ['reducer-48', 'cart-road-lamps', 'signal-mirrors']],
  ['lapwing-500', ['heated-grips', 'aux-lamps', 'navigator']],
  ['sandbar-21', ['helm-panel', 'nav-lights', 'docking-lamps', 'boat-horn']],
];
const MEASUREMENTS = 3;

/** A unit's readings that the model can foretell, in the order they are taken. */
export function bench(model: string, kits: string[]) {
  const { order, sheets } = demoOrder(model, kits);
  const { wiring, steps } = assess(order, sheets, DEFAULT_SETTINGS);
  const finder = new FaultFinder(wiring.harness);
  const asked = steps.flatMap((step) =>
    step.readings.flatMap((reading) => {
      const sight = sightOf(wiring.harness, step, reading, wiring.circuits);
      return sight ? [{ id: `${step.id}/${reading.id}`, step, reading, sight }] : [];
    }),
  );
  return { finder, asked, harness: wiring.harness };
}
export type Bench = ReturnType<typeof bench>;

/** A meter's error: up to half a per cent and a hundredth (common practice, no source), the same each time. */
export function noisy(value: number, seed: number): number {
  const n = Math.sin(seed * 12.9898) * 43758.5453;
  const e = (n - Math.floor(n)) * 2 - 1;
  return Number.isFinite(value) ? value * (1 + 0.005 * e) + (Math.abs(value) > 0.5 ? 0.01 : 0.001) * e : value;
}

/** Works through the proofs with a fault in, up to the first step that shows it; null when none does. */
export function prove({ finder, asked }: Bench, faults: Faults): Evidence[] | null {
  const evidence: Evidence[] = [];
  let stop: string | null = null;
  for (const [i, q] of asked.entries()) {
    if (stop && q.step.id !== stop) break;
    // found before anything of the wiring was there
    if (q.step.stage === 'find') continue;
    const told = finder.foretell(q.sight, faults);
    if (told === null) continue;
    const value = q.sight.look.kind === 'works' ? told : noisy(told, i);
    const failing = judgeReading(value, q.reading.expected) === 'fails';
    evidence.push({ id: q.id, sight: q.sight, value, failing });
    if (failing) stop = q.step.id;
  }
  return stop ? evidence : null;
}

/** Takes up to three measurements as told and answers what is named then, and how many it took. */
export function hunt({ finder }: Bench, evidence: Evidence[], faults: Faults) {
  for (let n = 0; ; n++) {
    const found = finder.find(evidence);
    const next = found.next[0];
    if (n === MEASUREMENTS || !next) return { named: found.causes[0]?.cause.id ?? null, found, n };
    const told = finder.foretell(next.sight, faults)!;
    evidence.push({ id: `m${n}`, sight: next.sight, value: noisy(told, n + 77), failing: false });
  }
}
