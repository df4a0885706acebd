import { ImpossibleInput } from '../errors';
import { unsay } from './spoken';

/** A unit whose zero lies elsewhere: how much of the stored unit one is, and what it shows at that unit’s zero. */
type Scale = number | { each: number; zero: number };
const FAHRENHEIT: Scale = { each: 5 / 9, zero: 32 };

/** What kinds of quantity people type and read; the first unit of each is the SI unit that is stored. */
const UNITS = {
  length: { m: 1, mm: 0.001, cm: 0.01, in: 0.0254, '"': 0.0254, '″': 0.0254, ft: 0.3048, "'": 0.3048, '′': 0.3048 },
  smallLength: { mm: 1, cm: 10, m: 1000, in: 25.4, '"': 25.4, '″': 25.4, ft: 304.8, "'": 304.8, '′': 304.8 },
  force: { N: 1, kN: 1000, lbf: 4.4482216152605, lb: 4.4482216152605, lbs: 4.4482216152605, kg: 9.80665 },
  torque: { 'N·m': 1, Nm: 1, 'lbf·ft': 1.3558179483, 'ft-lb': 1.3558179483 },
  volts: { V: 1, mV: 0.001 },
  amps: { A: 1, mA: 0.001 },
  ohms: { Ω: 1, ohm: 1, mΩ: 0.001, kΩ: 1000 },
  watts: { W: 1, kW: 1000 },
  mass: { kg: 1, lb: 0.45359237, lbs: 0.45359237 },
  distance: { km: 1, m: 0.001, mi: 1.609344 },
  speed: { 'km/h': 1, mph: 1.609344 },
  rate: { 'per min': 1, '/min': 1, Hz: 60 },
  temperature: { '°C': 1, C: 1, '°F': FAHRENHEIT, F: FAHRENHEIT },
  duration: { min: 1, h: 60, s: 1 / 60 },
  plain: {},
} as const;
export type QuantityKind = keyof typeof UNITS;

/** Units as they are said, by how they are written. */
const SAID: Record<string, string> = {
  volt: 'V',
  millivolt: 'mV',
  amp: 'A',
  ampere: 'A',
  milliamp: 'mA',
  milliampere: 'mA',
  ohm: 'Ω',
  kilohm: 'kΩ',
  kiloohm: 'kΩ',
  milliohm: 'mΩ',
  watt: 'W',
  kilowatt: 'kW',
  metre: 'm',
  meter: 'm',
  millimetre: 'mm',
  millimeter: 'mm',
  centimetre: 'cm',
  centimeter: 'cm',
  inch: 'in',
  inche: 'in',
  foot: 'ft',
  feet: 'ft',
  newton: 'N',
  pound: 'lb',
  kilo: 'kg',
  kilogram: 'kg',
  hertz: 'Hz',
  beat: 'per min',
  flashe: 'per min',
  minute: 'min',
  hour: 'h',
  second: 's',
  celsius: '°C',
  fahrenheit: '°F',
  degree: '',
};
const written = (unit: string): string => SAID[unit.toLowerCase()] ?? SAID[unit.toLowerCase().replace(/s$/, '')] ?? unit;
export type UnitSystem = 'imperial' | 'metric';

/** The unit a bare number is taken in, and figures are shown in. */
export const HOME_UNIT: Record<QuantityKind, Record<UnitSystem, string>> = {
  length: { imperial: 'ft', metric: 'm' },
  smallLength: { imperial: 'in', metric: 'mm' },
  force: { imperial: 'lbf', metric: 'N' },
  torque: { imperial: 'lbf·ft', metric: 'N·m' },
  volts: { imperial: 'V', metric: 'V' },
  amps: { imperial: 'A', metric: 'A' },
  ohms: { imperial: 'Ω', metric: 'Ω' },
  watts: { imperial: 'W', metric: 'W' },
  mass: { imperial: 'lb', metric: 'kg' },
  distance: { imperial: 'mi', metric: 'km' },
  speed: { imperial: 'mph', metric: 'km/h' },
  rate: { imperial: 'per min', metric: 'per min' },
  temperature: { imperial: '°F', metric: '°C' },
  duration: { imperial: 'min', metric: 'min' },
  plain: { imperial: '', metric: '' },
};

const NUMBER = /^([+-]?(?:\d+\s+\d+\/\d+|\d+\/\d+|[1-9]\d{0,2}(?:,\d{3})+(?:\.\d+)?(?![\d,])|\d+(?:[.,]\d+)?|[.,]\d+))\s*/;

function toNumber(text: string): number {
  const mixed = /^([+-]?)(?:(\d+)\s+)?(\d+)\/(\d+)$/.exec(text.trim());
  if (mixed) {
    const value = Number(mixed[2] ?? 0) + Number(mixed[3]) / Number(mixed[4]);
    return mixed[1] === '-' ? -value : value;
  }
  // figures are shown with commas between thousands, so that is how such a comma is read
  if (/^[+-]?[1-9]\d{0,2}(,\d{3})+(\.\d+)?$/.test(text)) return Number(text.replaceAll(',', ''));
  return Number(text.replace(',', '.'));
}

/**
 * Reads what a person typed, such as `3/4in`, `19 mm`, `9ft 2in`, `12.4` or `35 lb`, into the kind's SI unit.
 * Spoken ones are taken too, such as `twelve point four volts`. A bare number is in the shop's home unit.
 * @throws ImpossibleInput saying what was not understood
 */
export function parseQuantity(typed: string, kind: QuantityKind, system: UnitSystem): number {
  const units = UNITS[kind] as Record<string, Scale>;
  const home = HOME_UNIT[kind][system];
  // `per minute` is one unit in whatever words, and `of an` none
  let rest = unsay(typed)
    .trim()
    .replace(/\b(?:beats?|flashes|times)?\s*(?:per|a) (?:minute|min)\b/i, ' per min')
    .replace(/\bof an?\b/i, ' ')
    .trim();
  if (!rest) throw new ImpossibleInput('type a figure');
  let total = 0;
  let parts = 0;
  while (rest) {
    const n = NUMBER.exec(rest);
    if (!n) throw new ImpossibleInput(`“${typed.trim()}” is not a figure${home ? ` in ${home}` : ''}`);
    const value = toNumber(n[1]!);
    if (!Number.isFinite(value)) throw new ImpossibleInput(`“${typed.trim()}” is not a figure`);
    rest = rest.slice(n[0].length);
    const word = /^[^\d\s.,+-]+(?:\s?min)?/.exec(rest)?.[0] ?? '';
    rest = rest.slice(word.length).trim();
    const unit = written(word);
    if (!unit && (parts || rest)) throw new ImpossibleInput(`“${typed.trim()}” is two figures: say their units`);
    const known = Object.keys(units).find((u) => u === unit) ?? Object.keys(units).find((u) => u.toLowerCase() === unit.toLowerCase());
    if (unit && known === undefined)
      throw new ImpossibleInput(
        `“${word}” is not a unit for this: use ${
          Object.keys(units)
            .filter((u) => /\w|Ω/.test(u))
            .join(', ') || 'a bare number'
        }`,
      );
    total += (parts && total < 0 ? -1 : 1) * toStored(value, unit ? units[known!]! : (units[home] ?? 1));
    parts++;
    if (parts > 3) throw new ImpossibleInput(`“${typed.trim()}” has too many parts`);
  }
  return total;
}

const toStored = (x: number, u: Scale): number => (typeof u === 'number' ? x * u : (x - u.zero) * u.each);
const fromStored = (x: number, u: Scale): number => (typeof u === 'number' ? x / u : x / u.each + u.zero);

/** A figure as people read it: at most `digits` significant digits, no trailing zeros, a thin place for thousands. */
export function figure(value: number, digits = 3): string {
  if (!Number.isFinite(value)) return '–';
  if (value === 0) return '0';
  const abs = Math.abs(value);
  if (abs >= 1000) return Math.round(value).toLocaleString('en-US');
  const rounded = Number(value.toPrecision(digits));
  const text = Math.abs(rounded) >= 100 ? String(Math.round(rounded)) : String(rounded);
  return text.includes('e') ? rounded.toFixed(6).replace(/0+$/, '') : text;
}

/**
 * A figure no finer than the limit that it is held against (three digits of it), nor coarser than a tenth; as it is where rounding
 * would put it on the limit or across it.
 */
export function besideLimit(x: number, limit: number): number {
  const decimals = Math.max(1, 2 - Math.max(0, Math.floor(Math.log10(Math.max(Math.abs(limit), 1e-9)))));
  const rounded = Number(x.toFixed(decimals));
  return Math.sign(rounded - limit) === Math.sign(x - limit) ? rounded : x;
}

/** An SI figure with its unit in the shop's system: metres as `9 ft 2 in`, millimetres as `3/4 in` to the sixteenth. */
export function showQuantity(si: number, kind: QuantityKind, system: UnitSystem, digits = 3): string {
  const unit = HOME_UNIT[kind][system];
  if (kind === 'length' && system === 'imperial') {
    const inches = Math.round(si / 0.0254);
    const sign = inches < 0 ? '−' : '';
    const [ft, inch] = [Math.floor(Math.abs(inches) / 12), Math.abs(inches) % 12];
    return sign + (ft ? `${ft} ft${inch ? ` ${inch} in` : ''}` : `${inch} in`);
  }
  if (kind === 'smallLength' && system === 'imperial') {
    const sixteenths = Math.round((si / 25.4) * 16);
    const [whole, part] = [Math.trunc(sixteenths / 16), Math.abs(sixteenths % 16)];
    if (!part || Math.abs(whole) >= 12) return `${figure(si / 25.4, 3)} in`;
    const common = part % 8 === 0 ? 8 : part % 4 === 0 ? 4 : part % 2 === 0 ? 2 : 1;
    return `${whole ? `${whole} ` : ''}${part / common}/${16 / common} in`;
  }
  const scale = (UNITS[kind] as Record<string, Scale>)[unit] ?? 1;
  return `${figure(fromStored(si, scale), digits)}${unit ? ` ${unit}` : ''}`;
}

/** Units that sums and sentences have, as what they are. */
const SAID_IN: Readonly<Record<string, QuantityKind>> = {
  mm: 'smallLength',
  m: 'length',
  km: 'distance',
  'km/h': 'speed',
  kg: 'mass',
  N: 'force',
  'N·m': 'torque',
  '°C': 'temperature',
};
export const fahrenheit = (celsius: number): number => fromStored(celsius, FAHRENHEIT);
export const celsius = (f: number): number => toStored(f, FAHRENHEIT);

/** A figure in the unit that it was computed in, as the shop shows it; any other unit stays as it is. */
export function showUnit(value: number, unit: string, system: UnitSystem, digits = 4): string {
  // what a figure is of may follow its unit: “mm up”
  const of = /^(\S+) (.+)$/.exec(unit);
  if (of && SAID_IN[of[1]!]) return `${showUnit(value, of[1]!, system, digits)} ${of[2]}`;
  if (system === 'imperial') {
    const kind = SAID_IN[unit];
    if (kind) return showQuantity(value, kind, system, kind === 'temperature' ? 3 : digits);
  }
  return `${figure(value, digits)}${unit ? ` ${unit}` : ''}`;
}

const FIGURE = String.raw`(?<![\d.,/])(-?\d+(?:\.\d+)?)`;
const IN_WORDS = String.raw`(mm|kg|N·m|N|km\/h|km|m|°C)(?![\w²³/·])`;
/**
 * A sentence with its lengths, distances, masses, forces and temperatures as the shop shows them. Sentences are kept in SI, with
 * more figures than are read.
 */
export function sayInUnits(text: string, system: UnitSystem): string {
  const one = (n: string, unit: string) =>
    system === 'metric' && !n.includes('.') ? `${n} ${unit}` : showUnit(Number(n), unit, system, unit === 'N' ? 3 : 4);
  // both of “1 to 4 mm”, of “37 by 21 mm” and of “37 × 21 mm” are turned
  return text
    .replace(new RegExp(`${FIGURE} (to|by|×) ${FIGURE} ${IN_WORDS}`, 'g'), (_, a: string, word: string, b: string, unit: string) =>
      system === 'metric' ? `${a} ${word} ${b} ${unit}` : `${one(a, unit)} ${word} ${one(b, unit)}`,
    )
    .replace(new RegExp(`${FIGURE} ${IN_WORDS}`, 'g'), (_, n: string, unit: string) => one(n, unit));
}
