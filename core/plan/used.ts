import type { Order, Taken } from '#model/order';

/** Circuits of an order that are wired: what they took is off the shelf. */
export const usedCircuits = (order: Pick<Order, 'used'>): ReadonlySet<string> =>
  new Set(Object.values(order.used ?? {}).map((u) => u.circuit));

/** What a change of an order takes off the shelf, and what one that takes it back puts there. */
export function stockMoves(before: Pick<Order, 'used'> | null, after: Pick<Order, 'used'>): { taken: Taken; back: boolean }[] {
  const [was, is] = [before?.used ?? {}, after.used ?? {}];
  const only = (a: typeof is, b: typeof is, back: boolean) =>
    Object.keys(a).flatMap((step) => (b[step] ? [] : a[step]!.took.map((taken) => ({ taken, back }))));
  return [...only(is, was, false), ...only(was, is, true)];
}
