import type { ListedOrder } from '#core/order/summary';
import type { Supply } from '#core/supply/allocate';
import { afterPromise } from '#core/supply/delivered';
import { showQuantity, type UnitSystem } from '#core/quantity/quantity';
import { promise, sayDay } from '../order/words';

/** How an order is called where several stand in a line. */
export const orderWord = (orders: readonly ListedOrder[], id: string): string => {
  const o = orders.find((x) => x.id === id);
  return o ? `${o.number} ${o.summary.unitName.split(' ').slice(1).join(' ')}` : 'an order that is over';
};

/** An amount as the shop reads it. */
export const amountWord = (n: number, unit: 'm' | 'pieces', units: UnitSystem): string =>
  unit === 'm' ? showQuantity(n, 'length', units) : String(n);

/** What is to be done about parts, the gravest first. */
export function sayParts({ rows, waiting }: Supply, orders: readonly ListedOrder[], timeZone: string): string[] {
  const out: string[] = [];
  for (const w of waiting) {
    const o = orders.find((x) => x.id === w.order);
    if (!o) continue;
    const late = w.day !== null && afterPromise(w.day, o.promisedAt, timeZone);
    out.push(
      `${orderWord(orders, w.order)} waits for ${w.name}${w.day === null ? ': nothing is on order' : `, here ${sayDay(w.day)}`}${late ? `, after its promise (${promise(o.promisedAt)})` : ''}.`,
    );
  }
  const buy = rows.filter((r) => r.suggest > 0).length;
  const uncounted = rows.filter((r) => r.have === null && r.need > 0).length;
  if (buy) out.push(`${buy} ${buy === 1 ? 'thing is' : 'things are'} to be ordered.`);
  else if (!out.length) out.push('Everything that is counted is there for all open orders.');
  if (uncounted) out.push(`${uncounted} ${uncounted === 1 ? 'kind of part' : 'kinds of parts'} nobody has counted.`);
  return out;
}
