import { ImpossibleInput } from '../errors';
import { round } from '../sum';
import { BLADE_COLOURS, FUSE_SIZES } from '../wire/fuse';

/** A kind of fuse by what it may be put to. Sources: ISO 8820-3 and 8820-5; what they interrupt, makers' sheets; all from memory. */
export interface FuseFamily {
  name: string;
  ratedV: number;
  /** the sizes it comes in, A */
  sizes: readonly number[];
  /** the most that it interrupts at its volts, A */
  interruptsA: number;
  source: string;
}
const BLADES = BLADE_COLOURS.map(([a]) => a);
const BOLTED = FUSE_SIZES.filter((a) => !BLADES.includes(a));
/** What fits is sought in this order: the commonest first. */
export const FAMILIES: readonly FuseFamily[] = [
  { name: 'blade', ratedV: 32, sizes: BLADES, interruptsA: 1000, source: 'ISO 8820-3' },
  { name: 'bolt-down', ratedV: 32, sizes: BOLTED, interruptsA: 2000, source: 'ISO 8820-5' },
  { name: 'blade, 58 V', ratedV: 58, sizes: BLADES.filter((a) => a >= 5), interruptsA: 1000, source: 'ISO 8820-3' },
  { name: 'bolt-down, 70 V', ratedV: 70, sizes: [30, 40, ...BOLTED], interruptsA: 2500, source: 'ISO 8820-5' },
];

/** Every size, A, that some kind is made in for such volts, the smallest first. */
export const sizesAt = (highestV: number): number[] =>
  [...new Set(FAMILIES.filter((f) => f.ratedV >= highestV - 1e-9).flatMap((f) => f.sizes))].sort((a, b) => a - b);

/** Charging lifts a nominal pack this far, where nobody says: 14.4 V of 12, 57.6 V of 48. Common practice, no source. */
export const CHARGING_FACTOR = 1.2;

/**
 * The kind of fuse for a size, by the highest volts of its circuit (charging, not nominal) and by what it must interrupt.
 * @throws ImpossibleInput when no kind of that size is made for it
 */
export function fuseFamilyFor(ratingA: number, highestV: number, faultA?: number): FuseFamily {
  const volts = FAMILIES.filter((f) => f.ratedV >= highestV - 1e-9);
  if (!volts.length)
    throw new ImpossibleInput(
      `no blade or bolt-down fuse is made for ${round(highestV)} V: the most is ${Math.max(...FAMILIES.map((f) => f.ratedV))} V`,
      'highestV',
    );
  const size = volts.filter((f) => f.sizes.includes(ratingA));
  if (!size.length) throw new ImpossibleInput(`no ${ratingA} A fuse is made for ${round(highestV)} V`, 'highestV');
  const family = size.find((f) => faultA === undefined || f.interruptsA >= faultA);
  if (!family)
    throw new ImpossibleInput(
      `no ${ratingA} A fuse of these kinds interrupts ${round(faultA!)} A: a fuse for high fault currents is needed`,
      'faultA',
    );
  return family;
}
