import { NO_MONEY, type Discount, type OptionChange, type QuoteBody, type QuotedOption } from '#model/money';
import { chosenOption } from '#model/kit';
import { changeKey } from '#model/power-change';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import { assess } from '../order/assess';
import { withChange, withoutChange } from '../order/agreed-changes';
import { withoutKit, withVariant } from '../order/chosen-kits';
import { linesOf, type Unpriced } from './price-lines';
import { priced } from './priced';

/**
 * An order as it is before any work is done: what is quoted is the whole of it, whenever it is asked. What turned up and was agreed
 * by itself is not in it.
 */
export function quotable({ used: _, ...order }: Order): Order {
  const extras = new Set(order.money?.extras.map((e) => e.id) ?? []);
  return { ...order, jobs: (order.jobs ?? []).filter((j) => !extras.has(j.id)), fasteners: {}, steps: {} };
}

/** The order as an option of a quote would have it. */
export const withOption = (order: Order, changes: readonly OptionChange[], stamp: { at: string; by: string }): Order =>
  changes.reduce((o, c): Order => {
    switch (c.kind) {
      case 'without':
        return withoutKit(o, c.kit);
      case 'variant':
        return withVariant(o, c.kit, c.variant, c.option);
      case 'unpower':
        return withoutChange(o, c.key);
      case 'power':
        return withChange(o, { change: c.change, label: c.label, ...stamp });
    }
  }, order);

/** An option as it is asked for. */
export interface AskedOption {
  id: string;
  name: string;
  changes: readonly OptionChange[];
}

/** How a quote is made: by what prices, taxes and rounding, and what is taken off. */
export interface QuoteTerms {
  byHand: Readonly<Record<string, string>>;
  discount: Discount | null;
}

/**
 * Prices one option and judges it: the order is computed as it would be, and its lines follow from the plan. As long as one
 * assessment.
 * @param given the order’s sheets as they are stored
 * @throws ImpossibleInput where the currency is none or a discount is more than all
 */
export function quoteOption(
  order: Order,
  given: Sheets,
  settings: Settings,
  option: AskedOption,
  terms: QuoteTerms,
): { option: QuotedOption | null; unpriced: Unpriced[] } {
  const as = withOption(quotable(order), option.changes, { at: order.openedAt, by: '' });
  const sheets = { ...given, kits: given.kits.filter((k) => as.kits.some((x) => x.kit.id === k.id)) };
  const a = assess(as, sheets, settings);
  const { lines, unpriced } = linesOf(as, a, settings, terms.byHand);
  if (!lines.length) return { option: null, unpriced };
  const { currency, charges } = settings;
  const p = priced(lines, { currency, taxes: charges.taxes, rounding: charges.rounding, discount: terms.discount });
  const short = (says: string) => says.slice(0, 300);
  return {
    unpriced,
    option: {
      id: option.id,
      name: option.name,
      changes: [...option.changes],
      kits: a.sheets.kits.filter((k) => as.kits.some((x) => x.kit.id === k.id)).map((k) => ({ id: k.id, name: k.name })),
      jobs: (as.jobs ?? []).map((j) => ({ id: j.id, name: j.title })),
      chosen: chosenOf(as, sheets),
      ...p,
      minutes: Math.round(a.minutes.planned),
      power: { verdict: a.stations.power.verdict, says: short(a.power.says) },
      wire: { verdict: a.stations.wire.verdict, says: short(a.stations.wire.owed) },
      lamps: { verdict: a.stations.lamps.verdict, says: short(a.stations.lamps.owed) },
    },
  };
}

/** The way of each choice of an order’s kits, and what is changed of its power. */
const chosenOf = (order: Order, { kits }: Pick<Sheets, 'kits'>): NonNullable<QuotedOption['chosen']> => ({
  ways: kits.flatMap((k) =>
    k.variants.map((v) => {
      const option = chosenOption(v, order.variants?.[k.id] ?? {});
      return { kit: k.id, variant: v.id, option, name: `${k.name}: ${v.options.find((o) => o.id === option)!.name}` };
    }),
  ),
  power: order.changes.map((c) => ({ key: changeKey(c.change), name: c.label })),
});

/** Every option of a quote, lettered in order, and what nobody has priced in any of them. @throws ImpossibleInput */
export function quoteOptions(
  order: Order,
  given: Sheets,
  settings: Settings,
  asked: readonly Omit<AskedOption, 'id'>[],
  terms: QuoteTerms,
): { options: QuotedOption[]; unpriced: Unpriced[] } {
  const made = asked.map((o, i) => quoteOption(order, given, settings, { ...o, id: 'abcd'[i]! }, terms));
  return {
    options: made.flatMap((m) => m.option ?? []),
    unpriced: [...new Map(made.flatMap((m) => m.unpriced.map((u) => [u.key, u] as const))).values()],
  };
}

/** Which option of which quote was agreed to; null: none. */
export function agreedOption(order: Order): { quote: QuoteBody; option: QuotedOption } | null {
  const { agreed, quotes } = order.money ?? NO_MONEY;
  if (!agreed) return null;
  const quote = quotes.find((q) => q.revision === agreed.revision)!;
  return { quote, option: quote.options.find((o) => o.id === agreed.option)! };
}

/** What the order has that nobody agreed to pay for: in words, one a thing. Empty while nothing was agreed at all. */
export function beyondAgreed(order: Order, sheets: Sheets): string[] {
  const of = agreedOption(order);
  if (!of) return [];
  const kits = new Set(of.option.kits.map((k) => k.id));
  const jobs = new Set([...of.option.jobs.map((j) => j.id), ...order.money!.extras.filter((e) => e.answer?.yes).map((e) => e.id)]);
  return [
    ...order.kits.filter((k) => !kits.has(k.kit.id)).map((k) => sheets.kits.find((s) => s.id === k.kit.id)?.name ?? k.kit.id),
    ...(order.jobs ?? []).filter((j) => !jobs.has(j.id)).map((j) => j.title),
  ];
}

/** What was agreed and is not on the order any more. */
export function missingOfAgreed(order: Order): string[] {
  const of = agreedOption(order);
  if (!of) return [];
  return [
    ...of.option.kits.filter((k) => !order.kits.some((x) => x.kit.id === k.id)),
    ...of.option.jobs.filter((j) => !order.jobs?.some((x) => x.id === j.id)),
  ].map((x) => x.name);
}

/** What was done to the order otherwise than agreed: another way of a box, the power changed more or less; in words. */
export function alteredSinceAgreed(order: Order, sheets: Pick<Sheets, 'kits'>): string[] {
  const agreed = agreedOption(order)?.option.chosen;
  if (!agreed) return [];
  const now = chosenOf(order, { kits: sheets.kits.filter((k) => order.kits.some((x) => x.kit.id === k.id)) });
  return [
    ...agreed.ways.flatMap((w) => {
      const is = now.ways.find((x) => x.kit === w.kit && x.variant === w.variant);
      return is && is.option !== w.option ? [`${w.name}: agreed; now ${is.name}`] : [];
    }),
    ...agreed.power.filter((x) => !now.power.some((n) => n.key === x.key)).map((x) => `${x.name}: agreed, and taken back since`),
    ...now.power.filter((x) => !agreed.power.some((n) => n.key === x.key)).map((x) => `${x.name}: since then, and never agreed`),
  ];
}
