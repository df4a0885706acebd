import type { Order } from '#model/order';
import { sayOrigin, type Origin } from '#model/origin';
import { Refused } from './definition';

/**
 * Where a reading came from, as the record keeps it: what a stand-in shows stands only in an order that is no real work.
 * @throws Refused
 */
export function originOf(told: Origin | undefined, order: Order): Origin {
  const origin = told ?? { how: 'untold' as const };
  if (origin.how === 'simulated' && !order.trial)
    throw new Refused('That came from a stand-in, and this is real work: measure it with a real meter.', 'input', 'origin');
  return origin;
}

/** As it stands in a line of the log; an old reading whose origin nobody kept says nothing of it. */
export const asTold = (o: Origin | undefined): string => (!o || o.how === 'untold' || o.how === 'typed' ? '' : `, ${sayOrigin(o)}`);
