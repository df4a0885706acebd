import type { OverrideField } from '#model/override';
import type { Joint } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import { allowable } from '../wire-rules/allowable';
import { contactorFor } from '../wire-rules/contacts';
import { noFuse } from './size';
import { guards } from '../wire-rules/guards';
import type { Settings } from '#model/settings';
import { round } from '../sum';
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
  settings: Pick<Settings, 'fuse150' | 'wireInsulationC' | 'wireStandard'>,
): string | null {
  const danger = (of: PlannedCircuit, fuseA: number | null, allowableA: number | null) =>
    guards({ continuousA: of.load.continuousA, heatsA: of.load.heatsA, fuseA, makerMaxA: of.circuit.fuseMaxA }, allowableA, settings).find(
      (g) => g.unsafe,
    )?.says ?? null;
  switch (field) {
    case 'fuseA':
      return danger(c, Number(value), c.ampacityA) ?? noFuse(Number(value), c.highestV);
    case 'awg':
      // where it lies, not on a bench
      return danger(
        c,
        c.fuseA,
        allowable({ awg: Number(value), insulationC: settings.wireInsulationC, standard: settings.wireStandard }, c.around),
      );
    case 'mode':
      if (value === 'relay' && !c.circuit.makes && !contactorFor(c.load.peakA ?? 0, c.highestV))
        return `no relay or contactor here switches ${round(c.load.peakA ?? 0)} A at ${round(c.highestV)} V`;
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
