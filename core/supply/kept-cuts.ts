import type { KeptCut } from '#model/supply';

/** The piece of stock by wire of one order, as its wire was laid out with that of the others. */
export const keptCuts = (cuts: readonly KeptCut[], order: string): ReadonlyMap<string, string> =>
  new Map(cuts.flatMap((c) => (c.order === order ? [[c.wire, c.stock] as const] : [])));
