import type { HarnessFuse } from '#model/harness';

type Fuse = Pick<HarnessFuse, 'ratingA' | 'family' | 'ratedV'>;
/** Volts of the common fuses, which their names leave out on the shelf. */
const COMMON_V = 32;
/** A fuse as the shelf names it. */
export const fuseId = (f: Fuse): string =>
  `fuse-${f.family}-${String(f.ratingA).replace('.', '-')}${f.ratedV === COMMON_V ? '' : `-${f.ratedV}v`}`;
/** The fuse that the shelf names so; null where it names something else. */
export function fuseOf(id: string): Fuse | null {
  const m = /^fuse-(blade|bolt)-(\d+)(?:-(\d+))?(?:-(\d+)v)?$/.exec(id);
  return m && { family: m[1] as Fuse['family'], ratingA: Number(m[3] ? `${m[2]}.${m[3]}` : m[2]), ratedV: m[4] ? Number(m[4]) : COMMON_V };
}
/** A fuse in words: its amperes, its kind, its volts. */
export const sayFuse = (f: Fuse): string => `${f.ratingA} A ${f.family === 'bolt' ? 'bolt-down' : 'blade'} fuse (${f.ratedV} V)`;
