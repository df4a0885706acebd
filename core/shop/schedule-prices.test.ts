import { describe, expect, it } from 'vitest';
import { staggeredWeek } from '../../tests/random-week';
import { leastOf } from '../../tests/week-check';
import { Placer } from './place-jobs';
import { schedule } from './schedule';
import { commonStep } from './schedule-cut';
import { compileSchedule, type ScheduleProblem } from './schedule-problem';
import { PricedShop } from './schedule-prices';

const HORIZON = 2000;

/**
 * The best bound that prices reach which follow what is asked for too much, from no prices and towards a cost that is known.
 * @param leaving ways out that could not better it
 * @param until time after which nothing has a price
 */
function climbed(problem: ScheduleProblem, cost: number, leaving: boolean, until?: number): number {
  const c = compileSchedule(problem);
  const shop = new PricedShop(c, { step: commonStep(c), stretch: 30, until }, cost + 1, new Placer(c).least);
  const prices = shop.nothing();
  let best = -Infinity;
  for (let x = 0; x < 200; x++) {
    const bound = shop.bound(prices);
    if (bound > best && leaving) shop.leaveOut(cost + 1 - bound);
    best = Math.max(best, bound);
    const excess = shop.excess();
    let norm = 0;
    excess.forEach((e, p) => e.forEach((v, k) => (norm += v > 0 || prices[p]![k]! > 0 ? v * v : 0)));
    if (!norm) break;
    // aims above the cost: a bound that could rise over it would
    const length = (0.99 ** x * Math.max(0.01, cost * 1.05 + 1 - bound)) / norm;
    excess.forEach((e, p) => e.forEach((v, k) => (prices[p]![k] = Math.max(0, prices[p]![k]! + length * v))));
  }
  return best;
}

describe('what a schedule costs at least', () => {
  it('is no more than the best of all, whoever’s shifts end while another’s go on', () => {
    let tight = 0;
    let some = 0;
    for (let seed = 1; seed <= 60; seed++) {
      const p = staggeredWeek(seed);
      const least = leastOf(p, HORIZON);
      if (least === Infinity) continue;
      const bound = climbed(p, least, false);
      expect(bound, `seed ${seed}`).toBeLessThanOrEqual(least + 1e-6);
      // the best of all is never left out
      expect(climbed(p, least, true), `seed ${seed}, late ways left out`).toBeLessThanOrEqual(least + 1e-6);
      if (bound > least - 0.02 * least) tight++;
      // nor where only the beginning has prices, however little of it; that is still more than the jobs cost one by one
      const alone = climbed(p, least, false, 0);
      for (const until of [45, 100, 200, 400]) {
        const early = climbed(p, least, true, until);
        expect(early, `seed ${seed}, prices until ${until}`).toBeLessThanOrEqual(least + 1e-6);
        expect(early, `seed ${seed}, prices until ${until}`).toBeGreaterThan(alone - 1e-6);
        if (until === 200 && early > alone + 0.5 * (bound - alone)) some++;
      }
    }
    // and near it often enough to be of use
    expect(tight).toBeGreaterThan(30);
    expect(some).toBeGreaterThan(25);
  });
  it.each(Array.from({ length: 20 }, (_, i) => i + 1))(
    'is what the schedule proved best costs, shifts that hardly meet, seed %i',
    (seed) => {
      const p = staggeredWeek(seed);
      const least = leastOf(p, HORIZON);
      if (least === Infinity) {
        expect(() => schedule(p)).toThrow();
        return;
      }
      const s = schedule(p);
      expect(s.cost).toBeCloseTo(least, 6);
      expect(s.bound).toBeLessThanOrEqual(least + 1e-6);
      expect(s.optimal).toBe(true);
    },
  );
});
