import loadHighs from 'highs';
import { describe, expect, it } from 'vitest';
import { schedule } from '#core/shop/schedule';
import { plainWeek } from '../random-week';
import { checkWeek } from '../week-check';
import { weekModel } from '../week-milp';

// HiGHS, a solver of mixed-integer programs, on a model over slots of time written from the rules alone
describe('a shop’s week against a MILP solver', () => {
  it.each([
    [1, 4, 8],
    [2, 4, 8],
    [3, 5, 10],
    [4, 5, 10],
    [5, 6, 12],
  ])('seed %i: %i jobs, %i tasks', async (seed, jobs, tasks) => {
    const p = plainWeek(seed, jobs, tasks);
    const highs = await loadHighs();
    const solved = highs.solve(weekModel(p, 30, (3 * 1440) / 30));
    expect(solved.Status).toBe('Optimal');
    const ours = schedule(p);
    expect(checkWeek(p, ours.tasks).problems).toEqual([]);
    expect(ours.cost).toBeCloseTo(solved.ObjectiveValue, 4);
    expect(ours.bound).toBeLessThanOrEqual(solved.ObjectiveValue + 1e-4);
  });
});
