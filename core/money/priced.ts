import type { Discount, PricedLine, PricedTax, TaxSetting, Totals } from '#model/money';
import { Decimal, sumOf } from './decimal';
import { priceQuote } from './quote';

/** A line before it is priced. */
export type AskedLine = Pick<PricedLine, 'id' | 'class' | 'name' | 'quantity' | 'unit' | 'unitPrice' | 'says'>;

/** What several lines come to. */
export interface PricedLines {
  lines: PricedLine[];
  taxes: PricedTax[];
  totals: Totals;
}

/** Lines with their taxes and what they come to. @throws ImpossibleInput */
export function priced(
  lines: readonly AskedLine[],
  how: { currency: string; taxes: readonly TaxSetting[]; rounding: 'line' | 'total'; discount: Discount | null },
): PricedLines {
  const p = priceQuote({
    currency: how.currency,
    lines: lines.map((l) => ({ id: l.id, class: l.class, quantity: l.quantity, unitPrice: l.unitPrice })),
    taxes: how.taxes.map((t) => ({ ...t, classes: [...t.classes] })),
    rounding: how.rounding,
    discount: how.discount ?? undefined,
  });
  return {
    lines: lines.map((l, i) => ({ ...l, net: p.lines[i]!.net, tax: p.lines[i]!.tax, gross: p.lines[i]!.gross })),
    taxes: p.taxes.map((t, i) => ({ name: t.name, rate: how.taxes[i]!.rate, included: how.taxes[i]!.included, base: t.base, tax: t.tax })),
    totals: p.totals,
  };
}

/** Parts of the work that were priced by themselves, added up: nothing is priced anew, so nothing is rounded twice. */
export function together(parts: readonly PricedLines[], digits: number): PricedLines {
  const as = (x: Decimal) => x.toFixed(digits);
  const add = (of: (p: PricedLines) => string) => as(sumOf(parts.map((p) => new Decimal(of(p)))));
  const taxes = new Map<string, PricedTax>();
  for (const t of parts.flatMap((p) => p.taxes)) {
    const key = `${t.name} ${t.rate} ${t.included}`;
    const had = taxes.get(key);
    taxes.set(key, had ? { ...had, base: as(new Decimal(had.base).plus(t.base)), tax: as(new Decimal(had.tax).plus(t.tax)) } : t);
  }
  return {
    lines: parts.flatMap((p) => p.lines),
    taxes: [...taxes.values()],
    totals: {
      net: add((p) => p.totals.net),
      tax: add((p) => p.totals.tax),
      gross: add((p) => p.totals.gross),
      discount: add((p) => p.totals.discount),
    },
  };
}
