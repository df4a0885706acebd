import type { Source, UnitModel } from '#model/unit-model';

/** Amperes a source gives at an engine speed: straight between the curve's points, flat above the last, none below the first. */
export function sourceAmps(source: Source, rpm: number): number {
  if (source.kind === 'none') return 0;
  const { curve } = source;
  if (rpm < curve[0]![0]) return 0;
  for (let i = 1; i < curve.length; i++) {
    const [r0, a0] = curve[i - 1]!;
    const [r1, a1] = curve[i]!;
    if (rpm <= r1) return a0 + ((rpm - r0) / (r1 - r0)) * (a1 - a0);
  }
  return curve.at(-1)![1];
}

/** Engine speed from which the source gives at least `amps`; null when it never does. */
export function breakEvenRpm(source: Source, amps: number): number | null {
  if (source.kind === 'none') return null;
  const { curve } = source;
  if (curve[0]![1] >= amps) return curve[0]![0];
  for (let i = 1; i < curve.length; i++) {
    const [r0, a0] = curve[i - 1]!;
    const [r1, a1] = curve[i]!;
    if (a1 >= amps) return r0 + ((amps - a0) / (a1 - a0)) * (r1 - r0);
  }
  return null;
}

/** Amperes the unit itself needs at an engine speed: straight between its figures at idle and at working speed, steady beyond. */
export function ownAmps({ source, ownLoads }: UnitModel['electrical'], rpm: number): number {
  if (source.kind === 'none') return 0;
  const t = Math.min(1, Math.max(0, (rpm - source.idleRpm) / (source.workingRpm - source.idleRpm)));
  return ownLoads.reduce((s, l) => s + (l.idleW + (l.workingW - l.idleW) * t) / source.regulatedV, 0);
}
