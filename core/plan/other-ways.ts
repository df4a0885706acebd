import type { Order } from '#model/order';
import type { UnitModel } from '#model/unit-model';
import type { Wiring } from '../wiring/planned';
import { Memo } from '../memo';
import { isChange } from './change-steps';
import { feedStepOf } from './find-steps';
import type { WorkTimes } from './problem';
import { stepAt, type Sequence, type SequenceProblem } from './sequence-problem';
import { solveSafely } from './solve';
import { settled, wantedSteps, type WorkPlan } from './work';
import { groundsOf, minutesOf, type WorkCost, type WorkInput } from './work-base';

/** What the same work would take if it were done otherwise. Each is a plan of its own: reckoned for whoever asks. */
export interface OtherWays {
  /** panels left on where a wire can be fished under them, or taken off; minutes from an untouched unit */
  fish: number;
  off: number;
  /** what trying harnesses on the workbench first adds, minutes; 0 once work has begun */
  benchTest: number;
  /** the same kits one after another, each by itself in its own best order */
  apart: WorkCost;
}

const costOf = (s: Sequence, zones: (string | null)[], extra = 0): WorkCost => ({
  minutes: s.minutes + extra,
  panelsOff: s.steps.filter((x) => x.do === 'panel-off').length,
  powerOff: s.steps.filter((x) => x.do === 'power-off').length,
  moves: zones.reduce((n, z, i) => n + (i && z !== zones[i - 1] ? 1 : 0), 0),
});

/** Every kit by itself, from an untouched unit each time. */
function apartOf(input: WorkInput, runs: 'fish' | 'off', memo: Memo): WorkCost {
  const { unpack, steps: mine, wiring } = input;
  const { make, first, fresh } = groundsOf(input);
  const zonesOf = (q: Sequence, p: SequenceProblem) => [fresh.zone, ...q.steps.map((x) => stepAt(p, x).zone)];
  return [...new Set(mine.map((s) => s.kit))]
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
}

/**
 * What an order's work would take done otherwise than planned. Some tenths of a second for a large one: a screen asks a worker.
 * @param work its plan, as `planWork` gave it for the same order, sheets, wiring and times
 * @param memo what its asker computed lately
 */
export function otherWays(
  order: Order,
  work: Pick<WorkPlan, 'all' | 'steps' | 'runs'>,
  { sheets, wiring }: { sheets: { model: UnitModel }; wiring: Pick<Wiring, 'circuits' | 'points'> },
  times: WorkTimes,
  memo = new Memo(),
): OtherWays {
  const { choice, pins } = order.plan;
  const unpack = work.all.filter((s) => s.stage === 'unpack');
  const input = (benchTest: boolean): WorkInput => ({
    model: sheets.model,
    unpack,
    steps: wantedSteps(order, work.all, benchTest),
    wiring,
    times,
    runs: choice.runs,
    pins,
  });
  const whole = (of: WorkInput, runs: 'fish' | 'off') => {
    const { make, fresh } = groundsOf(of);
    return solveSafely({ ...make(runs, of.steps, of.pins), start: fresh }, memo).minutes;
  };
  const mine = input(choice.benchTest);
  const { begin } = groundsOf(mine);
  const untouched = !work.steps.some((s) => settled(order, s.id));
  return {
    fish: whole(mine, 'fish') + begin,
    off: whole(mine, 'off') + begin,
    benchTest: untouched ? whole(input(true), work.runs) - whole(input(false), work.runs) : 0,
    apart: apartOf(mine, work.runs, memo),
  };
}
