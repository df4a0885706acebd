import type { Order } from '#model/order';
import { boxItem, wireItem } from '../supply/demand';
import { readItem } from '../supply/item-name';
import { readLabel } from '../supply/label';
import type { Assessment } from './assess';

/** A thing of an order that may carry a serial or lot number: as shelf and label name it, and in words. */
export interface LotItem {
  item: string;
  name: string;
}

/** All things of an order, from the kits’ boxes and from the shelf, whether they are fitted yet or not. */
export function lotItems(order: Order, a: Pick<Assessment, 'fit' | 'needs'>): LotItem[] {
  const names = new Map<string, string>();
  for (const { kit, box } of a.fit.kits) for (const b of box) names.set(boxItem(kit.id, b.item), `${b.item}, ${kit.name}`);
  for (const n of a.needs) names.set(n.id, n.name);
  // what is off the shelf already is needed no more
  for (const t of Object.values(order.used ?? {}).flat()) {
    const id = t.of === 'shelf' ? t.id : wireItem(t.awg, t.colour);
    if (!names.has(id)) names.set(id, readItem(id).name);
  }
  return [...names].map(([item, name]) => ({ item, name }));
}

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
export function readLot(text: string, inHand: string, items: readonly LotItem[]): { item: string; lot: string } {
  const label = readLabel(text);
  if (label && items.some((i) => i.item === label.item)) return { item: label.item, lot: label.lot };
  return { item: inHand, lot: text.trim().slice(0, 60) };
}
