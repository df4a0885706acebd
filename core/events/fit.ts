import { z } from 'zod';
import { Slug, words } from '#model/common';
import { SheetRef } from '#model/sheet';
import { stepState } from '../order/assess';
import { ALL, event, ForTheRecord, Refused } from './definition';

const item = z.number().int().min(0).max(1000);
const count = z.number().int().min(0).max(999);

export const fitEvents = [
  event({
    type: 'kit.added',
    may: ALL,
    records: { kit: SheetRef, name: words(80) },
    asks: { kit: Slug },
    decide: (command, order, c) => {
      // the newest sheet is the record's to name
      if (!c.known.kit) throw new ForTheRecord('the newest sheet of a kit');
      const found = c.known.kit(command.kit);
      if (!found) throw new Refused(`There is no kit “${command.kit}” in the sheets.`, 'input', 'kit');
      if (order.kits.some((k) => k.kit.id === command.kit)) throw new Refused(`${found.kit.name} is already chosen.`);
      return { type: 'kit.added', kit: found.ref, name: found.kit.name };
    },
    apply: (order, { kit }) => ({ ...order, kits: [...order.kits.filter((k) => k.kit.id !== kit.id), { kit, box: {} }] }),
    touches: (c) => [`kit.${typeof c.kit === 'string' ? c.kit : c.kit.id}`],
    says: (e) => `Kit chosen: ${e.name} (sheet revision ${e.kit.revision})`,
  }),
  event({
    type: 'kit.removed',
    may: ALL,
    records: { kit: Slug },
    decide: (command, order, c) => {
      if (!order.kits.some((k) => k.kit.id === command.kit)) throw new Refused('That kit is not on this order.', 'input', 'kit');
      const begun = c.assessment.steps.find((s) => s.kit === command.kit && stepState(order, s.id).status === 'done');
      if (begun) throw new Refused(`“${begun.title}” is already done: reopen the steps of this kit before taking it off the order.`);
      return command;
    },
    apply: (order, { kit }) => ({
      ...order,
      kits: order.kits.filter((k) => k.kit.id !== kit),
      overrides: order.overrides.filter((o) => !o.circuit.startsWith(`${kit}/`)),
      changes: order.changes.filter((c) => !('load' in c.change && c.change.load.startsWith(`${kit}/`))),
      lamps: {
        placed: Object.fromEntries(Object.entries(order.lamps.placed).filter(([id]) => !id.startsWith(`${kit}/`))),
        added: order.lamps.added.filter((l) => !l.like?.startsWith(`${kit}/`)),
      },
    }),
    touches: (c) => [`kit.${c.kit}`],
    says: (e) => `Kit taken off: ${e.kit}`,
  }),
  event({
    type: 'box.counted',
    may: ALL,
    records: { kit: Slug, item, count, label: words(80) },
    asks: { kit: Slug, item, count },
    decide: (command, _order, c) => {
      const found = c.sheets.kits.find((k) => k.id === command.kit)?.contents[command.item];
      if (!found) throw new Refused('That is not in the box of a chosen kit.', 'input', 'item');
      return { ...command, label: found.item };
    },
    apply: (order, e) => ({
      ...order,
      kits: order.kits.map((k) => (k.kit.id === e.kit ? { ...k, box: { ...k.box, [e.item]: e.count } } : k)),
    }),
    touches: (c) => [`box.${c.kit}.${c.item}`],
    says: (e) => `Box of ${e.kit}: ${e.count} × ${e.label}`,
  }),
] as const;
