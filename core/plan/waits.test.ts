import { describe, expect, it } from 'vitest';
import { everyOrder } from '../../tests/every-order';
import { draws, randomPlan } from '../../tests/random-plan';
import { allBefore } from './precedence';
import { replaySequence } from './replay-sequence';
import { sequence } from './sequence';
import type { SequenceProblem } from './sequence-problem';
import { elapse, fillWaits, type Wait } from './waits';

const fill = (p: SequenceProblem, waits: readonly Wait[]) => fillWaits(p, sequence(p), waits, sequence);

/** A wait at a random task, held to one that comes after it by need. */
function withWait(seed: number): { p: SequenceProblem; wait: Wait } | null {
  const p = randomPlan(seed, 5, 2, 3, 0);
  const r = draws(seed * 31 + 5);
  r();
  const pairs = p.tasks.flatMap((b) => [...allBefore(p.tasks, b.id)].map((w) => [w, b.id] as const));
  const pair = pairs[Math.floor(r() * pairs.length)];
  return pair ? { p, wait: { task: pair[0], minutes: 5 + Math.floor(r() * 30), before: [pair[1]] } } : null;
}

describe('what is left to itself while other work is done', () => {
  const p: SequenceProblem = {
    tasks: [
      { id: 'horn', minutes: 8, zone: 'front', open: [], power: 'any', after: [] },
      { id: 'glue', minutes: 5, zone: 'bars', open: [], power: 'any', after: [] },
      { id: 'wire', minutes: 20, zone: 'front', open: [], power: 'any', after: ['horn'] },
      { id: 'ride', minutes: 5, zone: 'bars', open: [], power: 'any', after: ['glue', 'wire'] },
    ],
    panels: [],
    power: { zone: 'front', offMinutes: 0, onMinutes: 0 },
    moveMinutes: 1,
  };
  it('is begun first where it waits longer than other work takes, and costs only what is left over', () => {
    const { sequence: s, elapsed, least } = fill(p, [{ task: 'glue', minutes: 40, before: ['ride'] }]);
    expect(s.steps.map((x) => x.id)).toEqual(['glue', 'horn', 'wire', 'ride']);
    // glued at 5, ready at 45; front work is over at 34
    expect(elapsed).toMatchObject({ minutes: 50, idle: [{ before: 'ride', for: 'glue', minutes: 10 }] });
    expect(least).toBe(50);
  });
  it('changes nothing where other work lasts longer, and nothing at all without a wait', () => {
    expect(fill(p, [{ task: 'glue', minutes: 3, before: ['ride'] }]).elapsed.idle).toEqual([]);
    const plain = fill(p, []);
    expect(plain.elapsed.minutes).toBe(sequence(p).minutes);
  });
  it('of two, both are begun early, and the longer one tells', () => {
    const two = [
      { task: 'glue', minutes: 60, before: ['ride'] },
      { task: 'horn', minutes: 90, before: ['ride'] },
    ];
    const { elapsed, least } = fill(p, two);
    expect(elapsed.minutes).toBe(8 + 90 + 5);
    expect(least).toBe(elapsed.minutes);
  });
  it('against every way of doing it: never under the bound, never over what is there, and nearly always the least', () => {
    let [seen, least, over] = [0, 0, 0];
    for (let seed = 1; seen < 120; seed++) {
      const x = withWait(seed);
      if (!x) continue;
      const best = everyOrder(x.p, x.wait);
      const found = fill(x.p, [x.wait]);
      seen++;
      expect(replaySequence(x.p, found.sequence.steps).refused).toBeNull();
      expect(elapse(x.p, found.sequence.steps, [x.wait]).minutes).toBe(found.elapsed.minutes);
      expect(found.least, `seed ${seed}`).toBeLessThanOrEqual(best + 1e-9);
      expect(found.elapsed.minutes, `seed ${seed}`).toBeGreaterThanOrEqual(best - 1e-9);
      if (found.elapsed.minutes <= best + 1e-9) least++;
      over += found.elapsed.minutes / best - 1;
    }
    expect(least / seen).toBeGreaterThan(0.85);
    expect(over / seen).toBeLessThan(0.01);
  });
  it('where both ends are at one place with all off that may be, the least is still never over what is there, and often reached', () => {
    let [seen, reached] = [0, 0];
    for (let seed = 1; seen < 60; seed++) {
      const x = withWait(seed);
      if (!x) continue;
      const all = x.p.panels.map((t) => t.id);
      const [from, to] = [x.wait.task, x.wait.before[0]!];
      const zone = x.p.tasks.find((t) => t.id === from)!.zone;
      const tasks = x.p.tasks.map((t) => (t.id === from || t.id === to ? { ...t, zone, open: all, power: 'on' as const } : t));
      const p = { ...x.p, tasks };
      const best = everyOrder(p, x.wait);
      const found = fill(p, [x.wait]);
      seen++;
      expect(found.least, `seed ${seed}`).toBeLessThanOrEqual(best + 1e-9);
      if (found.least >= best - 1e-9) reached++;
    }
    expect(reached / seen).toBeGreaterThan(0.5);
  });
});
