import type { Conductor, Insulation } from '#model/parts';
import { ImpossibleInput } from '../errors';
import { awgName, wireResistance } from '../wire/resistance';
import { AMPERES, BUNDLING, ENGINE_105, ENGINE_SPACE, SAE_MM2, SAE_SHARE, TABLE_GAUGES, THIN, USUAL_INSULATION } from './tables';

/** A wire by what says how much it may carry; what is left out is as usual: 105 °C insulation, an AWG conductor. */
export interface WireKind {
  awg: number;
  insulationC?: Insulation | undefined;
  standard?: Conductor | undefined;
}
/** Where it lies. `hot`: in an engine space, or along something hot; `bundled`: current-carrying wires that really lie together, itself among them. */
export interface Surroundings {
  hot?: boolean;
  bundled?: number;
}

/** The factor for so many current-carrying wires together. Source: ABYC E-11. */
export const bundlingFactor = (bundled: number): number => BUNDLING.find(([n]) => bundled >= n)?.[1] ?? 1;

/** Copper of a conductor against the AWG one of its number. Source: SAE J1128. */
export function copperShare({ awg, standard = 'awg' }: WireKind): number {
  if (standard === 'awg') return 1;
  const mm2 = SAE_MM2[awg];
  return mm2 === undefined ? SAE_SHARE : Math.min(1, mm2 / wireResistance(awg, 1).areaMm2);
}

/**
 * The amperes that a wire may carry where it lies: the one place where that is answered. Sources: ABYC E-11 for 18 AWG and
 * thicker, a handbook's chassis table for thinner ones; the SAE conductor by its share of copper.
 * @throws ImpossibleInput for a gauge that no table lists, or a number of wires that cannot be
 */
export function allowable(wire: WireKind, { hot = false, bundled = 1 }: Surroundings = {}): number {
  const { awg, insulationC = USUAL_INSULATION } = wire;
  if (!(bundled >= 1)) throw new ImpossibleInput('a bundle holds the wire itself at least', 'bundled');
  const factor = bundlingFactor(bundled) * copperShare(wire);
  const at = TABLE_GAUGES.indexOf(awg as (typeof TABLE_GAUGES)[number]);
  if (at >= 0) {
    if (!hot) return AMPERES[insulationC][at]! * factor;
    return (insulationC === USUAL_INSULATION ? ENGINE_105[at]! : AMPERES[insulationC][at]! * ENGINE_SPACE[insulationC]) * factor;
  }
  const thin = THIN[awg];
  if (thin === undefined)
    throw new ImpossibleInput(
      `no allowable amperes are published for ${awgName(awg)} AWG: use ${[...Object.keys(THIN).reverse(), ...TABLE_GAUGES.map(awgName)].join(', ')}`,
      'awg',
    );
  // poorer insulation carries as much less as it does at 18 AWG
  const poorer = AMPERES[insulationC][0]! / AMPERES[USUAL_INSULATION][0]!;
  return thin * Math.min(1, poorer) * (hot ? ENGINE_SPACE[insulationC] : 1) * factor;
}
