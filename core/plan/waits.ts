import { allBefore } from './precedence';
import { stepAt, type Sequence, type SequenceProblem, type SequenceStep, type SequenceTask } from './sequence-problem';

/** Something that must be left to itself before others may be done: glue, sealant, a charging battery. */
export interface Wait {
  task: string;
  minutes: number;
  /** what is not begun before */
  before: readonly string[];
}
/** Hands are idle before a step, because something is left to itself. */
export interface Idle {
  before: string;
  for: string;
  minutes: number;
}
/** When each step of a sequence begins, and where hands are idle. */
export interface Elapsed {
  /** work, moves and idle time together */
  minutes: number;
  idle: Idle[];
  /** minutes from the start, in the order of the steps */
  at: number[];
}

/** Walks a sequence with its waits: what is left to itself goes on while others are done. */
export function elapse(p: SequenceProblem, steps: readonly SequenceStep[], waits: readonly Wait[]): Elapsed {
  const ready = new Map<string, { minutes: number; for: string }>();
  const idle: Idle[] = [];
  const at: number[] = [];
  let t = 0;
  let here = p.start?.zone ?? null;
  for (const s of steps) {
    const { zone, minutes } = stepAt(p, s);
    if (here !== null && here !== zone) t += p.moveMinutes;
    here = zone;
    const held = s.do === 'task' ? ready.get(s.id) : undefined;
    if (held && held.minutes > t + 1e-9) {
      idle.push({ before: s.id, for: held.for, minutes: held.minutes - t });
      t = held.minutes;
    }
    at.push(t);
    t += minutes;
    if (s.do !== 'task') continue;
    for (const w of waits.filter((x) => x.task === s.id))
      for (const b of w.before) if ((ready.get(b)?.minutes ?? 0) < t + w.minutes) ready.set(b, { minutes: t + w.minutes, for: w.task });
  }
  return { minutes: t, idle, at };
}

/** Sum of what some tasks take by themselves, with the panels and the power that they need off, and the zones that they are in. */
function leastOf(p: SequenceProblem, ids: ReadonlySet<string>): number {
  const tasks = p.tasks.filter((t) => ids.has(t.id) && !p.start?.done.includes(t.id));
  const panels = new Set<string>();
  const take = (id: string): void => {
    if (panels.has(id) || p.start?.off.includes(id)) return;
    panels.add(id);
    p.panels.find((x) => x.id === id)!.after.forEach(take);
  };
  const off = p.start?.power !== 'off' && tasks.some((t) => t.power === 'off');
  [...tasks.flatMap((t) => t.open), ...(off ? (p.power.open ?? []) : [])].forEach(take);
  const zones = new Set([...tasks.map((t) => t.zone), ...[...panels].map((id) => p.panels.find((x) => x.id === id)!.zone)]);
  if (off) zones.add(p.power.zone);
  const moves = Math.max(0, zones.size - (p.start?.zone == null || zones.has(p.start.zone) ? 1 : 0));
  return (
    tasks.reduce((s, t) => s + t.minutes, 0) +
    [...panels].reduce((s, id) => s + p.panels.find((x) => x.id === id)!.offMinutes, 0) +
    (off ? p.power.offMinutes : 0) +
    moves * p.moveMinutes
  );
}

/** What no order goes below: all work, or the way to what is left to itself, its time, and what follows it. */
function leastElapsed(p: SequenceProblem, bound: number, waits: readonly Wait[]): number {
  return Math.max(
    bound,
    ...waits.flatMap((w) =>
      w.before.map((b) => {
        const after = p.tasks.filter((t) => t.id === b || allBefore(p.tasks, t.id).has(b));
        const to = new Set([...allBefore(p.tasks, w.task), w.task]);
        return leastOf(p, to) + w.minutes + after.reduce((s, t) => s + t.minutes, 0);
      }),
    ),
  );
}

/** The tasks with what has to be left to itself as early as may be: all that need not come before it comes after. */
function early(tasks: readonly SequenceTask[], waits: readonly Wait[], only: (t: SequenceTask) => boolean): SequenceTask[] {
  const out = tasks.map((t) => ({ ...t, after: [...t.after] }));
  for (const w of waits) {
    const before = allBefore(out, w.task);
    for (const t of out) if (t.id !== w.task && only(t) && !before.has(t.id) && !t.after.includes(w.task)) t.after.push(w.task);
  }
  return out;
}

/**
 * An order in which other work fills the time that something must be left to itself: the least that is found over the order of
 * least work, and those with each wait begun as early as may be. Work and idle time count alike.
 * @param waits those whose task is still to be done
 * @param find the order of least work of a problem
 * @returns with `elapsed`, and `least`, which no order goes below
 */
export function fillWaits(
  p: SequenceProblem,
  found: Sequence,
  waits: readonly Wait[],
  find: (p: SequenceProblem) => Sequence,
): { sequence: Sequence; elapsed: Elapsed; least: number } {
  const of = (sequence: Sequence) => ({ sequence, elapsed: elapse(p, sequence.steps, waits) });
  let best = of(found);
  const least = leastElapsed(p, found.bound, waits);
  const longest = [...waits].sort((a, b) => b.minutes - a.minutes);
  const hands = (t: SequenceTask) => t.power !== 'on' && !t.shut?.length;
  const tries: SequenceTask[][] = longest.flatMap((w) => [early(p.tasks, [w], hands), early(p.tasks, [w], () => true)]);
  if (longest.length > 1) tries.unshift(early(p.tasks, longest, hands));
  for (const tasks of tries) {
    if (!best.elapsed.idle.length || best.elapsed.minutes <= least + 1e-9) break;
    const other = of(find({ ...p, tasks }));
    if (other.elapsed.minutes < best.elapsed.minutes - 1e-9) best = other;
  }
  return { ...best, least };
}
