import type { SumLine, SumLineInput } from '#model/common';

/** Builds a sum from lines that may leave out what has a default. */
export const sum = (...lines: SumLineInput[]): SumLine[] => lines.map((l) => ({ ...l, kind: l.kind ?? 'term' }));

/** Rounds to `digits` significant digits, for figures that people read. */
export const round = (x: number, digits = 3): number => (Number.isFinite(x) && x !== 0 ? Number(x.toPrecision(digits)) : x);
