import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { after, demoOrder } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { workLeft, type WorkLeft } from './work-left';

const left = (model: string, kits: string[], done: (ids: string[]) => string[] = () => []) => {
  const { order, sheets } = demoOrder(model, kits);
  const { steps } = assess(order, sheets, DEFAULT_SETTINGS);
  const so = after(
    order,
    ...done(steps.map((s) => s.id)).map((step) => ({
      type: 'step.done' as const,
      step,
      title: 't',
      next: null,
      counts: null,
      affirmed: [],
      took: [],
    })),
  );
  return { steps, work: workLeft(so, assess(so, sheets, DEFAULT_SETTINGS)) };
};
const minutes = (work: readonly WorkLeft[]) => work.flatMap((w) => w.kits).reduce((n, k) => n + k.minutes, 0);

describe('what is left of an order as stretches of work', () => {
  it('glue is waited for just before what waits for it, for as long as the work in between leaves', () => {
    const { steps, work } = left('lapwing-500', ['heated-grips']);
    const glued = steps.find((s) => s.waitMinutes > 100)!;
    const held = steps.findIndex((s) => glued.holds.includes(s.id));
    const between = steps.slice(steps.indexOf(glued) + 1, held).reduce((n, s) => n + s.minutes, 0);
    const waits = work.filter((w) => w.waitMinutes > 0);
    expect(waits).toHaveLength(1);
    expect(waits[0]!.waitMinutes).toBeCloseTo(glued.waitMinutes - between, 0);
    // what stands behind the wait is what was held, and no more than follows it
    expect(minutes(work.slice(work.indexOf(waits[0]!) + 1))).toBeCloseTo(
      steps.slice(held).reduce((n, s) => n + s.minutes, 0),
      6,
    );
  });
  it('a wait that ties fill up to a few minutes cuts nothing', () => {
    const { work } = left('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']);
    expect(work.every((w) => w.waitMinutes === 0)).toBe(true);
  });
  it('all that is to be done is in it, and nothing that is done', () => {
    const { steps, work } = left('drover-4', ['front-harness', 'roof-bar'], (ids) => ids.slice(0, 5));
    expect(minutes(work)).toBeCloseTo(
      steps.slice(5).reduce((n, s) => n + s.minutes, 0),
      6,
    );
  });
});
