import type { Clock, Order, StepState } from '#model/order';

/** Nobody stands at one step for longer than this without touching the tablet: what is over is not counted. */
const LONGEST_STEP_S = 4 * 3600;

const seconds = (from: string, to: string) => Math.max(0, (Date.parse(to) - Date.parse(from)) / 1000);

/** The order with one of its steps changed. */
export function withStep(order: Order, id: string, change: (s: StepState) => StepState): Order {
  const before = order.steps[id] ?? { status: 'todo', seconds: 0, readings: {} };
  return { ...order, steps: { ...order.steps, [id]: change(before) } };
}

/** Stops some clocks, giving their time to their steps. */
export function stopClocks(order: Order, at: string, which: (c: Clock) => boolean): Order {
  return order.clocks.filter(which).reduce(
    (o, clock) => ({
      ...withStep(o, clock.step, (s) => ({ ...s, seconds: s.seconds + Math.min(LONGEST_STEP_S, seconds(clock.since, at)) })),
      clocks: o.clocks.filter((c) => c !== clock),
    }),
    order,
  );
}

export const startClock = (order: Order, step: string, at: string, by: string): Order => ({
  ...order,
  clocks: [...order.clocks, { step, since: at, by }],
});
