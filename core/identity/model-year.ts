import type { UnitModel } from '#model/unit-model';

// Source: 49 CFR 565.15 (the letter or digit of a model year, which comes round every thirty years) and 33 CFR 181.25 (the last two
// digits of a hull number), from memory: to be confirmed against copies.
const VIN_YEARS = 'ABCDEFGHJKLMNPRSTVWXY123456789';
const VIN_FIRST = 1980;
const YEAR_AT = 9;

/**
 * The model year that a unit's number names, where exactly one of the years in which the model was made agrees; null where none
 * does, or where the number has no year.
 */
export function modelYear(kind: UnitModel['identity'], typed: string, years: { from: number; to: number }): number | null {
  const n = typed.trim().toUpperCase().replace(/[\s-]/g, '');
  const agrees =
    kind === 'vin' && n.length === 17
      ? (y: number) => VIN_YEARS[(y - VIN_FIRST) % VIN_YEARS.length] === n[YEAR_AT]
      : kind === 'hin' && /\d\d$/.test(n) && n.length >= 12
        ? (y: number) => y % 100 === Number(n.slice(-2))
        : () => false;
  const found: number[] = [];
  for (let y = Math.max(VIN_FIRST, years.from); y <= years.to; y++) if (agrees(y)) found.push(y);
  return found.length === 1 ? found[0]! : null;
}
