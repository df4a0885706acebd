import loadHighs from 'highs';
import { sequence } from '#core/plan/sequence';
import { Memo } from '#core/memo';
import { assess } from '#core/order/assess';
import { DEFAULT_SETTINGS } from '#model/settings';
import { after, demoFloor, demoOrder } from '../demo-sheets';
import { planModel } from '../plan-milp';
import { randomPlan } from '../random-plan';

const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1]!;

/** Orders of the work: as large as asked, against their bound; and small ones beside a MILP solver in the same run. */
export async function benchPlan(say: (line: string) => void): Promise<void> {
  for (const [tasks, shut, allowed] of [
    [40, 0, 1],
    [40, 0.1, 1],
    [80, 0, 2],
    [80, 0.1, 2],
  ] as const) {
    const [ms, gaps]: [number[], number[]] = [[], []];
    let proved = 0;
    for (let seed = 1; seed <= 20; seed++) {
      const p = randomPlan(seed, tasks, 12, 6, shut);
      const t = performance.now();
      const until = t + allowed * 900;
      const s = sequence(p, { most: Infinity, stop: () => performance.now() > until });
      ms.push(performance.now() - t);
      gaps.push((s.minutes / s.bound - 1) * 100);
      if (s.optimal) proved++;
    }
    say(
      `plan.sequence, ${tasks} tasks, 12 panels, 6 zones${shut ? ', a tenth of the tasks with a panel on' : ''}: ${proved} of 20 proved least, ${gaps.filter((g) => g <= 2).length} within 2 % of the bound, the widest ${Math.max(...gaps).toFixed(1)} %; ${(median(ms) / 1000).toFixed(2)} s at the median, ${(Math.max(...ms) / 1000).toFixed(2)} s at most (${allowed} s allowed).`,
    );
  }
  for (const { model, kits } of demoFloor()) {
    const { order: first, sheets } = demoOrder(model, kits);
    let order = first;
    const memo = new Memo();
    const plan = () => assess(order, sheets, DEFAULT_SETTINGS, memo).work!;
    let t = performance.now();
    const whole = plan();
    const fresh = performance.now() - t;
    const taps: number[] = [];
    for (let step = whole.steps.find((s) => s.id); step;) {
      order = after(order, { type: 'step.done', step: step.id, title: step.title, next: null, counts: null, took: [], affirmed: [] });
      t = performance.now();
      const { steps } = plan();
      taps.push(performance.now() - t);
      step = steps.find((s) => order.steps[s.id] === undefined);
    }
    taps.sort((a, b) => a - b);
    say(
      `${model} with ${kits.length} of its kits: ${whole.steps.length} steps, ${whole.optimal ? 'proved least' : `${((whole.cost.minutes / whole.bound - 1) * 100).toFixed(1)} % over its bound`}; all of the order worked out in ${fresh.toFixed(0)} ms, after each tap in ${median(taps).toFixed(1)} ms, ${taps.at(-Math.ceil(taps.length / 20))!.toFixed(1)} at the 95th.`,
    );
  }
  const highs = await loadHighs();
  let [ours, theirs, same, of] = [0, 0, 0, 0];
  for (let seed = 1; seed <= 6; seed++) {
    const p = randomPlan(seed, 5, 2, 2, 0);
    let t = performance.now();
    const s = sequence(p);
    ours += performance.now() - t;
    t = performance.now();
    const solved = highs.solve(planModel(p));
    theirs += performance.now() - t;
    of++;
    if (solved.Status === 'Optimal' && Math.abs(solved.ObjectiveValue - s.minutes) < 1e-6) same++;
  }
  say(
    `The same plans, 5 tasks, 2 panels, 2 zones, as a MILP: the same minutes in ${same} of ${of}; ${(theirs / ours).toFixed(0)} times as long.`,
  );
}
