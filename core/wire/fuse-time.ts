import { ImpossibleInput } from '../errors';

/** Points of a fuse's time-current band: [times its rating, opens no sooner than, opens no later than], seconds. */
type Band = readonly (readonly [number, number, number])[];

/** Blade fuses. Source: ISO 8820-3, operating times, from memory: to be confirmed against a copy. */
const BLADE: Band = [
  [1.1, 360_000, Infinity],
  [1.35, 0.75, 600],
  [1.6, 0.25, 50],
  [2, 0.15, 5],
  [3.5, 0.04, 0.5],
  [6, 0.02, 0.1],
];
/** Bolt-in fuses. Source: ISO 8820-5, operating times, from memory: to be confirmed against a copy. */
const BOLT: Band = [
  [1.1, 14_400, Infinity],
  [1.35, 120, 1800],
  [2, 1, 15],
  [3.5, 0.3, 5],
  [6, 0.1, 1],
];
export const FUSE_TIME_SOURCE = 'ISO 8820-3 blades, ISO 8820-5 bolt-in, from memory';

export type FuseFamily = 'blade' | 'bolt';
export const fuseFamily = (ratingA: number): FuseFamily => (ratingA <= 40 ? 'blade' : 'bolt');

/**
 * When a fuse opens under steady amperes, seconds: no sooner and no later than the standard's band, read between its
 * points on logarithmic paper. Infinity: it never does, or need not.
 * @throws ImpossibleInput for a rating of zero or less
 */
export function fuseOpens(family: FuseFamily, ratingA: number, amps: number): { soonestS: number; latestS: number } {
  if (!(ratingA > 0)) throw new ImpossibleInput('a fuse’s rating is above zero', 'ratingA');
  const band = family === 'blade' ? BLADE : BOLT;
  const r = Math.abs(amps) / ratingA;
  if (r < band[0]![0]) return { soonestS: Infinity, latestS: Infinity };
  const last = band.at(-1)!;
  if (r >= last[0]) return { soonestS: last[1], latestS: last[2] };
  const k = band.findIndex((p) => r < p[0]);
  const [a, b] = [band[k - 1]!, band[k]!];
  const share = Math.log(r / a[0]) / Math.log(b[0] / a[0]);
  const between = (x: number, y: number) => (Number.isFinite(x) ? x * (y / x) ** share : Infinity);
  return { soonestS: between(a[1], b[1]), latestS: between(a[2], b[2]) };
}

/** Drop of a blade or bolt-in fuse at its rating, volts: its resistance is this over the rating. From memory of makers' sheets: common practice, no source. */
const FUSE_DROP_V = 0.09;
export const fuseOhms = (ratingA: number): number => FUSE_DROP_V / ratingA;
