import { words } from '#model/common';
import { SupplyItem } from '#model/supply';
import { lotItems } from '../order/lots';
import { ALL, event, Refused } from './definition';

/** Numbers that an order may hold. */
const MOST_LOTS = 100;
const lot = words(60);

export const lotEvents = [
  event({
    type: 'lot.recorded',
    may: ALL,
    records: { item: SupplyItem, name: words(200), lot },
    asks: { item: SupplyItem, lot },
    decide: (command, order, { assessment }) => {
      const known = lotItems(order, assessment).find((i) => i.item === command.item);
      if (!known) throw new Refused(`Nothing on this order is called “${command.item}”.`, 'input', 'item');
      const had = order.lots ?? [];
      if (had.some((l) => l.item === command.item && l.lot === command.lot))
        throw new Refused(`${known.name} has the number ${command.lot} already.`);
      if (had.length >= MOST_LOTS) throw new Refused(`An order keeps at most ${MOST_LOTS} numbers: take one off first.`);
      return { ...command, name: known.name };
    },
    apply: (order, { item, name, lot }, stamp) => ({ ...order, lots: [...(order.lots ?? []), { item, name, lot, ...stamp }] }),
    touches: (c) => [`lot.${c.item}`],
    says: (e) => `Serial or lot number of ${e.name}: ${e.lot}`,
  }),
  event({
    type: 'lot.dropped',
    may: ALL,
    records: { item: SupplyItem, name: words(200), lot },
    asks: { item: SupplyItem, lot },
    decide: (command, order) => {
      const had = order.lots?.find((l) => l.item === command.item && l.lot === command.lot);
      if (!had) throw new Refused('There is no such number on this order.', 'input', 'lot');
      return { ...command, name: had.name };
    },
    apply: (order, { item, lot }) => ({ ...order, lots: (order.lots ?? []).filter((l) => l.item !== item || l.lot !== lot) }),
    touches: (c) => [`lot.${c.item}`],
    says: (e) => `Serial or lot number of ${e.name} taken off: ${e.lot}`,
  }),
] as const;
