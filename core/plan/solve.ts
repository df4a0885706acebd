import type { Memo } from '../memo';
import type { WorkProblem } from './problem';
import { sequence } from './sequence';
import { POWER, stepAt, type Sequence, type SequenceProblem, type SequenceStep } from './sequence-problem';
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
 * What comes before everything else: panels over the battery off, the battery read at rest, power off. Nothing else is
 * opened or worked on before. Job practice, common practice, no source.
 * @returns the steps with their minutes, and where the work stands after them
 */
export function makeSafe(p: WorkProblem): { steps: SequenceStep[]; minutes: number; start: NonNullable<SequenceProblem['start']> } {
  const start = p.start!;
  const rest = p.tasks.find((t) => t.id === REST_STEP && !start.done.includes(t.id));
  const off = start.power === 'on' && p.tasks.some((t) => t.power === 'off' && !start.done.includes(t.id));
  const steps: SequenceStep[] = [];
  if (!rest && !off) return { steps, minutes: 0, start };
  const zones: string[] = start.zone === null ? [] : [start.zone];
  let minutes = 0;
  const step = (s: SequenceStep, zone: string, takes: number) => {
    minutes += takes + (zones.length && zones.at(-1) !== zone ? p.moveMinutes : 0);
    zones.push(zone);
    steps.push(s);
  };
  const open = new Set(start.off);
  const take = (id: string) => {
    if (open.has(id)) return;
    const panel = p.panels.find((x) => x.id === id)!;
    panel.after.forEach(take);
    open.add(id);
    step({ do: 'panel-off', id }, panel.zone, panel.offMinutes);
  };
  p.power.open?.forEach(take);
  if (rest) step({ do: 'task', id: rest.id }, rest.zone, rest.minutes);
  if (off) step({ do: 'power-off', id: POWER }, p.power.zone, p.power.offMinutes);
  return {
    steps,
    minutes,
    start: {
      done: rest ? [...start.done, rest.id] : start.done,
      off: [...open],
      power: off ? 'off' : start.power,
      zone: zones.at(-1) ?? null,
    },
  };
}

/** The whole order from where the work stands: made safe first, then what takes least. */
export function solveSafely(p: WorkProblem, memo: Memo): Sequence & { safe: ReturnType<typeof makeSafe> } {
  const safe = makeSafe(p);
  const found = solve({ ...p, start: safe.start }, memo);
  return {
    steps: [...safe.steps, ...found.steps],
    minutes: safe.minutes + found.minutes,
    bound: safe.minutes + found.bound,
    optimal: found.optimal,
    safe,
  };
}
