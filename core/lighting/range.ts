/** Threshold illuminance at the eye, lux, and sea miles' constant. Source: 33 CFR 84 (Annex I), from memory: to be confirmed against a copy. */
const THRESHOLD_LX = 2e-7;
const SEA_MILE_FACTOR = 3.43e6;

/**
 * Candela a light needs to be seen at a range. Source: 33 CFR 84, I = 3.43e6 · T · D² · K^−D.
 * @param rangeNm nautical miles
 * @param transmissivity of the air per nautical mile, 0.8 in the rules
 */
export const intensityForRange = (rangeNm: number, transmissivity = 0.8): number =>
  SEA_MILE_FACTOR * THRESHOLD_LX * rangeNm ** 2 * transmissivity ** -rangeNm;

/** Range in nautical miles of a light of so many candela: the inverse of `intensityForRange`, by bisection to 1e-12 relative. */
export function rangeOfIntensity(candela: number, transmissivity = 0.8): number {
  let lo = 0;
  let hi = 1;
  while (intensityForRange(hi, transmissivity) < candela) hi *= 2;
  while (hi - lo > 1e-12 * hi) {
    const mid = (lo + hi) / 2;
    if (mid === lo || mid === hi) break;
    if (intensityForRange(mid, transmissivity) < candela) lo = mid;
    else hi = mid;
  }
  return (lo + hi) / 2;
}
