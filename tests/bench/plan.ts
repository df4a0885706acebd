import loadHighs from 'highs';
import { sequence } from '#core/plan/sequence';
import { planModel } from '../plan-milp';
import { randomPlan } from '../random-plan';

const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1]!;

/** Orders of the work: as large as asked, against their bound; and small ones beside a MILP solver in the same run. */
export async function benchPlan(say: (line: string) => void): Promise<void> {
  for (const shut of [0, 0.1]) {
    const [ms, gaps]: [number[], number[]] = [[], []];
    let proved = 0;
    for (let seed = 1; seed <= 20; seed++) {
      const p = randomPlan(seed, 40, 12, 6, shut);
      const t = performance.now();
      const s = sequence(p);
      ms.push(performance.now() - t);
      gaps.push((s.minutes / s.bound - 1) * 100);
      if (s.optimal) proved++;
    }
    say(
      `plan.sequence, 40 tasks, 12 panels, 6 zones${shut ? ', a tenth of the tasks with a panel on' : ''}: ${proved} of 20 proved least, ${gaps.filter((g) => g <= 2).length} within 2 % of the bound, the widest ${Math.max(...gaps).toFixed(1)} %; ${(median(ms) / 1000).toFixed(2)} s at the median, ${(Math.max(...ms) / 1000).toFixed(2)} s at most (1 s allowed).`,
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
