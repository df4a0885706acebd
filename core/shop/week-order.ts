import type { ListedOrder } from '../order/summary';
import type { WeekOrder } from './week-shop';

/** A listed order as the week has to know it; null where its work is done or nothing is planned. */
export function weekOrder({ id, number, promisedAt, summary: s }: ListedOrder): (WeekOrder & { model: string }) | null {
  // one written before a week was planned tells its minutes by kit only
  const work = s.work ?? (s.left?.length ? [{ kits: s.left, hands: 1 as const, waitMinutes: 0 }] : []);
  if (!work.length) return null;
  return {
    id,
    number,
    unitName: s.unitName,
    owner: s.owner,
    kind: s.kind,
    packs: s.packs ?? false,
    promisedAt,
    assignee: s.assignee,
    begun: s.begun ?? false,
    // told by what all orders get of shelf and supplier
    waitsFor: '',
    work,
    model: s.model ?? '',
  };
}
