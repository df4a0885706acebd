import TinyQueue from 'tinyqueue';
import { ImpossibleInput } from '../errors';
import { leastLeft } from './sequence-bound';
import { compile, type Compiled } from './sequence-compile';
import type { Sequence, SequenceProblem, SequenceStep } from './sequence-problem';
import { askedNext, copy, finished, mayToggle, powerReached, settle, togglePanel, togglePower, type State } from './sequence-state';

/** Every way on that may be worth going: into a zone where something settles, or with a turn that is a matter of choice. */
function* next(c: Compiled, s: State): Generator<State> {
  const a = askedNext(c, s);
  for (let z = 0; z < c.zones.length; z++) {
    if (z !== s.zone) {
      const to = copy(s);
      settle(c, to, z);
      if (to.steps.length) yield to;
    }
    for (let i = 0; i < c.panels.length; i++) {
      const bit = 1 << i;
      if (c.panels[i]!.zone !== z || !(a.open & bit) || !(a.shut & bit) || !mayToggle(c, s, i)) continue;
      const to = copy(s);
      togglePanel(c, to, i);
      settle(c, to, z);
      yield to;
    }
    if (z === c.power.zone && powerReached(c, s) && a.offTasks && a.onTasks) {
      const to = copy(s);
      togglePower(c, to);
      settle(c, to, z);
      yield to;
    }
  }
}

/** Least `minutes + least` first; among equals what is further on. */
function further(a: State, b: State): number {
  const d = a.minutes + a.least - (b.minutes + b.least);
  return Math.abs(d) > 1e-9 ? d : a.least - b.least;
}

const keyOf = (s: State) => `${String.fromCharCode(...packed(s.done), s.off & 0x7fff, s.off >> 15, s.zone + 1)}${s.powered ? 'p' : ''}`;
/** Fifteen flags to a character. */
function packed(done: Uint8Array): number[] {
  const out: number[] = [];
  for (let i = 0; i < done.length; i += 15) {
    let v = 0;
    for (let k = 0; k < 15; k++) if (done[i + k]) v |= 1 << k;
    out.push(v);
  }
  return out;
}

function pathOf(s: State): SequenceStep[] {
  const parts: SequenceStep[][] = [];
  for (let at: State | null = s; at; at = at.from) parts.push(at.steps);
  return parts.reverse().flat();
}

/** A good way to the end, level by level with the best few kept: what is answered where no optimum is proved. */
function beam(c: Compiled, from: State, width: number): State {
  let best: State | null = null;
  let level = [from];
  // without what was met on earlier levels, so that nobody turns a panel back and forth for ever
  const met = new Map<string, number>();
  while (level.length) {
    const seen = new Map<string, State>();
    for (const s of level)
      for (const to of next(c, s)) {
        if (finished(to)) {
          if (!best || to.minutes < best.minutes) best = to;
          continue;
        }
        to.least = leastLeft(c, to);
        if (best && to.minutes + to.least >= best.minutes - 1e-9) continue;
        const key = keyOf(to);
        if ((met.get(key) ?? Infinity) <= to.minutes + 1e-9) continue;
        met.set(key, to.minutes);
        seen.set(key, to);
      }
    level = [...seen.values()].sort((x, y) => x.minutes + x.least - (y.minutes + y.least)).slice(0, width);
  }
  return best!;
}

/**
 * The order of tasks, panels and power that takes the fewest minutes, each panel off at most as often as needed.
 * A* over what is a matter of choice (see `settle`), with a bound on panels, power and moves. Where `most` states do
 * not prove an optimum, the best found is answered with the bound proved until then.
 * @throws ImpossibleInput for ids that are not there or twice, circles, a panel wanted off and on at once
 */
export function sequence(problem: SequenceProblem, most = 3_500): Sequence {
  const c = compile(problem);
  const start = problem.start;
  const done = new Uint8Array(c.tasks.length);
  start?.done.forEach((id, i) => {
    const at = c.tasks.findIndex((t) => t.id === id);
    if (at < 0) throw new ImpossibleInput(`there is no “${id}” among the tasks`, `start.done.${i}`);
    done[at] = 1;
  });
  let off = 0;
  start?.off.forEach((id, i) => {
    const at = c.panels.findIndex((t) => t.id === id);
    if (at < 0) throw new ImpossibleInput(`there is no “${id}” among the panels`, `start.off.${i}`);
    off |= 1 << at;
  });
  c.panels.forEach((p, i) => {
    if (off & (1 << i) && (off & p.after) !== p.after)
      throw new ImpossibleInput(`“${p.id}” cannot be off while what comes off before it is on`, 'start.off');
  });
  const from: State = {
    done,
    left: done.reduce((n, d) => n - d, done.length),
    off,
    powered: start?.power !== 'off',
    zone: start?.zone == null ? -1 : c.zones.indexOf(start.zone),
    minutes: 0,
    least: 0,
    steps: [],
    from: null,
  };
  if (from.zone >= 0) settle(c, from, from.zone);
  if (finished(from)) return { steps: from.steps, minutes: from.minutes, bound: from.minutes, optimal: true };
  from.least = leastLeft(c, from);
  const heap = new TinyQueue([from], further);
  const best = new Map<string, number>();
  for (let n = 0; n < most;) {
    const s = heap.pop()!;
    if (finished(s)) return { steps: pathOf(s), minutes: s.minutes, bound: s.minutes, optimal: true };
    if ((best.get(keyOf(s)) ?? Infinity) < s.minutes - 1e-9) continue;
    n++;
    for (const to of next(c, s)) {
      const key = keyOf(to);
      if ((best.get(key) ?? Infinity) <= to.minutes + 1e-9) continue;
      best.set(key, to.minutes);
      to.least = finished(to) ? 0 : leastLeft(c, to);
      heap.push(to);
    }
  }
  const bound = heap.peek() ? heap.peek()!.minutes + heap.peek()!.least : from.minutes + from.least;
  const found = beam(c, from, 40);
  return { steps: pathOf(found), minutes: found.minutes, bound: Math.min(bound, found.minutes), optimal: found.minutes <= bound + 1e-9 };
}
