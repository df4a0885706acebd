import type { UnitKind } from '#model/common';
import type { LoadUse, WinchSpec } from '#model/kit';
import type { LoadLawName } from '#model/parts';
import type { Source } from '#model/unit-model';
import type { z } from 'zod';
import type { Cell } from './cell';
import type { Join } from './simulate';

/** Something that draws, as the simulated day takes it. */
export interface EnergyLoad {
  id: string;
  name: string;
  /** the unit's own: watts at idle and at working speed, straight between, and with the key on alone */
  own: { idleW: number; workingW: number; keyW: number } | null;
  /** null while nobody knows */
  watts: number | null;
  /** what was given as a band instead of a figure */
  band: [number, number] | null;
  /** share of the time, or of the watts, that it takes when it is on */
  share: number;
  use: LoadUse | null;
  law: z.infer<typeof LoadLawName>;
  volts: number;
  kind: 'continuous' | 'intermittent' | 'burst';
  engineOff: boolean;
  /** without power when the key is off */
  keyed: boolean;
  /** the supply it hangs on, such as a reducer, with its efficiency */
  via: { name: string; efficiency: number } | null;
  /** 0 the first battery's bus, 1 the second's */
  bus: 0 | 1;
  shedBelowRpm: number | null;
}

/** The starter. `guessed` when the sheet does not say. */
export interface Starter {
  amps: number;
  seconds: number;
  leastVolts: number;
  guessed: boolean;
}

/** A unit's supply with everything that draws on it: all that a day needs to be simulated. */
export interface PowerSystem {
  kind: UnitKind;
  systemV: number;
  source: Exclude<Source, { kind: 'none' }> | null;
  sourceMeasured: boolean;
  cells: Cell[];
  names: string[];
  join: Join | null;
  loads: EnergyLoad[];
  /** drawn day and night from the first battery, amperes */
  parkedA: number;
  starter: Starter | null;
  wall: { amps: number; volts: number } | null;
  drive: { whPerKm: number; kmh: number } | null;
  winch: { load: string; name: string; spec: WinchSpec | null; amps: number } | null;
  startSoc: number;
  socMeasured: boolean;
}

/** Amperes a starter takes where the sheet does not say: by the square root of the battery's ampere-hours. Common practice, no source. */
export const starterGuess = (capacityAh: number): number => 25 * Math.sqrt(capacityAh);
/** Growth of the starter's amperes per °C under 20 °C, as oil thickens. Common practice, no source. */
export const CRANK_PER_C = 0.01;
export const crankAmps = (s: Starter, tempC: number): number => s.amps * (1 + CRANK_PER_C * Math.max(0, 20 - tempC));
