import type { ValueUnit } from '#core/known/values';
import { showQuantity, type QuantityKind, type UnitSystem } from '#core/quantity/quantity';

/** As what a value is typed. */
export const KIND: Record<ValueUnit, QuantityKind> = { A: 'amps', mA: 'amps', W: 'watts', Ah: 'plain', mm: 'smallLength', kg: 'mass' };
/** Of the unit that is kept, so many of the one that is typed. */
export const EACH: Partial<Record<ValueUnit, number>> = { mA: 1000 };

/** A value as people read it. */
export const shown = (value: number, unit: ValueUnit, units: UnitSystem): string =>
  // neither has another unit here, and a parked draw is told in milliamperes
  unit === 'Ah' || unit === 'mA'
    ? `${Number(value.toPrecision(3))} ${unit}`
    : showQuantity(value / (EACH[unit] ?? 1), KIND[unit], units, 3);
