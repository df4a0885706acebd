import { ImpossibleInput } from '../errors';
import { Z90 } from '../random';

/** Minutes that are likely: under p10 one time in ten, over p90 one in ten. */
export interface Band {
  p10: number;
  p50: number;
  p90: number;
}

/** Minutes at z standard deviations: log-normal on either side of the middle, so that all three figures are met. */
export function atZ({ p10, p50, p90 }: Band, z: number): number {
  if (!p50) return 0;
  return p50 * (z < 0 ? p10 / p50 : p90 / p50) ** (Math.abs(z) / Z90);
}

/** @throws ImpossibleInput where the figures are not in order */
export function checkBand({ p10, p50, p90 }: Band, path: string): void {
  if (!(p10 >= 0 && p10 <= p50 && p50 <= p90)) throw new ImpossibleInput(`p10, p50 and p90 must not fall: ${p10}, ${p50}, ${p90}`, path);
  if (p10 === 0 && p50 > 0) throw new ImpossibleInput('work that may take no time at all has no band: p10 is above zero', path);
}
