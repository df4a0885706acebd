import { along, type Table } from './table';
import type { Chemistry } from '#model/common';
import type { BatteryBank } from '#model/unit-model';
import { ImpossibleInput } from '../errors';
import { OCV_PER_C, ocvOf } from './battery';

/** What a kind of battery is like. All from memory, common practice, no source, to be confirmed against a copy. */
interface Kind {
  /** of 12 V, times its ampere-hours */
  innerOhmAh: number;
  /** share of what is put in that is there afterwards */
  efficiency: number;
  /** amperes taken per missing ampere-hour at the overvoltage below: the ampere-hour rule of charging, 1 for lead */
  acceptPerH: number;
  /** volts above rest, of 12 V, at which that is taken */
  overV: number;
  /** degrees and the share of the capacity that can be used there, warm first */
  usable: Table;
  /** growth of inner resistance per °C of cold */
  ohmsPerC: number;
  /** degrees of cold under 25 °C that halve what it takes; null: cold changes nothing until it takes none */
  halvesPerC: number | null;
  /** charging is refused below this */
  leastChargeC: number;
  /** its manager cuts it off below this */
  leastGiveC: number;
}
/** A lead battery's capacity in the cold. Battery handbooks, from memory: about 60 % at −18 °C, 35 to 45 % at −30 °C. */
const LEAD_USABLE = [
  [25, 1],
  [0, 0.8],
  [-18, 0.6],
  [-30, 0.4],
  [-40, 0.25],
] as const;
/** Acceptance of lead halves every 10 to 15 °C of cold: common practice, no source. */
const LEAD = { usable: LEAD_USABLE, ohmsPerC: 0.012, halvesPerC: 11.5, leastChargeC: -40, leastGiveC: -60 };
export const KINDS: Readonly<Record<Chemistry, Kind>> = {
  flooded: { innerOhmAh: 0.35, efficiency: 0.9, acceptPerH: 1, overV: 1.75, ...LEAD },
  agm: { innerOhmAh: 0.22, efficiency: 0.95, acceptPerH: 1.6, overV: 1.6, ...LEAD },
  lfp: {
    innerOhmAh: 0.3,
    efficiency: 0.99,
    acceptPerH: 6,
    overV: 0.7,
    usable: [
      [25, 1],
      [-20, 0.775],
    ],
    ohmsPerC: 0.02,
    halvesPerC: null,
    leastChargeC: 0,
    leastGiveC: -20,
  },
};
/** Peukert's exponent by kind, where a sheet gives none: handbook range, from memory. */
export const PEUKERT: Readonly<Record<Chemistry, number>> = { flooded: 1.2, agm: 1.1, lfp: 1.05 };
/** Resistance of an emptying battery: this much more when empty, by the square of what is missing. From memory. */
export const EMPTY_OHMS = 0.8;
/** Capacity lost and resistance grown per year of age. Common practice, no source. */
export const AGE_CAPACITY = 0.06;
export const AGE_OHMS = 0.1;
const LEAST_CAPACITY = 0.3;
/** Temperature of the cranking rating and the volts it must keep. Source: SAE J537, from memory. */
const CCA_C = -18;
const CCA_V = 7.2;
const SELF_MONTH_H = 30 * 24;

/** A battery bank as the simulation takes it: at 25 °C, after its years. Ohms and volts are the whole bank's. */
export interface Cell extends Omit<Kind, 'innerOhmAh'> {
  chemistry: Chemistry;
  /** bank volts as a multiple of 12 V */
  scale: number;
  capacityAh: number;
  ratedA: number;
  peukert: number;
  ohms: number;
  /** ampere-hours lost per hour standing */
  selfA: number;
  /** rest volts of the bank at 25 °C by charge, empty first: shares and volts of equal length */
  shares: Float64Array;
  volts: Float64Array;
  /** change of the bank's rest volts per °C */
  voltsPerC: number;
}

/**
 * Inner resistance of a 12 V battery at 25 °C from its cranking rating: what falls from full rest volts to 7.2 V at
 * the rated amperes and −18 °C, brought to 25 °C. Source: SAE J537 for the rating; the way to 25 °C from memory.
 */
export function ohmsFromCca(chemistry: Chemistry, cca: number): number {
  const full = ocvOf({ chemistry })[0]![1] + OCV_PER_C[chemistry] * (CCA_C - 25);
  return (full - CCA_V) / cca / Math.exp(KINDS[chemistry].ohmsPerC * (25 - CCA_C));
}

/** Inner resistance of a bank at 25 °C, ohms: its sheet's, or from its cranking rating, or from kind and capacity. */
export function bankOhms(b: Pick<BatteryBank, 'innerOhms' | 'cca' | 'chemistry' | 'capacityAh' | 'count' | 'voltsEach'>): number {
  const scale = (b.count * b.voltsEach) / 12;
  if (b.innerOhms !== undefined) return b.innerOhms;
  return (b.cca ? ohmsFromCca(b.chemistry, b.cca) : KINDS[b.chemistry].innerOhmAh / b.capacityAh) * scale;
}

/**
 * A bank as a cell.
 * @param years age; capacity falls and resistance grows with it
 * @param selfPctPerMonth self-discharge in 30 days, per cent of capacity, taken as steady
 * @throws ImpossibleInput for a battery of no capacity
 */
export function cellOf(
  bank: Omit<BatteryBank, 'name' | 'place' | 'deepCycle'> & { deepCycle?: boolean },
  selfPctPerMonth: number,
  years = 0,
): Cell {
  if (!(bank.capacityAh > 0)) throw new ImpossibleInput('a battery of no capacity holds no charge: give its ampere-hours', 'capacityAh');
  const kind = KINDS[bank.chemistry];
  const scale = (bank.count * bank.voltsEach) / 12;
  const ocv = [...ocvOf(bank)].reverse();
  const capacityAh = bank.capacityAh * Math.max(LEAST_CAPACITY, 1 - AGE_CAPACITY * years);
  return {
    ...kind,
    chemistry: bank.chemistry,
    scale,
    capacityAh,
    ratedA: bank.capacityAh / bank.ratedHours,
    peukert: bank.peukert,
    ohms: bankOhms(bank) * (1 + AGE_OHMS * years),
    selfA: (capacityAh * selfPctPerMonth) / 100 / SELF_MONTH_H,
    shares: Float64Array.from(ocv, ([share]) => share),
    volts: Float64Array.from(ocv, ([, v]) => v * scale),
    voltsPerC: OCV_PER_C[bank.chemistry] * scale,
  };
}

/** A cell at one temperature: all that its current depends on besides charge and volts. */
export interface CellAt {
  capacityAh: number;
  /** charge that the cold locks in, Ah */
  floorAh: number;
  ohms: number;
  /** acceptance, siemens per missing share of charge; 0 where charging is refused */
  accept: number;
  /** false: too cold, its manager has cut it off */
  gives: boolean;
  efficiency: number;
  ratedA: number;
  peukertLess1: number;
  selfA: number;
  /** rest volts of the bank at 25 °C by charge, empty first: shares and volts of equal length; `coldV` is added to them */
  shares: Float64Array;
  volts: Float64Array;
  coldV: number;
}

/** Share of the capacity that can be used at a temperature: straight between the points of its kind, and as the last ones beyond them. */
export const usableShare = ({ usable }: Pick<Cell, 'usable'>, tempC: number): number => along(usable, tempC);

/** Warmer than this nothing more is gained. */
const WARMEST_C = 60;
/** Share of what it takes at 25 °C that a battery takes at a temperature: never more in the cold. */
export const acceptedShare = (c: Pick<Cell, 'halvesPerC' | 'leastChargeC'>, tempC: number): number =>
  tempC < c.leastChargeC ? 0 : c.halvesPerC === null ? 1 : 2 ** ((Math.min(WARMEST_C, tempC) - 25) / c.halvesPerC);

export function cellAt(cell: Cell, tempC: number): CellAt {
  const usable = usableShare(cell, tempC);
  return {
    capacityAh: cell.capacityAh,
    floorAh: cell.capacityAh * (1 - usable),
    ohms: cell.ohms * Math.exp(cell.ohmsPerC * (25 - tempC)),
    accept: (acceptedShare(cell, tempC) * cell.acceptPerH * cell.capacityAh) / (cell.overV * cell.scale),
    gives: tempC >= cell.leastGiveC,
    efficiency: cell.efficiency,
    ratedA: cell.ratedA,
    peukertLess1: cell.peukert - 1,
    selfA: cell.selfA,
    shares: cell.shares,
    volts: cell.volts,
    coldV: cell.voltsPerC * (tempC - 25),
  };
}

/** Share of the usable charge, 0 to 1, of a cell that holds `q` ampere-hours. */
export function shareAt(c: Pick<CellAt, 'floorAh' | 'capacityAh'>, q: number): number {
  const s = (q - c.floorAh) / (c.capacityAh - c.floorAh);
  return s < 0 ? 0 : s > 1 ? 1 : s;
}

/** Charge as a share of the whole capacity, the cold's part in it: what rest volts and acceptance go by. */
export const chargeAt = (c: Pick<CellAt, 'capacityAh'>, q: number): number => (q <= 0 ? 0 : q >= c.capacityAh ? 1 : q / c.capacityAh);

/** Rest volts of the bank at a charge. */
export function restVolts(c: CellAt, share: number): number {
  const { shares, volts } = c;
  let i = 1;
  while (i < shares.length - 1 && share > shares[i]!) i++;
  const s0 = shares[i - 1]!;
  const v0 = volts[i - 1]!;
  return v0 + ((share - s0) / (shares[i]! - s0)) * (volts[i]! - v0) + c.coldV;
}

/** Resistance that a giving battery shows, ohms. */
export const givingOhms = (c: CellAt, share: number): number => c.ohms * (1 + EMPTY_OHMS * (1 - share) * (1 - share));

/** Least missing share that charging sees, so that a full battery's resistance stays a number. */
const LEAST_MISSING = 1e-6;

/** Resistance that a taking battery shows: what it shows when it gives, and what grows as less is missing of its charge. Infinite where charging is refused. */
export const takingOhms = (c: CellAt, charge: number, giving: number): number =>
  c.accept === 0 ? Infinity : giving + 1 / (c.accept * Math.max(LEAST_MISSING, 1 - charge));
