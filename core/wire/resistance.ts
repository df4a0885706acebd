import { ImpossibleInput } from '../errors';

/** Resistivity of annealed copper at 20 °C, ohm-metres (100 % IACS). Source: IEC 60028. */
const COPPER_OHM_M = 1.7241e-8;
/** Change of copper's resistance per °C, from 20 °C. Source: IEC 60028. */
const COPPER_ALPHA = 0.00393;

/** Diameter of a solid conductor, millimetres, for an AWG integer (1/0 = 0, 2/0 = −1). Source: ASTM B258. */
export const awgDiameterMm = (awg: number): number => 0.127 * 92 ** ((36 - awg) / 39);

/** The gauge as it is written: `14`, `1/0`, `2/0`. */
export const awgName = (awg: number): string => (awg > 0 ? String(awg) : `${1 - awg}/0`);

/** What wire.resistance answers: the whole length's ohms, ohms per metre, and the conductor's cross-section. */
export interface WireResistance {
  ohms: number;
  ohmsPerM: number;
  areaMm2: number;
  circularMils: number;
}

/**
 * Resistance of a copper conductor.
 * @param awg gauge as an integer, 1/0 = 0
 * @param lengthM metres of conductor (there and back for a pair)
 * @param tempC conductor temperature, °C
 * @throws ImpossibleInput when the temperature is below absolute zero or the length below zero
 */
export function wireResistance(awg: number, lengthM: number, tempC = 20): WireResistance {
  if (lengthM < 0) throw new ImpossibleInput('a wire cannot be shorter than nothing', 'lengthM');
  if (tempC < -100 || tempC > 300) throw new ImpossibleInput('copper wire is not used at that temperature: −100 to 300 °C', 'tempC');
  const d = awgDiameterMm(awg);
  const areaMm2 = (Math.PI * d * d) / 4;
  const ohmsPerM = (COPPER_OHM_M / (areaMm2 * 1e-6)) * (1 + COPPER_ALPHA * (tempC - 20));
  const mils = d / 0.0254;
  return { ohms: ohmsPerM * lengthM, ohmsPerM, areaMm2, circularMils: mils * mils };
}
