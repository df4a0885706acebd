import type { Kit } from '#model/kit';
import type { Order } from '#model/order';
import type { Purchase } from '#model/supply';
import { mountedAt } from '../plan/kit-steps';
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
  /** devices and harnesses that it is */
  of: readonly string[];
  /** numbers that it may have before the next thing is asked for: a device has one each, what comes in bags one for all */
  count: number;
}

/** All things of an order, from the kits’ boxes and from the shelf, whether they are fitted yet or not. */
export function lotItems(order: Order, a: Pick<Assessment, 'fit' | 'needs'>): LotItem[] {
  const items = [
    ...a.fit.kits.flatMap(({ kit, box }) =>
      box.map((b) => ({
        item: boxItem(kit.id, b.item),
        name: boxItemName(kit, b.item),
        kit: kit.id,
        of: b.of,
        count: b.of.length ? b.need : 1,
      })),
    ),
    ...a.needs.map((n) => offShelf(n.id, n.name)),
    // what is off the shelf already is needed no more
    ...Object.values(order.used ?? {})
      .flat()
      .map((t) => (t.of === 'shelf' ? t.id : wireItem(t.awg, t.colour)))
      .map((item) => offShelf(item, readItem(item).name)),
  ];
  return items.filter((x, i) => items.findIndex((y) => y.item === x.item) === i);
}
const offShelf = (item: string, name: string): LotItem => ({ item, name, kit: null, of: [], count: 1 });

/** The same, those first that are in hand at a step: what it mounts, what of the box it uses, then the rest of its kit. */
export function inHandFirst(items: readonly LotItem[], step: { id: string; kit: string | null }, kits: readonly Kit[]): LotItem[] {
  const kit = kits.find((k) => k.id === step.kit);
  if (!kit) return [...items];
  const mounted = mountedAt(kit, step.id);
  const uses = kit.steps.find((s) => `${kit.id}/${s.id}` === step.id)?.uses ?? [];
  const used = new Set(kit.contents.flatMap((c) => (c.id !== undefined && uses.includes(c.id) ? [boxItem(kit.id, c.item)] : [])));
  const rank = (i: LotItem) => (i.kit !== kit.id ? 3 : i.of.some((d) => mounted.has(d)) ? 0 : used.has(i.item) ? 1 : 2);
  return [...items].sort((a, b) => rank(a) - rank(b));
}

/** The first that may have a further number; the first of all where none may. */
export const nextInHand = (items: readonly LotItem[], lots: NonNullable<Order['lots']>): LotItem | undefined =>
  items.find((i) => lots.filter((l) => l.item === i.item).length < i.count) ?? items[0];

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
