import type { Order } from '#model/order';
import { changeKey } from '#model/power-change';

/** An order without something that was agreed so that it carries its loads. */
export const withoutChange = (order: Order, key: string): Order => ({
  ...order,
  changes: order.changes.filter((c) => changeKey(c.change) !== key),
});

/** An order with something agreed so that it carries its loads, in the place of another of its kind. */
export const withChange = (order: Order, agreed: Order['changes'][number]): Order => ({
  ...order,
  changes: [...withoutChange(order, changeKey(agreed.change)).changes, agreed],
});
