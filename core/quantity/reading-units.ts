import type { ReadingUnit } from '#model/kit';
import type { Expected } from '#model/reading';
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
export const showReading = (x: number, unit: ReadingUnit, units: UnitSystem): string =>
  unit === 'yes'
    ? x
      ? 'yes'
      : 'no'
    : unit === 'A' && Math.abs(x) < SMALL_A
      ? `${Number((x * 1000).toPrecision(READING_DIGITS - 1))} mA`
      : showQuantity(x, QUANTITY[unit], units, READING_DIGITS);

/** What is expected of a reading, in the shop’s units: `12.2 V to 13 V`, `at least 15 lbf`, `yes`. */
export function expectedText(e: Expected, units: UnitSystem): string {
  if (e.unit === 'yes') return 'yes';
  if (e.low !== null && e.high !== null) return `${showReading(e.low, e.unit, units)} to ${showReading(e.high, e.unit, units)}`;
  return e.low !== null
    ? `at least ${showReading(e.low, e.unit, units)}`
    : e.high !== null
      ? `at most ${showReading(e.high, e.unit, units)}`
      : 'not known';
}
