import type { HarnessWire } from '#model/harness';
import { copperShare } from '../wire-rules/allowable';
import { wireResistance } from './resistance';

/** What a sound crimp, plug or ring at a wire's end loses, as metres of that wire. Common practice, no source. */
export const END_AS_M = 0.04;

/** Resistance of a wire as it lies, ohms: its length (a metre where nobody knows it) with both ends, its conductor, as warm as its run is. */
export function wireOhms(w: HarnessWire, awg = 18): number {
  const kind = { awg: w.awg ?? awg, standard: w.standard };
  return wireResistance(kind.awg, (w.lengthM ?? 1) + 2 * END_AS_M, w.tempC).ohms / copperShare(kind);
}
