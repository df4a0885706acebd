import type { HarnessFuse } from '#model/harness';

type Fuse = Pick<HarnessFuse, 'ratingA' | 'family' | 'ratedV'>;
/** Volts of the common fuses, which their names leave out on the shelf. */
const COMMON_V = 32;
/** A fuse as the shelf names it. */
export const fuseId = (f: Fuse): string =>
  `fuse-${f.family}-${String(f.ratingA).replace('.', '-')}${f.ratedV === COMMON_V ? '' : `-${f.ratedV}v`}`;
/** A fuse in words: its amperes, its kind, its volts. */
export const sayFuse = (f: Fuse): string => `${f.ratingA} A ${f.family === 'bolt' ? 'bolt-down' : 'blade'} fuse (${f.ratedV} V)`;
