import { z } from 'zod';
import { priceQuote } from '../money/quote';
import { sum } from '../sum';
import { calculation, field } from './calculation';

const Id = z.string().trim().min(1, 'must not be empty').max(80);
const Text = z.string().max(40);
/** A quantity may come as a number too: it is taken as it is written. */
const Quantity = z.union([Text, z.number().min(-1e9).max(1e9).transform(String)]);
const MOST_LINES = 1000;

export const quotePrice = calculation({
  name: 'quote.price',
  title: 'Price a quote',
  description:
    'Lines with quantity and price, taxes by class of line, within the price or on top, and a discount: net, tax and gross of every line and of all, in whole minor units. Amounts are decimal text: nothing is computed in floating point.',
  input: {
    currency: field(z.string().max(10), 'Currency, ISO 4217'),
    lines: field(
      z.array(z.strictObject({ id: Id, class: Id, quantity: Quantity, unitPrice: Text })).max(MOST_LINES, 'more lines than any quote has'),
      'Lines: id, class, quantity, price of one',
    ),
    taxes: field(
      z
        .array(z.strictObject({ name: Id, rate: Text, classes: z.array(Id).max(100), included: z.boolean().default(false) }))
        .max(20)
        .default([]),
      'Taxes: rate as 0.19 or 19 %, classes, within the price or not',
    ),
    rounding: field(z.enum(['line', 'total']), 'Rounded line by line, or in total'),
    discount: field(
      z.union([z.strictObject({ rate: Text }), z.strictObject({ amount: Text })]).optional(),
      'Discount: a rate, or an amount off all lines alike',
    ),
  },
  result: {
    lines: z.array(z.object({ id: z.string(), net: z.string(), tax: z.string(), gross: z.string() })),
    taxes: z.array(z.object({ name: z.string(), base: z.string(), tax: z.string() })),
    totals: z.object({ net: z.string(), tax: z.string(), gross: z.string(), discount: z.string() }),
  },
  example: {
    currency: 'USD',
    lines: [
      { id: 'Road kit', class: 'parts', quantity: '1', unitPrice: '389.00' },
      { id: 'Wire and terminals', class: 'parts', quantity: '1', unitPrice: '23.47' },
      { id: 'Labour, hours', class: 'labour', quantity: '2.75', unitPrice: '118.00' },
    ],
    taxes: [{ name: 'Sales tax', rate: '6.25 %', classes: ['parts'], included: false }],
    rounding: 'line',
    discount: { rate: '5 %' },
  },
  run: (input) => {
    const priced = priceQuote(input);
    const { currency } = input;
    const { net, tax, gross, discount } = priced.totals;
    return {
      ...priced,
      sum: sum(
        ...priced.lines.slice(0, 20).map((l) => ({ label: l.id, value: `${l.net} + ${l.tax} = ${l.gross}` })),
        ...priced.taxes.map((t) => ({ label: `${t.name}, of ${t.base}`, value: t.tax })),
        ...(input.discount ? [{ label: 'Taken off before tax was worked out', value: discount }] : []),
        {
          label: 'Rounded',
          value: input.rounding === 'line' ? 'line by line' : 'in total',
          source: 'half a minor unit away from zero; minor units by ISO 4217, list one',
          kind: 'note' as const,
        },
        { label: 'Net and tax', value: `${net} + ${tax}` },
        { label: 'To pay', value: `${gross} ${currency}`, kind: 'result' as const },
      ),
    };
  },
});
