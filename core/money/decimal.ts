import Big from 'big.js';
import currencies from 'currency-codes';
import { ImpossibleInput } from '../errors';

/** Decimals of money: nothing is computed in floating point, and half a unit rounds away from zero. */
export const Decimal = Big();
// digits behind the point of what does not end, such as a price without its tax: far beyond any minor unit
Decimal.DP = 40;
Decimal.RM = Big.roundHalfUp;
export type Decimal = Big;

const PLAIN = /^[-−]?\d{1,15}(\.\d{1,10})?$/;
const SHARE = /^(\d{1,3}(?:\.\d{1,8})?) ?%$/;

/**
 * A decimal as it is written: `1499.50`. No other sign stands between its digits, so that 1.000,5 is not taken for something else.
 * @throws ImpossibleInput saying how it is written
 */
export function decimal(text: string, path: string): Decimal {
  const said = text.trim();
  if (!PLAIN.test(said)) throw new ImpossibleInput(`“${text}” is not an amount: digits with a point before the decimals, as 1000.5`, path);
  return new Decimal(said.replace('−', '-'));
}

/**
 * A rate as a share, `0.19`, or in per cent, `19 %`.
 * @throws ImpossibleInput for a bare one above one, which may be meant either way
 */
export function rate(text: string, path: string): Decimal {
  const percent = SHARE.exec(text.trim());
  const r = percent ? new Decimal(percent[1]!).div(100) : decimal(text, path);
  if (r.lt(0)) throw new ImpossibleInput(`“${text}” is below nothing`, path);
  if (r.gt(1)) throw new ImpossibleInput(`“${text}” is more than all of it: write 0.19 or 19 %`, path);
  return r;
}

/** Digits behind the point that a currency’s minor unit has. Source: ISO 4217, list one. @throws ImpossibleInput for no currency */
export function digitsOf(currency: string): number {
  const found = currencies.code(currency);
  if (!found) throw new ImpossibleInput(`“${currency}” is no currency of ISO 4217, such as EUR or USD`, 'currency');
  return found.digits;
}

export const sumOf = (list: readonly Decimal[]): Decimal => list.reduce((s, x) => s.plus(x), new Decimal(0));

/**
 * Whole minor units shared out so that together they are a total: each gets what it is rounded down, and those get one more that
 * lose most by that. The largest remainder (Hamilton).
 * @param exact what each would be, its sum within a few minor units of `total`
 */
export function shareOut(total: Decimal, exact: readonly Decimal[], digits: number): Decimal[] {
  const unit = new Decimal(10).pow(-digits);
  const floor = (x: Decimal) => (x.lt(0) ? x.round(digits, Big.roundUp) : x.round(digits, Big.roundDown));
  const down = exact.map(floor);
  const left = Number(total.minus(sumOf(down)).div(unit).round(0).toString());
  // what is nothing stays nothing
  const order = exact.flatMap((x, i) => (x.eq(0) ? [] : [[x.minus(down[i]!), i] as const])).sort((a, b) => b[0].cmp(a[0]) || a[1] - b[1]);
  const out = [...down];
  const n = order.length;
  // those that lose least give, where more was given than there is
  for (let k = 0; k < Math.abs(left) && n > 0; k++) {
    const [, i] = order[left > 0 ? k % n : n - 1 - (k % n)]!;
    out[i] = left > 0 ? out[i]!.plus(unit) : out[i]!.minus(unit);
  }
  return out;
}
