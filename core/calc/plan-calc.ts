import { z } from 'zod';
import { nonNegative } from '#model/common';
import { sequence } from '../plan/sequence';
import { MOST_PANELS, MOST_TASKS } from '../plan/sequence-problem';
import { sum } from '../sum';
import { calculation, field } from './calculation';

const Id = z.string().trim().min(1, 'must not be empty').max(120);
const ids = z.array(Id).max(MOST_TASKS);
const minutes = nonNegative.max(10_000);

const Task = z.strictObject({
  id: Id,
  minutes,
  zone: Id,
  open: ids.default([]),
  shut: ids.default([]),
  power: z.enum(['off', 'on', 'any']).default('any'),
  after: ids.default([]),
});
const Panel = z.strictObject({ id: Id, zone: Id, offMinutes: minutes, onMinutes: minutes, after: ids.default([]) });
const Power = z.strictObject({ zone: Id, offMinutes: minutes, onMinutes: minutes, open: ids.default([]) });
const Start = z.strictObject({
  done: ids.default([]),
  off: ids.default([]),
  power: z.enum(['on', 'off']).default('on'),
  zone: Id.nullable().default(null),
});

export const planSequence = calculation({
  name: 'plan.sequence',
  title: 'Order of the work',
  description: 'The order of tasks, panels and power that takes the fewest minutes, proved or with its bound.',
  input: {
    tasks: field(z.array(Task).max(MOST_TASKS), 'Tasks'),
    panels: field(z.array(Panel).max(MOST_PANELS).default([]), 'Panels'),
    power: field(Power, 'Where power is taken off and given back'),
    moveMinutes: field(minutes, 'A change of zone', 'min'),
    start: field(Start.optional(), 'Where the work stands already'),
  },
  result: {
    steps: z.array(z.object({ do: z.enum(['task', 'panel-off', 'panel-on', 'power-off', 'power-on']), id: z.string() })),
    minutes: z.number(),
    bound: z.number(),
    optimal: z.boolean(),
  },
  example: {
    tasks: [
      { id: 'mount-horn', minutes: 8, zone: 'front', open: ['hood'], power: 'off', after: [] },
      { id: 'mount-switch', minutes: 10, zone: 'dash', open: ['dash-top'], power: 'off', after: [] },
      { id: 'wire-horn', minutes: 12, zone: 'dash', open: ['hood', 'dash-top'], power: 'off', after: ['mount-horn', 'mount-switch'] },
      { id: 'prove-horn', minutes: 2, zone: 'dash', open: ['hood'], power: 'on', after: ['wire-horn'] },
    ],
    panels: [
      { id: 'hood', zone: 'front', offMinutes: 2, onMinutes: 2, after: [] },
      { id: 'dash-top', zone: 'dash', offMinutes: 4, onMinutes: 5, after: ['hood'] },
    ],
    power: { zone: 'seat', offMinutes: 3, onMinutes: 4 },
    moveMinutes: 1,
  },
  run: (q, stop) => {
    const found = sequence(q, { stop });
    const work = q.tasks.reduce((s, t) => s + (q.start?.done.includes(t.id) ? 0 : t.minutes), 0);
    const count = (what: string) => found.steps.filter((s) => s.do.startsWith(what)).length;
    return {
      ...found,
      sum: sum(
        { label: 'Tasks', value: work, unit: 'min' },
        { label: 'Panels off and on, power, moves', value: found.minutes - work, unit: 'min' },
        { label: 'Panels turned', value: count('panel'), kind: 'note' },
        { label: 'Power turned', value: count('power'), kind: 'note' },
        { label: 'No order takes less than', value: found.bound, unit: 'min', kind: 'limit' },
        {
          label: found.optimal ? 'All together, proved least' : 'All together, best found',
          value: found.minutes,
          unit: 'min',
          kind: 'result',
        },
      ),
    };
  },
});
