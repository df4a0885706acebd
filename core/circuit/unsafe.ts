import type { OverrideField } from '#model/override';
import type { Joint } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import { allowable } from '../wire-rules/allowable';
import { contactorFor } from '../wire-rules/contacts';
import { noFuse } from './size';
import { guards } from '../wire-rules/guards';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import { round } from '../sum';
import { jointProblem } from './joint';
import { planWiring } from '../wiring/plan';
import { type PlannedCircuit, type Wiring } from '../wiring/planned';

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

/** A change that a hand makes to a circuit. */
export interface HandChange {
  circuit: string;
  field: OverrideField;
  value: number | string;
}
/** Fields whose change is judged where the circuit stands; others move it, and what lies around it with it. */
const WHERE_IT_STANDS: readonly OverrideField[] = ['awg', 'fuseA', 'joint'];

/**
 * Why a change by hand could hurt somebody, there or anywhere else, in words: a way past hot parts, a feed whose wire is too thin, a
 * bundle that others lie in too are judged by planning with the change. Null where nothing is unsafe that was not before.
 */
export function dangerOf(
  change: HandChange,
  order: Order,
  { wiring, sheets }: { wiring: Wiring; sheets: Sheets },
  settings: Settings,
): string | null {
  const { circuit, field, value } = change;
  const c = wiring.circuits.find((x) => x.id === circuit);
  if (!c) return null;
  const own = unsafeOverride(c, field, value, sheets.model, settings);
  if (own !== null || WHERE_IT_STANDS.includes(field)) return own;
  const others = order.overrides.filter((o) => o.circuit !== circuit || o.field !== field);
  const then = planWiring({ ...order, overrides: [...others, { circuit, field, value, reason: '', at: '', by: '' }] }, sheets, settings);
  const before = new Map(wiring.circuits.map((x) => [x.id, x.unsafe]));
  return then.circuits.find((x) => x.unsafe !== null && !before.get(x.id))?.unsafe ?? null;
}
