import { z } from 'zod';
import { words } from '#model/common';
import { Pointer } from '#model/known';
import { SheetRef } from '#model/sheet';
import { openValue, tooFar } from '../known/values';
import { checkBuild } from './arrive';
import { ALL, event, ForTheRecord, Refused, type Context } from './definition';

function asked(pointer: string, c: Context) {
  const v = openValue(c.sheets.model, pointer);
  if (!v) throw new Refused('That is no figure of this unit that is read or measured.', 'input', 'pointer');
  return v;
}

export const valueEvents = [
  event({
    type: 'model.renewed',
    may: ALL,
    records: { model: SheetRef },
    asks: {},
    decide: (_command, order, c) => {
      // the newest sheet is the record's to name
      if (!c.known.model) throw new ForTheRecord('the newest sheet of a model');
      const found = c.known.model();
      if (!found || found.ref.revision <= order.unit.model.revision) throw new Refused('This order has the newest sheet of its model.');
      checkBuild(found.model, order.unit);
      return { type: 'model.renewed', model: found.ref };
    },
    apply: (order, { model }) => ({ ...order, unit: { ...order.unit, model } }),
    touches: () => ['model'],
    says: (e) => `Judged by revision ${e.model.revision} of its model’s sheet from here on`,
  }),
  event({
    type: 'value.taken',
    may: ALL,
    records: {
      pointer: Pointer,
      value: z.number().gt(0, 'must be above zero').max(1_000_000),
      how: z.enum(['read', 'measured']),
      unit: words(8),
      label: words(200),
    },
    asks: { pointer: Pointer, value: z.number().gt(0, 'must be above zero').max(1_000_000) },
    decide: (command, _order, c) => {
      const v = asked(command.pointer, c);
      const far = tooFar(v, command.value);
      if (far) throw new Refused(far, 'input', 'value');
      return { ...command, how: v.how, unit: v.unit, label: v.name };
    },
    apply: (order, e, { at, by }) => ({ ...order, values: { ...order.values, [e.pointer]: { value: e.value, how: e.how, at, by } } }),
    touches: (c) => [`value.${c.pointer}`],
    says: (e) => `${e.how === 'read' ? 'Read off' : 'Measured'}: ${e.label}, ${e.value} ${e.unit}`,
  }),
  event({
    type: 'value.dropped',
    may: ALL,
    records: { pointer: Pointer, label: words(200) },
    asks: { pointer: Pointer },
    decide: (command, order, c) => {
      if (!order.values?.[command.pointer]) throw new Refused('Nothing was read or measured there.', 'input', 'pointer');
      return { ...command, label: asked(command.pointer, c).name };
    },
    apply: ({ values, ...order }, { pointer }) => {
      const { [pointer]: _, ...others } = values ?? {};
      return { ...order, ...(Object.keys(others).length && { values: others }) };
    },
    touches: (c) => [`value.${c.pointer}`],
    says: (e) => `Not so after all: ${e.label}`,
  }),
];
