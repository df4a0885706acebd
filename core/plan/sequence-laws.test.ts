import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { randomPlan } from '../../tests/random-plan';
import { replaySequence } from './replay-sequence';
import { sequence } from './sequence';
import { type SequenceProblem, type SequenceStep } from './sequence-problem';

const plan = fc
  .record({
    seed: fc.integer({ min: 1, max: 1e6 }),
    tasks: fc.integer({ min: 2, max: 9 }),
    panels: fc.integer({ min: 1, max: 4 }),
    zones: fc.integer({ min: 1, max: 4 }),
    shut: fc.constantFrom(0, 0.2),
  })
  .map((q) => randomPlan(q.seed, q.tasks, q.panels, q.zones, q.shut));
const least = (p: SequenceProblem) => {
  const s = sequence(p);
  expect(s.optimal).toBe(true);
  return s.minutes;
};

/** Where the work stands after some steps of a sequence. */
function after(p: SequenceProblem, steps: readonly SequenceStep[]): NonNullable<SequenceProblem['start']> {
  const start = { done: [] as string[], off: [] as string[], power: 'on' as 'on' | 'off', zone: null as string | null };
  for (const s of steps) {
    if (s.do === 'task') start.done.push(s.id);
    else if (s.do === 'panel-off') start.off.push(s.id);
    else if (s.do === 'panel-on') start.off = start.off.filter((x) => x !== s.id);
    else start.power = s.do === 'power-on' ? 'on' : 'off';
    start.zone =
      s.do === 'task'
        ? p.tasks.find((t) => t.id === s.id)!.zone
        : s.do.startsWith('panel')
          ? p.panels.find((x) => x.id === s.id)!.zone
          : p.power.zone;
  }
  return start;
}

describe('laws of the order of the work', () => {
  it('what is left of a least order is a least order of what is left', () => {
    fc.assert(
      fc.property(plan, fc.double({ min: 0, max: 1, noNaN: true }), (p, share) => {
        const whole = sequence(p);
        const cut = Math.floor(share * whole.steps.length);
        const start = after(p, whole.steps.slice(0, cut));
        const rest = { ...p, start };
        const tail = replaySequence(rest, whole.steps.slice(cut));
        expect(tail.refused).toBeNull();
        const found = sequence(rest);
        expect(replaySequence(rest, found.steps).refused).toBeNull();
        expect(found.minutes).toBeCloseTo(tail.minutes, 6);
      }),
      { numRuns: 80 },
    );
  });

  it('does not depend on names or on the order in which things are given', () => {
    fc.assert(
      fc.property(plan, (p) => {
        const renamed: SequenceProblem = {
          ...p,
          tasks: [...p.tasks].reverse().map((t) => ({ ...t, zone: `at ${t.zone}` })),
          panels: [...p.panels].reverse().map((x) => ({ ...x, zone: `at ${x.zone}` })),
          power: { ...p.power, zone: `at ${p.power.zone}` },
        };
        expect(least(renamed)).toBeCloseTo(least(p), 6);
      }),
      { numRuns: 60 },
    );
  });

  it('all minutes twice as long take twice as long', () => {
    fc.assert(
      fc.property(plan, (p) => {
        const twice: SequenceProblem = {
          ...p,
          tasks: p.tasks.map((t) => ({ ...t, minutes: t.minutes * 2 })),
          panels: p.panels.map((x) => ({ ...x, offMinutes: x.offMinutes * 2, onMinutes: x.onMinutes * 2 })),
          power: { ...p.power, offMinutes: p.power.offMinutes * 2, onMinutes: p.power.onMinutes * 2 },
          moveMinutes: p.moveMinutes * 2,
        };
        expect(least(twice)).toBeCloseTo(2 * least(p), 6);
      }),
      { numRuns: 60 },
    );
  });

  it('two plans in one go take no more than one after the other', () => {
    fc.assert(
      fc.property(plan, (p) => {
        const half = Math.ceil(p.tasks.length / 2);
        const [one, two] = [p.tasks.slice(0, half), p.tasks.slice(half)];
        const ids = new Set(one.map((t) => t.id));
        // each half by itself, without what it waited for in the other
        const alone = (list: typeof p.tasks) => ({
          ...p,
          tasks: list.map((t) => ({ ...t, after: t.after.filter((a) => ids.has(a) === ids.has(t.id)) })),
        });
        const apart = least(alone(one)) + least(alone(two));
        const merged = least({ ...p, tasks: [...alone(one).tasks, ...alone(two).tasks] });
        // from one to the other may be one move
        expect(merged).toBeLessThanOrEqual(apart + p.moveMinutes + 1e-9);
      }),
      { numRuns: 60 },
    );
  });

  it('no moves, no panels and no power: the tasks alone', () => {
    fc.assert(
      fc.property(plan, (p) => {
        const bare: SequenceProblem = {
          ...p,
          moveMinutes: 0,
          panels: [],
          power: { zone: 'z0', offMinutes: 0, onMinutes: 0 },
          tasks: p.tasks.map((t) => ({ ...t, open: [], shut: [], power: 'any' })),
        };
        expect(least(bare)).toBeCloseTo(
          p.tasks.reduce((n, t) => n + t.minutes, 0),
          6,
        );
      }),
      { numRuns: 40 },
    );
  });

  it('a dearer panel is never turned more often', () => {
    fc.assert(
      fc.property(plan, (p) => {
        const id = p.panels[0]!.id;
        const turns = (s: SequenceStep[]) => s.filter((x) => x.id === id && x.do !== 'task').length;
        const dear = {
          ...p,
          panels: p.panels.map((x) => (x.id === id ? { ...x, offMinutes: x.offMinutes + 500, onMinutes: x.onMinutes + 500 } : x)),
        };
        expect(turns(sequence(dear).steps)).toBeLessThanOrEqual(turns(sequence(p).steps));
      }),
      { numRuns: 60 },
    );
  });
});
