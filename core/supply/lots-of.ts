import type { Purchase } from '#model/supply';

/** Serial and lot numbers that an item came with, as they were counted: of several, each by itself. */
export const lotsOf = ({ receipts }: Pick<Purchase, 'receipts'>, item: string): string[] =>
  receipts.flatMap((r) => r.lines.flatMap((l) => (l.item === item && l.lot ? l.lot.split(', ') : [])));
