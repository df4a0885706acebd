import type { OverrideField } from '#model/override';
import type { Joint } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import { allowable } from '../wire-rules/allowable';
import { guards, type GuardSettings } from '../wire-rules/guards';
import { jointProblem } from './joint';
import type { PlannedCircuit } from './wiring';

/**
 * Why a change by hand could hurt somebody, in words; null when it cannot. Such a change is only for a lead, with a reason.
 * The value must already be possible for its field.
 */
export function unsafeOverride(
  c: PlannedCircuit,
  field: OverrideField,
  value: number | string,
  model: UnitModel,
  settings: GuardSettings,
): string | null {
  const danger = (of: PlannedCircuit, fuseA: number | null, allowableA: number | null) =>
    guards({ continuousA: of.load.continuousA, fuseA, makerMaxA: of.circuit.fuseMaxA }, allowableA, settings).find((g) => g.unsafe)?.says ??
    null;
  switch (field) {
    case 'fuseA':
      return danger(c, Number(value), c.ampacityA);
    case 'awg':
      // where it lies, not on a bench
      return danger(c, c.fuseA, allowable({ awg: Number(value) }, { hot: c.hot }));
    case 'mode':
      return value === 'direct' && c.circuit.relay === 'required' ? 'the kit’s maker calls for a relay' : null;
    case 'feed': {
      const candidate = c.candidates.find((k) => k.point.id === value);
      return candidate && !candidate.accepted ? candidate.reason : null;
    }
    case 'joint':
      return jointProblem(model, c.feed?.place, value as Joint, c.load.continuousA);
    case 'lengthM':
    case 'route':
      return null;
  }
}
