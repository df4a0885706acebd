import { awgName } from '../wire/resistance';

/** Gauges that one size of crimp terminal takes: the thickest, the thinnest, in the shelf's names, in words. Trade sizes; common practice, no source. */
const SIZES = [
  { thickest: 23, thinnest: 40, id: '26-24', words: '26–24 AWG' },
  { thickest: 18, thinnest: 22, id: '22-18', words: '22–18 AWG' },
  { thickest: 14, thinnest: 17, id: '16-14', words: '16–14 AWG' },
  { thickest: 10, thinnest: 13, id: '12-10', words: '12–10 AWG' },
  { thickest: -9, thinnest: 9, id: '8-and-over', words: '8 AWG and thicker' },
] as const;
export type TerminalSize = (typeof SIZES)[number];

/** The size of terminal that takes a gauge. */
export const terminalSize = (awg: number): TerminalSize => SIZES.find((s) => awg >= s.thickest) ?? SIZES.at(-1)!;

/** What the shelf calls a terminal by: what it is, and the size that an id ends with; null where it ends with none. */
export function terminalOf(id: string): { end: string; size: TerminalSize } | null {
  const size = SIZES.find((s) => id.endsWith(`-${s.id}`));
  return size ? { end: id.slice(0, -size.id.length - 1), size } : null;
}

/**
 * What is wrong where wires of these gauges meet in one terminal, which the thickest decides; null where it takes them all: a
 * thin wire in a thick terminal pulls out.
 */
export function thinInThick(gauges: readonly number[]): string | null {
  if (gauges.length < 2) return null;
  const size = terminalSize(Math.min(...gauges));
  const thin = [...new Set(gauges.filter((g) => g > size.thinnest))].sort((a, b) => a - b);
  return thin.length
    ? `${thin.map((g) => `${awgName(g)} AWG`).join(' and ')} in a terminal for ${size.words}: fold it back until it fills, or a stepped terminal, and tug it`
    : null;
}
