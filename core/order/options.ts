import type { Kit } from '#model/kit';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import type { Verdict } from '#model/common';
import { standbyMa, staysOn } from '../energy/unit-system';
import { assess } from './assess';

/** One option of a box’s variant on this order: what it takes, and what it leaves. */
export interface OptionRow {
  option: string;
  name: string;
  note: string | null;
  chosen: boolean;
  /** how its kit’s circuits are fed with it */
  feeds: string[];
  verdict: Verdict;
  says: string;
  /** what is cut, bought or taken off the shelf for the kit, in words */
  parts: string[];
  /** of the option itself and of what it takes besides, in the shop’s currency */
  price: number;
  /** minutes of the kit’s own steps */
  minutes: number;
  /** drawn with the key off by the kit’s circuits, milliamperes */
  parkedMa: number;
  /** amperes left at the feeds that it takes; null where none has a limit */
  freeA: number | null;
}

/**
 * Every option of a variant, planned on this order: other ways to the same end, side by side. As long as an assessment for each.
 * @param given the order’s sheets as they are stored
 */
export function compareOptions(order: Order, given: Sheets, settings: Settings, kit: string, variant: string): OptionRow[] {
  const sheet: Kit | undefined = given.kits.find((k) => k.id === kit);
  const open = sheet?.variants.find((v) => v.id === variant);
  if (!sheet || !open) return [];
  const now = order.variants?.[kit]?.[variant] ?? open.options[0]!.id;
  return open.options.map((o): OptionRow => {
    const changed: Order = { ...order, variants: { ...order.variants, [kit]: { ...order.variants?.[kit], [variant]: o.id } } };
    const a = assess(changed, given, settings);
    const mine = a.wiring.circuits.filter((c) => c.kit.id === kit);
    const ids = new Set(mine.map((c) => c.id));
    const needs = a.needs.filter((n) => n.uses.some((c) => ids.has(c)));
    const free = mine.flatMap((c) => c.candidates.find((x) => x.point.id === c.feed?.id)?.freeA ?? []);
    const bad = mine.find((c) => c.verdict !== 'holds');
    return {
      option: o.id,
      name: o.name,
      note: o.note ?? null,
      chosen: o.id === now,
      feeds: [...new Set(mine.map((c) => c.feed?.name ?? 'no feed yet'))],
      verdict: mine.length ? (bad?.verdict ?? 'holds') : 'holds',
      says: bad?.problems[0] ?? '',
      parts: needs.map((n) => `${n.unit === 'm' ? `${n.need} m` : `${n.need} ×`} ${n.name}`),
      price: (o.price ?? 0) + needs.reduce((s, n) => s + (n.price ?? 0) * n.need, 0),
      minutes: a.steps.filter((s) => s.kit === kit).reduce((s, x) => s + x.minutes, 0),
      parkedMa: mine.filter(staysOn).reduce((ma, c) => ma + standbyMa(c), 0),
      freeA: free.length ? Math.min(...free) : null,
    };
  });
}
