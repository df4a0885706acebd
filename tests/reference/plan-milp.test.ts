import loadHighs from 'highs';
import { describe, expect, it } from 'vitest';
import { sequence } from '#core/plan/sequence';
import { allBefore } from '#core/plan/precedence';
import { fillWaits } from '#core/plan/waits';
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
  it.each([
    [3, 4, 1, 2, 12, 0.1],
    [7, 4, 1, 2, 25, 0],
    [11, 3, 2, 2, 9, 0],
  ])(
    'with something left to itself: seed %i, %i tasks, %i panels, %i zones, %i minutes, at most %f over',
    async (seed, n, panels, zones, minutes, over) => {
      const highs = await loadHighs();
      const p = randomPlan(seed, n, panels, zones, 0);
      const last = p.tasks.find((t) => t.after.length)!;
      const wait = { task: [...allBefore(p.tasks, last.id)][0]!, minutes, before: [last.id] };
      const solved = highs.solve(planModel(p, 1, [wait]));
      expect(solved.Status).toBe('Optimal');
      const { elapsed, least } = fillWaits(p, sequence(p), [wait], sequence);
      expect(elapsed.minutes).toBeGreaterThanOrEqual(solved.ObjectiveValue - 1e-6);
      expect(elapsed.minutes).toBeLessThanOrEqual(solved.ObjectiveValue * (1 + over) + 1e-6);
      expect(least).toBeLessThanOrEqual(solved.ObjectiveValue + 1e-6);
    },
  );
});
