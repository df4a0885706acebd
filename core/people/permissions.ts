import type { OrderCommand } from '#model/event';
import type { Role } from '#model/person';

export type Action = OrderCommand['type'] | 'order.open' | 'sheets.import' | 'settings.change' | 'people.change';

const BENCH: Role[] = ['installer', 'lead', 'owner'];
const ALL: Role[] = ['installer', 'desk', 'lead', 'owner'];

/** The one place that says which role may do what. */
const MAY: Record<Action, Role[]> = {
  'order.open': ALL,
  'arrive.changed': ALL,
  'fitted.added': ALL,
  'fitted.removed': ALL,
  'kit.added': ALL,
  'kit.removed': ALL,
  'box.counted': ALL,
  'fact.told': ALL,
  'day.described': ALL,
  'day.dropped': ALL,
  'power.changed': ALL,
  'power.restored': ALL,
  'packs.chosen': ALL,
  'lamp.placed': ALL,
  'lamp.freed': ALL,
  'lamp.added': ALL,
  'lamp.dropped': ALL,
  'wire.overridden': BENCH,
  'wire.override-cleared': BENCH,
  'finding.judged': BENCH,
  'time.corrected': BENCH,
  'fasteners.counted': BENCH,
  'fasteners.excused': BENCH,
  'plan.chosen': BENCH,
  'plan.pinned': BENCH,
  'plan.freed': BENCH,
  'bench.assigned': ALL,
  'step.started': BENCH,
  'timer.stopped': BENCH,
  'step.done': BENCH,
  'step.skipped': BENCH,
  'step.reopened': BENCH,
  'reading.taken': BENCH,
  'probe.taken': BENCH,
  'fault.mended': BENCH,
  'photo.taken': ALL,
  'step.given': BENCH,
  'finding.added': ALL,
  'proof.overridden': ['lead', 'owner'],
  'handover.signed': ALL,
  'order.sealed': ALL,
  'addition.made': ALL,
  'calc.kept': ALL,
  'sheets.import': ['lead', 'owner'],
  'settings.change': ['lead', 'owner'],
  'people.change': ['owner'],
};

const WORDS: Record<Role, string> = { installer: 'an installer', desk: 'the front desk', lead: 'a lead', owner: 'the owner' };

export const may = (role: Role, action: Action): boolean => MAY[action].includes(role);

/** Says who may, for the person who may not. */
export const whoMay = (action: Action): string => `This is for ${MAY[action].map((r) => WORDS[r]).join(' or ')}.`;
