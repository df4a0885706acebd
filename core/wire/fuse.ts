import { ImpossibleInput } from '../errors';
import { round } from '../sum';

/** Blade fuses and their body colours. Source: ISO 8820-3, from memory: to be confirmed against a copy. */
export const BLADE_COLOURS: readonly (readonly [number, string])[] = [
  [1, 'black'],
  [2, 'grey'],
  [3, 'violet'],
  [4, 'pink'],
  [5, 'tan'],
  [7.5, 'brown'],
  [10, 'red'],
  [15, 'blue'],
  [20, 'yellow'],
  [25, 'clear'],
  [30, 'green'],
  [40, 'orange'],
];
/** Sizes above the blades, bolted down; common practice, no source. Their bodies carry no standard colour. */
const BOLTED = [50, 60, 80, 100, 125, 150, 175, 200, 225, 250, 300] as const;
export const NO_COLOUR = 'bolt-down, no blade colour';

export const FUSE_SIZES: readonly number[] = [...BLADE_COLOURS.map(([a]) => a), ...BOLTED];
export const fuseColour = (ratingA: number): string => BLADE_COLOURS.find(([a]) => a === ratingA)?.[1] ?? NO_COLOUR;

/** Fuse rule: this many times the continuous amperes. Common practice, no source. */
export const FUSE_FACTOR = 1.25;

/** The standard size that a load asks for, whatever may limit it; undefined beyond the largest. */
export const fuseFor = (continuousA: number): number | undefined => FUSE_SIZES.find((a) => a >= continuousA * FUSE_FACTOR - 1e-9);

/**
 * The fuse for a circuit: at least 1.25 × the continuous amperes, the next standard size up, and not above the
 * wire's allowable amperes nor the device maker's maximum.
 * @throws ImpossibleInput when no standard size fits between
 */
export function chooseFuse(continuousA: number, wireAmpacityA: number, deviceMaxA?: number): { ratingA: number; colour: string } {
  const ratingA = fuseFor(continuousA);
  if (ratingA === undefined)
    throw new ImpossibleInput(
      `${round(continuousA * FUSE_FACTOR)} A is beyond the largest standard fuse (${FUSE_SIZES.at(-1)} A)`,
      'continuousA',
    );
  if (ratingA > wireAmpacityA)
    throw new ImpossibleInput(
      `a ${ratingA} A fuse is needed, above the ${round(wireAmpacityA)} A that the wire may carry: use a thicker wire`,
      'wireAmpacityA',
    );
  if (deviceMaxA !== undefined && ratingA > deviceMaxA)
    throw new ImpossibleInput(
      `a ${ratingA} A fuse is needed, above the ${deviceMaxA} A that the device’s maker allows: split the circuit`,
      'deviceMaxA',
    );
  return { ratingA, colour: fuseColour(ratingA) };
}
