import type { Pin } from '#model/shop-week';

/** What is decided by hand of an order’s place; nothing of it where nobody decided. */
export const pinOf = (pins: readonly Pin[], order: string): Pin =>
  pins.find((p) => p.order === order) ?? { order, bay: null, person: null, notBefore: null, weight: 1 };

/** The pins with one order’s changed; one that decides nothing any more is gone. */
export function withPin(pins: readonly Pin[], order: string, to: Partial<Omit<Pin, 'order'>>): Pin[] {
  const next = { ...pinOf(pins, order), ...to };
  const others = pins.filter((p) => p.order !== order);
  return next.bay || next.person || next.notBefore || next.weight !== 1 ? [...others, next] : others;
}
