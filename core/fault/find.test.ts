import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoOrder } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { judgeReading } from '../plan/judge';
import type { Faults } from '../harness/simulate';
import { FaultFinder } from './find';
import { singleFaults } from './causes';
import { sightOf, type Evidence } from './sight';

const UNITS: [string, string[]][] = [
  ['drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']],
  ['parkway-48', ['reducer-48', 'cart-road-lamps', 'signal-mirrors']],
  ['lapwing-500', ['heated-grips', 'aux-lamps', 'navigator']],
  ['sandbar-21', ['helm-panel', 'nav-lights', 'docking-lamps', 'boat-horn']],
];
const MEASUREMENTS = 3;

/** A unit's readings that the model can foretell, in the order they are taken. */
function bench(model: string, kits: string[]) {
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
type Bench = ReturnType<typeof bench>;

/** A meter's error: up to half a per cent and a hundredth (common practice, no source), the same each time. */
function noisy(value: number, seed: number): number {
  const n = Math.sin(seed * 12.9898) * 43758.5453;
  const e = (n - Math.floor(n)) * 2 - 1;
  return Number.isFinite(value) ? value * (1 + 0.005 * e) + (Math.abs(value) > 0.5 ? 0.01 : 0.001) * e : value;
}

/** Works through the proofs with a fault in, up to the first step that shows it; null when none does. */
function prove({ finder, asked }: Bench, faults: Faults): Evidence[] | null {
  const evidence: Evidence[] = [];
  let stop: string | null = null;
  for (const [i, q] of asked.entries()) {
    if (stop && q.step.id !== stop) break;
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
function hunt({ finder }: Bench, evidence: Evidence[], faults: Faults) {
  for (let n = 0; ; n++) {
    const found = finder.find(evidence);
    const next = found.next[0];
    if (n === MEASUREMENTS || !next) return { named: found.causes[0]?.cause.id ?? null, found, n };
    const told = finder.foretell(next.sight, faults)!;
    evidence.push({ id: `m${n}`, sight: next.sight, value: noisy(told, n + 77), failing: false });
  }
}

const counted: { seen: number; named: number }[] = [];
describe.each(UNITS)('%s', (model, kits) => {
  const b = bench(model, kits);

  it('a sound unit passes every reading that the model foretells', () => {
    expect(b.asked.length).toBeGreaterThan(10);
    for (const [i, q] of b.asked.entries()) {
      const told = b.finder.healthy(q.sight) ?? NaN;
      const shown = q.sight.look.kind === 'works' ? told : noisy(told, i);
      expect(judgeReading(shown, q.reading.expected), `${q.id} by a meter: ${shown}`).not.toBe('fails');
      const v = b.finder.healthy(q.sight);
      expect(v, q.id).not.toBeNull();
      expect(judgeReading(v!, q.reading.expected), `${q.id}: ${v} in ${q.reading.expected.low} to ${q.reading.expected.high}`).not.toBe(
        'fails',
      );
    }
  });
  it('names what is wrong within three measurements', { timeout: 120_000 }, () => {
    let seen = 0;
    let named = 0;
    for (const cause of b.finder.causes)
      for (const { faults } of cause.variants) {
        const evidence = prove(b, faults);
        if (!evidence) continue;
        seen++;
        if (hunt(b, evidence, faults).named === cause.id) named++;
      }
    counted.push({ seen, named });
    expect(seen).toBeGreaterThan(50);
    expect(named / seen).toBeGreaterThan(0.85);
  });
});

it('nine of ten over all faults of all units that any reading shows', () => {
  expect(counted).toHaveLength(UNITS.length);
  const sum = (key: 'seen' | 'named') => counted.reduce((s, c) => s + c[key], 0);
  expect(sum('seen')).toBeGreaterThan(400);
  expect(sum('named') / sum('seen')).toBeGreaterThanOrEqual(0.9);
});

describe('the finder', () => {
  const b = bench(...UNITS[0]!);
  const plant = (id: string) => {
    const cause = b.finder.causes.find((c) => c.id === id)!;
    return { cause, faults: cause.variants[0]!.faults };
  };
  it('a lamp that stays dark while the rest of its side flashes points at its own leads, not the module', () => {
    const { faults } = plant('open:road-kit/front-left.minus>gnd:bus');
    const evidence = prove(b, faults)!;
    const { causes } = b.finder.find(evidence);
    const front = causes.filter((c) => c.cause.id.includes('front-left')).reduce((s, c) => s + c.share, 0);
    expect(front).toBeGreaterThan(0.6);
    expect(causes.find((c) => c.cause.id === 'blown:road-kit/signals#fuse')?.share ?? 0).toBeLessThan(0.01);
  });
  it('shares add up to one with the wiring being sound', () => {
    const { faults } = plant('blown:road-kit/horn#fuse');
    const r = b.finder.find(prove(b, faults)!);
    expect(r.causes.reduce((s, c) => s + c.share, r.sound)).toBeGreaterThan(0.9);
    expect(r.causes.reduce((s, c) => s + c.share, r.sound)).toBeLessThan(1.0001);
  });
  it('what a cause does not explain is named with it', () => {
    const { faults } = plant('blown:road-kit/horn#fuse');
    const evidence = prove(b, faults)!;
    const r = b.finder.find(evidence);
    const best = r.causes[0]!;
    expect(best.against).toEqual([]);
    for (const c of r.causes) for (const id of c.against) expect(evidence.some((e) => e.id === id)).toBe(true);
  });
  it('outcomes of the next measurement cover every likely cause, each in one of them', () => {
    const { faults } = plant('open:roof-bar/bar#87>roof-bar/bar.plus');
    const r = b.finder.find(prove(b, faults)!);
    const next = r.next[0]!;
    expect(next.outcomes.length).toBeGreaterThan(1);
    expect(next.outcomes.reduce((s, o) => s + o.share, 0)).toBeCloseTo(1, 5);
    for (const o of next.outcomes) expect(o.low).toBeLessThanOrEqual(o.high);
  });
  it('a point that is hard to reach is asked for later', () => {
    const { faults } = plant('open:roof-bar/bar#87>roof-bar/bar.plus');
    const evidence = prove(b, faults)!;
    const easy = b.finder.find(evidence).next[0]!.sight.look;
    const hard = b.finder.find(evidence, (n) => (n === easy.plus || n === easy.minus ? 50 : 1)).next[0]!.sight.look;
    expect(hard).not.toEqual(easy);
  });
  it('all well: nothing is likely but a misreading', () => {
    const evidence = b.asked.map((q): Evidence => ({ id: q.id, sight: q.sight, value: b.finder.healthy(q.sight)!, failing: false }));
    expect(b.finder.find(evidence).causes[0]!.share).toBeLessThan(0.5);
  });
  it('every fault has its own name, words, and something to plant', () => {
    const causes = singleFaults(b.harness);
    expect(new Set(causes.map((c) => c.id)).size).toBe(causes.length);
    for (const c of causes) {
      expect(c.says.length).toBeGreaterThan(8);
      expect(c.look.length).toBeGreaterThan(8);
      expect(c.variants.length).toBeGreaterThan(0);
      expect(c.prior).toBeGreaterThan(0);
    }
  });
});
