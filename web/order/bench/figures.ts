import { READING_DIGITS } from '#core/plan/judge';
import { showQuantity, type QuantityKind, type UnitSystem } from '#core/quantity/quantity';
import type { ReadingUnit } from '#model/kit';
import type { Expected } from '#model/reading';

/** A reading’s unit as a kind of quantity. */
export const QUANTITY: Record<Exclude<ReadingUnit, 'yes'>, QuantityKind> = {
  V: 'volts',
  A: 'amps',
  ohm: 'ohms',
  mm: 'smallLength',
  N: 'force',
  perMin: 'rate',
};

/** What a bare number typed for a reading is taken in. */
export const bareUnit = (kind: QuantityKind, units: UnitSystem): string =>
  ({
    volts: 'volts',
    amps: 'amperes (or say mA)',
    force: units === 'imperial' ? 'lbf' : 'N',
    smallLength: units === 'imperial' ? 'inches' : 'mm',
    rate: 'flashes per minute',
  })[kind as string] ?? 'ohms';

export const showReading = (x: number, unit: ReadingUnit, units: UnitSystem): string =>
  unit === 'yes'
    ? x
      ? 'yes'
      : 'no'
    : unit === 'A' && Math.abs(x) < 1
      ? `${Number((x * 1000).toPrecision(3))} mA`
      : showQuantity(x, QUANTITY[unit], units, READING_DIGITS);

export function expectedText(e: Expected, units: UnitSystem): string {
  if (e.unit === 'yes') return 'yes';
  if (e.low !== null && e.high !== null) return `${showReading(e.low, e.unit, units)} to ${showReading(e.high, e.unit, units)}`;
  return e.low !== null
    ? `at least ${showReading(e.low, e.unit, units)}`
    : e.high !== null
      ? `at most ${showReading(e.high, e.unit, units)}`
      : 'not known';
}
