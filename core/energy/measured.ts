import type { Order } from '#model/order';
import type { Source, UnitModel } from '#model/unit-model';
import { sourceAmps } from './source';

type Engine = Exclude<Source, { kind: 'none' }>;

/** Steps and facts that hold what the source really gave. */
export const CHARGING_STEP = 'prove/charging';
export const SOURCE_FACTS = { idle: 'measured:idle-amps', working: 'measured:working-amps', volts: 'measured:charging-volts' } as const;
/** Volts under the sheet's at which a regulator is no longer taken to be the one that limits. Common practice, no source. */
const SAGGING_V = 0.4;
/** Volts under the regulator's at which the source is taken to give all it has. Common practice, no source. */
const SPENT_V = 0.15;

export interface MeasuredSource {
  source: Engine;
  /** what replaces what, for people */
  says: string[];
}

/**
 * The unit's source with the bench's readings in place of the sheet's figures: amperes at idle and at working speed scale the
 * curve between, volts at the battery with everything carried replace the regulator's.
 * @returns null when nothing was measured
 */
export function measuredSource(order: Pick<Order, 'facts' | 'steps'>, model: UnitModel): MeasuredSource | null {
  const { source } = model.electrical;
  if (source.kind === 'none') return null;
  const readings = order.steps[CHARGING_STEP]?.readings ?? {};
  const fact = (k: string) => (typeof order.facts[k] === 'number' ? (order.facts[k] as number) : null);
  const volts = fact(SOURCE_FACTS.volts) ?? readings.volts?.value ?? null;
  // at the regulator's volts a source gives what is asked, which says only that it can: less than the sheet's is no news then
  const spent = volts === null || volts < source.regulatedV - SPENT_V;
  const counts = (amps: number | null, sheet: number) => (amps !== null && (spent || amps > sheet) ? amps : null);
  const idleA = counts(fact(SOURCE_FACTS.idle) ?? readings.amps?.value ?? null, sourceAmps(source, source.idleRpm));
  const workingA = counts(fact(SOURCE_FACTS.working), sourceAmps(source, source.workingRpm));
  const says: string[] = [];
  let out = source;
  const idleSheet = sourceAmps(source, source.idleRpm);
  const workingSheet = sourceAmps(source, source.workingRpm);
  if ((idleA !== null && idleSheet > 0) || (workingA !== null && workingSheet > 0)) {
    const low = idleA === null ? workingA! / workingSheet : idleA / idleSheet;
    const high = workingA === null ? low : workingA / workingSheet;
    const factor = (rpm: number) => {
      const t = Math.min(1, Math.max(0, (rpm - source.idleRpm) / (source.workingRpm - source.idleRpm)));
      return low + (high - low) * t;
    };
    const rpms = [...new Set([...source.curve.map((c) => c[0]), source.idleRpm, source.workingRpm])].sort((a, b) => a - b);
    let top = 0;
    out = { ...out, curve: rpms.map((rpm) => [rpm, (top = Math.max(top, sourceAmps(source, rpm) * factor(rpm)))]) };
    if (idleA !== null) says.push(`${idleA} A at ${source.idleRpm} rpm measured, ${Number(idleSheet.toFixed(1))} A on the sheet`);
    if (workingA !== null)
      says.push(`${workingA} A at ${source.workingRpm} rpm measured, ${Number(workingSheet.toFixed(1))} A on the sheet`);
  }
  // under the regulator's volts the reading says that the source is spent, not where it regulates
  if (volts !== null && volts > source.regulatedV - SAGGING_V && volts < source.regulatedV + SAGGING_V && volts !== source.regulatedV) {
    out = { ...out, regulatedV: volts };
    says.push(`regulates at ${volts} V measured, ${source.regulatedV} V on the sheet`);
  }
  return says.length ? { source: out, says } : null;
}
