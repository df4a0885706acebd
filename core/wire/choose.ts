import { ImpossibleInput } from '../errors';
import { AMPACITY, BUNDLING, GAUGES, NEWTONS_PER_LBF, TENSILE_LBF } from './tables';
import { awgName, wireResistance } from './resistance';

/**
 * Allowable amperes of a wire. Source: ABYC E-11, 105 °C insulation, under 50 V.
 * @param bundled current-carrying wires in the same bundle; one or two need no factor
 * @throws ImpossibleInput for a gauge that the table does not list
 */
export function wireAmpacity(awg: number, engineSpace = false, bundled = 1): number {
  const row = AMPACITY[awg];
  if (!row)
    throw new ImpossibleInput(`no allowable amperes are published for ${awgName(awg)} AWG: use ${GAUGES.map(awgName).join(', ')}`, 'awg');
  const factor = BUNDLING.find(([n]) => bundled >= n)![1];
  return row[engineSpace ? 1 : 0] * factor;
}

/** Volts lost there and back over `oneWayM` metres of a pair at `amps`. */
export const pairDropV = (awg: number, amps: number, oneWayM: number, tempC = 20): number =>
  amps * wireResistance(awg, 2 * oneWayM, tempC).ohms;

export interface ChooseWire {
  amps: number;
  oneWayM: number;
  systemV: number;
  maxDropPct: number;
  engineSpace?: boolean;
  bundled?: number;
  conductorTempC?: number;
  /** the thinnest gauge to consider */
  awgMin?: number;
}
export interface ChosenWire {
  awg: number;
  dropV: number;
  dropPct: number;
  ampacityA: number;
  limitedBy: 'drop' | 'ampacity' | 'smallest';
}

/**
 * The thinnest stocked gauge that carries the amperes and stays within the allowed drop there and back.
 * `limitedBy` says what ruled out the next thinner one: the drop, the allowable amperes, or nothing but `awgMin`.
 * Sources: ABYC E-11 (amperes, allowed drop), ASTM B258 and IEC 60028 (resistance).
 * @throws ImpossibleInput when even the thickest stocked gauge will not do, saying which limit it misses
 */
export function chooseWire(q: ChooseWire): ChosenWire {
  const { amps, oneWayM, systemV, maxDropPct, engineSpace = false, bundled = 1, conductorTempC = 20, awgMin = 18 } = q;
  let limitedBy: ChosenWire['limitedBy'] = 'smallest';
  for (const awg of GAUGES) {
    if (awg > awgMin) continue;
    const ampacityA = wireAmpacity(awg, engineSpace, bundled);
    const dropV = pairDropV(awg, amps, oneWayM, conductorTempC);
    const dropPct = (dropV / systemV) * 100;
    if (ampacityA < amps) limitedBy = 'ampacity';
    else if (dropPct > maxDropPct) limitedBy = 'drop';
    else return { awg, dropV, dropPct, ampacityA, limitedBy };
  }
  const what = limitedBy === 'ampacity' ? `carries ${amps} A` : `keeps the drop under ${maxDropPct} % over ${oneWayM} m each way`;
  throw new ImpossibleInput(`no stocked gauge up to 2/0 ${what}`, limitedBy === 'ampacity' ? 'amps' : 'oneWayM');
}

/** The pull a crimp on this gauge must hold for a minute. Source: ABYC E-11 tensile test. */
export function crimpPull(awg: number): { newtons: number; lbf: number } {
  const lbf = TENSILE_LBF[awg];
  if (lbf === undefined) throw new ImpossibleInput(`no test pull is published for ${awgName(awg)} AWG`, 'awg');
  return { newtons: lbf * NEWTONS_PER_LBF, lbf };
}
