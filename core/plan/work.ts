import type { Order } from '#model/order';
import type { UnitModel } from '#model/unit-model';
import type { Wiring } from '../circuit/wiring';
import type { PlannedStep } from './planned';
import { usesFishing, workProblem, type WorkProblem, type WorkTask, type WorkTimes } from './problem';
import { POWER, sequence, type Sequence, type SequenceProblem, type SequenceStep } from './sequence';
import { keyOff, panelStep, powerOffSteps, powerOnSteps, REST_STEP } from './steps';
import { zoneOf, type Zone } from './zones';

/** What one way of doing the work takes. */
export interface WorkCost {
  minutes: number;
  /** panels taken off, power taken off, changes of zone */
  panelsOff: number;
  powerOff: number;
  moves: number;
}

/** The order of the work: every step in the order in which it is best done, and what that saves. */
export interface WorkPlan {
  steps: PlannedStep[];
  /** minutes from the start of each step, moves included, as planned from the first to the last */
  at: Map<string, number>;
  zone: Map<string, Zone>;
  cost: WorkCost;
  /** the same kits one after another, each by itself in its own best order */
  apart: WorkCost;
  /** minutes of what is left once it is safe: what `problem` begins with */
  left: number;
  /** no order of what is left takes less than this in all */
  bound: number;
  optimal: boolean;
  /** what each choice would take, minutes */
  choices: { fish: number; off: number; runs: 'fish' | 'off'; benchTest: number };
  problem: WorkProblem;
  /** the tasks without what was put elsewhere by hand */
  free: WorkTask[];
}

/** States looked at before an order of the work is taken as found, not proved: a plan must be there at once. */
const MOST_STATES = 900;

const solved = new Map<string, Sequence>();
const RECENT = 4000;
const keyOf = (start: NonNullable<SequenceProblem['start']>) =>
  `${[...start.done].sort().join()}|${[...start.off].sort().join()}|${start.power}|${start.zone}`;

/**
 * Solves a plan from where the work stands. Every state on the way is kept with what is left from there: work done in the
 * planned order asks for no new search.
 */
function solve(p: SequenceProblem): Sequence {
  const { start = { done: [], off: [], power: 'on' as const, zone: null } } = p;
  const of = JSON.stringify([
    p.tasks.map(({ id, minutes, zone, open, shut, power, after }) => [id, minutes, zone, open, shut, power, after]),
    p.panels,
    p.power,
    p.moveMinutes,
  ]);
  const known = solved.get(of + keyOf(start));
  if (known) return known;
  const found = sequence(p, MOST_STATES);
  const zone = (s: SequenceStep) =>
    s.do === 'task'
      ? p.tasks.find((t) => t.id === s.id)!.zone
      : s.do.startsWith('panel')
        ? p.panels.find((x) => x.id === s.id)!.zone
        : p.power.zone;
  const minutes = (s: SequenceStep) => {
    const panel = p.panels.find((x) => x.id === s.id);
    if (s.do === 'task') return p.tasks.find((t) => t.id === s.id)!.minutes;
    if (s.do === 'panel-off') return panel!.offMinutes;
    if (s.do === 'panel-on') return panel!.onMinutes;
    return s.do === 'power-off' ? p.power.offMinutes : p.power.onMinutes;
  };
  const state = { done: [...start.done], off: [...start.off], power: start.power, zone: start.zone };
  let spent = 0;
  if (solved.size > RECENT) solved.clear();
  for (let i = 0; i <= found.steps.length; i++) {
    const left = {
      ...found,
      steps: found.steps.slice(i),
      minutes: found.minutes - spent,
      bound: Math.min(found.bound - spent, found.minutes - spent),
    };
    solved.set(of + keyOf(state), left);
    const s = found.steps[i];
    if (!s) break;
    spent += minutes(s) + (state.zone !== null && state.zone !== zone(s) ? p.moveMinutes : 0);
    state.zone = zone(s);
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
function makeSafe(p: WorkProblem): { steps: SequenceStep[]; minutes: number; start: NonNullable<SequenceProblem['start']> } {
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
function solveSafely(p: WorkProblem): Sequence & { safe: ReturnType<typeof makeSafe> } {
  const safe = makeSafe(p);
  const found = solve({ ...p, start: safe.start });
  return {
    steps: [...safe.steps, ...found.steps],
    minutes: safe.minutes + found.minutes,
    bound: safe.minutes + found.bound,
    optimal: found.optimal,
    safe,
  };
}

const settled = (order: Order, id: string) => (order.steps[id]?.status ?? 'todo') !== 'todo';
/** The same step done again, such as a panel off a second time. */
const again = (s: PlannedStep, n: number): PlannedStep => (n > 1 ? { ...s, id: `${s.id}/${n}` } : s);
/** How often a step that may come again has been settled. */
function times(order: Order, id: string): number {
  let n = 0;
  while (settled(order, n ? `${id}/${n + 1}` : id)) n++;
  return n;
}

const costOf = (s: Sequence, zones: (string | null)[], extra = 0): WorkCost => ({
  minutes: s.minutes + extra,
  panelsOff: s.steps.filter((x) => x.do === 'panel-off').length,
  powerOff: s.steps.filter((x) => x.do === 'power-off').length,
  moves: zones.reduce((n, z, i) => n + (i && z !== zones[i - 1] ? 1 : 0), 0),
});

/**
 * Puts the work of an order into the order in which it is best done, from where it stands: what is settled first, as it
 * was done, then the rest, with panels and power where they are needed.
 * @param steps as `workSteps` gives them
 */
export function planWork(order: Order, model: UnitModel, steps: readonly PlannedStep[], wiring: Wiring, given: WorkTimes): WorkPlan | null {
  if (!steps.some((s) => s.kit !== null)) return null;
  const [offSteps, onSteps] = [powerOffSteps(model), powerOnSteps(model)];
  const minutesOf = (list: readonly PlannedStep[]) => list.reduce((n, s) => n + s.minutes, 0);
  const { choice, pins } = order.plan;
  const wanted = (benchTest: boolean) => (benchTest ? steps : steps.filter((s) => s.stage !== 'bench-test' || settled(order, s.id)));
  const power = { offMinutes: minutesOf(offSteps), onMinutes: minutesOf(onSteps) };
  const build = (runs: 'fish' | 'off', list: readonly PlannedStep[], kept = pins, closed?: ReadonlySet<string>) => {
    const p = workProblem(model, list, wiring, given, runs, kept, closed);
    return { ...p, power: { ...p.power, ...power } };
  };
  const first = keyOff(model);
  const fresh = { done: [], off: [], power: 'on' as const, zone: zoneOf(model, first.place) };
  const whole = (runs: 'fish' | 'off', list: readonly PlannedStep[], kept = pins) =>
    solveSafely({ ...build(runs, list, kept), start: fresh });
  const mine = wanted(choice.benchTest);
  const [fish, off] = [whole('fish', mine), whole('off', mine)];
  const runs = usesFishing(choice, fish.minutes, off.minutes);

  // where the work stands
  const panelsOff = new Set<string>();
  for (const p of model.panels) {
    if (times(order, `open/${p.id}`) <= times(order, `shut/${p.id}`)) continue;
    const add = (id: string) => {
      panelsOff.add(id);
      model.panels.find((x) => x.id === id)!.after.forEach(add);
    };
    add(p.id);
  }
  const closed = new Set(model.panels.filter((p) => !panelsOff.has(p.id) && times(order, `shut/${p.id}`) > 0).map((p) => p.id));
  const problem = build(runs, mine, pins, closed);
  const [offs, ons] = [times(order, offSteps.at(-1)!.id), times(order, onSteps.at(-1)!.id)];
  const done = mine.filter((s) => settled(order, s.id));
  const all: PlannedStep[] = [first, ...mine];
  for (const p of model.panels)
    for (const side of [true, false]) {
      const s = panelStep(p, side);
      for (let n = 1; n <= times(order, s.id); n++) all.push(again(s, n));
    }
  for (const s of [...offSteps, ...onSteps]) for (let n = 1; n <= times(order, s.id); n++) all.push(again(s, n));
  const past = all
    .filter((s) => settled(order, s.id))
    .sort((a, b) => (order.steps[a.id]!.at ?? '').localeCompare(order.steps[b.id]!.at ?? '') || all.indexOf(a) - all.indexOf(b));
  const lastDone = past.at(-1);
  const zoneAt = (s: PlannedStep): Zone =>
    s.stage === 'bench-test'
      ? 'workbench'
      : s.panel
        ? (problem.panels.find((p) => p.id === s.panel!.id)!.zone as Zone)
        : zoneOf(model, s.place);
  const start = {
    done: done.map((s) => s.id),
    off: [...panelsOff],
    power: offs > ons ? ('off' as const) : ('on' as const),
    zone: lastDone ? zoneAt(lastDone) : fresh.zone,
  };
  problem.start = start;
  const found = solveSafely(problem);
  problem.start = found.safe.start;

  const ahead: PlannedStep[] = settled(order, first.id) ? [] : [first];
  const count = new Map<string, number>();
  const next = (s: PlannedStep) => {
    const n = (count.get(s.id) ?? times(order, s.id)) + 1;
    count.set(s.id, n);
    return again(s, n);
  };
  for (const s of found.steps) {
    if (s.do === 'task') ahead.push(mine.find((x) => x.id === s.id)!);
    else if (s.do === 'panel-off' || s.do === 'panel-on')
      ahead.push(
        next(
          panelStep(
            model.panels.find((p) => p.id === s.id)!,
            s.do === 'panel-off',
          ),
        ),
      );
    // of several steps that take power off, some may be done already
    else
      for (const x of s.do === 'power-off' ? offSteps : onSteps)
        if (times(order, x.id) <= (s.do === 'power-off' ? offs : ons) + ahead.filter((a) => a.id === x.id).length) ahead.push(next(x));
  }
  const list = [...past, ...ahead];
  const at = new Map<string, number>();
  const zone = new Map<string, Zone>();
  let t = 0;
  let here: Zone | null = null;
  for (const s of list) {
    const z = s.id === first.id ? (fresh.zone as Zone) : zoneAt(s);
    if (here !== null && here !== z) t += given.moveMinutes;
    here = z;
    zone.set(s.id, z);
    at.set(s.id, t);
    t += problem.tasks.find((x) => x.id === s.id)?.minutes ?? s.minutes;
  }
  const zonesOf = (q: Sequence, p: SequenceProblem) => [
    fresh.zone,
    ...q.steps.map((s) =>
      s.do === 'task'
        ? p.tasks.find((x) => x.id === s.id)!.zone
        : s.do.startsWith('panel')
          ? p.panels.find((x) => x.id === s.id)!.zone
          : p.power.zone,
    ),
  ];
  const apart = [...new Set(mine.map((s) => s.kit))]
    .filter((k) => k !== null)
    .map((kit) => {
      // by itself, a kit needs its own feeds proved, and what is proved for the whole unit
      const circuits = wiring.circuits.filter((c) => c.kit.id === kit);
      const own = mine.filter(
        (s) =>
          s.kit === kit ||
          (s.kit === null &&
            (!s.id.startsWith('feed/') || circuits.some((c) => s.id === `feed/${c.feed?.id}` || s.id === `feed/${c.trigger?.id}`))),
      );
      const p = build(runs, own, []);
      const q = solveSafely({ ...p, start: fresh });
      return costOf(q, zonesOf(q, p), first.minutes);
    })
    .reduce((a, b) => ({
      minutes: a.minutes + b.minutes,
      panelsOff: a.panelsOff + b.panelsOff,
      powerOff: a.powerOff + b.powerOff,
      moves: a.moves + b.moves,
    }));
  const untouched = !past.length;
  return {
    steps: list,
    at,
    zone,
    cost: {
      minutes: t,
      panelsOff: list.filter((s) => s.stage === 'open').length,
      powerOff: list.filter((s) => s.id === offSteps.at(-1)!.id || s.id.startsWith(`${offSteps.at(-1)!.id}/`)).length,
      moves: [...zone.values()].reduce((n, z, i, l) => n + (i && z !== l[i - 1] ? 1 : 0), 0),
    },
    apart,
    left: found.minutes - found.safe.minutes,
    bound: t - (found.minutes - found.bound),
    optimal: found.optimal,
    choices: {
      fish: fish.minutes + first.minutes,
      off: off.minutes + first.minutes,
      runs,
      benchTest: untouched ? whole(runs, wanted(true)).minutes - whole(runs, wanted(false)).minutes : 0,
    },
    problem,
    free: build(runs, mine, [], closed).tasks,
  };
}
