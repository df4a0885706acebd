import type { OverrideField } from '#model/override';
import type { Joint } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import { round } from '../sum';
import { wireAmpacity } from '../wire/choose';
import { jointProblem } from './joint';
import type { PlannedCircuit } from './wiring';

/**
 * Why a change by hand could hurt somebody, in words; null when it cannot. Such a change is only for a lead, with a reason.
 * The value must already be possible for its field.
 */
export function unsafeOverride(c: PlannedCircuit, field: OverrideField, value: number | string, model: UnitModel): string | null {
  switch (field) {
    case 'fuseA':
      return c.ampacityA !== null && Number(value) > c.ampacityA
        ? `a ${value} A fuse is above the ${round(c.ampacityA)} A that the wire may carry`
        : null;
    case 'awg': {
      const carries = wireAmpacity(Number(value));
      return c.fuseA !== null && c.fuseA > carries
        ? `the ${c.fuseA} A fuse is above the ${round(carries)} A that this wire may carry`
        : null;
    }
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
