import currencies from 'currency-codes';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { runCalculation } from '../calc/door';
import { digitsOf } from './decimal';
import { priceQuote, type Priced, type QuoteLine, type Tax } from './quote';

const one = (unitPrice: string, quantity = '1', of = 'any'): QuoteLine => ({
  id: `${of} ${quantity} ${unitPrice}`,
  class: of,
  quantity,
  unitPrice,
});
const tax = (rate: string, included = false, classes = ['any']): Tax => ({ name: `tax ${rate}`, rate, classes, included });
const minor = (text: string, digits: number): bigint =>
  BigInt(text.replace('.', '')) * (text.includes('.') || digits === 0 ? 1n : 10n ** BigInt(digits));

/** Rounds a fraction of whole numbers, half away from zero: arithmetic with nothing but integers. */
function nearest(above: bigint, below: bigint): bigint {
  const [n, sign] = above < 0n ? [-above, -1n] : [above, 1n];
  return (sign * (2n * n + below)) / (2n * below);
}

const anyQuote = fc
  .record({
    currency: fc.constantFrom('USD', 'JPY', 'KWD'),
    prices: fc.array(
      fc.tuple(fc.integer({ min: -99999, max: 999999 }), fc.integer({ min: 1, max: 40 }), fc.constantFrom('parts', 'labour', 'fees')),
      { minLength: 1, maxLength: 12 },
    ),
    taxes: fc.array(fc.tuple(fc.integer({ min: 0, max: 2500 }), fc.boolean(), fc.subarray(['parts', 'labour', 'fees'], { minLength: 1 })), {
      maxLength: 3,
    }),
    off: fc.option(fc.integer({ min: 0, max: 50 }), { nil: undefined }),
    rounding: fc.constantFrom('line' as const, 'total' as const),
  })
  .map(({ prices, taxes, off, ...q }) => ({
    ...q,
    lines: prices.map(([cents, n, of], i): QuoteLine => ({
      id: `l${i}`,
      class: of,
      quantity: String(n),
      unitPrice: (cents / 100).toFixed(2),
    })),
    taxes: taxes.map(([r, included, classes], i): Tax => ({ name: `t${i}`, rate: (r / 10000).toFixed(4), classes, included })),
    ...(off !== undefined && { discount: { rate: (off / 100).toFixed(2) } }),
  }));

describe('a quote priced', () => {
  it('has lines and taxes that come to its totals, whatever is rounded and wherever its taxes are', () => {
    fc.assert(
      fc.property(anyQuote, (q) => {
        const digits = digitsOf(q.currency);
        const p = priceQuote(q);
        const of = (list: { net?: string; tax?: string; gross?: string }[], k: 'net' | 'tax' | 'gross') =>
          list.reduce((s, x) => s + minor(x[k]!, digits), 0n);
        for (const k of ['net', 'tax', 'gross'] as const) expect(of(p.lines, k)).toBe(minor(p.totals[k], digits));
        expect(of(p.taxes, 'tax')).toBe(minor(p.totals.tax, digits));
        for (const l of [...p.lines, p.totals]) expect(minor(l.net, digits) + minor(l.tax, digits)).toBe(minor(l.gross, digits));
      }),
      { numRuns: 400 },
    );
  });
  it('line by line is what whole numbers alone come to', () => {
    fc.assert(
      fc.property(anyQuote, (q) => {
        const digits = digitsOf(q.currency);
        const p = priceQuote({ ...q, rounding: 'line' });
        const unit = 10n ** BigInt(digits);
        const keep = q.discount ? 10000n - BigInt(Math.round(Number(q.discount.rate) * 10000)) : 10000n;
        q.lines.forEach((l, i) => {
          const on = q.taxes.map((t) => (t.classes.includes(l.class) ? BigInt(Math.round(Number(t.rate) * 10000)) : 0n));
          const within = on.filter((_, k) => q.taxes[k]!.included).reduce((a, b) => a + b, 0n);
          const cents = BigInt(Math.round(Number(l.unitPrice) * 100));
          // hundredths times ten-thousandths of what is kept, out of one and the taxes within, in minor units
          const net = nearest(cents * BigInt(l.quantity) * keep * unit, 100n * (10000n + within));
          expect(minor(p.lines[i]!.net, digits)).toBe(net);
          expect(minor(p.lines[i]!.tax, digits)).toBe(on.reduce((s, r) => s + nearest(net * r, 10000n), 0n));
        });
      }),
      { numRuns: 400 },
    );
  });
  it('in total is off by less than a minor unit, however many lines it has, and prices with their taxes stay what they are', () => {
    const third = Array.from({ length: 300 }, (_, i) => ({ ...one('0.333'), id: `l${i}` }));
    const of = (rounding: 'line' | 'total', included: boolean): Priced['totals'] =>
      priceQuote({ currency: 'EUR', lines: third, taxes: [tax('19 %', included)], rounding }).totals;
    // 99.90 in all; a line of it is 0.33
    expect(of('total', false)).toMatchObject({ net: '99.90', tax: '18.98', gross: '118.88' });
    expect(of('line', false)).toMatchObject({ net: '99.00', tax: '18.00', gross: '117.00' });
    expect(of('total', true)).toMatchObject({ net: '83.95', tax: '15.95', gross: '99.90' });
  });
  it('comes out as the tax offices’ own examples do', () => {
    // the fractions that UK guidance gives for a price with its VAT: a sixth at 20 %, a twenty-first at 5 %; from memory
    const uk = (price: string, r: string) =>
      priceQuote({ currency: 'GBP', lines: [one(price)], taxes: [tax(r, true)], rounding: 'line' }).totals;
    expect(uk('120.00', '20 %')).toMatchObject({ net: '100.00', tax: '20.00', gross: '120.00' });
    expect(uk('21.00', '5 %')).toMatchObject({ net: '20.00', tax: '1.00' });
    // 19 and 7 per cent on one German invoice, each base by itself; rates of the VAT act, from memory
    const de = priceQuote({
      currency: 'EUR',
      lines: [one('119.00', '1', 'a'), one('10.70', '1', 'b')],
      taxes: [tax('0.19', true, ['a']), tax('0.07', true, ['b'])],
      rounding: 'line',
    });
    expect(de.taxes).toEqual([
      { name: 'tax 0.19', base: '100.00', tax: '19.00' },
      { name: 'tax 0.07', base: '10.00', tax: '0.70' },
    ]);
    // state and county on one line; yen has no minor unit, and half of one rounds up; the dinar has three digits
    expect(
      priceQuote({ currency: 'USD', lines: [one('99.99')], taxes: [tax('0.06'), tax('0.01')], rounding: 'line' }).totals,
    ).toMatchObject({ tax: '7.00', gross: '106.99' });
    expect(priceQuote({ currency: 'JPY', lines: [one('105')], taxes: [tax('10 %')], rounding: 'line' }).totals).toMatchObject({
      net: '105',
      tax: '11',
      gross: '116',
    });
    expect(priceQuote({ currency: 'KWD', lines: [one('1.0005')], taxes: [], rounding: 'line' }).totals).toMatchObject({
      net: '1.001',
      gross: '1.001',
    });
    expect(priceQuote({ currency: 'USD', lines: [one('-0.125')], taxes: [], rounding: 'line' }).totals).toMatchObject({ net: '-0.13' });
  });
  it('gives a discount off all lines alike', () => {
    const lines = [one('100', '1', 'a'), one('50', '1', 'b')];
    const off = (discount: { rate: string } | { amount: string }) =>
      priceQuote({ currency: 'EUR', lines, taxes: [tax('20 %', false, ['a'])], rounding: 'line', discount });
    expect(off({ rate: '10 %' })).toMatchObject({
      lines: [{ net: '90.00', tax: '18.00' }, { net: '45.00' }],
      totals: { gross: '153.00', discount: '15.00' },
    });
    expect(off({ amount: '15' })).toEqual(off({ rate: '0.1' }));
    expect(off({ amount: '10' }).lines.map((l) => l.net)).toEqual(['93.33', '46.67']);
  });
  it('says what is wrong and where', () => {
    const says = (over: object) => () => runCalculation('quote.price', { currency: 'EUR', lines: [one('1')], rounding: 'line', ...over });
    expect(says({ lines: [one('1.000,5')] })).toThrow(/“1.000,5” is not an amount: digits with a point before the decimals/);
    expect(says({ lines: [one('1', 'two')] })).toThrow(/“two” is not an amount/);
    expect(says({ currency: 'XYZ1' })).toThrow(/no currency of ISO 4217/);
    expect(says({ taxes: [tax('19')] })).toThrow(/write 0.19 or 19 %/);
    expect(says({ taxes: [tax('-0.1')] })).toThrow(/below nothing/);
    expect(says({ lines: [one('1'), one('1')] })).toThrow(/is there twice/);
    expect(says({ discount: { amount: '2' } })).toThrow(/not a part of 1/);
    expect(says({ rounding: 'up' })).toThrow(/rounding/);
    expect(runCalculation('quote.price', { currency: 'EUR', lines: [{ ...one('1.10'), quantity: 3 }], rounding: 'line' })).toMatchObject({
      totals: { gross: '3.30' },
    });
    expect(runCalculation('quote.price', { currency: 'EUR', lines: [], rounding: 'total' })).toMatchObject({ totals: { gross: '0.00' } });
  });
  it('knows the digits of currencies as the browser does, where it does', () => {
    const shown = (c: string) => new Intl.NumberFormat('en', { style: 'currency', currency: c }).resolvedOptions().maximumFractionDigits;
    for (const c of ['EUR', 'USD', 'GBP', 'CAD', 'MXN', 'JPY', 'KRW', 'CLP', 'KWD', 'BHD', 'TND', 'CHF', 'SEK', 'VND'])
      expect(digitsOf(c), c).toBe(shown(c));
    expect(currencies.codes().length).toBeGreaterThan(150);
  });
});
