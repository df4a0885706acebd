import type { UnitModel } from '#model/unit-model';
import type { PlanChoice, PlanPin } from '#model/work-plan';
import type { Wiring } from '../wiring/planned';
import type { Memo } from '../memo';
import type { PlannedStep } from './planned';
import { usesFishing, workProblem, type WorkProblem, type WorkTask, type WorkTimes } from './problem';
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
  runs: 'fish' | 'off';
  problem: WorkProblem;
  free: WorkTask[];
  build: (list: readonly PlannedStep[], pins: readonly PlanPin[], closed?: ReadonlySet<string>) => WorkProblem;
}

export const minutesOf = (list: readonly PlannedStep[]) => list.reduce((n, s) => n + s.minutes, 0);

/** What a plan is made from. */
export interface WorkInput {
  model: UnitModel;
  /** boxes that are counted before anything else */
  unpack: readonly PlannedStep[];
  steps: readonly PlannedStep[];
  wiring: Pick<Wiring, 'circuits' | 'points'>;
  times: WorkTimes;
  runs: PlanChoice['runs'];
  pins: readonly PlanPin[];
}

/** What is the same for every way of doing the work. */
export function groundsOf({ model, unpack, wiring, times }: Omit<WorkInput, 'steps' | 'pins' | 'runs'>) {
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
  const fresh = { done: [], off: [], power: 'on' as const, zone: zoneOf(model, first.place) };
  return { make, first, fresh, begin: first.minutes + minutesOf(unpack) };
}

function reckon(input: WorkInput, memo: Memo): WorkBase {
  const { make, first, fresh } = groundsOf(input);
  const { steps, pins } = input;
  const ways: Partial<Record<'fish' | 'off', WorkProblem>> = {};
  const way = (runs: 'fish' | 'off') => (ways[runs] ??= make(runs, steps, pins));
  const whole = (runs: 'fish' | 'off') => solveSafely({ ...way(runs), start: fresh }, memo).minutes;
  const runs = input.runs ?? usesFishing(null, whole('fish'), whole('off'));
  return {
    first,
    fresh,
    runs,
    problem: way(runs),
    free: pins.length ? make(runs, steps, []).tasks : way(runs).tasks,
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
