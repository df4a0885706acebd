import type { Week } from './week';
import type { WeekOrder } from './week-shop';

/** Whose calendar: the whole shop’s, a bay’s or a person’s. */
export type FeedOf = { of: 'shop' } | { of: 'bay'; id: string } | { of: 'person'; id: string };

/** An entry of a calendar; times are milliseconds of the clock of the world. */
export interface FeedEntry {
  /** the same for the same thing in every week that is planned, so that calendars move it and do not double it */
  id: string;
  from: number;
  to: number;
  title: string;
  where: string;
  says: string;
}

/** What a calendar holds of the week: the units in their bays for the shop and for a bay, a person’s own work for a person. */
export function feedOf(
  week: Week,
  orders: readonly Pick<WeekOrder, 'id' | 'number' | 'unitName' | 'owner' | 'promisedAt'>[],
  whose: FeedOf,
): FeedEntry[] {
  const order = new Map(orders.map((o) => [o.id, o]));
  const bay = new Map(week.bays.map((b) => [b.id, b.name]));
  const hold = new Map(week.holds.map((h) => [h.order, h]));
  const told = (id: string) => {
    const o = order.get(id)!;
    const p = week.promises.find((x) => x.order === id);
    return {
      title: `${o.number} ${o.unitName}`,
      says: `${o.owner}. Promised ${o.promisedAt.slice(0, 16).replace('T', ' ')}Z${p ? `, kept ${Math.round(100 * p.chance)} times in 100` : ''}.`,
    };
  };
  if (whose.of === 'person') {
    const own = week.work.filter((w) => w.people.includes(whose.id) && order.has(w.order)).sort((a, b) => a.from - b.from);
    const out: FeedEntry[] = [];
    for (const w of own) {
      const last = out.at(-1);
      const where = bay.get(hold.get(w.order)?.bay ?? '') ?? '';
      // what follows on without a gap is one entry
      if (last && last.to === w.from && last.id.startsWith(`${w.order} `)) last.to = w.to;
      else
        out.push({
          id: `${w.order} ${out.filter((e) => e.id.startsWith(`${w.order} `)).length}`,
          from: w.from,
          to: w.to,
          where,
          ...told(w.order),
        });
    }
    return out;
  }
  return week.holds
    .filter((h) => order.has(h.order) && (whose.of === 'shop' || h.bay === whose.id))
    .map((h) => ({ id: h.order, from: h.from, to: h.to, where: bay.get(h.bay) ?? '', ...told(h.order) }));
}
