import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/** Nine of ten lie under so many standard deviations of a normal distribution: half the width of the band that holds 8 of 10. */
export const Z90 = 1.2815515655446004;

/** A source of numbers from 0 to 1, the same for the same seed. */
export function seeded(seed: number): () => number {
  const rng = xoroshiro128plus(seed);
  return () => uniformFloat64(rng);
}

/** A standard normal number. Box and Muller 1958. */
export const normal = (random: () => number): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
