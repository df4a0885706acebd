// What wires may carry. ABYC E-11 (allowable amperes, engine space, bundling, tensile test); SAE J1128 (thinner conductors); handbook tables for gauges thinner than E-11's. All typed from memory: to be confirmed against a copy.

import type { Insulation } from '#model/parts';

export const SOURCE = {
  ampacity: 'ABYC E-11, under 50 V',
  bundling: 'ABYC E-11 bundling factors',
  thin: 'chassis wiring in air, Handbook of Electronic Tables and Formulas',
  sae: 'SAE J1128; amperes by its share of copper, common practice, no source',
} as const;

/** Classes of insulation, °C of the conductor. */
export const INSULATIONS = [60, 75, 80, 90, 105, 125] as const satisfies readonly Insulation[];
/** What shops stock and boxes hold, where neither says otherwise. */
export const USUAL_INSULATION: Insulation = 105;

/** Gauges of the table, thin to thick. */
export const TABLE_GAUGES = [18, 16, 14, 12, 10, 8, 6, 4, 2, 1, 0, -1] as const;

/** Allowable amperes outside of engine spaces, up to two bundled, by insulation and in the order of the gauges above. */
export const AMPERES: Readonly<Record<Insulation, readonly number[]>> = {
  60: [10, 15, 20, 25, 40, 55, 80, 105, 140, 165, 195, 225],
  75: [10, 15, 20, 25, 40, 65, 95, 125, 170, 195, 230, 265],
  80: [15, 20, 25, 35, 50, 70, 100, 130, 175, 210, 245, 285],
  90: [20, 25, 30, 40, 55, 70, 100, 135, 180, 210, 245, 285],
  105: [20, 25, 35, 45, 60, 80, 120, 160, 210, 245, 285, 330],
  125: [25, 30, 40, 50, 70, 90, 125, 170, 225, 265, 305, 355],
};

/** Factor inside an engine space, by insulation. */
export const ENGINE_SPACE: Readonly<Record<Insulation, number>> = { 60: 0.58, 75: 0.75, 80: 0.78, 90: 0.82, 105: 0.85, 125: 0.89 };

/** Amperes printed for 105 °C inside an engine space: the factor above, rounded as the table has it. */
export const ENGINE_105: readonly number[] = [17.0, 21.3, 29.8, 38.3, 51.0, 68.0, 102, 136, 178.5, 208.3, 242.3, 280.5];

/** Factor on allowable amperes by the number of current-carrying wires bundled: [at least, factor]. */
export const BUNDLING: readonly (readonly [number, number])[] = [
  [25, 0.4],
  [7, 0.5],
  [4, 0.6],
  [3, 0.7],
  [1, 1],
];

/** Amperes of gauges thinner than the table's, as lamps and mirrors have them; for the usual insulation, outside engine spaces. */
export const THIN: Readonly<Record<number, number>> = { 20: 11, 22: 7, 24: 3.5, 26: 2.2, 28: 1.4, 30: 0.86 };

/** Cross-section of SAE conductors, mm². Other sizes are taken as so much less than AWG. */
export const SAE_MM2: Readonly<Record<number, number>> = { 18: 0.76, 16: 1.12, 14: 1.85, 12: 2.93, 10: 4.65 };
export const SAE_SHARE = 0.88;
