import type { PowerPoint, UnitModel } from '#model/unit-model';
import { CHARGING_FACTOR } from './fuse-volts';

/** A reducer or a manager holds its output; some regulate up to this of 12 V. Common practice, no source. */
const HELD_12 = 13.9;

/** The highest volts of a whole unit: of its regulator, its charger at the wall, or of its pack as charging usually lifts it. */
export function highestSystemVolts({ electrical: e }: Pick<UnitModel, 'electrical'>): number {
  const told = [e.source.kind === 'none' ? 0 : e.source.regulatedV, e.wall?.volts ?? 0];
  // no chemistry is charged under its nominal volts: a sheet that says so means something else
  return Math.max(...told, e.systemV * CHARGING_FACTOR);
}

/** The highest volts at a power point: charging, not nominal. */
export function highestVolts(model: Pick<UnitModel, 'electrical'>, point: Pick<PowerPoint, 'kind' | 'volts'>): number {
  if (point.kind === 'reducer-output') return (point.volts / 12) * HELD_12;
  return highestSystemVolts(model) * (point.volts / model.electrical.systemV);
}
