import type { Memo } from '../memo';
import { allBefore } from './precedence';
import type { WorkProblem } from './problem';
import { fillWaits, type Elapsed, type Wait } from './waits';
import { sequence } from './sequence';
import { POWER, stepAt, type Sequence, type SequenceProblem, type SequenceStep, type SequenceTask } from './sequence-problem';
import { REST_STEP } from './steps';

/** States looked at before an order of the work is taken as found, not proved: a plan must be there at once. */
const MOST_STATES = 900;

/** Problems whose states met on the way are kept with what is left from each. */
const RECENT = 120;
const keyOf = (start: NonNullable<SequenceProblem['start']>) =>
  `${[...start.done].sort().join()}|${[...start.off].sort().join()}|${start.power}|${start.zone}`;

const texts = new WeakMap<SequenceProblem['tasks'], string>();
/** What a problem is, but for where the work stands. */
function textOf(p: SequenceProblem): string {
  let text = texts.get(p.tasks);
  if (text === undefined) {
    text = JSON.stringify([
      p.tasks.map(({ id, minutes, zone, open, shut, power, after }) => [id, minutes, zone, open, shut, power, after]),
      p.panels,
      p.power,
      p.moveMinutes,
    ]);
    texts.set(p.tasks, text);
  }
  return text;
}

/**
 * Solves a plan from where the work stands. Every state on the way is kept with what is left from there: work done in the
 * planned order asks for no new search.
 */
export function solve(p: SequenceProblem, memo: Memo): Sequence {
  const { start = { done: [], off: [], power: 'on' as const, zone: null } } = p;
  const of = textOf(p);
  const states = memo.once('work left', [of], () => new Map<string, Sequence>(), RECENT);
  const known = states.get(keyOf(start));
  if (known) return known;
  const found = sequence(p, { most: MOST_STATES });
  const state = { done: [...start.done], off: [...start.off], power: start.power, zone: start.zone };
  let spent = 0;
  for (let i = 0; i <= found.steps.length; i++) {
    const left = {
      ...found,
      steps: found.steps.slice(i),
      minutes: found.minutes - spent,
      bound: Math.min(found.bound - spent, found.minutes - spent),
    };
    states.set(keyOf(state), left);
    const s = found.steps[i];
    if (!s) break;
    const { zone, minutes } = stepAt(p, s);
    spent += minutes + (state.zone !== null && state.zone !== zone ? p.moveMinutes : 0);
    state.zone = zone;
    if (s.do === 'task') state.done.push(s.id);
    else if (s.do === 'panel-off') state.off.push(s.id);
    else if (s.do === 'panel-on') state.off = state.off.filter((x) => x !== s.id);
    else state.power = s.do === 'power-on' ? 'on' : 'off';
  }
  return found;
}

/**
 * What comes before everything else: what is tried on the workbench, so that nothing is torn down for what is dead; panels over
 * the battery off, the battery read at rest, every wire and feed of the unit found that something is joined to, power off.
 * Nothing else is opened or worked on before; what is opened to find a wire is opened in the order that takes least. Job practice, common practice, no source.
 * @returns the steps with their minutes, the least that any order of them takes, and where the work stands after them
 */
export function makeSafe(
  p: WorkProblem,
  memo: Memo,
): { steps: SequenceStep[]; minutes: number; bound: number; optimal: boolean; start: NonNullable<SequenceProblem['start']> } {
  const start = p.start!;
  const left = p.tasks.filter((t) => !start.done.includes(t.id));
  const rest = left.find((t) => t.id === REST_STEP);
  const off = start.power === 'on' && left.some((t) => t.power === 'off');
  if (!rest && !off) return { steps: [], minutes: 0, bound: 0, optimal: true, start };
  // what is found with power on, and what must be done for that
  const wanted = new Set(off ? left.filter((t) => t.step.stage === 'find').flatMap((t) => [t.id, ...allBefore(p.tasks, t.id)]) : []);
  const finds = left.filter((t) => wanted.has(t.id) && t !== rest && t.power !== 'off' && t.step.stage !== 'bench-test');
  const panels = new Map<string, SequenceProblem['panels'][number]>();
  const take = (id: string) => {
    if (start.off.includes(id) || panels.has(id)) return;
    const panel = p.panels.find((x) => x.id === id)!;
    panel.after.forEach(take);
    panels.set(id, panel);
  };
  const battery = [...(p.power.open ?? []), ...(rest?.open ?? [])];
  battery.forEach(take);
  const over = new Set(panels.keys());
  for (const f of finds) f.open.forEach(take);
  const bench = left.filter((t) => t.step.stage === 'bench-test');
  const first = rest ? [rest.id] : [];
  const tried = bench.map((t) => t.id);
  const opened = (ids: readonly string[]) => ids.flatMap((id) => (panels.has(id) ? [openOf(id)] : []));
  const task = (id: string, zone: string, minutes: number, after: readonly string[]): SequenceTask => ({
    id,
    zone,
    minutes,
    open: [],
    power: 'any',
    after,
  });
  const tasks = [
    ...[...panels.values()].map((x) =>
      task(openOf(x.id), x.zone, x.offMinutes, [...tried, ...opened(x.after), ...(over.has(x.id) ? [] : [...first, ...opened([...over])])]),
    ),
    ...bench.map((t) =>
      task(
        t.id,
        t.zone,
        t.minutes,
        t.after.filter((a) => tried.includes(a)),
      ),
    ),
    ...(rest ? [task(rest.id, rest.zone, rest.minutes, [...tried, ...opened([...over])])] : []),
    ...finds.map((f) =>
      task(f.id, f.zone, f.minutes, [
        ...tried,
        ...first,
        ...f.after.filter((a) => finds.some((x) => x.id === a)),
        ...opened(f.open),
        ...opened([...over]),
      ]),
    ),
  ];
  if (off)
    tasks.push(
      task(
        POWER,
        p.power.zone,
        p.power.offMinutes,
        tasks.map((t) => t.id),
      ),
    );
  const found = solve(
    {
      tasks,
      panels: [],
      power: { zone: p.power.zone, offMinutes: 0, onMinutes: 0 },
      moveMinutes: p.moveMinutes,
      start: { done: [], off: [], power: 'on', zone: start.zone },
    },
    memo,
  );
  const panelOf = new Map([...panels.keys()].map((id) => [openOf(id), id]));
  const steps = found.steps.map((s): SequenceStep =>
    panelOf.has(s.id) ? { do: 'panel-off', id: panelOf.get(s.id)! } : s.id === POWER ? { do: 'power-off', id: POWER } : s,
  );
  const last = found.steps.at(-1);
  return {
    steps,
    minutes: found.minutes,
    bound: found.bound,
    optimal: found.optimal,
    start: {
      done: [...start.done, ...tried, ...first, ...finds.map((f) => f.id)],
      off: [...start.off, ...panels.keys()],
      power: off ? 'off' : start.power,
      zone: last ? tasks.find((t) => t.id === last.id)!.zone : start.zone,
    },
  };
}
const openOf = (panel: string): string => `open ${panel}`;

/** An order of the whole work. */
export interface SafeSequence extends Sequence {
  safe: ReturnType<typeof makeSafe>;
  /** where hands are idle, because something is left to itself */
  idle: Elapsed['idle'];
}

/**
 * The whole order from where the work stands: made safe first, then what takes least, with other work in the time that glue and
 * the like are left to themselves. `minutes` is work alone; `bound` is of work and idle hands together.
 */
export function solveSafely(p: WorkProblem, memo: Memo): SafeSequence {
  const safe = makeSafe(p, memo);
  const rest = { ...p, start: safe.start };
  const found = solve(rest, memo);
  const done = new Set(safe.start.done);
  const waits: Wait[] = p.tasks.flatMap((t) =>
    t.step.waitMinutes > 0 && t.step.holds.length && !done.has(t.id)
      ? [{ task: t.id, minutes: t.step.waitMinutes, before: t.step.holds.filter((h) => p.tasks.some((x) => x.id === h)) }]
      : [],
  );
  const { sequence: best, elapsed, least } = fillWaits(rest, found, waits, (x) => solve(x, memo));
  const bound = Math.min(least, elapsed.minutes);
  return {
    steps: [...safe.steps, ...best.steps],
    minutes: safe.minutes + best.minutes,
    bound: safe.bound + bound,
    optimal: safe.optimal && elapsed.minutes <= bound + 1e-9,
    safe,
    idle: elapsed.idle,
  };
}
