import type { Sheets } from '#model/sheet';
import { ownFuse } from '../circuit/flows';
import type { EndWork } from '../wiring/box-work';
import { takenOff } from '../wiring/chosen';
import { cutSides } from '../wiring/factory-cuts';
import type { Wiring } from '../wiring/planned';
import { cutStepOf } from './find-steps';
import { isMounted } from './kit-steps';
import { LAST_RUN, TIE_STEP, tieSteps } from './last-steps';
import type { PlannedStep } from './planned';
import { wireStepOf } from './used';
import { isLead, layStepOf } from './wire-steps';

/** Something of an order that no step of its plan sees to. */
export interface Uncovered {
  kit: string | null;
  /** what it is, by name */
  what: string;
  /** what nobody does with it */
  lacks: string;
}

/**
 * What a plan leaves out: every device is mounted, every harness laid, every end, wire and fuse seen to, what comes off is
 * taken off and what is cut is cut, every fastener with a torque and every pad has its step, every circuit that draws is
 * proved, and every panel that comes off goes back on. Empty: the plan is whole.
 * @param unit the unit as it came, with what its kits take off
 */
export function uncovered(
  steps: readonly PlannedStep[],
  { kits, model }: Pick<Sheets, 'kits' | 'model'>,
  unit: Sheets['model'],
  wiring: Wiring,
  ends: readonly EndWork[],
): Uncovered[] {
  const ids = new Set(steps.map((s) => s.id));
  const out: Uncovered[] = [];
  const lack = (covered: boolean, kit: string | null, what: string, lacks: string) => {
    if (!covered) out.push({ kit, what, lacks });
  };
  for (const kit of kits) {
    // what its sheet has and the plan still holds
    const kept = kit.steps.filter((s) => ids.has(`${kit.id}/${s.id}`));
    for (const d of kit.devices)
      if (!d.uses) lack(isMounted(kit, d, kept) || ids.has(`mount/${kit.id}/${d.id}`), kit.id, d.name, 'is mounted by no step');
    for (const t of takenOff(kit, unit)) lack(ids.has(`take/${kit.id}/${t.id}`), kit.id, t.name, 'is taken off by no step');
    for (const c of cutSides(kits, model).filter((x) => x.kit.id === kit.id))
      lack(ids.has(cutStepOf(kit, c.id)), kit.id, `${c.wire.name}, ${c.wire.colour}`, 'is cut by no step');
    const used = new Set(kept.flatMap((s) => s.uses));
    for (const c of kit.contents) {
      if (c.fastener?.torqueNm !== undefined) lack(!!c.id && used.has(c.id), kit.id, c.item, 'is tightened by no step');
      if (c.pad) lack(!!c.id && used.has(c.id), kit.id, c.item, 'is stuck by no step');
    }
  }
  for (const box of wiring.boxes) {
    if (!box.laid) continue;
    const own = ends.filter((e) => e.kit.id === box.kit && e.of.harness === box.harness.id);
    const laid = ids.has(layStepOf(box.kit, box.harness.id));
    // a single lead is laid as it is joined
    const joined = own.some((e) => e.circuits.some((c) => ids.has(wireStepOf(c))));
    lack(laid || (isLead(box) && joined), box.kit, box.harness.name, 'is laid by no step');
    for (const e of own)
      lack(
        e.circuits.length ? ids.has(wireStepOf(e.circuits[0]!)) : laid,
        box.kit,
        `${box.harness.name}, ${e.name}`,
        'is seen to by no step',
      );
  }
  const nameOf = (circuit: string) => wiring.circuits.find((c) => c.id === circuit)?.circuit.name ?? circuit;
  for (const e of wiring.harness.elements) {
    if (e.of !== null || (e.kind !== 'wire' && e.kind !== 'fuse') || e.box) continue;
    const own = e.kind === 'wire' || (e.circuit !== null && e.id === ownFuse(e.circuit));
    if (own && e.circuit !== null) lack(ids.has(wireStepOf(e.circuit)), null, `${e.name} of ${nameOf(e.circuit)}`, 'is joined by no step');
    else if (own) lack(false, null, e.name, 'is joined by no step');
  }
  for (const c of wiring.circuits) {
    const draws = c.circuit.devices.some((d) => c.kit.devices.find((x) => x.id === d)?.load);
    const proofs = steps.filter((s) => s.stage === 'prove' && (s.circuit === c.id || (s.circuit === null && s.kit === c.kit.id)));
    if (draws) lack(proofs.length > 0, c.kit.id, c.circuit.name, 'is proved by no step');
  }
  if (tieSteps(wiring, model).length) lack(ids.has(TIE_STEP), null, 'What was laid', 'is tied down by no step');
  if (steps.some((s) => s.stage === 'prove' && s.circuit !== null))
    lack(ids.has(LAST_RUN), null, 'What was fitted', 'is tried by no step once all is closed');
  for (const s of steps)
    for (const before of s.after) lack(ids.has(before), s.kit, `What “${s.title}” needs`, 'is found, cut or laid by no step');
  for (const p of model.panels) {
    const times = (stage: PlannedStep['stage']) => steps.filter((s) => s.panel?.id === p.id && s.stage === stage).length;
    lack(
      times('open') === times('close'),
      null,
      p.name,
      times('open') > times('close') ? 'goes back on by no step' : 'comes off by no step',
    );
  }
  return out;
}

/** What is left out, in one sentence; empty when nothing is. */
export const sayUncovered = (list: readonly Uncovered[]): string => list.map((u) => `${u.what} ${u.lacks}`).join('; ');
