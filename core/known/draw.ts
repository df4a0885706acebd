import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import type { UnitModel } from '#model/unit-model';
import type { OpenValue } from './values';
import { withValue } from './values';

/** Half the width of the band that holds 8 of 10, in standard deviations of a normal distribution: its 90th percentile. */
export const Z90 = 1.2815515655446004;
/** No draw is further out than this many of them: what is beyond is another kind of unit. */
const FURTHEST = 2.5;
/** Of a fuse that is assumed to be of one size, so many are; the others are a size off. */
const AS_ASSUMED = 0.6;

/** A source of numbers from 0 to 1, the same for the same seed. */
export function seeded(seed: number): () => number {
  const rng = xoroshiro128plus(seed);
  return () => uniformFloat64(rng);
}

/** A standard normal number. Box and Muller 1958. */
const normal = (random: () => number): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());

/**
 * What a value may be on this unit: within the band 8 times in 10, each side of what is assumed by its own width. Fuses come in
 * sizes.
 */
export function drawValue(v: Pick<OpenValue, 'pointer' | 'value' | 'spread'>, random: () => number): number {
  const [low, high] = v.spread;
  if (v.pointer.endsWith('/fuseA')) {
    const u = random();
    return u < AS_ASSUMED ? v.value : u < (1 + AS_ASSUMED) / 2 ? low : high;
  }
  const z = Math.max(-FURTHEST, Math.min(FURTHEST, normal(random)));
  const side = z < 0 ? v.value - low : high - v.value;
  return Math.max(v.value * 0.1, v.value + (z * side) / Z90);
}

/** A unit as it may be: every value that is open drawn for itself. */
export const drawModel = (model: UnitModel, values: readonly OpenValue[], drawn: readonly number[]): UnitModel =>
  values.reduce((m, v, i) => withValue(m, v.pointer, drawn[i]!), model);
