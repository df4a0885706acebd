import { describe, expect, it } from 'vitest';
import { DEFINITIONS } from '../events/registry';
import type { Asker } from '#model/person';
import { may, whoMay, type Action } from './permissions';

const ROLES: Asker[] = ['installer', 'desk', 'lead', 'owner', 'client'];

/** Who may do what, written out once more by hand: a slip in the table shows as a difference. */
const EXPECTED: Record<string, string> = {
  'order.open': 'installer desk lead owner',
  'arrive.changed': 'installer desk lead owner',
  'fitted.added': 'installer desk lead owner',
  'fitted.removed': 'installer desk lead owner',
  'kit.added': 'installer desk lead owner',
  'kit.removed': 'installer desk lead owner',
  'job.added': 'installer desk lead owner',
  'job.removed': 'installer desk lead owner',
  'own.changed': 'installer lead owner',
  'device.leftOut': 'installer lead owner',
  'device.putBack': 'installer lead owner',
  'switch.swapped': 'installer lead owner',
  'switch.restored': 'installer lead owner',
  'way.added': 'installer desk lead owner',
  'way.removed': 'installer desk lead owner',
  'place.added': 'installer desk lead owner',
  'place.removed': 'installer desk lead owner',
  'box.counted': 'installer desk lead owner',
  'variant.chosen': 'installer desk lead owner',
  'device.placed': 'installer desk lead owner',
  'fact.told': 'installer desk lead owner',
  'model.renewed': 'installer desk lead owner',
  'value.taken': 'installer desk lead owner',
  'value.dropped': 'installer desk lead owner',
  'day.described': 'installer desk lead owner',
  'day.dropped': 'installer desk lead owner',
  'lot.recorded': 'installer desk lead owner',
  'lot.dropped': 'installer desk lead owner',
  'power.changed': 'installer desk lead owner',
  'power.restored': 'installer desk lead owner',
  'packs.chosen': 'installer desk lead owner',
  'lamp.placed': 'installer desk lead owner',
  'lamp.freed': 'installer desk lead owner',
  'lamp.added': 'installer desk lead owner',
  'lamp.dropped': 'installer desk lead owner',
  'wire.overridden': 'installer lead owner',
  'wire.override-cleared': 'installer lead owner',
  'probe.taken': 'installer lead owner',
  'fault.mended': 'installer lead owner',
  'photo.taken': 'installer desk lead owner',
  'step.given': 'installer lead owner',
  'finding.judged': 'installer lead owner',
  'time.corrected': 'installer lead owner',
  'fasteners.counted': 'installer lead owner',
  'fasteners.excused': 'installer lead owner',
  'plan.chosen': 'installer lead owner',
  'plan.pinned': 'installer lead owner',
  'plan.freed': 'installer lead owner',
  'bench.assigned': 'installer desk lead owner',
  'step.started': 'installer lead owner',
  'timer.stopped': 'installer lead owner',
  'step.done': 'installer lead owner',
  'step.skipped': 'installer lead owner',
  'step.reopened': 'installer lead owner',
  'reading.taken': 'installer lead owner',
  'finding.added': 'installer desk lead owner',
  'proof.overridden': 'lead owner',
  'handover.signed': 'installer desk lead owner',
  'order.sealed': 'installer desk lead owner',
  'action.undone': 'installer desk lead owner',
  'order.cancelled': 'installer desk lead owner',
  'order.reopened': 'installer desk lead owner',
  'addition.made': 'installer desk lead owner',
  'calc.kept': 'installer desk lead owner',
  'quote.made': 'installer desk lead owner',
  'quote.withdrawn': 'installer desk lead owner',
  'quote.agreed': 'installer desk lead owner client',
  'quote.declined': 'installer desk lead owner client',
  'extra.asked': 'installer desk lead owner',
  'extra.answered': 'installer desk lead owner client',
  'extra.withdrawn': 'installer desk lead owner',
  'bill.made': 'desk lead owner',
  'bill.marked': 'desk lead owner',
  'question.asked': 'installer desk lead owner client',
  'question.answered': 'installer desk lead owner',
  'shelf.count': 'installer desk lead owner',
  'sheets.import': 'lead owner',
  'settings.change': 'lead owner',
  'people.change': 'owner',
};

describe('permissions', () => {
  it.each(Object.entries(EXPECTED))('%s is for %s', (action, roles) => {
    expect(ROLES.filter((r) => may(r, action as Action)).join(' ')).toBe(roles);
  });
  it('every command has its line', () => {
    for (const d of DEFINITIONS) if (d.command) expect(Object.keys(EXPECTED)).toContain(d.type);
  });
  it('says who may in words', () => {
    expect(whoMay('people.change')).toBe('This is for the owner.');
    expect(whoMay('proof.overridden')).toBe('This is for a lead or the owner.');
  });
});
