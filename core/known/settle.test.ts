import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seeded } from '../random';
import { isOpen, passShares, ranked, settles, SURE, type Draw } from './settle';

/** A small model: values with a few levels each, alike likely, and questions that are sums of them against a limit. */
interface Small {
  levels: number[][];
  questions: { weights: number[]; limit: number; hangs: number }[];
  minutes: number[];
}
const outcome = (m: Small, values: number[]): boolean[] =>
  m.questions.map((q) => q.weights.reduce((s, w, i) => s + w * values[i]!, 0) <= q.limit);
/** Every unit that there may be. */
const all = (m: Small): Draw[] => {
  let combos: number[][] = [[]];
  for (const l of m.levels) combos = combos.flatMap((c) => l.map((x) => [...c, x]));
  return combos.map((values) => ({ values, passes: outcome(m, values) }));
};
const sampled = (m: Small, n: number, seed: number): Draw[] => {
  const random = seeded(seed);
  return Array.from({ length: n }, () => {
    const values = m.levels.map((l) => l[Math.floor(random() * l.length)]!);
    return { values, passes: outcome(m, values) };
  });
};
/** By going through every unit: the chance that a question which is open is settled once a value is known, weighed. */
function exact(m: Small, value: number): number {
  const units = all(m);
  return m.questions.reduce((gain, q, i) => {
    const passing = (list: Draw[]) => list.filter((d) => d.passes[i]).length / list.length;
    const open = (p: number) => p < SURE && p > 1 - SURE;
    if (!open(passing(units))) return gain;
    const settled = m.levels[value]!.filter((x) => !open(passing(units.filter((d) => d.values[value] === x)))).length;
    return gain + (q.hangs * settled) / m.levels[value]!.length;
  }, 0);
}

const small = fc.record({
  levels: fc.array(fc.constantFrom<number[][]>([0, 1], [0, 1, 2], [0, 1, 4]), { minLength: 3, maxLength: 4 }),
  questions: fc.array(
    fc.record({
      weights: fc.array(fc.constantFrom<number[]>(0, 1, 3, 6), { minLength: 4, maxLength: 4 }),
      limit: fc.integer({ min: 2, max: 12 }),
      hangs: fc.constantFrom<number[]>(1, 2, 3),
    }),
    { minLength: 1, maxLength: 3 },
  ),
  minutes: fc.array(fc.constantFrom<number[]>(1, 2, 5), { minLength: 4, maxLength: 4 }),
});

describe('what to measure next', () => {
  it('is what going through every unit there may be finds best, wherever that is clearly best', () => {
    let compared = 0;
    fc.assert(
      fc.property(small, fc.integer({ min: 1, max: 1e6 }), (m, seed) => {
        const values = m.levels.map((_, i) => ({ minutes: m.minutes[i]! }));
        const truth = values.map((v, value) => ({ value, per: exact(m, value) / v.minutes })).sort((a, b) => b.per - a.per);
        // questions that chance puts at the edge of open say nothing of the ranking
        if (
          m.questions.some((_, i) => Math.abs(passShares(all(m))[i]! - SURE) < 0.08 || Math.abs(passShares(all(m))[i]! - 1 + SURE) < 0.08)
        )
          return;
        if (truth[0]!.per < 1.8 * truth[1]!.per + 0.15) return;
        compared++;
        const found = ranked(
          sampled(m, 400, seed),
          values,
          m.questions.map((q) => q.hangs),
        );
        expect(found[0]?.value, JSON.stringify({ m, truth })).toBe(truth[0]!.value);
      }),
      { numRuns: 1500, seed: 7 },
    );
    expect(compared).toBeGreaterThan(60);
  });
  it('a value that settles the only open question outright is worth its weight', () => {
    const m: Small = {
      levels: [
        [0, 1],
        [0, 1],
      ],
      questions: [{ weights: [1, 0], limit: 0, hangs: 2 }],
      minutes: [4, 1],
    };
    expect(settles(all(m), 0, [2])).toBeCloseTo(2, 9);
    expect(settles(all(m), 1, [2])).toBe(0);
    expect(ranked(all(m), [{ minutes: 4 }, { minutes: 1 }], [2])).toEqual([{ value: 0, gain: 2, perMinute: 0.5 }]);
  });
  it('nothing where nothing is open, and nothing for what changes nothing, however often chance deals it out', () => {
    const sure: Small = {
      levels: [
        [0, 1],
        [0, 1],
      ],
      questions: [{ weights: [1, 1], limit: 5, hangs: 1 }],
      minutes: [1, 1],
    };
    expect(ranked(all(sure), [{ minutes: 1 }, { minutes: 1 }], [1])).toEqual([]);
    const random = seeded(3);
    let wrong = 0;
    for (let i = 0; i < 200; i++) {
      const draws = Array.from({ length: 128 }, (): Draw => ({ values: [random()], passes: [random() < 0.6] }));
      if (settles(draws, 0, [1]) > 0) wrong++;
    }
    expect(wrong).toBeLessThan(6);
  });
  it('open is what is neither sure to pass nor sure to fail', () => {
    expect([0, 0.05, 0.5, 0.95, 1].map(isOpen)).toEqual([false, false, true, false, false]);
  });
});
