import { z } from 'zod';
import { Slug, Verdict, words } from './common';
import { PowerChange } from './power-change';

/** An amount of money as it is written: digits, and a point before the decimals. Text, so that nothing of it is rounded. */
export const Amount = z
  .string()
  .trim()
  .regex(/^\d{1,9}(\.\d{1,4})?$/, 'an amount as 1000.50: digits, with a point before the decimals');
/** A share in per cent, as `6.25 %`, or of one, as `0.0625`. */
export const Rate = z
  .string()
  .trim()
  .regex(/^(\d{1,3}(\.\d{1,4})? ?%|0(\.\d{1,6})?|1(\.0{1,6})?)$/, 'a rate as 6.25 % or 0.0625')
  .refine((r) => !r.endsWith('%') || Number.parseFloat(r) <= 100, 'more than all of it');

/** Work by what is done, each of which may have a price of its own. */
export const LABOUR = ['open', 'mount', 'wire', 'prove'] as const;
export type LabourKind = (typeof LABOUR)[number];

/** What a line of a quote is, by which its taxes are found. */
export const PRICE_CLASSES = ['labour', 'kits', 'parts', 'supplies', 'fees'] as const;
export const PriceClass = z.enum(PRICE_CLASSES);
export type PriceClass = z.infer<typeof PriceClass>;

/** Kinds of parts that a plan takes off the shelf or has bought. */
export const PART_KINDS = ['wire', 'fuse', 'relay', 'end', 'part', 'buy'] as const;
const PartKind = z.enum(PART_KINDS);

const noTwice = (key: string) => (list: readonly Record<string, unknown>[]) => new Set(list.map((row) => row[key])).size === list.length;

/** What the shop sells its work and things for. */
export const PriceBook = z.strictObject({
  /** an hour of a kind of work, where it is not the usual one */
  labour: z.partialRecord(z.enum(LABOUR), Amount).default({}),
  kits: z
    .array(z.strictObject({ kit: Slug, price: Amount }))
    .max(500)
    .refine(noTwice('kit'), 'a kit stands there twice')
    .default([]),
  /** what one costs the shop, a piece or a metre, by the name that a plan gives it; under a kind’s own name: any of that kind */
  parts: z
    .array(
      z.strictObject({
        id: z.string().regex(/^[a-z0-9-]{1,60}$/, 'as the plan calls it: lower-case letters, digits, dashes'),
        cost: Amount,
      }),
    )
    .max(1000)
    .refine(noTwice('id'), 'a part stands there twice')
    .default([]),
  /** put on what parts of a kind cost */
  markUp: z.partialRecord(PartKind, Rate).default({}),
});
export type PriceBook = z.infer<typeof PriceBook>;

/** A tax on lines of some classes; `included`: it is within their prices. */
export const TaxSetting = z.strictObject({
  name: words(40),
  rate: Rate,
  classes: z.array(PriceClass).min(1, 'say what it is on').max(PRICE_CLASSES.length),
  included: z.boolean(),
});
export type TaxSetting = z.infer<typeof TaxSetting>;

/** What comes on top of work and things, and how sums are made. */
export const Charges = z.strictObject({
  /** small things that nobody counts, as a share of the work, up to an amount */
  supplies: z.strictObject({ rate: Rate, most: Amount.nullable() }).default({ rate: '0 %', most: null }),
  fees: z
    .array(z.strictObject({ name: words(60), amount: Amount }))
    .max(20)
    .refine(noTwice('name'), 'a fee stands there twice')
    .default([]),
  taxes: z.array(TaxSetting).max(10).refine(noTwice('name'), 'a tax stands there twice').default([]),
  rounding: z.enum(['line', 'total']).default('line'),
  /** days that a quote stands */
  quoteDays: z.number().int().min(1).max(365).default(14),
  /** work billed by its time may come to this much more than was quoted before the owner is asked again */
  overrun: Rate.default('10 %'),
});
export type Charges = z.infer<typeof Charges>;

/** What the shop decides of money, each with its version. */
export const moneySettings = {
  priceBook: PriceBook.default(PriceBook.parse({})),
  charges: Charges.default(Charges.parse({})),
};

/** How an option of a quote differs from the order as it is planned. */
export const OptionChange = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('without'), kit: Slug, label: words(160) }),
  z.strictObject({ kind: z.literal('power'), change: PowerChange, label: words(160) }),
  z.strictObject({ kind: z.literal('unpower'), key: z.string().max(140), label: words(160) }),
  z.strictObject({ kind: z.literal('variant'), kit: Slug, variant: Slug, option: Slug, label: words(160) }),
]);
export type OptionChange = z.infer<typeof OptionChange>;

const Money = z.string().regex(/^-?\d{1,12}(\.\d{1,4})?$/);

/** One line: what, how much of it, at what price, and what that comes to. `unit`: h, m, or empty for pieces and things. */
export const PricedLine = z.strictObject({
  id: z.string().min(1).max(80),
  class: PriceClass,
  name: words(200),
  quantity: z.string().max(20),
  unit: z.enum(['h', 'm', '']),
  unitPrice: z.string().max(30),
  net: Money,
  tax: Money,
  gross: Money,
  /** how the price came about, for who opens it */
  says: z.string().max(300),
});
export type PricedLine = z.infer<typeof PricedLine>;

export const PricedTax = z.strictObject({ name: words(40), rate: z.string().max(20), included: z.boolean(), base: Money, tax: Money });
export type PricedTax = z.infer<typeof PricedTax>;
export const Totals = z.strictObject({ net: Money, tax: Money, gross: Money, discount: Money });
export type Totals = z.infer<typeof Totals>;

const Judged = z.strictObject({ verdict: Verdict.nullable(), says: z.string().max(300) });

export const QuotedOption = z.strictObject({
  id: z.string().regex(/^[a-d]$/),
  name: words(80),
  changes: z.array(OptionChange).max(12),
  /** kits and jobs that are in it, by id: what is agreed to */
  kits: z.array(z.strictObject({ id: Slug, name: words(80) })).max(20),
  jobs: z.array(z.strictObject({ id: Slug, name: words(120) })).max(20),
  /** the way of each choice of its kits, and what is changed of the power; quotes of before they were kept have none */
  chosen: z
    .strictObject({
      ways: z.array(z.strictObject({ kit: Slug, variant: Slug, option: Slug, name: words(180) })).max(160),
      power: z.array(z.strictObject({ key: z.string().max(140), name: words(160) })).max(40),
    })
    .optional(),
  lines: z.array(PricedLine).min(1).max(200),
  taxes: z.array(PricedTax).max(10),
  totals: Totals,
  minutes: z.number().min(0),
  /** how it is judged: charging, wiring, lamps */
  power: Judged,
  wire: Judged,
  lamps: Judged,
});
export type QuotedOption = z.infer<typeof QuotedOption>;

export const Discount = z.union([z.strictObject({ rate: Rate }), z.strictObject({ amount: Amount })]);
export type Discount = z.infer<typeof Discount>;

/** A quote as it was given; a later one takes its place. */
export const QuoteBody = z.strictObject({
  revision: z.number().int().min(1).max(999),
  /** `fixed`: what is quoted is billed; `time`: the work is billed by its time, within the overrun */
  basis: z.enum(['fixed', 'time']),
  currency: z.string().length(3),
  until: z.iso.date(),
  overrun: Rate,
  rounding: z.enum(['line', 'total']),
  taxes: z.array(TaxSetting).max(10),
  discount: Discount.nullable(),
  note: z.string().max(600),
  options: z.array(QuotedOption).min(1).max(4),
});
export type QuoteBody = z.infer<typeof QuoteBody>;

/** How somebody agreed: signed on the tablet, by their own page, or told to who recorded it. */
export const HOW_AGREED = ['signed', 'page', 'told'] as const;
export const HowAgreed = z.enum(HOW_AGREED);
export type HowAgreed = z.infer<typeof HowAgreed>;

/** Work that turned up while other work was done: agreed before it is done, or not done. */
export const ExtraBody = z.strictObject({
  id: Slug,
  title: words(120),
  why: words(400),
  place: Slug,
  minutes: z.number().min(0).max(600),
  labour: z.enum(LABOUR),
  powerOff: z.boolean(),
  /** by what it is proved */
  question: words(120),
  parts: z.array(z.strictObject({ name: words(120), quantity: z.number().int().min(1).max(999), price: Amount })).max(20),
  photo: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .nullable(),
  step: z
    .string()
    .regex(/^[a-z0-9./-]{1,160}$/)
    .nullable(),
  currency: z.string().length(3),
  lines: z.array(PricedLine).min(1).max(30),
  taxes: z.array(PricedTax).max(10),
  totals: Totals,
});
export type ExtraBody = z.infer<typeof ExtraBody>;

/** What is owed, as it was agreed. */
export const BillBody = z.strictObject({
  revision: z.number().int().min(1).max(99),
  currency: z.string().length(3),
  lines: z.array(PricedLine).min(1).max(300),
  taxes: z.array(PricedTax).max(10),
  totals: Totals,
  /** what was agreed and is not on it, and why */
  left: z.array(words(300)).max(60),
});
export type BillBody = z.infer<typeof BillBody>;

interface Stamped {
  at: string;
  by: string;
}
export interface Agreement extends Stamped {
  how: HowAgreed;
  name: string;
  strokes: string | null;
}

/** What an order has of money: its quotes, what was agreed, what turned up, what is owed. */
export interface OrderMoney {
  quotes: (QuoteBody & Stamped & { withdrawn?: Stamped & { reason: string } })[];
  agreed: (Agreement & { revision: number; option: string }) | null;
  declined: (Stamped & { revision: number; name: string; reason: string })[];
  extras: (ExtraBody & Stamped & { answer: (Agreement & { yes: boolean; reason: string }) | null })[];
  bill: (BillBody & Stamped & { paid: Stamped | null }) | null;
}
export const NO_MONEY: OrderMoney = { quotes: [], agreed: null, declined: [], extras: [], bill: null };
