import type { SumLine } from '#model/common';
import type { Sheets } from '#model/sheet';
import { round, sum } from '../sum';
import type { LampUnit } from './lamp';

/** A person with what they carry, kilograms. Common practice, no source (regulators use 68 to 75). */
export const PERSON_KG = 75;

export interface WeightCheck {
  kits: { name: string; kg: number; unknown: number }[];
  addedKg: number;
  /** empty with its kits, and with people on every seat */
  emptyKg: number | null;
  ladenKg: number | null;
  /** share on the rear axle, empty: before and with the kits; null where the sheet does not say or there are no axles */
  rearBefore: number | null;
  rearAfter: number | null;
  /** mass left within the gross rating; null without one */
  leftKg: number | null;
  says: string;
  sum: SumLine[];
}

/** Kits' masses added to the unit, by the devices' own places. Devices without a mass are counted and named as such. */
export function checkWeight(unit: LampUnit, sheets: Sheets): WeightCheck {
  const place = new Map(sheets.model.places.map((p) => [p.id, p]));
  let addedKg = 0;
  let moment = 0;
  const kits = sheets.kits.map((k) => {
    const heavy = k.devices.filter((d) => d.massKg > 0);
    const kg = heavy.reduce((s, d) => s + d.massKg, 0);
    addedKg += kg;
    for (const d of heavy) moment += d.massKg * (place.get(d.place)?.x ?? 0);
    return { name: k.name, kg, unknown: k.devices.filter((d) => d.massKg === 0 && (d.load || d.equipment)).length };
  });
  const mass = unit.massKg ?? null;
  const emptyKg = mass === null ? null : mass + addedKg;
  const ladenKg = emptyKg === null ? null : emptyKg + unit.seats * PERSON_KG;
  const axles = unit.wheelbaseMm > 0 && unit.rearShare !== undefined && mass !== null;
  const rearAfter = axles ? (mass * unit.rearShare! + addedKg - moment / unit.wheelbaseMm) / (mass + addedKg) : null;
  const leftKg = unit.gvwrKg === undefined || ladenKg === null ? null : unit.gvwrKg - ladenKg;
  const unknown = kits.reduce((s, k) => s + k.unknown, 0);
  const lines = sum(
    { label: 'Unit, empty', value: mass ?? 'not on the sheet', unit: mass === null ? undefined : 'kg', source: `${unit.name} sheet` },
    ...kits.filter((k) => k.kg > 0).map((k) => ({ label: k.name, value: round(k.kg), unit: 'kg', source: 'its sheet' })),
    ...(unknown ? [{ label: 'Parts without a mass on their sheets', value: unknown, kind: 'note' as const }] : []),
    {
      label: `${unit.seats} ${unit.seats === 1 ? 'person' : 'people'} of ${PERSON_KG} kg`,
      value: unit.seats * PERSON_KG,
      unit: 'kg',
      source: 'common practice, no source',
    },
    ...(ladenKg === null ? [] : [{ label: 'Laden', value: round(ladenKg, 4), unit: 'kg', kind: 'result' as const }]),
    ...(unit.gvwrKg === undefined ? [] : [{ label: 'Gross rating', value: unit.gvwrKg, unit: 'kg', kind: 'limit' as const }]),
    ...(rearAfter === null
      ? []
      : [
          {
            label: 'On the rear axle, empty',
            value: `${round(unit.rearShare! * 100)} % before, ${round(rearAfter * 100)} % with the kits`,
            kind: 'note' as const,
          },
        ]),
  );
  const says =
    leftKg === null
      ? ladenKg === null
        ? 'the unit’s mass is not on the sheet'
        : `${round(ladenKg, 4)} kg laden; no gross rating on the sheet`
      : leftKg < 0
        ? `over its gross rating by ${round(-leftKg)} kg with people on every seat`
        : `${round(leftKg)} kg left within its gross rating, people on every seat`;
  return { kits, addedKg, emptyKg, ladenKg, rearBefore: axles ? unit.rearShare! : null, rearAfter, leftKg, says, sum: lines };
}
