import { z } from 'zod';
import { words } from '#model/common';
import { Pointer } from '#model/known';
import { openValue } from '../known/values';
import { ALL, event, Refused, type Context } from './definition';

/** A figure further than this from its sheet's is a slip of the finger, or another unit. */
const FURTHEST = 6;

function asked(pointer: string, c: Context) {
  const v = openValue(c.sheets.model, pointer);
  if (!v) throw new Refused('That is no figure of this unit that is read or measured.', 'input', 'pointer');
  return v;
}

export const valueEvents = [
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
      if (command.value > v.value * FURTHEST || command.value < v.value / FURTHEST)
        throw new Refused(
          `${command.value} ${v.unit}, and ${Number(v.value.toPrecision(3))} ${v.unit} were to be expected: is it the same thing, in the same unit?`,
          'input',
          'value',
        );
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
