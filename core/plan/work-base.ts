import type { UnitModel } from '#model/unit-model';
import type { PlanChoice, PlanPin } from '#model/work-plan';
import type { Wiring } from '../wiring/planned';
import type { Memo } from '../memo';
import { isChange } from './change-steps';
import { feedStepOf } from './find-steps';
import type { PlannedStep } from './planned';
import { usesFishing, workProblem, type WorkProblem, type WorkTask, type WorkTimes } from './problem';
import { stepAt, type Sequence, type SequenceProblem } from './sequence-problem';
import { solveSafely } from './solve';
import { keyOff, powerOffSteps, powerOnSteps } from './steps';
import { zoneOf, type Zone } from './zones';

/** What one way of doing the work takes. */
export interface WorkCost {
  minutes: number;
  /** panels taken off, power taken off, changes of zone */
  panelsOff: number;
  powerOff: number;
  moves: number;
}

/** What can be said of an order’s work wherever it stands: reckoned once, as most that happens at the bench changes none of it. */
export interface WorkBase {
  first: PlannedStep;
  /** before anybody has touched the unit */
  fresh: { done: string[]; off: string[]; power: 'on'; zone: Zone };
  choices: { fish: number; off: number; runs: 'fish' | 'off' };
  /** the whole work as chosen, key off left out */
  minutes: number;
  apart: WorkCost;
  problem: WorkProblem;
  free: WorkTask[];
  build: (list: readonly PlannedStep[], pins: readonly PlanPin[], closed?: ReadonlySet<string>) => WorkProblem;
}

const costOf = (s: Sequence, zones: (string | null)[], extra = 0): WorkCost => ({
  minutes: s.minutes + extra,
  panelsOff: s.steps.filter((x) => x.do === 'panel-off').length,
  powerOff: s.steps.filter((x) => x.do === 'power-off').length,
  moves: zones.reduce((n, z, i) => n + (i && z !== zones[i - 1] ? 1 : 0), 0),
});

const minutesOf = (list: readonly PlannedStep[]) => list.reduce((n, s) => n + s.minutes, 0);

/** What a plan is made from. */
export interface WorkInput {
  model: UnitModel;
  /** boxes that are counted before anything else */
  unpack: readonly PlannedStep[];
  steps: readonly PlannedStep[];
  wiring: Wiring;
  times: WorkTimes;
  runs: PlanChoice['runs'];
  pins: readonly PlanPin[];
}

function reckon({ model, unpack, steps: mine, wiring, times, runs: choice, pins }: WorkInput, memo: Memo): WorkBase {
  const power = { offMinutes: minutesOf(powerOffSteps(model)), onMinutes: minutesOf(powerOnSteps(model)) };
  const make = (
    runs: 'fish' | 'off',
    list: readonly PlannedStep[],
    kept: readonly PlanPin[],
    closed?: ReadonlySet<string>,
  ): WorkProblem => {
    const p = workProblem(model, list, wiring, times, runs, kept, closed);
    return { ...p, power: { ...p.power, ...power } };
  };
  const first = keyOff(model);
  const begin = first.minutes + minutesOf(unpack);
  const fresh = { done: [], off: [], power: 'on' as const, zone: zoneOf(model, first.place) };
  const ways = { fish: make('fish', mine, pins), off: make('off', mine, pins) };
  const whole = (p: WorkProblem) => solveSafely({ ...p, start: fresh }, memo);
  const [fish, off] = [whole(ways.fish).minutes, whole(ways.off).minutes];
  const runs = usesFishing(choice, fish, off);
  const zonesOf = (q: Sequence, p: SequenceProblem) => [fresh.zone, ...q.steps.map((x) => stepAt(p, x).zone)];
  const apart = [...new Set(mine.map((s) => s.kit))]
    .filter((k) => k !== null)
    .map((kit, nth) => {
      // what was agreed for the unit is done once, with the first of them; by itself, a kit needs its own feeds proved, and what is proved for the whole unit
      const feeds = (of: string | null) =>
        wiring.circuits
          .filter((c) => of === null || c.kit.id === of)
          .flatMap((c) => [c.feed, c.trigger].flatMap((p) => (p ? [feedStepOf(p.id)] : [])));
      const needed = new Set([...feeds(kit), ...mine.flatMap((s) => (s.kit === kit ? s.after : []))]);
      const others = new Set([...feeds(null), ...mine.flatMap((s) => s.after)]);
      const own = mine.filter(
        (s) => s.kit === kit || (s.kit === null && (nth === 0 || !isChange(s.id)) && (!others.has(s.id) || needed.has(s.id))),
      );
      const p = make(runs, own, []);
      const q = solveSafely({ ...p, start: fresh }, memo);
      return costOf(q, zonesOf(q, p), first.minutes + minutesOf(unpack.filter((s) => s.kit === kit)));
    })
    .reduce((a, b) => ({
      minutes: a.minutes + b.minutes,
      panelsOff: a.panelsOff + b.panelsOff,
      powerOff: a.powerOff + b.powerOff,
      moves: a.moves + b.moves,
    }));
  return {
    first,
    fresh,
    choices: { fish: fish + begin, off: off + begin, runs },
    minutes: runs === 'fish' ? fish : off,
    apart,
    problem: ways[runs],
    free: make(runs, mine, []).tasks,
    build: (list, kept, closed) => make(runs, list, kept, closed),
  };
}

const RECENT = 40;

/** What can be said of the work whatever is done of it. */
export function workBase(input: WorkInput, memo: Memo): WorkBase {
  const { model, unpack, steps, wiring, times, runs, pins } = input;
  const key = JSON.stringify([
    unpack.map((s) => [s.id, s.minutes]),
    steps.map((s) => [s.id, s.minutes, s.place, s.reach, s.way, s.after, s.waits]),
    wiring.circuits.map((c) => [c.id, c.feed?.id, c.trigger?.id, c.route?.places]),
    times.moveMinutes,
    times.fishMinutes,
    runs,
    pins,
  ]);
  return memo.once('work', [model, key], () => reckon(input, memo), RECENT);
}
