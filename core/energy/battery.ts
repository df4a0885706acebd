import type { Chemistry } from '#model/common';
import { ImpossibleInput } from '../errors';

/**
 * Open-circuit volts of a rested 12 V battery at 25 °C by charge: [charge, volts], full first.
 * Flooded: BCI service manual. AGM and LFP: handbook figures, from memory, to be confirmed against a copy.
 */
export const OCV: Readonly<Record<Chemistry, readonly (readonly [number, number])[]>> = {
  flooded: [
    [1, 12.65],
    [0.75, 12.45],
    [0.5, 12.24],
    [0.25, 12.06],
    [0, 11.89],
  ],
  agm: [
    [1, 12.85],
    [0.75, 12.6],
    [0.5, 12.3],
    [0.25, 12.05],
    [0, 11.8],
  ],
  lfp: [
    [1, 13.5],
    [0.9, 13.35],
    [0.7, 13.25],
    [0.4, 13.1],
    [0.2, 12.9],
    [0.1, 12.6],
    [0, 11.5],
  ],
};
export const OCV_SOURCE: Readonly<Record<Chemistry, string>> = {
  flooded: 'BCI service manual, rested, 25 °C',
  agm: 'handbook figures, from memory',
  lfp: 'handbook figures, from memory',
};
/** Change of a 12 V lead-acid battery's rested volts per °C; from memory, to be confirmed. LFP is taken as flat. */
export const OCV_PER_C: Readonly<Record<Chemistry, number>> = { flooded: 0.0013, agm: 0.0013, lfp: 0 };
/** A rested 12 V battery outside this is damaged, on charge, or not a 12 V battery. */
const SEEN_V = [8, 15.5] as const;

/**
 * Charge of a rested 12 V battery from its volts, 0 to 1, straight between the table's points.
 * Above the first point it is full, below the last empty.
 * @throws ImpossibleInput for volts that no rested 12 V battery shows
 */
export function socFromVolts(chemistry: Chemistry, volts: number, tempC = 25): number {
  if (volts < SEEN_V[0] || volts > SEEN_V[1])
    throw new ImpossibleInput(
      `${volts} V is not what a rested 12 V battery shows (${SEEN_V[0]} to ${SEEN_V[1]} V): measure again, on the posts, with nothing running`,
      'volts',
    );
  const v = volts - OCV_PER_C[chemistry] * (tempC - 25);
  const table = OCV[chemistry];
  for (let i = 1; i < table.length; i++) {
    const [s1, v1] = table[i - 1]!;
    const [s0, v0] = table[i]!;
    if (v >= v1) return 1;
    if (v >= v0) return s0 + ((v - v0) / (v1 - v0)) * (s1 - s0);
  }
  return 0;
}

/** The other way: rested volts of a 12 V battery at 25 °C for a charge from 0 to 1. */
export function voltsFromSoc(chemistry: Chemistry, soc: number): number {
  const table = OCV[chemistry];
  const s = Math.min(1, Math.max(0, soc));
  const i = Math.max(
    1,
    table.findIndex(([x]) => s >= x),
  );
  const [s1, v1] = table[i - 1]!;
  const [s0, v0] = table[i]!;
  return v0 + ((s - s0) / (s1 - s0)) * (v1 - v0);
}

/**
 * Hours a battery gives `amps` for. Source: Peukert 1897, t = H · (C / (I · H))^k. It tells what is lost above the rated
 * current; under it a battery gives its capacity and no more.
 * @param ratedHours the hours at which the capacity was rated
 */
export const peukertHours = (capacityAh: number, ratedHours: number, exponent: number, amps: number): number =>
  Math.min(capacityAh / amps, ratedHours * (capacityAh / (amps * ratedHours)) ** exponent);

/** Days in the month that self-discharge is given for. */
const MONTH_DAYS = 30;

/**
 * Days a battery can stand parked before its charge falls to the reserve: a steady draw and self-discharge,
 * the latter taken as a steady share of the full capacity (the safe side).
 * @returns days; 0 when the charge is already at the reserve; Infinity when nothing draws
 */
export function parkedDays(
  capacityAh: number,
  socStart: number,
  socReserve: number,
  drawMa: number,
  selfDischargePctPerMonth: number,
): number {
  const spareAh = Math.max(0, socStart - socReserve) * capacityAh;
  const perDayAh = (drawMa / 1000) * 24 + (capacityAh * selfDischargePctPerMonth) / 100 / MONTH_DAYS;
  return spareAh === 0 ? 0 : spareAh / perDayAh;
}
