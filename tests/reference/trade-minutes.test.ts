import { describe, expect, it } from 'vitest';
import { assess } from '#core/order/assess';
import type { PlannedStep } from '#core/plan/planned';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoOrder } from '../demo-sheets';

// What installers say that work takes. Common practice, no source.
const SIGNAL_KIT_FIRST_TIME = 60;
const POWER_MANAGER = 45;
const BOW_HARNESS = 60;
const JUMPER = 1;
/** People differ by more than this from one another. */
const SHARE = 0.25;

const planOf = (model: string, kits: string[]) => {
  const { order, sheets } = demoOrder(model, kits);
  return assess(order, sheets, DEFAULT_SETTINGS);
};
const minutes = (steps: readonly PlannedStep[], match: (s: PlannedStep) => boolean) =>
  steps.filter(match).reduce((n, s) => n + s.minutes, 0);
const near = (planned: number, told: number) => {
  expect(planned).toBeGreaterThan(told * (1 - SHARE));
  expect(planned).toBeLessThan(told * (1 + SHARE));
};

describe('planned minutes beside what installers say', () => {
  it.each(['drover-2', 'drover-4'])('a signal kit by itself, without the mirrors, plate lamp and horn of its box, on %s', (model) => {
    const { steps } = planOf(model, model === 'drover-4' ? ['front-harness', 'road-kit'] : ['road-kit']);
    const beside = /mirror|plate|horn/;
    near(
      minutes(steps, (s) => s.kit === 'road-kit' && !beside.test(s.id)),
      SIGNAL_KIT_FIRST_TIME,
    );
  });
  it.each([
    ['drover-2', 'power-manager'],
    ['drover-4', 'data-power-manager'],
  ])('a power manager on %s, all of the order', (model, kit) => near(planOf(model, [kit]).work!.cost.minutes, POWER_MANAGER));
  it('the bow harness of a boat with its sidelights', () => {
    const { steps } = planOf('sandbar-21', ['nav-lights']);
    near(
      minutes(steps, (s) => ['lay/nav-lights/bow', 'wire/nav-lights/nav', 'nav-lights/bow'].includes(s.id)),
      BOW_HARNESS,
    );
  });
  it('one plug that is there already', () => {
    const { steps } = planOf('drover-2', ['road-kit']);
    expect(steps.find((s) => s.id === 'wire/road-kit/horn')!.minutes).toBeCloseTo(JUMPER, 6);
  });
});
