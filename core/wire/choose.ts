import type { Conductor, Insulation } from '#model/parts';
import { ImpossibleInput } from '../errors';
import { allowable, copperShare } from '../wire-rules/allowable';

import { GAUGES, NEWTONS_PER_LBF, TENSILE_LBF, THIN_LBF } from './tables';
import { awgName, wireResistance } from './resistance';

/** Volts lost there and back over `oneWayM` metres of a pair at `amps`. */
export const pairDropV = (awg: number, amps: number, oneWayM: number, tempC = 20): number =>
  amps * wireResistance(awg, 2 * oneWayM, tempC).ohms;

/** ABYC E-11 speaks of direct-current systems under this. */
const TABLE_ENDS_V = 50;

export interface ChooseWire {
  amps: number;
  oneWayM: number;
  systemV: number;
  maxDropPct: number;
  engineSpace?: boolean;
  bundled?: number;
  conductorTempC?: number;
  insulationC?: Insulation;
  standard?: Conductor;
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
  const {
    amps,
    oneWayM,
    systemV,
    maxDropPct,
    engineSpace = false,
    bundled = 1,
    conductorTempC = 20,
    awgMin = 18,
    insulationC,
    standard,
  } = q;
  if (systemV >= TABLE_ENDS_V)
    throw new ImpossibleInput(
      `the table of allowable amperes is for systems under ${TABLE_ENDS_V} V: at ${systemV} V a licensed person sizes the wire by the code for it`,
      'systemV',
    );
  let limitedBy: ChosenWire['limitedBy'] = 'smallest';
  for (const awg of GAUGES) {
    if (awg > awgMin) continue;
    const kind = { awg, ...(insulationC && { insulationC }), ...(standard && { standard }) };
    const ampacityA = allowable(kind, { hot: engineSpace, bundled });
    const dropV = pairDropV(awg, amps, oneWayM, conductorTempC) / copperShare(kind);
    const dropPct = (dropV / systemV) * 100;
    if (ampacityA < amps) limitedBy = 'ampacity';
    else if (dropPct > maxDropPct) limitedBy = 'drop';
    else return { awg, dropV, dropPct, ampacityA, limitedBy };
  }
  const what = limitedBy === 'ampacity' ? `carries ${amps} A` : `keeps the drop under ${maxDropPct} % over ${oneWayM} m each way`;
  throw new ImpossibleInput(`no stocked gauge up to 2/0 ${what}`, limitedBy === 'ampacity' ? 'amps' : 'oneWayM');
}

/** The pull a crimp on this gauge must hold for a minute. Sources: ABYC E-11 tensile test; UL 486A for gauges thinner than its. */
export function crimpPull(awg: number): { newtons: number; lbf: number } {
  const lbf = TENSILE_LBF[awg] ?? THIN_LBF[awg];
  if (lbf === undefined) throw new ImpossibleInput(`no test pull is published for ${awgName(awg)} AWG`, 'awg');
  return { newtons: lbf * NEWTONS_PER_LBF, lbf };
}
