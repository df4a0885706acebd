import { along } from './table';
import type { Source, UnitModel } from '#model/unit-model';

/** Amperes a source gives at an engine speed: straight between the curve's points, flat above the last, none below the first. */
export function sourceAmps(source: Source, rpm: number): number {
  if (source.kind === 'none') return 0;
  return rpm < source.curve[0]![0] ? 0 : along(source.curve, rpm);
}

/** What is needed of a unit to know its source and its own needs. */
type Supply = { source: Source; ownLoads: readonly Pick<UnitModel['electrical']['ownLoads'][number], 'idleW' | 'workingW'>[] };

/** Amperes the unit itself needs at an engine speed: straight between its figures at idle and at working speed, steady beyond. */
export function ownAmps({ source, ownLoads }: Supply, rpm: number): number {
  if (source.kind === 'none') return 0;
  const t = Math.min(1, Math.max(0, (rpm - source.idleRpm) / (source.workingRpm - source.idleRpm)));
  return ownLoads.reduce((s, l) => s + (l.idleW + (l.workingW - l.idleW) * t) / source.regulatedV, 0);
}

/** Engine speed from which the source carries the unit's own needs at that speed and `addedA` more; null when it never does. */
export function carriesFromRpm(electrical: Supply, addedA: number): number | null {
  const { source } = electrical;
  if (source.kind === 'none') return null;
  const { curve, idleRpm, workingRpm } = source;
  // between these speeds both source and needs run straight
  const speeds = [...new Set([idleRpm, workingRpm, ...curve.map(([rpm]) => rpm)])].filter((r) => r >= curve[0]![0]).sort((a, b) => a - b);
  const spare = (rpm: number) => sourceAmps(source, rpm) - ownAmps(electrical, rpm) - addedA;
  for (const [i, rpm] of speeds.entries()) {
    const here = spare(rpm);
    if (here < 0) continue;
    if (i === 0) return rpm;
    const before = spare(speeds[i - 1]!);
    return speeds[i - 1]! + (before / (before - here)) * (rpm - speeds[i - 1]!);
  }
  return null;
}
