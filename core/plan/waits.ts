import type { PlannedStep } from './planned';
import { allBefore } from './precedence';
import { replaySequence } from './replay-sequence';
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

/** Until when a step waits for what was left to itself before it, as its record has it; the latest, null where for nothing. */
export function heldUntil(
  step: PlannedStep,
  steps: readonly PlannedStep[],
  doneAt: (id: string) => string | undefined,
): { until: Date; for: string } | null {
  return steps
    .filter((w) => w.waitMinutes > 0 && w.holds.includes(step.id))
    .flatMap((w) => {
      const at = doneAt(w.id);
      return at ? [{ until: new Date(Date.parse(at) + w.waitMinutes * 60_000), for: w.waitsFor }] : [];
    })
    .reduce<{ until: Date; for: string } | null>((a, b) => (a && a.until > b.until ? a : b), null);
}

/**
 * What a wait makes at the least of all that is neither done in it nor may be: the order of least work without what may fill
 * it, and the wait. Only where nothing but what may fill it is worth doing in it: where both its ends are at one place and
 * want everything off that the rest wants off, and power alike, what is turned in between is turned back.
 */
function leastAround(p: SequenceProblem, w: Wait, find: (p: SequenceProblem) => Sequence): number {
  const ends = w.before.length === 1 ? [w.task, w.before[0]!].map((id) => p.tasks.find((t) => t.id === id)) : [];
  const [from, to] = ends;
  if (!from || !to || from.zone !== to.zone || from.power !== to.power || from.power === 'any') return 0;
  const first = allBefore(p.tasks, from.id);
  const rest = p.tasks.filter((t) => ends.includes(t) || first.has(t.id) || allBefore(p.tasks, t.id).has(to.id));
  const off = [...(p.start?.off ?? []), ...(p.power.open ?? []), ...rest.flatMap((t) => t.open)];
  if (!off.every((id) => ends.every((e) => e!.open.includes(id)))) return 0;
  const has = new Set(rest.map((t) => t.id));
  const tasks = rest.map((t) => ({ ...t, after: t.after.filter((id) => has.has(id)) }));
  const start = p.start && { ...p.start, done: p.start.done.filter((id) => has.has(id)) };
  return find({ ...p, tasks, start }).bound + w.minutes;
}

/** What no order goes below: all work, or the way to what is left to itself, its time, and what follows it. */
function leastElapsed(p: SequenceProblem, bound: number, waits: readonly Wait[], find: (p: SequenceProblem) => Sequence): number {
  return Math.max(
    bound,
    ...waits.map((w) => leastAround(p, w, find)),
    ...waits.flatMap((w) =>
      w.before.map((b) => {
        const after = p.tasks.filter((t) => t.id === b || allBefore(p.tasks, t.id).has(b));
        const to = new Set([...allBefore(p.tasks, w.task), w.task]);
        return leastOf(p, to) + w.minutes + after.reduce((s, t) => s + t.minutes, 0);
      }),
    ),
  );
}

/** How many other orders are looked at: each is a whole search. */
const MOST_TRIES = 24;

/** An order between two tasks that nothing but a wait asks for. */
interface Nudge {
  task: string;
  after: string;
}
const nudged = (tasks: readonly SequenceTask[], nudges: readonly Nudge[]): SequenceTask[] =>
  tasks.map((t) => {
    const more = nudges.filter((n) => n.task === t.id && !t.after.includes(n.after)).map((n) => n.after);
    return more.length ? { ...t, after: [...t.after, ...more] } : t;
  });

/**
 * An order in which other work fills the time that something must be left to itself. Begins with the order of least work, and
 * with those in which each wait begins as early as may be and ends as late; then moves single tasks into the wait, as long as
 * that helps. Work and idle time count alike.
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
  const least = leastElapsed(p, found.bound, waits, find);
  let best = { sequence: found, elapsed: elapse(p, found.steps, waits), nudges: [] as Nudge[] };
  let tries = 0;
  const over = () => !best.elapsed.idle.length || best.elapsed.minutes <= least + 1e-9 || tries >= MOST_TRIES;
  const seen = new Set<string>(['']);
  const attempt = (nudges: Nudge[]): boolean => {
    const key = nudges
      .map((n) => `${n.task}<${n.after}`)
      .sort()
      .join();
    if (over() || seen.has(key)) return false;
    seen.add(key);
    tries++;
    const sequence = find({ ...p, tasks: nudged(p.tasks, nudges) });
    const elapsed = elapse(p, sequence.steps, waits);
    if (elapsed.minutes >= best.elapsed.minutes - 1e-9) return false;
    best = { sequence, elapsed, nudges };
    return true;
  };
  const before = new Map(p.tasks.map((t) => [t.id, allBefore(p.tasks, t.id)]));
  const free = (w: Wait, b: string) =>
    p.tasks.filter((t) => t.id !== w.task && t.id !== b && !before.get(w.task)!.has(t.id) && !before.get(t.id)!.has(b)).map((t) => t.id);
  const longest = [...waits].sort((x, y) => y.minutes - x.minutes).flatMap((w) => w.before.map((b) => ({ w, b })));
  const early = longest.map(({ w, b }) => free(w, b).map((task): Nudge => ({ task, after: w.task })));
  const late = longest.map(({ w, b }) => free(w, b).map((after): Nudge => ({ task: b, after })));
  if (waits.length > 1)
    attempt([
      ...early[0]!,
      ...early
        .slice(1)
        .flat()
        .filter((n) => !waits.some((w) => w.task === n.task)),
    ]);
  longest.forEach((_, i) => {
    attempt([...early[i]!, ...late[i]!]);
    attempt(early[i]!);
    attempt(late[i]!);
  });
  // one task more, or one less, within the wait
  for (let helped = true; helped && !over();) {
    helped = false;
    const all = longest.flatMap((_, i) => [...early[i]!, ...late[i]!]);
    for (const n of all) {
      const has = best.nudges.some((x) => x.task === n.task && x.after === n.after);
      const circle = !has && allBefore(nudged(p.tasks, best.nudges), n.after).has(n.task);
      if (circle) continue;
      if (attempt(has ? best.nudges.filter((x) => x.task !== n.task || x.after !== n.after) : [...best.nudges, n])) helped = true;
    }
  }
  const polished = over() ? best : polish(p, best, waits, least);
  return { sequence: polished.sequence, elapsed: polished.elapsed, least };
}

/** Moves single steps, panels and power among them, from outside a wait into it, as long as that helps. */
function polish(
  p: SequenceProblem,
  from: { sequence: Sequence; elapsed: Elapsed },
  waits: readonly Wait[],
  least: number,
): { sequence: Sequence; elapsed: Elapsed } {
  let best = from;
  for (let helped = true; helped && best.elapsed.idle.length && best.elapsed.minutes > least + 1e-9;) {
    helped = false;
    const { steps } = best.sequence;
    const [idle] = best.elapsed.idle;
    const [begin, end] = [idle!.for, idle!.before].map((id) => steps.findIndex((s) => s.do === 'task' && s.id === id)) as [number, number];
    for (let i = 0; i < steps.length && !helped; i++) {
      if (i >= begin && i <= end) continue;
      for (let to = begin + 1; to <= end && !helped; to++) {
        const moved = [...steps];
        const [s] = moved.splice(i, 1);
        moved.splice(i < to ? to - 1 : to, 0, s!);
        const elapsed = elapse(p, moved, waits);
        if (elapsed.minutes >= best.elapsed.minutes - 1e-9) continue;
        const { minutes, refused } = replaySequence(p, moved);
        if (refused) continue;
        best = { sequence: { ...best.sequence, steps: moved, minutes }, elapsed };
        helped = true;
      }
    }
  }
  return best;
}
