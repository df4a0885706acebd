import type { OrderMoney, PricedLine, QuoteBody } from '#model/money';
import { localDay } from '../quantity/say-here';

type Bill = NonNullable<OrderMoney['bill']>;

/** A line as a row for a spreadsheet or the books. */
const row = (l: PricedLine, currency: string) => ({
  class: l.class,
  name: l.name,
  quantity: l.quantity,
  unit: l.unit,
  unit_price: l.unitPrice,
  net: l.net,
  tax: l.tax,
  gross: l.gross,
  currency,
});

/** Lines of every option of a quote. */
export const quoteRows = (q: QuoteBody, order: number) =>
  q.options.flatMap((o) =>
    o.lines.map((l) => ({ quote: `${order}-${q.revision}`, option: o.id, option_name: o.name, ...row(l, q.currency) })),
  );

/** The day of a bill, by the shop’s calendar. */
export const dayOfBill = (b: Bill, timeZone: string): string => localDay(b.at, timeZone);

/** Lines of a bill, with the days on which it was made and paid by the shop’s calendar. */
export const billRows = (b: Bill, order: number, owner: string, timeZone: string) =>
  b.lines.map((l) => ({
    bill: `${order}-${b.revision}`,
    date: dayOfBill(b, timeZone),
    owner,
    paid: b.paid ? localDay(b.paid.at, timeZone) : '',
    ...row(l, b.currency),
  }));
