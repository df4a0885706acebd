import type { OwnerDay, Phase } from '#model/day';
import type { UnitModel } from '#model/unit-model';
import { ImpossibleInput } from '../errors';
import { dutyIn, wattsIn } from './phases';
import type { PowerSystem } from './system';

export interface Range {
  /** energy that may be taken from a full pack, watt-hours */
  usableWh: number;
  /** average watts of what is added while it drives, at the pack */
  addedW: number;
  plainKm: number;
  withKm: number;
  lostKm: number;
  lostPct: number;
  /** of the day as described: driven, and how much of a full pack that is with and without what is added */
  dayKm: number;
}

/** Watts of everything added in a phase, at the pack through each one's supply, or at the loads themselves. */
const addedWatts = (s: PowerSystem, p: Phase, atPack: boolean): number =>
  s.loads
    .filter((l) => !l.own)
    .reduce((a, l) => a + ((wattsIn(s, l, p) ?? 0) * dutyIn(s, l, p)) / (atPack ? (l.via?.efficiency ?? 1) : 1), 0);

/**
 * Driving range of a pack without and with what is added: energy to what the pack should keep, over energy per kilometre, with what
 * is added drawing for as long as a kilometre takes.
 */
export function drivingRange(s: PowerSystem, day: OwnerDay, keepSoc: number): Range | null {
  if (!s.drive) return null;
  const usableWh = s.cells[0]!.capacityAh * s.systemV * (1 - keepSoc);
  const driving = day.phases.filter((p) => p.driveKm > 0);
  const minutes = driving.reduce((a, p) => a + p.minutes, 0);
  const added = driving.reduce((a, p) => a + (p.minutes / (minutes || 1)) * addedWatts(s, p, true), 0);
  const dayKm = driving.reduce((a, p) => a + p.driveKm, 0);
  // as fast as the day goes on average, or as the sheet says when nothing is driven
  const kmh = minutes > 0 ? dayKm / (minutes / 60) : s.drive.kmh;
  const own = s.loads.filter((l) => l.own).reduce((a, l) => a + l.own!.workingW, 0);
  const plainKm = usableWh / (s.drive.whPerKm + own / kmh);
  const withKm = usableWh / (s.drive.whPerKm + (own + added) / kmh);
  return { usableWh, addedW: added, plainKm, withKm, lostKm: plainKm - withKm, lostPct: (100 * (plainKm - withKm)) / plainKm, dayKm };
}

/** Tapping a pack for what is added, on a day: what the tap and the drive take, and the month that comes of it. */
export interface Tapped {
  tapV: number;
  /** batteries of the pack that the tap spans */
  batteries: number;
  tapAh: number;
  driveAh: number;
  month: TapMonth;
}

/** What would come of feeding everything added from a tap of the pack instead of a supply; null with no tap, or nothing added. */
export function tappedOn(s: PowerSystem, day: OwnerDay, model: UnitModel, keepSoc: number): Tapped | null {
  const taps = model.powerPoints.filter((p) => p.kind === 'pack-tap');
  const tapV = taps.find((t) => t.volts >= 12)?.volts ?? taps.at(-1)?.volts;
  const addedWh = day.phases.reduce((a, p) => a + (p.minutes / 60) * addedWatts(s, p, false), 0);
  if (tapV === undefined || addedWh <= 0) return null;
  const driveAh = s.drive ? day.phases.reduce((a, p) => a + (s.drive!.whPerKm * p.driveKm) / s.systemV, 0) : 0;
  const tapAh = addedWh / tapV;
  const { battery } = model.electrical;
  return {
    tapV,
    batteries: Math.max(1, Math.round(tapV / battery.voltsEach)),
    tapAh,
    driveAh,
    month: tapMonth(battery.capacityAh, driveAh, tapAh, keepSoc),
  };
}

/** Charge put back into every battery of the string, as a multiple of what driving took: chargers overcharge by some per cent. Common practice, no source. */
export const RETURN_RATIO = 1.05;

export interface TapMonth {
  /** per day, at its end before charging: charge of the tapped batteries and of the rest, share of capacity */
  days: { day: number; tapped: number; rest: number }[];
  /** first day on which the tapped batteries fall under what a pack should keep; null for not within the month */
  underOn: number | null;
  /** ampere-hours that the tapped batteries lack after the month's last charge, more than the rest */
  lackAh: number;
}

/**
 * What tapping some batteries of a series string does to it over a month. All give the drive's ampere-hours; the tapped ones also the
 * tap's. The charger sends the same ampere-hours through all, `RETURN_RATIO` of what the drive took, so what the tap took beyond that
 * is never put back; full batteries gas the rest away.
 * @throws ImpossibleInput when the tap or the drive takes less than nothing
 */
export function tapMonth(capacityAh: number, driveAh: number, tapAh: number, keepSoc: number, days = 30, ratio = RETURN_RATIO): TapMonth {
  if (driveAh < 0 || tapAh < 0) throw new ImpossibleInput('a day takes charge, or none', driveAh < 0 ? 'driveAh' : 'tapAh');
  let tapped = capacityAh;
  let rest = capacityAh;
  const out: TapMonth = { days: [], underOn: null, lackAh: 0 };
  for (let day = 1; day <= days; day++) {
    tapped = Math.max(0, tapped - driveAh - tapAh);
    rest = Math.max(0, rest - driveAh);
    out.days.push({ day, tapped: tapped / capacityAh, rest: rest / capacityAh });
    if (out.underOn === null && tapped < keepSoc * capacityAh) out.underOn = day;
    tapped = Math.min(capacityAh, tapped + ratio * driveAh);
    rest = Math.min(capacityAh, rest + ratio * driveAh);
  }
  out.lackAh = rest - tapped;
  return out;
}
