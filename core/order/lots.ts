import type { Order } from '#model/order';
import type { Purchase } from '#model/supply';
import { boxItem, boxItemName, wireItem } from '../supply/demand';
import { readItem } from '../supply/item-name';
import { readLabel } from '../supply/label';
import { lotsOf } from '../supply/lots-of';
import type { Assessment } from './assess';

/** A thing of an order that may carry a serial or lot number: as shelf and label name it, and in words. */
export interface LotItem {
  item: string;
  name: string;
  /** in whose box it came; null: off the shelf */
  kit: string | null;
}

/** All things of an order, from the kits’ boxes and from the shelf, whether they are fitted yet or not. */
export function lotItems(order: Order, a: Pick<Assessment, 'fit' | 'needs'>): LotItem[] {
  const items = [
    ...a.fit.kits.flatMap(({ kit, box }) =>
      box.map((b) => ({ item: boxItem(kit.id, b.item), name: boxItemName(kit, b.item), kit: kit.id })),
    ),
    ...a.needs.map((n) => ({ item: n.id, name: n.name, kit: null })),
    // what is off the shelf already is needed no more
    ...Object.values(order.used ?? {})
      .flat()
      .map((t) => (t.of === 'shelf' ? t.id : wireItem(t.awg, t.colour)))
      .map((item) => ({ item, name: readItem(item).name, kit: null })),
  ];
  return items.filter((x, i) => items.findIndex((y) => y.item === x.item) === i);
}

/** Numbers that a thing came with, of those that it has not got on this order yet. */
export const lotsThatCame = (order: Pick<Order, 'lots'>, item: string, purchases: readonly Pick<Purchase, 'receipts'>[]): string[] => [
  ...new Set(purchases.flatMap((p) => lotsOf(p, item)).filter((lot) => !order.lots?.some((l) => l.item === item && l.lot === lot))),
];

/** The numbers of an order in words, thing by thing; empty where none was recorded. */
export function sayLots(lots: readonly { name: string; lot: string }[]): string {
  const of = new Map<string, string[]>();
  for (const l of lots) of.set(l.name, [...(of.get(l.name) ?? []), l.lot]);
  return [...of].map(([name, numbers]) => `${name}: ${numbers.join(', ')}`).join(' · ');
}

/**
 * What a scanner gave, or somebody typed: a shop’s own label names the thing, and its number where it has one; anything else is
 * the number of the thing in hand, as its maker printed it.
 * @param inHand item of the thing in hand
 * @param items what there is on the order
 */
export function readLot(text: string, inHand: string, items: readonly Pick<LotItem, 'item'>[]): { item: string; lot: string } {
  const label = readLabel(text);
  if (label && items.some((i) => i.item === label.item)) return { item: label.item, lot: label.lot };
  return { item: inHand, lot: text.trim().slice(0, 60) };
}
