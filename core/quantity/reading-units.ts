import type { ReadingUnit } from '#model/kit';
import { showQuantity, type QuantityKind, type UnitSystem } from './quantity';

/** A reading’s unit as a kind of quantity. */
export const QUANTITY: Record<Exclude<ReadingUnit, 'yes'>, QuantityKind> = {
  V: 'volts',
  A: 'amps',
  ohm: 'ohms',
  mm: 'smallLength',
  N: 'force',
  Nm: 'torque',
  C: 'temperature',
  min: 'duration',
  perMin: 'rate',
};

/** Figures of a reading and of its limits, as they are shown and as they are judged: what reads as equal is equal. */
export const READING_DIGITS = 4;
/** Under this a current is shown, and typed, in milliamperes. */
export const SMALL_A = 1;

/** A reading or a limit in the shop’s units; small currents in milliamperes. */
export const showReading = (x: number, unit: ReadingUnit, units: UnitSystem, digits = READING_DIGITS): string =>
  unit === 'yes'
    ? x
      ? 'yes'
      : 'no'
    : unit === 'A' && Math.abs(x) < SMALL_A
      ? `${Number((x * 1000).toPrecision(digits - 1))} mA`
      : showQuantity(x, QUANTITY[unit], units, digits);
