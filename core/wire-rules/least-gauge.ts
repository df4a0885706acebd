import type { UnitKind } from '#model/common';

/** The thinnest gauges on boats. Source: ABYC E-11, from memory: 16, or 18 inside a sheathed bundle, on panels, and where it hangs out at most 30 in. */
export const LEAST_ON_BOATS = { plain: 16, sheathedOrShort: 18, shortM: 30 * 0.0254 } as const;

/** The thinnest gauge that a unit of this kind may have for a length one way, metres; null where no rule sets one. */
export function leastGauge(kind: UnitKind, lengthM: number | null): number | null {
  if (kind !== 'boat') return null;
  return lengthM !== null && lengthM <= LEAST_ON_BOATS.shortM ? LEAST_ON_BOATS.sheathedOrShort : LEAST_ON_BOATS.plain;
}
