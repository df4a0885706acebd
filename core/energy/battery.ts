import { along, type Table } from './table';
import type { Chemistry } from '#model/common';
import { ImpossibleInput } from '../errors';

/**
 * Open-circuit volts of a rested 12 V battery at 25 °C by charge: [charge, volts], full first.
 * Flooded: BCI service manual. AGM and LFP: handbook figures, from memory, to be confirmed against a copy.
 */
export const OCV: Readonly<Record<Chemistry, Table>> = {
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
/** The same of flooded deep-cycle batteries, as in the packs of carts. Makers' tables, from memory; empty, straight on from 20 %. */
export const OCV_DEEP_CYCLE: Table = [
  [1, 12.73],
  [0.8, 12.5],
  [0.6, 12.24],
  [0.5, 12.1],
  [0.4, 11.96],
  [0.2, 11.66],
  [0, 11.36],
];
/** Which table a battery follows. */
export interface Rested {
  chemistry: Chemistry;
  deepCycle?: boolean | undefined;
}
export const ocvOf = ({ chemistry, deepCycle }: Rested): Table => (deepCycle && chemistry === 'flooded' ? OCV_DEEP_CYCLE : OCV[chemistry]);
export const ocvSourceOf = (b: Rested): string =>
  ocvOf(b) === OCV_DEEP_CYCLE ? 'makers’ tables of deep-cycle batteries, from memory' : OCV_SOURCE[b.chemistry];

export const OCV_SOURCE: Readonly<Record<Chemistry, string>> = {
  flooded: 'BCI service manual, rested, 25 °C',
  agm: 'handbook figures, from memory',
  lfp: 'handbook figures, from memory',
};
/** Change of a 12 V lead-acid battery's rested volts per °C; from memory, to be confirmed. LFP is taken as flat. */
export const OCV_PER_C: Readonly<Record<Chemistry, number>> = { flooded: 0.0013, agm: 0.0013, lfp: 0 };
/** A 12 V battery outside this is damaged or not one. */
const SEEN_V = [8, 15.5] as const;
/** Above these a battery is on charge or just off it; under these it is empty and more: a dead cell, or left flat for long. Common practice, no source. */
const RESTED_V: Readonly<Record<Chemistry, readonly [number, number]>> = { flooded: [11, 13.1], agm: [11, 13.2], lfp: [10, 13.65] };
/** How far off rested volts are that a person reads: the meter, and a rest that was not quite one. Common practice, no source. */
const READ_V: Readonly<Record<Chemistry, number>> = { flooded: 0.05, agm: 0.05, lfp: 0.1 };

/** Charge of a battery from its rested volts, and the band that it lies in. */
export interface RestedCharge {
  soc: number;
  low: number;
  high: number;
}

/**
 * Charge of a rested 12 V battery from its volts, 0 to 1, straight between its table's points, with the band that a reading
 * leaves: wide where the volts hardly change with charge, as those of lithium iron phosphate.
 * @throws ImpossibleInput for volts that no rested 12 V battery shows, or that say nothing of its charge
 */
export function restedCharge(b: Rested, volts: number, tempC = 25): RestedCharge {
  if (volts < SEEN_V[0] || volts > SEEN_V[1])
    throw new ImpossibleInput(
      `${volts} V is not what a rested 12 V battery shows (${SEEN_V[0]} to ${SEEN_V[1]} V): measure again, on the posts, with nothing running`,
      'volts',
    );
  const [flat, charging] = RESTED_V[b.chemistry];
  if (volts > charging)
    throw new ImpossibleInput(
      `${volts} V is on charge, or just off it: not a rested reading. Let it stand two hours, or put its lamps on for two minutes, and measure again`,
      'volts',
    );
  if (volts < flat)
    throw new ImpossibleInput(
      `${volts} V is under an empty battery: a dead cell, or left flat for long. Charge it, let it rest, and test it before anything else`,
      'volts',
    );
  const v = volts - OCV_PER_C[b.chemistry] * (tempC - 25);
  const shares: Table = ocvOf(b).map(([soc, at]) => [at, soc]);
  const at = (x: number) => along(shares, x);
  const off = READ_V[b.chemistry];
  return { soc: at(v), low: at(v - off), high: at(v + off) };
}

/** The other way: rested volts of a 12 V battery at 25 °C for a charge from 0 to 1. */
export const voltsFromSoc = (b: Rested, soc: number): number => along(ocvOf(b), soc);

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

/** Charge and the degrees at which a lead battery's acid freezes, full first. Battery handbooks, from memory. */
const FREEZES_C: Table = [
  [1, -60],
  [0.75, -37],
  [0.5, -24],
  [0, -7],
];
/** The degrees at which a battery freezes at a charge; null for one that does not, such as lithium iron phosphate. */
export const freezesAt = (chemistry: Chemistry, soc: number): number | null => (chemistry === 'lfp' ? null : along(FREEZES_C, soc));

/** The most that 12 V of a battery may be charged at, volts: above it gases, dries out, or its manager cuts off. Makers' sheets, from memory. */
export const CHARGE_LIMIT_V: Readonly<Record<Chemistry, number>> = { flooded: 15, agm: 14.8, lfp: 14.6 };
