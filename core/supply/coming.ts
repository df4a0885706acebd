import type { Purchase } from '#model/supply';

/** Something that is on order and not here. */
export interface Coming {
  item: string;
  amount: number;
  /** null while no day is known */
  day: string | null;
  /** the day it was to be here is over */
  overdue: boolean;
  /** the order that it is bought for; null: any */
  order: string | null;
}

const EPS = 0.005;

/** How much of an item of a purchase arrived. */
export const receivedOf = (p: Pick<Purchase, 'receipts'>, item: string): number =>
  p.receipts.flatMap((r) => r.lines).reduce((sum, l) => sum + (l.item === item ? l.amount : 0), 0);

/**
 * What of a purchase is still to come, delivery by delivery. A day that somebody was told stands above the supplier’s; what should
 * be here already may come on any day, and is counted on for today.
 * @param today by the shop’s calendar
 */
export function comingOf(p: Purchase, today: string): Coming[] {
  if (p.state !== 'waiting' && p.state !== 'sent') return [];
  const here = new Map(p.lines.map((l) => [l.item, receivedOf(p, l.item)]));
  return p.lines.flatMap((l) => {
    // of two lines of one item the first is filled first
    const came = Math.min(here.get(l.item)!, l.amount);
    here.set(l.item, here.get(l.item)! - came);
    const answered = p.answer?.find((a) => a.item === l.item)?.comes ?? [];
    const told = p.toldDay;
    const deliveries: { day: string | null; amount: number }[] =
      told !== null
        ? [{ day: told, amount: l.amount }]
        : answered.length
          ? answered.map((d) => ({ ...d }))
          : [{ day: null, amount: l.amount }];
    let gone = came;
    let open = l.amount - came;
    return deliveries.flatMap(({ day, amount }): Coming[] => {
      const past = Math.min(gone, amount);
      gone -= past;
      const n = Math.min(open, amount - past);
      open -= n;
      if (n <= EPS) return [];
      const overdue = day !== null && day < today;
      return [
        {
          item: l.item,
          amount: Number(n.toFixed(2)),
          day: overdue ? today : day,
          overdue,
          order: l.order,
        },
      ];
    });
  });
}

/** Whether nothing of a purchase is still to come. */
export const isWhole = (p: Pick<Purchase, 'lines' | 'receipts'>): boolean => {
  const need = new Map<string, number>();
  for (const l of p.lines) need.set(l.item, (need.get(l.item) ?? 0) + l.amount);
  return [...need].every(([item, n]) => receivedOf(p, item) >= n - EPS);
};
