import type { Purchase } from '#model/supply';
import type { Supply, WeekCuts } from './allocate';
import { receivedOf } from './coming';
import { lotsOf } from './lots-of';

/** The parts of the shop as rows, one for each item. */
export const supplyRows = ({ rows }: Pick<Supply, 'rows'>) =>
  rows.map((r) => ({
    item: r.item,
    name: r.name,
    unit: r.unit,
    needed: r.need,
    on_shelf: r.have ?? '',
    on_order: r.onOrder,
    lacking: r.lacks,
    kept_at_least: r.least ?? '',
    to_order: r.suggest,
    orders: r.shares.length,
  }));

/** The cuts of all orders as rows: by spool, the longest first. @param numbers of the orders by id */
export const cutRowsOf = (cuts: WeekCuts, numbers: ReadonlyMap<string, number>) =>
  [...cuts.rows]
    .sort(
      (a, b) =>
        Number(a.stock === null) - Number(b.stock === null) ||
        (a.stock ?? '').localeCompare(b.stock ?? '', 'en', { numeric: true }) ||
        b.lengthM - a.lengthM,
    )
    .map((c) => ({
      from: c.stock ?? 'nothing long enough',
      awg: c.awg,
      colour: c.colour,
      length_m: Number(c.lengthM.toFixed(2)),
      order: numbers.get(c.order) ?? c.order,
      wire: c.wire,
    }));

/** An order to the supplier as rows. */
export const purchaseRows = (p: Purchase) =>
  p.lines.map((l) => {
    const a = p.answer?.find((x) => x.item === l.item);
    return {
      purchase: p.number,
      item: l.item,
      name: l.name,
      amount: l.amount,
      unit: l.unit,
      price: a?.price ?? '',
      comes: p.toldDay ?? a?.comes.map((c) => `${c.amount} on ${c.day}`).join('; ') ?? '',
      received: receivedOf(p, l.item),
      lots: lotsOf(p, l.item).join('; '),
    };
  });
