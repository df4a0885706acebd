import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { everyOrder } from '../../tests/every-order';
import { randomPlan } from '../../tests/random-plan';
import { ImpossibleInput } from '../errors';
import { replaySequence } from './replay-sequence';
import { sequence } from './sequence';
import { POWER, type SequenceProblem, type SequenceStep } from './sequence-problem';

const small: SequenceProblem = {
  tasks: [
    { id: 'horn', minutes: 8, zone: 'front', open: ['hood'], power: 'off', after: [] },
    { id: 'switch', minutes: 10, zone: 'dash', open: ['dash'], power: 'off', after: [] },
    { id: 'prove', minutes: 2, zone: 'dash', open: ['hood'], power: 'on', after: ['horn', 'switch'] },
  ],
  panels: [
    { id: 'hood', zone: 'front', offMinutes: 2, onMinutes: 2, after: [] },
    { id: 'dash', zone: 'dash', offMinutes: 4, onMinutes: 5, after: ['hood'] },
  ],
  power: { zone: 'seat', offMinutes: 3, onMinutes: 4 },
  moveMinutes: 1,
};

const turns = (steps: SequenceStep[], id: string) => steps.filter((s) => s.id === id && s.do !== 'task').length;

describe('the order of the work', () => {
  it('takes each panel off once, wires with the power off, proves with it on, and comes back', () => {
    const s = sequence(small);
    expect(s.optimal).toBe(true);
    expect(replaySequence(small, s.steps)).toEqual({ minutes: s.minutes, refused: null });
    expect([turns(s.steps, 'hood'), turns(s.steps, 'dash'), turns(s.steps, POWER)]).toEqual([2, 2, 2]);
    // seat, front, dash, seat again for power, dash to prove, front to close: by hand
    expect(s.minutes).toBe(8 + 10 + 2 + 2 + 2 + 4 + 5 + 3 + 4 + 5);
  });

  it('takes no power off and no panel where nothing asks for it', () => {
    const s = sequence({ ...small, tasks: [{ id: 'look', minutes: 3, zone: 'seat', open: [], power: 'any', after: [] }] });
    expect(s.steps).toEqual([{ do: 'task', id: 'look' }]);
    expect(sequence({ ...small, tasks: [] })).toEqual({ steps: [], minutes: 0, bound: 0, optimal: true });
  });

  it('shuts a panel for what wants it on, and only then', () => {
    const tasks: SequenceProblem['tasks'] = [
      { id: 'fit', minutes: 5, zone: 'front', open: ['hood'], power: 'any', after: [] },
      { id: 'aim', minutes: 3, zone: 'front', open: [], shut: ['hood'], power: 'any', after: ['fit'] },
    ];
    expect(sequence({ ...small, tasks }).steps.map((s) => `${s.do} ${s.id}`)).toEqual([
      'panel-off hood',
      'task fit',
      'panel-on hood',
      'task aim',
    ]);
    const again = [...tasks, { id: 'mark', minutes: 1, zone: 'front', open: ['hood'], power: 'any' as const, after: ['aim'] }];
    expect(turns(sequence({ ...small, tasks: again }).steps, 'hood')).toBe(4);
  });

  it('reaches the power under a panel', () => {
    const p: SequenceProblem = {
      ...small,
      power: { ...small.power, open: ['hood'] },
      tasks: [{ id: 'wire', minutes: 1, zone: 'dash', open: [], power: 'off', after: [] }],
    };
    const s = sequence(p);
    expect(replaySequence(p, s.steps).refused).toBeNull();
    expect(turns(s.steps, 'hood')).toBe(2);
  });

  it('goes on from where the work stands', () => {
    const p: SequenceProblem = { ...small, start: { done: ['horn'], off: ['hood', 'dash'], power: 'off', zone: 'dash' } };
    const s = sequence(p);
    expect(replaySequence(p, s.steps)).toEqual({ minutes: s.minutes, refused: null });
    expect(s.steps[0]).toEqual({ do: 'task', id: 'switch' });
    expect(s.steps.some((x) => x.do === 'panel-off' || x.id === 'horn')).toBe(false);
  });

  it('is the least of all, by exhaustive search of small plans', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e6 }),
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 0, max: 4 }),
        fc.integer({ min: 1, max: 3 }),
        fc.constantFrom(0.3, 0.7),
        (seed, n, panels, zones, shut) => {
          const p = randomPlan(seed, n, panels, zones, shut);
          const s = sequence(p);
          expect(replaySequence(p, s.steps).refused).toBeNull();
          expect(s.optimal).toBe(true);
          expect(s.minutes).toBeCloseTo(everyOrder(p), 6);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('is a valid order with a bound under it, proved or not, for plans as large as an order', () => {
    for (let seed = 1; seed <= 6; seed++) {
      const p = randomPlan(seed, 40, 12, 6, seed % 2 ? 0 : 0.1);
      const s = sequence(p, { most: 400 });
      const walked = replaySequence(p, s.steps);
      expect(walked.refused).toBeNull();
      expect(walked.minutes).toBeCloseTo(s.minutes, 6);
      expect(s.bound).toBeLessThanOrEqual(s.minutes + 1e-9);
      if (s.optimal) expect(s.bound).toBeCloseTo(s.minutes, 6);
      // without panels that something wants on, none comes off twice
      if (seed % 2) for (const x of p.panels) expect(turns(s.steps, x.id)).toBeLessThanOrEqual(2);
    }
  });

  it('comes from somewhere in the middle as cheaply as exhaustive search, with panels wanted both ways', () => {
    const tasks: SequenceProblem['tasks'] = ['a', 'b', 'c'].flatMap((id, i) => [
      { id: `${id} under`, minutes: 2, zone: i ? 'front' : 'dash', open: ['hood'], power: 'any' as const, after: [] },
      { id: `${id} upon`, minutes: 1, zone: 'front', open: [], shut: ['hood'], power: 'any' as const, after: i ? [] : ['b under'] },
    ]);
    const p = { ...small, tasks };
    const s = sequence(p);
    expect([s.optimal, s.minutes]).toEqual([true, everyOrder(p)]);
    // open, one under it done: what is upon it waits for the rest, or for one more turn where it must come between
    const begun = sequence({ ...p, start: { done: ['c under'], off: ['hood'], power: 'on', zone: 'front' } });
    expect(turns(begun.steps, 'hood')).toBe(1);
    const held = tasks.map((t) => (t.id === 'c under' ? { ...t, after: ['a upon'] } : t));
    const between = sequence({ ...p, tasks: held, start: { done: [], off: ['hood'], power: 'on', zone: 'front' } });
    expect([between.optimal, turns(between.steps, 'hood')]).toEqual([true, 3]);
  });

  it('finds an order where it may hardly look', () => {
    for (const shut of [0, 0.2]) {
      const p = randomPlan(5, 40, 12, 6, shut);
      const s = sequence(p, { most: 1 });
      expect(replaySequence(p, s.steps).refused).toBeNull();
      expect(s.bound).toBeLessThanOrEqual(s.minutes + 1e-9);
    }
  });

  it('is not made dearer by what may be done at any time, and never cheaper by more work', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const p = randomPlan(seed, 7, 3, 3);
        const less = sequence({ ...p, tasks: p.tasks.slice(0, 6) });
        const all = sequence(p);
        expect(all.minutes).toBeGreaterThanOrEqual(less.minutes + p.tasks[6]!.minutes - 1e-9);
        const free = sequence({ ...p, tasks: p.tasks.map((t) => ({ ...t, after: [] })) });
        expect(free.minutes).toBeLessThanOrEqual(all.minutes + 1e-9);
      }),
      { numRuns: 60 },
    );
  });

  it.each([
    ['a task not there', { tasks: [{ ...small.tasks[0]!, after: ['nothing'] }] }, 'tasks.0.after.0'],
    ['a panel not there', { tasks: [{ ...small.tasks[0]!, open: ['roof'] }] }, 'tasks.0.open.0'],
    ['twice', { tasks: [small.tasks[0]!, small.tasks[0]!] }, 'tasks.1.id'],
    [
      'a circle of tasks',
      {
        tasks: [
          { ...small.tasks[0]!, after: ['switch'] },
          { ...small.tasks[1]!, after: ['horn'] },
        ],
      },
      'tasks',
    ],
    ['a circle of panels', { panels: [{ ...small.panels[0]!, after: ['dash'] }, small.panels[1]!] }, 'panels'],
    ['off and on at once', { tasks: [{ ...small.tasks[0]!, open: ['dash'], shut: ['hood'] }] }, 'tasks.0'],
    ['a start that cannot be', { start: { done: [], off: ['dash'], power: 'on' as const, zone: null } }, 'start.off'],
  ])('refuses %s, and says where', (_, part, path) => {
    const bad = { ...small, ...part } as SequenceProblem;
    expect(() => sequence(bad)).toThrow(ImpossibleInput);
    try {
      sequence(bad);
    } catch (e) {
      expect((e as ImpossibleInput).path).toBe(path);
    }
  });
});

describe('a sequence walked step by step', () => {
  it.each<[string, SequenceStep[], RegExp]>([
    ['a task under a panel', [{ do: 'task', id: 'horn' }], /“hood” must be off/],
    ['a panel that waits for another', [{ do: 'panel-off', id: 'dash' }], /“hood” must be off/],
    [
      'live wires',
      [
        { do: 'panel-off', id: 'hood' },
        { do: 'task', id: 'horn' },
      ],
      /power must be off/,
    ],
    [
      'what comes first',
      [
        { do: 'panel-off', id: 'hood' },
        { do: 'task', id: 'prove' },
      ],
      /“horn” comes before/,
    ],
    [
      'twice off',
      [
        { do: 'panel-off', id: 'hood' },
        { do: 'panel-off', id: 'hood' },
      ],
      /so already/,
    ],
    ['nothing done', [], /“horn” is not done/],
  ])('refuses %s', (_, steps, why) => {
    expect(replaySequence(small, steps).refused!.why).toMatch(why);
  });
});
