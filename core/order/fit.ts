import type { Verdict } from '#model/common';
import { isThere, type Fit, type Kit } from '#model/kit';
import type { Order } from '#model/order';
import { OWN_KIT } from '#model/own';
import type { Sheets } from '#model/sheet';
import type { WishId } from '#model/wish';
import type { UnitModel } from '#model/unit-model';
import type { EndWork } from '../wiring/box-work';
import { restsOnAssumed } from '../known/pointer';
import { unpacked } from '../plan/unpack';
import { worst } from '../verdict';

export interface KitFit {
  kit: Kit;
  verdict: Verdict;
  says: string;
  rule: Fit | null;
  /** kits that must come first and are not chosen: any one of each list will do */
  needs: { anyOf: string[]; why: string }[];
  missingPlaces: string[];
  /** what it contains as chosen; `at` is its place in the sheet’s list, `of` the devices and harnesses that it is */
  box: { at: number; item: string; need: number; counted: number | null; of: readonly string[] }[];
  /** what it wants and does not contain, in words */
  besides: string[];
  /** what it contains and is not used as chosen, in words */
  left: string[];
  /** the ends of its ready harnesses, as they lie on this unit */
  ends: EndWork[];
}

const applies = (f: Fit, model: UnitModel, year: number, build: string): boolean =>
  (!f.models || f.models.includes(model.id)) &&
  (!f.kinds || f.kinds.includes(model.kind)) &&
  (!f.years || (year >= f.years.from && year <= f.years.to)) &&
  (!f.builds || f.builds.includes(build));

/** The first rule of a kit that speaks of this model, year and build; null when none does. */
export const fitRule = (kit: Kit, model: UnitModel, year: number, build: string): Fit | null =>
  kit.fits.find((f) => applies(f, model, year, build)) ?? null;

/** Places that a kit wants and a unit does not have. */
const missing = (kit: Kit, model: UnitModel): string[] => {
  const places = new Set(model.places.map((p) => p.id));
  return [...new Set([...kit.devices.map((d) => d.place), ...kit.steps.map((s) => s.place)])].filter((p) => !places.has(p));
};

/** Whether a kit may be tried on a unit: its maker lists it, or nobody knows what is listed for a unit known only by its kind, and every place is there. */
export const mayFit = (kit: Kit, model: UnitModel, year: number, build: string): boolean => {
  const rule = fitRule(kit, model, year, build);
  return rule ? rule.fits : restsOnAssumed(model) && !missing(kit, model).length;
};

/** Whether one kit belongs on the order's unit, and why not. */
export function judgeFit(
  kit: Kit,
  order: Pick<Order, 'unit' | 'kits' | 'variants' | 'steps'>,
  model: UnitModel,
  ends: readonly EndWork[] = [],
): KitFit {
  const { year, build } = order.unit;
  const named = model.builds.find((b) => b.id === build)?.name ?? build;
  const others = order.kits.map((k) => k.kit.id);
  const rule = fitRule(kit, model, year, build);
  const missingPlaces = missing(kit, model);
  const needs = kit.needs
    .filter(
      (n) =>
        (!n.when || n.when.includes(model.kind)) &&
        (!n.models || n.models.includes(model.id)) &&
        !n.anyOf.some((id) => others.includes(id)),
    )
    .map(({ anyOf, why }) => ({ anyOf, why }));
  const counted = order.kits.find((k) => k.kit.id === kit.id)?.box ?? {};
  // what is of this order alone came out of no box
  const whole = kit.id === OWN_KIT || unpacked(order, kit.id);
  const chosen = order.variants?.[kit.id] ?? {};
  // a piece keeps its place in its sheet’s list, whatever is chosen
  const box = kit.contents.flatMap((b, at) =>
    isThere(b, kit.variants, chosen)
      ? [{ at, item: b.item, need: b.count, counted: counted[at] ?? (whole ? b.count : null), of: b.of }]
      : [],
  );
  const short = box.filter((b) => b.counted !== null && b.counted < b.need);
  const verdicts: Verdict[] = [];
  const says: string[] = [];
  if (!rule && restsOnAssumed(model) && !missingPlaces.length) {
    verdicts.push('unknown');
    says.push(`nobody has a sheet of the ${model.name}: ask the maker whether it fits, and hold everything to it before anything is cut`);
  } else if (!rule) {
    verdicts.push('fails');
    says.push(`the maker lists no fit for ${model.name}, ${year}, ${named}`);
  } else if (!rule.fits) {
    verdicts.push('fails');
    says.push(rule.note ?? 'the maker says it does not fit this build');
  } else if (missingPlaces.length) {
    verdicts.push('fails');
    says.push(`this unit has no place “${missingPlaces[0]}”`);
  }
  if (rule?.fits && rule.note) {
    verdicts.push('tight');
    says.push(rule.note);
  }
  for (const n of needs) {
    verdicts.push('fails');
    says.push(n.why);
  }
  if (short.length) {
    verdicts.push('tight');
    says.push(`box short of ${short.map((s) => `${s.need - s.counted!} × ${s.item}`).join(', ')}`);
  }
  const mine = ends.filter((e) => e.kit.id === kit.id);
  // what must come first changes what it is joined to
  for (const e of needs.length ? [] : mine) {
    if (e.how === 'extend') {
      verdicts.push('tight');
      says.push(`the ${e.legName} of its ${e.harness} is ${Math.round(e.leg!.shortMm)} mm short of ${e.into}`);
    }
    if (e.adapted) {
      verdicts.push('tight');
      says.push(e.adapted.why);
    }
  }
  return {
    kit,
    verdict: worst(verdicts),
    says: says.join('; ') || `fits ${model.name} ${year}, ${named}`,
    rule,
    needs,
    missingPlaces,
    box,
    besides: [...kit.besides.map((b) => `${b.count} × ${b.item}`), ...mine.flatMap((e) => e.adapted?.buy ?? [])],
    left: kit.contents.flatMap((b) => (isThere(b, kit.variants, chosen) ? [] : [b.item])),
    ends: mine,
  };
}

/** Wishes that no chosen kit answers. */
export const unanswered = (wishes: readonly WishId[], chosen: readonly Kit[]): WishId[] =>
  wishes.filter((w) => !chosen.some((k) => k.wishes.includes(w)));

/** Every chosen kit in turn, and parts in hand of parts needed. */
export function checkFit(
  order: Order,
  sheets: Sheets,
  ends: readonly EndWork[] = [],
): { kits: KitFit[]; verdict: Verdict; parts: { inHand: number; needed: number } } {
  const kits = sheets.kits.map((k) => judgeFit(k, order, sheets.model, ends));
  const boxes = kits.flatMap((k) => k.box);
  return {
    kits,
    verdict: worst(kits.map((k) => k.verdict)),
    parts: { inHand: boxes.reduce((s, b) => s + Math.min(b.counted ?? 0, b.need), 0), needed: boxes.reduce((s, b) => s + b.need, 0) },
  };
}
