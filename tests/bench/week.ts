import loadHighs from 'highs';
import { atMiddle, chancesOf, type LikelyProblem } from '#core/shop/promise';
import { schedule } from '#core/shop/schedule';
import type { ScheduleProblem } from '#core/shop/schedule-problem';
import { plainWeek, randomWeek } from '../random-week';
import { ownWeek } from '../own-week';
import { lateJobs, movedJobs, shiftedJobs } from '../week-check';
import { MOVING_MIN } from '#core/shop/week-shop';
import { weekModel } from '../week-milp';

const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1]!;
const DRAWS = 2000;

/** Random shops: tasks of an hour for whoever has the skill, and orders as Kadro has them, promised by its desk. */
const SHOPS: { what: string; shop: (seed: number) => ScheduleProblem }[] = [
  ...(
    [
      ['9 bays, as many as the work asks for, 160 tasks, promises over two weeks', { bays: 9, tasks: 160, loose: 3 }],
      ['6 bays, 200 tasks, promises over two weeks', { bays: 6, tasks: 200, loose: 3 }],
      ['6 bays, 200 tasks, promises within five days, which is too soon', { bays: 6, tasks: 200, loose: 1 }],
    ] as const
  ).map(([what, size]) => ({ what, shop: (seed: number) => randomWeek(seed, { jobs: 40, people: 8, ...size }) })),
  { what: '6 bays, the demo’s units and kits as the desk promised them, then illness, late parts, slow work', shop: ownWeek },
];

/** Weeks of random shops against their bounds, small ones beside a MILP solver in the same run, and draws of chances. */
export async function benchWeek(say: (line: string) => void): Promise<void> {
  for (const { what, shop } of SHOPS) {
    const [gaps, ms, first, late]: number[][] = [[], [], [], []];
    for (let seed = 1; seed <= 20; seed++) {
      const p = shop(seed);
      let t = performance.now();
      schedule(p, { stop: () => true });
      first!.push(performance.now() - t);
      t = performance.now();
      const until = t + 1900;
      const s = schedule(p, { stop: () => performance.now() > until });
      ms!.push(performance.now() - t);
      gaps!.push((s.cost / s.bound - 1) * 100);
      if (lateJobs(p, s.tasks).length) late!.push(gaps!.at(-1)!);
    }
    const widest = (list: number[]) => `${Math.max(...list).toFixed(1)} %`;
    say(
      `shop.schedule, 40 orders, 8 people, ${what}: over its bound by ${median(gaps!).toFixed(1)} % at the median of 20, ${widest(gaps!)} at the widest (${late!.length ? widest(late!) : 'none'} of the ${late!.length} in which something is late); a first schedule in ${median(first!).toFixed(0)} ms, all of it in ${(median(ms!) / 1000).toFixed(2)} s at the median, ${(Math.max(...ms!) / 1000).toFixed(2)} s at most (2 s allowed).`,
    );
  }
  let [near, fresh, nearMoved, freshMoved, nearShifted, freshShifted] = [0, 0, 0, 0, 0, 0];
  for (let seed = 1; seed <= 10; seed++) {
    const p = randomWeek(seed, { jobs: 40, people: 8, bays: 6, tasks: 200, loose: 3 });
    const first = schedule(p, { effort: 0.5 });
    // half an hour more of one job
    const more = (j: ScheduleProblem['jobs'][number]) => ({
      ...j,
      tasks: j.tasks.map((t, k) => (k ? t : { ...t, minutes: t.minutes + 30 })),
    });
    const q = { ...p, jobs: p.jobs.map((j, n) => (n === 5 ? more(j) : j)) };
    const [kept, anew] = [schedule(q, { effort: 0.5, near: first.tasks, moving: MOVING_MIN }), schedule(q, { effort: 0.5 })];
    near += kept.cost;
    fresh += anew.cost;
    nearMoved += movedJobs(first.tasks, kept.tasks).length;
    freshMoved += movedJobs(first.tasks, anew.tasks).length;
    nearShifted += shiftedJobs(first.tasks, kept.tasks).length;
    freshShifted += shiftedJobs(first.tasks, anew.tasks).length;
  }
  say(
    `shop.schedule after half an hour more of one job, 10 such shops: near the one before ${nearMoved / 10} of 40 jobs go to others or to another bay and ${nearShifted / 10} begin more than an hour off, from nothing ${freshMoved / 10} and ${freshShifted / 10}; it costs ${(near / fresh).toFixed(2)} of one from nothing.`,
  );
  const highs = await loadHighs();
  let [ours, theirs, same, of] = [0, 0, 0, 0];
  for (let seed = 1; seed <= 6; seed++) {
    const p: ScheduleProblem = plainWeek(seed, 5, 10);
    let t = performance.now();
    const s = schedule(p);
    ours += performance.now() - t;
    const lp = weekModel(p, 30, (3 * 1440) / 30);
    t = performance.now();
    const solved = highs.solve(lp);
    theirs += performance.now() - t;
    of++;
    if (Math.abs(solved.ObjectiveValue - s.cost) < 1e-3) same++;
  }
  say(
    `shop.schedule beside HiGHS on ${of} shops of 5 orders and 10 tasks: the same cost on ${same}, in ${(theirs / ours).toFixed(1)} times less time (${(ours / of).toFixed(0)} against ${(theirs / of).toFixed(0)} ms).`,
  );
  const p = randomWeek(1, { jobs: 40, people: 8, bays: 9, tasks: 160, loose: 3 });
  const likely: LikelyProblem = {
    ...p,
    jobs: p.jobs.map((j) => ({
      ...j,
      tasks: j.tasks.map((t) => ({ ...t, minutes: { p10: 0.8 * t.minutes, p50: t.minutes, p90: 1.4 * t.minutes } })),
    })),
  };
  const plan = schedule(atMiddle(likely), { effort: 0.3 });
  const t = performance.now();
  chancesOf(likely, plan.tasks, { draws: DRAWS, seed: 1, confidence: 0.8 });
  say(`shop.promise, the same forty orders: ${DRAWS} draws in ${((performance.now() - t) / 1000).toFixed(2)} s (3 s allowed).`);
}
