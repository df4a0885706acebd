import type { UnitModel } from '#model/unit-model';
import { normal, Z90 } from '../random';
import type { OpenValue } from './values';
import { withValue } from './values';

/** No draw is further out than this many of them: what is beyond is another kind of unit. */
const FURTHEST = 2.5;
/** Of a fuse that is assumed to be of one size, so many are; the others are a size off. */
const AS_ASSUMED = 0.6;

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
