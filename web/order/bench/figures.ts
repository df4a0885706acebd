import type { QuantityKind, UnitSystem } from '#core/quantity/quantity';
import { SMALL_A } from '#core/quantity/reading-units';
import { unsay } from '#core/quantity/spoken';

/** Units that the meter may show for it, that of a bare number first. `most`: the most that is expected of it. */
export const padUnits = (kind: QuantityKind, units: UnitSystem, most: number | null = null): readonly string[] =>
  ({
    volts: ['V', 'mV'],
    amps: most !== null && most < SMALL_A ? ['mA', 'A'] : ['A', 'mA'],
    ohms: ['Ω', 'kΩ'],
    force: units === 'imperial' ? ['lbf', 'N'] : ['N', 'lbf'],
    smallLength: units === 'imperial' ? ['in', 'mm'] : ['mm', 'in'],
    torque: units === 'imperial' ? ['lbf·ft', 'N·m'] : ['N·m', 'lbf·ft'],
    temperature: units === 'imperial' ? ['°F', '°C'] : ['°C', '°F'],
    duration: ['min', 'h'],
    rate: ['per min'],
  })[kind as string] ?? [];

/** What was typed as it is understood: a bare number gets the unit that its pad has first. */
export const withUnit = (text: string, kind: QuantityKind, pad: readonly string[]): string =>
  kind === 'amps' && text.trim() && !/[\p{L}Ω]/u.test(unsay(text)) ? `${unsay(text)} ${pad[0]}` : text;

/** What a meter shows of an open way. */
export const OPEN_WORD = 'OL';
