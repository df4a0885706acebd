import type { PurchaseLine, SupplierAnswer } from '#model/supply';
import { decimal, digitsOf, sumOf } from '../money/decimal';
import type { SupplyRow } from './allocate';

/** A row of needs as a line of an order to the supplier. What lies in no shop’s shelf and one order alone takes is that order’s. */
export const orderLine = (r: SupplyRow, amount: number): PurchaseLine => ({
  item: r.item,
  kind: r.kind,
  name: r.name.slice(0, 120),
  unit: r.unit,
  amount,
  ...(r.price !== undefined && { price: r.price }),
  order: r.kind === 'buy' && r.shares.length === 1 ? r.shares[0]!.order : null,
});

/** What a supplier’s answers come to, in the currency’s own digits. */
export const sumOfAnswers = (answers: readonly SupplierAnswer[], currency: string): string =>
  sumOf(answers.map((a) => decimal(a.price, 'price'))).toFixed(digitsOf(currency));

/** When the last of what was answered is here, as a day; null for nothing. */
export const lastDay = (answers: readonly SupplierAnswer[]): string | null =>
  answers
    .flatMap((a) => a.comes.map((c) => c.day))
    .sort()
    .at(-1) ?? null;

/**
 * An amount as it was typed: null for nothing, undefined for what is none. A comma is a decimal point; pieces are whole.
 */
export function typedAmount(text: string, unit: 'm' | 'pieces'): number | null | undefined {
  if (text.trim() === '') return null;
  const n = Number(text.trim().replace(',', '.'));
  return n >= 0 && n <= 9999 && (unit === 'm' || Number.isInteger(n)) ? n : undefined;
}
/** What is wrong with an amount that is none. */
export const AMOUNT_WANTED = { pieces: 'whole ones, from 0 to 9999', m: 'metres, from 0 to 9999' } as const;
