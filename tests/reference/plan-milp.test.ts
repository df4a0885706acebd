import loadHighs from 'highs';
import { describe, expect, it } from 'vitest';
import { sequence } from '#core/plan/sequence';
import { planModel } from '../plan-milp';
import { randomPlan } from '../random-plan';

// HiGHS, a solver of mixed-integer programs, on a model written from the rules of plan.sequence alone.
describe('the order of the work against a MILP solver', () => {
  it.each([
    [1, 4, 2, 2, 0],
    [2, 5, 1, 3, 0],
    [4, 3, 2, 2, 0.5],
    [5, 4, 1, 2, 0.5],
  ])('seed %i: %i tasks, %i panels, %i zones, shut %f', async (seed, n, panels, zones, shut) => {
    const highs = await loadHighs();
    const p = randomPlan(seed, n, panels, zones, shut);
    const solved = highs.solve(planModel(p));
    expect(solved.Status).toBe('Optimal');
    const ours = sequence(p);
    expect(ours.optimal).toBe(true);
    expect(ours.minutes).toBeCloseTo(solved.ObjectiveValue, 6);
  });
});
