import { z } from 'zod';
import { Day } from './shop-week';
import { nonNegative, words } from './common';

/** Kinds of things that an order uses up. */
export const SupplyKind = z.enum(['wire', 'fuse', 'relay', 'end', 'part', 'buy']);
export type SupplyKind = z.infer<typeof SupplyKind>;

/** An item as shelf and plan name it: a piece by its slug, wire as `16 RD/BK`. */
export const SupplyItem = z.string().regex(/^([a-z0-9-]{1,60}|\d{1,2}(\/0)? [A-Z]{2}(\/[A-Z]{2})?)$/, 'an item as the plan names it');

/** Whether an item is wire, counted in metres; everything else is counted in pieces. */
export const isWire = (item: string): boolean => item.includes(' ');

/** Metres of wire to a centimetre, or whole pieces. */
export const SupplyAmount = nonNegative.max(9999);

/** Something that is ordered. */
export const PurchaseLine = z
  .strictObject({
    item: SupplyItem,
    kind: SupplyKind,
    name: words(120),
    unit: z.enum(['m', 'pieces']),
    amount: SupplyAmount.gt(0, 'order at least one'),
    /** of one, in the shop’s currency, where a sheet says */
    price: nonNegative.max(1_000_000).optional(),
    /** the order that it is bought for; null: for the shelf */
    order: z.uuid().nullable().default(null),
  })
  .refine((l) => l.unit === 'm' || Number.isInteger(l.amount), { message: 'order whole ones', path: ['amount'] });
export type PurchaseLine = z.infer<typeof PurchaseLine>;

/** What the supplier says to a line: what comes when, and what all of it costs in the shop’s currency, in words of money. */
export const SupplierAnswer = z.strictObject({
  item: SupplyItem,
  comes: z.array(z.strictObject({ day: Day, amount: SupplyAmount })).max(10),
  price: z.string().max(20),
});
export type SupplierAnswer = z.infer<typeof SupplierAnswer>;

/** Something that arrived, as it was counted; `lot`: its serial or lot number where it carries one. */
export const ReceivedLine = z.strictObject({
  item: SupplyItem,
  amount: SupplyAmount.gt(0, 'count at least one, or leave the line out'),
  lot: z.string().trim().max(60).default(''),
});
export type ReceivedLine = z.infer<typeof ReceivedLine>;

/** waiting to be sent; sent; closed: all of it is here, or the rest will not come */
export type PurchaseState = 'waiting' | 'sent' | 'closed';

/** An order to the supplier, with what came of it. */
export interface Purchase {
  id: string;
  number: number;
  version: number;
  state: PurchaseState;
  lines: PurchaseLine[];
  /** null until the supplier answered */
  answer: SupplierAnswer[] | null;
  /** a day that somebody was told; stands above the supplier’s answer */
  toldDay: string | null;
  /** why it is tried again */
  says: string;
  by: string;
  at: string;
  receipts: { id: string; lines: ReceivedLine[]; by: string; at: string }[];
}

const once = <T>(list: readonly T[], key: (x: T) => string, ctx: z.RefinementCtx) =>
  list.forEach((x, i) => {
    if (list.findIndex((y) => key(y) === key(x)) !== i) ctx.addIssue({ code: 'custom', path: [i], message: `“${key(x)}” is there twice` });
  });

/** A piece of wire of an order, and the spool or offcut that it is cut from. */
export const KeptCut = z.strictObject({ order: z.uuid(), wire: z.string().min(1).max(200), stock: words(40) });
export type KeptCut = z.infer<typeof KeptCut>;

/** What a shop decides of its stock: fields of its settings. */
export const supplySettings = {
  /** items that are kept at hand: ordered when fewer than `least` would be left, up to `upTo` */
  levels: z
    .array(
      z
        .strictObject({ item: SupplyItem, least: SupplyAmount, upTo: SupplyAmount })
        .refine((l) => l.upTo >= l.least, { message: 'order up to at least as many as are kept', path: ['upTo'] }),
    )
    .max(400)
    .superRefine((list, ctx) => once(list, (l) => l.item, ctx))
    .default([]),
  /** items that are kept for an order before all others */
  reserved: z
    .array(z.strictObject({ item: SupplyItem, order: z.uuid() }))
    .max(400)
    .superRefine((list, ctx) => once(list, (r) => `${r.item} ${r.order}`, ctx))
    .default([]),
  /** wire of all orders as it was laid out together */
  cuts: z
    .array(KeptCut)
    .max(4000)
    .superRefine((list, ctx) => once(list, (c) => `${c.order} ${c.wire}`, ctx))
    .default([]),
};

/** Something that came onto the shelf or went from it, metres or pieces. */
export interface ShelfMove {
  item: string;
  /** above zero: it came */
  amount: number;
  why: 'counted' | 'used' | 'put back' | 'received' | 'moved';
  /** the order of a unit or to the supplier; what was counted */
  ref: string;
  by: string;
  at: string;
}
