import type { Order, OrderStatus } from '#model/order';
import { ownSheets } from '../order/own';
import { may, whoMay } from '../people/permissions';
import { Refused, type Context } from './definition';
import { definitionOf, type EventBody, type OrderCommand } from './registry';

export { ForTheRecord, Refused, type Context, type Known } from './definition';

/** Why an order that is not open, or is, does not take something. */
const CLOSED: Record<OrderStatus, string> = {
  sealed: 'This order is sealed: what was recorded stays as it is. Add a dated addition instead.',
  cancelled: 'This order is cancelled. Reopen it to go on with it.',
  open: 'This order is open.',
};

/**
 * Decides a command on an order: either the event to record, complete, or a refusal with its reason. The same on a device,
 * where it is seen at once, and on the server, which alone is believed.
 * @throws Refused
 * @throws ForTheRecord on a device, where only the record can decide
 */
export function decide(command: OrderCommand, order: Order, c: Context): EventBody {
  const definition = definitionOf(command.type);
  if (!may(c.role, command.type)) throw new Refused(whoMay(command.type), 'role');
  if (!(definition.takenWhen ?? ['open']).includes(order.status)) throw new Refused(CLOSED[order.status]);
  // what this order has that no sheet says is there for whoever decides
  return definition.decide(command as never, order, { ...c, sheets: ownSheets(order, c.sheets) }) as EventBody;
}
