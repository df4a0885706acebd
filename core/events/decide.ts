import type { Order } from '#model/order';
import { may, whoMay } from '../people/permissions';
import { Refused, type Context } from './definition';
import { definitionOf, type EventBody, type OrderCommand } from './registry';

export { ForTheRecord, Refused, type Context, type Known } from './definition';

/**
 * Decides a command on an order: either the event to record, complete, or a refusal with its reason. The same on a device,
 * where it is seen at once, and on the server, which alone is believed.
 * @throws Refused
 * @throws ForTheRecord on a device, where only the record can decide
 */
export function decide(command: OrderCommand, order: Order, c: Context): EventBody {
  const definition = definitionOf(command.type);
  if (!may(c.role, command.type)) throw new Refused(whoMay(command.type), 'role');
  if (order.status === 'sealed' && !definition.afterSeal)
    throw new Refused('This order is sealed: what was recorded stays as it is. Add a dated addition instead.');
  return definition.decide(command as never, order, c) as EventBody;
}
