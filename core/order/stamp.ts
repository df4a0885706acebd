import type { Order } from '#model/order';

/**
 * The moment at which something stands that was recorded at `at` by the clock of a device: after all that was settled at
 * the bench before, whatever that clock says. Both ISO 8601.
 */
export function stampAfter(order: Order, at: string): string {
  const settled = Object.values(order.steps).map((s) => Date.parse(s.at ?? '') || 0);
  return new Date(Math.max(Date.parse(at), ...settled.map((t) => t + 1))).toISOString();
}
