import { describe, expect, it } from 'vitest';
import { draws, randomPlan } from '../../tests/random-plan';
import { allBefore } from './precedence';
import { replaySequence } from './replay-sequence';
import { sequence } from './sequence';
import { POWER, type SequenceProblem, type SequenceStep } from './sequence-problem';
import { elapse, fillWaits, type Wait } from './waits';

const fill = (p: SequenceProblem, waits: readonly Wait[]) => fillWaits(p, sequence(p), waits, sequence);

/** Every way of doing the work, one act at a time and earliest first, with the clock and the wait as part of where it stands: the least minutes to the end. */
function earliest(p: SequenceProblem, w: Wait): number {
  interface At {
    done: string;
    off: string;
    on: boolean;
    zone: string | null;
    /** when what is left to itself is ready, minutes */
    ready: number;
  }
  const acts: SequenceStep[] = [
    ...p.tasks.map((t): SequenceStep => ({ do: 'task', id: t.id })),
    ...p.panels.flatMap((x): SequenceStep[] => [
      { do: 'panel-off', id: x.id },
      { do: 'panel-on', id: x.id },
    ]),
    { do: 'power-off', id: POWER },
    { do: 'power-on', id: POWER },
  ];
  const has = (set: string, id: string) => set.includes(`,${id},`);
  const put = (set: string, id: string) => [...set.split(',').filter(Boolean), id].sort().reduce((s, x) => `${s}${x},`, ',');
  const take = (set: string, id: string) =>
    set
      .split(',')
      .filter((x) => x && x !== id)
      .reduce((s, x) => `${s}${x},`, ',');
  const best = new Map<string, number>();
  const key = (s: At) => `${s.done}|${s.off}|${s.on}|${s.zone}|${s.ready}`;
  const buckets: At[][] = [[{ done: ',', off: ',', on: true, zone: null, ready: 0 }]];
  for (let now = 0; now < buckets.length; now++)
    for (const s of buckets[now] ?? []) {
      if ((best.get(key(s)) ?? Infinity) < now) continue;
      if (p.tasks.every((t) => has(s.done, t.id)) && s.off === ',' && s.on) return now;
      for (const a of acts) {
        const to = { ...s };
        let minutes: number;
        let zone: string;
        let begin = now;
        if (a.do === 'task') {
          const t = p.tasks.find((x) => x.id === a.id)!;
          if (has(s.done, t.id) || !t.after.every((x) => has(s.done, x)) || !t.open.every((x) => has(s.off, x))) continue;
          if (t.shut?.some((x) => has(s.off, x)) || (t.power !== 'any' && (t.power === 'on') !== s.on)) continue;
          [minutes, zone] = [t.minutes, t.zone];
          to.done = put(s.done, t.id);
          if (w.before.includes(t.id) && has(s.done, w.task))
            begin = Math.max(now + (s.zone !== null && s.zone !== zone ? p.moveMinutes : 0), s.ready);
          else if (s.zone !== null && s.zone !== zone) begin += p.moveMinutes;
          if (t.id === w.task) to.ready = begin + minutes + w.minutes;
        } else {
          const x = p.panels.find((y) => y.id === a.id);
          if (x) {
            const off = a.do === 'panel-off';
            if (has(s.off, x.id) === off) continue;
            if (off ? !x.after.every((y) => has(s.off, y)) : p.panels.some((y) => has(s.off, y.id) && y.after.includes(x.id))) continue;
            to.off = off ? put(s.off, x.id) : take(s.off, x.id);
            [minutes, zone] = [off ? x.offMinutes : x.onMinutes, x.zone];
          } else {
            if (s.on !== (a.do === 'power-off') || !(p.power.open ?? []).every((y) => has(s.off, y))) continue;
            to.on = !s.on;
            [minutes, zone] = [s.on ? p.power.offMinutes : p.power.onMinutes, p.power.zone];
          }
          if (s.zone !== null && s.zone !== zone) begin += p.moveMinutes;
        }
        to.zone = zone;
        const at = begin + minutes;
        if ((best.get(key(to)) ?? Infinity) <= at) continue;
        best.set(key(to), at);
        (buckets[at] ??= []).push(to);
      }
    }
  return NaN;
}

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
      const best = earliest(x.p, x.wait);
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
});
