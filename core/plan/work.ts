import type { Order } from '#model/order';
import type { UnitModel } from '#model/unit-model';
import type { Wiring } from '../wiring/planned';
import type { Memo } from '../memo';
import type { PlannedStep } from './planned';
import { behind, type WorkProblem, type WorkTask, type WorkTimes } from './problem';
import { solveSafely } from './solve';
import { wiredPlaces } from './last-steps';
import { panelStep, powerOffSteps, powerOnSteps } from './steps';
import { workBase, type WorkCost } from './work-base';
import { zoneOf, type Zone } from './zones';

/** The order of the work: every step in the order in which it is best done, and what that saves. */
export interface WorkPlan {
  steps: PlannedStep[];
  /** minutes from the start of each step, moves included, as planned from the first to the last */
  at: Map<string, number>;
  zone: Map<string, Zone>;
  cost: WorkCost;
  /** minutes of what is left once it is safe: what `problem` begins with */
  left: number;
  /** minutes in which hands are idle before a step, because something is left to itself */
  idle: { before: string; for: string; minutes: number }[];
  /** no order of what is left takes less than this in all, idle time included */
  bound: number;
  optimal: boolean;
  /** whether panels over the way of a wire come off, or it is fished under them */
  runs: 'fish' | 'off';
  /** all that may be done, in no order: steps that were not chosen as well */
  all: readonly PlannedStep[];
  problem: WorkProblem;
  /** power was taken off, and is not back on */
  isolated: boolean;
  /** the tasks without what was put elsewhere by hand */
  free: WorkTask[];
}

export const settled = (order: Order, id: string) => (order.steps[id]?.status ?? 'todo') !== 'todo';
/** What is done at the unit: trying on the workbench only where that is wanted, or was done. */
export const wantedSteps = (order: Order, all: readonly PlannedStep[], benchTest: boolean): PlannedStep[] =>
  all.filter((s) => s.stage !== 'unpack' && (benchTest || s.stage !== 'bench-test' || settled(order, s.id)));

/** The same step done again, such as a panel off a second time. */
const again = (s: PlannedStep, n: number): PlannedStep => (n > 1 ? { ...s, id: `${s.id}/${n}` } : s);
/** How often a step that may come again has been settled. */
function times(order: Order, id: string): number {
  let n = 0;
  while (settled(order, n ? `${id}/${n + 1}` : id)) n++;
  return n;
}

/** Panels that are off as the work stands, with those that must have come off before them. */
function panelsOffNow(order: Order, model: UnitModel): Set<string> {
  const off = model.panels.filter((p) => times(order, `open/${p.id}`) > times(order, `shut/${p.id}`));
  return behind(
    model,
    off.map((p) => p.id),
  );
}

/** Every step that was settled, in the order in which it was. */
function pastSteps(order: Order, model: UnitModel, once: readonly PlannedStep[], wired: ReadonlySet<string>): PlannedStep[] {
  const turning = [
    ...model.panels.flatMap((p) => [panelStep(p, true), panelStep(p, false, wired)]),
    ...powerOffSteps(model),
    ...powerOnSteps(model),
  ];
  const all = [...once, ...turning.flatMap((s) => Array.from({ length: times(order, s.id) }, (_, n) => again(s, n + 1)))];
  // steps settled at the same moment stay in their order
  return all.filter((s) => settled(order, s.id)).sort((a, b) => (order.steps[a.id]!.at ?? '').localeCompare(order.steps[b.id]!.at ?? ''));
}

/**
 * Puts the work of an order into the order in which it is best done, from where it stands: what is settled first, as it
 * was done, then the rest, with panels and power where they are needed.
 * @param all as `workSteps` and `unpackSteps` give them
 */
export function planWork(
  order: Order,
  model: UnitModel,
  all: readonly PlannedStep[],
  wiring: Wiring,
  given: WorkTimes,
  memo: Memo,
): WorkPlan | null {
  const unpack = all.filter((s) => s.stage === 'unpack');
  if (!all.some((s) => s.stage !== 'unpack' && s.kit !== null)) return null;
  const [offSteps, onSteps] = [powerOffSteps(model), powerOnSteps(model)];
  const { choice, pins } = order.plan;
  const mine = wantedSteps(order, all, choice.benchTest);
  const base = workBase({ model, unpack, steps: mine, wiring, times: given, runs: choice.runs, pins }, memo);
  const { first, fresh } = base;

  const panelsOff = panelsOffNow(order, model);
  const closed = new Set(model.panels.filter((p) => !panelsOff.has(p.id) && times(order, `shut/${p.id}`) > 0).map((p) => p.id));
  // what is closed again comes off only for what is behind it: rarely so, and then the tasks ask for less
  const problem = { ...(closed.size ? base.build(mine, pins, closed) : base.problem) };
  const [offs, ons] = [times(order, offSteps.at(-1)!.id), times(order, onSteps.at(-1)!.id)];
  const done = mine.filter((s) => settled(order, s.id));
  const wired = wiredPlaces(wiring);
  const past = pastSteps(order, model, [first, ...unpack, ...mine], wired);
  const lastDone = past.findLast((s) => s.stage !== 'unpack');
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
  const found = solveSafely(problem, memo);
  problem.start = found.safe.start;

  const ahead: PlannedStep[] = [first, ...unpack].filter((s) => !settled(order, s.id));
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
            wired,
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
  let waited = 0;
  let here: Zone | null = null;
  for (const s of list) {
    const z = s.id === first.id || s.stage === 'unpack' ? (fresh.zone as Zone) : zoneAt(s);
    if (here !== null && here !== z) t += given.moveMinutes;
    here = z;
    zone.set(s.id, z);
    waited += found.idle.find((x) => x.before === s.id)?.minutes ?? 0;
    at.set(s.id, t + waited);
    t += problem.tasks.find((x) => x.id === s.id)?.minutes ?? s.minutes;
  }
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
    left: found.minutes - found.safe.minutes,
    idle: found.idle.map((x) => ({ ...x, for: mine.find((s) => s.id === x.for)!.waitsFor })),
    bound: t + waited - (found.minutes + waited - found.bound),
    optimal: found.optimal,
    runs: base.runs,
    all,
    problem,
    isolated: offs > ons,
    free: closed.size ? base.build(mine, [], closed).tasks : base.free,
  };
}
