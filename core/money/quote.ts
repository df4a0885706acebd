import { ImpossibleInput } from '../errors';
import { Decimal, decimal, digitsOf, rate, shareOut, sumOf } from './decimal';

/** One line of a quote: how much of what, at a price with or without its taxes. */
export interface QuoteLine {
  id: string;
  /** by which its taxes are found */
  class: string;
  quantity: string;
  unitPrice: string;
}

/** A tax on lines of some classes. `included`: it is within their prices. */
export interface Tax {
  name: string;
  rate: string;
  classes: string[];
  included: boolean;
}

/** What is taken off all lines alike: a share of them, or an amount. */
export type Discount = { rate: string } | { amount: string };

export interface Priced {
  lines: { id: string; net: string; tax: string; gross: string }[];
  taxes: { name: string; base: string; tax: string }[];
  totals: { net: string; tax: string; gross: string; discount: string };
}

interface Worked {
  /** without tax */
  net: Decimal;
  /** by tax, in their order; zero where a tax is not on this line */
  taxes: Decimal[];
}

/**
 * Prices a quote. With `line` each line’s net is rounded, and each of its taxes from that; with `total` only the sums are, and lines
 * are shown so that they come to them. All in the currency’s minor units, half of one away from zero.
 * @throws ImpossibleInput naming the line or tax that cannot be
 */
export function priceQuote(given: {
  currency: string;
  lines: readonly QuoteLine[];
  taxes: readonly Tax[];
  rounding: 'line' | 'total';
  discount?: Discount | undefined;
}): Priced {
  const digits = digitsOf(given.currency);
  const twice = given.lines.find((l, i) => given.lines.findIndex((o) => o.id === l.id) !== i);
  if (twice) throw new ImpossibleInput(`line “${twice.id}” is there twice`, 'lines');
  const rates = given.taxes.map((t, i) => rate(t.rate, `taxes.${i}.rate`));
  const asked = given.lines.map((l, i) => decimal(l.quantity, `lines.${i}.quantity`).times(decimal(l.unitPrice, `lines.${i}.unitPrice`)));
  const all = sumOf(asked);
  const kept = left(given.discount, all);
  const worked = given.lines.map((l, i): Worked => {
    const on = given.taxes.map((t, k) => (t.classes.includes(l.class) ? rates[k]! : new Decimal(0)));
    const within = sumOf(on.filter((_, k) => given.taxes[k]!.included));
    const price = kept(asked[i]!);
    const exact = price.div(within.plus(1));
    const net = given.rounding === 'line' ? exact.round(digits) : exact;
    return { net, taxes: on.map((r) => (given.rounding === 'line' ? net.times(r).round(digits) : net.times(r))) };
  });
  const off = all.minus(kept(all));
  return given.rounding === 'line' ? byLine(given, worked, digits, off) : byTotal(given, worked, digits, off);
}

/** What is left of prices once a discount is off, of a part of them. */
function left(discount: Discount | undefined, all: Decimal): (part: Decimal) => Decimal {
  if (!discount) return (part) => part;
  if ('rate' in discount) {
    const keep = new Decimal(1).minus(rate(discount.rate, 'discount.rate'));
    return (part) => part.times(keep);
  }
  const amount = decimal(discount.amount, 'discount.amount');
  if (amount.lt(0) || amount.gt(all))
    throw new ImpossibleInput(`“${discount.amount}” is not a part of ${all.toFixed()}`, 'discount.amount');
  // each part gives its share: multiplied first, so that nothing is lost where it comes out even
  return (part) => (all.eq(0) ? part : part.times(all.minus(amount)).div(all));
}

type Given = Parameters<typeof priceQuote>[0];

function byLine(given: Given, worked: readonly Worked[], digits: number, off: Decimal): Priced {
  const as = (x: Decimal) => x.toFixed(digits);
  const lines = given.lines.map((l, i) => {
    const { net, taxes } = worked[i]!;
    const tax = sumOf(taxes);
    return { id: l.id, net: as(net), tax: as(tax), gross: as(net.plus(tax)) };
  });
  const net = sumOf(worked.map((w) => w.net));
  const taxes = given.taxes.map((t, k) => ({
    name: t.name,
    base: as(baseOf(given, worked, k)),
    tax: as(sumOf(worked.map((w) => w.taxes[k]!))),
  }));
  const tax = sumOf(worked.flatMap((w) => w.taxes));
  return { lines, taxes, totals: { net: as(net), tax: as(tax), gross: as(net.plus(tax)), discount: as(off.round(digits)) } };
}

const baseOf = (given: Given, worked: readonly Worked[], k: number): Decimal =>
  sumOf(worked.filter((_, i) => given.taxes[k]!.classes.includes(given.lines[i]!.class)).map((w) => w.net));

function byTotal(given: Given, worked: readonly Worked[], digits: number, off: Decimal): Priced {
  const as = (x: Decimal) => x.toFixed(digits);
  const exactNet = sumOf(worked.map((w) => w.net));
  const exactTax = given.taxes.map((_, k) => sumOf(worked.map((w) => w.taxes[k]!)));
  const net = exactNet.round(digits);
  // what is within prices is what is left of them without their net, so that they stay what they were quoted at
  const within = exactTax.filter((_, k) => given.taxes[k]!.included);
  const withinAll = exactNet.plus(sumOf(within)).round(digits).minus(net);
  const shared = shareOut(withinAll, within, digits);
  const taxes = exactTax.map((x, k) => (given.taxes[k]!.included ? shared.shift()! : x.round(digits)));
  const nets = shareOut(
    net,
    worked.map((w) => w.net),
    digits,
  );
  const byTax = taxes.map((t, k) =>
    shareOut(
      t,
      worked.map((w) => w.taxes[k]!),
      digits,
    ),
  );
  const lines = given.lines.map((l, i) => {
    const tax = sumOf(byTax.map((list) => list[i]!));
    return { id: l.id, net: as(nets[i]!), tax: as(tax), gross: as(nets[i]!.plus(tax)) };
  });
  const tax = sumOf(taxes);
  return {
    lines,
    taxes: given.taxes.map((t, k) => ({ name: t.name, base: as(baseOf(given, worked, k).round(digits)), tax: as(taxes[k]!) })),
    totals: { net: as(net), tax: as(tax), gross: as(net.plus(tax)), discount: as(off.round(digits)) },
  };
}
