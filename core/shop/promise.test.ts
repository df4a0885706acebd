import { describe, expect, it } from 'vitest';
import { normal, seeded } from '../random';
import { atZ } from './band';
import { promise, type LikelyProblem } from './promise';

const WORK: [number, number][] = [[0, 100_000]];
const band = (p50: number, low = 0.7, high = 1.6) => ({ p10: p50 * low, p50, p90: p50 * high });
const task = (id: string, minutes: { p10: number; p50: number; p90: number }, more: object = {}) => ({
  id,
  minutes,
  skills: [],
  hands: 1 as const,
  waitAfterMin: 0,
  needsBay: true,
  ...more,
});
const shop = (jobs: LikelyProblem['jobs'], people = 1): LikelyProblem => ({
  now: 0,
  people: Array.from({ length: people }, (_, i) => ({ id: `p${i}`, skills: [], shifts: WORK })),
  bays: Array.from({ length: people }, (_, i) => ({ id: `b${i}`, kinds: ['cart'] })),
  jobs,
});
const job = (id: string, dueMin: number, tasks: ReturnType<typeof task>[], weight = 1) => ({
  id,
  kind: 'cart',
  releaseMin: 0,
  dueMin,
  weight,
  tasks,
});
const ask = { draws: 20_000, seed: 3, confidence: 0.8 };

describe('the chance of a promise', () => {
  it('of one task is the band’s own distribution: its three figures, and what lies between', () => {
    const b = band(100);
    // z of 0.8 is 0.8416, of 0.3 is −0.5244 (tables of the normal distribution)
    const at = (z: number) => atZ(b, z);
    for (const [due, chance] of [
      [b.p10, 0.1],
      [b.p50, 0.5],
      [b.p90, 0.9],
      [at(0.8416), 0.8],
      [at(-0.5244), 0.3],
    ] as const) {
      const [j] = promise(shop([job('a', due, [task('x', b)])]), ask).jobs;
      // three standard errors of a share of 20,000
      expect(Math.abs(j!.onTime - chance)).toBeLessThan(3 * Math.sqrt((chance * (1 - chance)) / ask.draws) + 1e-4);
      expect(Math.abs(j!.p50End! / b.p50 - 1)).toBeLessThan(0.02);
      expect(Math.abs(j!.holdsBy! / at(0.8416) - 1)).toBeLessThan(0.02);
    }
  });
  it('of two tasks one after another is that of two log-normal times added (by integrating one over the other)', () => {
    const b = { p10: 60 / 1.5, p50: 60, p90: 60 * 1.5 };
    const due = 140;
    // P(x + y ≤ due) by the midpoint rule over z of x
    const cdf = (x: number) => (x <= 0 ? 0 : phi((Math.log(x / 60) / Math.log(1.5)) * 1.2815515655446));
    let closed = 0;
    const n = 4000;
    for (let i = 0; i < n; i++) {
      const z = -6 + (12 * (i + 0.5)) / n;
      closed += (((12 / n) * Math.exp(-(z ** 2) / 2)) / Math.sqrt(2 * Math.PI)) * cdf(due - atZ(b, z));
    }
    const [j] = promise(shop([job('a', due, [task('x', b), task('y', b)])]), ask).jobs;
    expect(Math.abs(j!.onTime - closed)).toBeLessThan(0.012);
  });
  it('of work that takes what it takes is none or all, and later jobs wait for earlier ones', () => {
    const sure = { p10: 60, p50: 60, p90: 60 };
    const { jobs } = promise(shop([job('a', 60, [task('x', sure)], 5), job('b', 119, [task('x', sure)])]), ask);
    expect(jobs.map((j) => [j.onTime, j.p50End, j.p95End])).toEqual([
      [1, 60, 60],
      [0, 120, 120],
    ]);
  });
  it('is the same again for the same seed, near it for another', () => {
    const p = shop([job('a', 200, [task('x', band(80)), task('y', band(90))]), job('b', 400, [task('x', band(150))])], 2);
    const one = promise(p, ask).jobs;
    expect(promise(p, ask).jobs).toEqual(one);
    promise(p, { ...ask, seed: 99 }).jobs.forEach((j, i) => expect(Math.abs(j.onTime - one[i]!.onTime)).toBeLessThan(0.02));
  });
  it('refuses bands that fall, and has no end where the shifts end before', () => {
    expect(() => promise(shop([job('a', 1, [task('x', { p10: 5, p50: 4, p90: 6 })])]), ask)).toThrow(/must not fall/);
    const p = {
      ...shop([job('a', 100, [task('x', band(100, 0.5, 3))])]),
      people: [{ id: 'p0', skills: [], shifts: [[0, 150] as [number, number]] }],
    };
    const [j] = promise(p, ask).jobs;
    expect([j!.onTime > 0.45 && j!.onTime < 0.55, j!.p95End]).toEqual([true, null]);
  });
  it('draws normal numbers: mean, spread, and tails', () => {
    const random = seeded(8);
    const x = Array.from({ length: 40_000 }, () => normal(random));
    const mean = x.reduce((a, b) => a + b, 0) / x.length;
    expect(Math.abs(mean)).toBeLessThan(0.02);
    expect(Math.abs(x.reduce((a, b) => a + b * b, 0) / x.length - 1)).toBeLessThan(0.03);
    expect(Math.abs(x.filter((v) => v > 1.2815515655).length / x.length - 0.1)).toBeLessThan(0.006);
  });
});

/** The normal distribution (Abramowitz and Stegun 26.2.17, to 7.5e-8). */
function phi(x: number): number {
  const t = 1 / (1 + 0.2316419 * Math.abs(x));
  const d = 0.3989422804014327 * Math.exp((-x * x) / 2);
  const p = d * t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  return x >= 0 ? 1 - p : p;
}
