import type { Order, Taken } from '#model/order';
import type { Settings } from '#model/settings';

/** The step at which a circuit is wired. */
export const wireStepOf = (circuit: string): string => `wire/${circuit}`;

/** Circuits that are wired: what they took, if it was counted, is off the shelf, and nothing more is needed for them. */
export const wired = (order: Pick<Order, 'used' | 'steps'>, circuits: readonly string[]): ReadonlySet<string> =>
  new Set(circuits.filter((c) => order.used?.[wireStepOf(c)] || order.steps[wireStepOf(c)]?.status === 'done'));

/** What agreed changes take, but for what is fitted by now. */
export const stillToFit = <P extends { step: string }>(order: Pick<Order, 'used' | 'steps'>, parts: readonly P[]): P[] =>
  parts.filter((p) => !order.used?.[p.step] && order.steps[p.step]?.status !== 'done');

/** What a change of an order takes off the shelf, and what one that takes it back puts there. */
export function stockMoves(before: Pick<Order, 'used'> | null, after: Pick<Order, 'used'>): { taken: Taken; back: boolean }[] {
  const [was, is] = [before?.used ?? {}, after.used ?? {}];
  const only = (a: typeof is, b: typeof is, back: boolean) =>
    Object.keys(a).flatMap((step) => (b[step] ? [] : a[step]!.map((taken) => ({ taken, back }))));
  return [...only(is, was, false), ...only(was, is, true)];
}

export type StockMove = ReturnType<typeof stockMoves>[number];

/** Shorter than this is no offcut to keep. Common practice, no source. */
const LEAST_OFFCUT_M = 0.1;

/**
 * Spools after what was cut from them. One that is gone stands on the list no more; what somebody took off the list meanwhile is
 * not taken twice.
 */
export function spoolsAfter(stock: Settings['stock'], moves: readonly StockMove[]): Settings['stock'] {
  const left = stock.map((s) => ({ ...s }));
  for (const { taken, back } of moves) {
    if (taken.of !== 'spool') continue;
    const { id, awg, colour, lengthM } = taken;
    const at = left.find((s) => s.id === id);
    if (at) at.lengthM = Number((at.lengthM + (back ? lengthM : -lengthM)).toFixed(3));
    else if (back) left.push({ id, awg, colour, lengthM });
  }
  return left.filter((s) => s.lengthM >= LEAST_OFFCUT_M);
}

/** How many pieces a move adds to an item of the shelf. */
export const piecesBy = ({ taken, back }: StockMove): { id: string; by: number } | null =>
  taken.of === 'shelf' ? { id: taken.id, by: back ? taken.pieces : -taken.pieces } : null;

/** Settings as they will be once the record has what a device did: what was cut is off the spools and the shelf. */
export function settingsAfter(settings: Settings, moves: readonly StockMove[]): Settings {
  const by = moves.flatMap((m) => piecesBy(m) ?? []);
  const shelf = settings.shelf.map((x) => ({
    ...x,
    have: Math.max(0, x.have + by.filter((b) => b.id === x.id).reduce((n, b) => n + b.by, 0)),
  }));
  return { ...settings, stock: spoolsAfter(settings.stock, moves), shelf };
}
