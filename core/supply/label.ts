import { SupplyItem } from '#model/supply';

/** What stands on a label of a shelf, a spool or a delivered bag, as a scanner reads it. */
export interface PartLabel {
  item: string;
  /** how many, or metres, are in the bag; null where the label does not say */
  amount: number | null;
  /** serial or lot number; empty where there is none */
  lot: string;
}

/** The text in the code of a label: `ITEM`, `ITEM|AMOUNT` or `ITEM|AMOUNT|LOT`. */
export const labelText = ({ item, amount = null, lot = '' }: { item: string; amount?: number | null; lot?: string }): string =>
  lot ? `${item}|${amount ?? ''}|${lot}` : amount === null ? item : `${item}|${amount}`;

/** Reads what a scanner or a camera gave, or somebody typed; null where it names no item. A comma in an amount is a decimal point. */
export function readLabel(text: string): PartLabel | null {
  const [item = '', amount = '', ...lot] = text.trim().split('|');
  if (!SupplyItem.safeParse(item.trim()).success) return null;
  const n = amount.trim() === '' ? null : Number(amount.trim().replace(',', '.'));
  if (n !== null && !(n > 0 && n <= 9999)) return null;
  return { item: item.trim(), amount: n, lot: lot.join('|').trim().slice(0, 60) };
}
