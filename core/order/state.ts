import type { Order, StepState } from '#model/order';

/** What is recorded of a step; of one that nobody touched: that it is to do. */
export const stepState = (order: Order, id: string): StepState => order.steps[id] ?? { status: 'todo', seconds: 0, readings: {} };
