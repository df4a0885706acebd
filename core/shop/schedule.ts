import { ImpossibleInput } from '../errors';
import { seeded } from '../random';
import { follow, inTurn } from './follow';
import { Placer, type JobPlace } from './place-jobs';
import { BoundSearch } from './schedule-bound';
import { grownOrder, growthSteps } from './schedule-grow';
import { compileSchedule, endCost, WAITING, type Compiled, type ScheduleProblem } from './schedule-problem';
import { searchAll } from './schedule-exact';
import { OrderSearch, usualOrders } from './schedule-order';

export interface ScheduledTask {
  job: string;
  task: string;
  people: string[];
  /** the bay that the job holds, for a task that needs one */
  bay: string | null;
  start: number;
  end: number;
}
export interface Schedule {
  tasks: ScheduledTask[];
  cost: number;
  /** proved: no schedule costs less */
  bound: number;
  optimal: boolean;
}
export interface ScheduleOptions {
  /** asked now and then: once it says so, the best so far is answered with its bound */
  stop?: () => boolean;
  /** how long to look, as a share of what is usual */
  effort?: number;
  /** job ids in the order of an earlier schedule: that one is kept to unless another costs less by more than `worth` */
  near?: readonly string[];
  worth?: number;
  /** only a schedule that the order of its jobs tells, so that a later one may be kept near it */
  byOrder?: boolean;
  /** a cost so near its bound is near enough: no longer looked for a better one */
  enough?: number;
  /** only a good schedule, soon: of many tasks no bound is looked for but what each job costs alone in the shop */
  quick?: boolean;
}

/** Jobs put in, and slots of tasks looked at, that one search spends: together about a second and a half. */
const PUTS = 24_000;
const LOOKS = 40_000_000;
/** Which part of what is put in is kept for the last touch. */
const POLISH = 0.4;
/** Which part finds an order before there is a bound: of few jobs by changing it, of many by letting it grow where lateness is most of the cost. */
const FIRST = { few: 0.3, many: 0.02, grown: 0.4 };
/** Times that each job is put in while the shop grows, at least: with fewer it is not worth it. */
const GROWTH = 20;
/** Rounds of prices at most, and their share of the looks: on coarse time, then twice on the shop’s own. */
const COARSE = { rounds: 60, share: 0.2 };
const FINE = [
  { rounds: 80, share: 0.3 },
  { rounds: 160, share: 0.5 },
];
/** Schedules of a shop with so few tasks are looked through whole, so many steps of them at most. */
const FEW = 40;
const NODES = 200_000;
const SURE = 1e-6;

/**
 * Who does which job’s work when, and where its unit stands: least weighted lateness, then least waiting.
 * Its bound is proved; where no schedule between the two is left, the schedule is proved best.
 * @throws ImpossibleInput for a shop that cannot be, or whose shifts do not hold the work
 */
export function schedule(problem: ScheduleProblem, options: ScheduleOptions = {}): Schedule {
  const c = compileSchedule(problem);
  const { stop = () => false, effort = 1, near, worth = 0, enough = 0, quick = false, byOrder = near !== undefined } = options;
  const placer = new Placer(c);
  const never = placer.least.findIndex((x) => x === Infinity);
  if (never >= 0) {
    const job = problem.jobs[never]!;
    throw new ImpossibleInput(`the shifts do not hold the work of ${job.id}, even alone in the shop`, `jobs.${never}`);
  }
  const index = new Map(problem.jobs.map((j, n) => [j.id, n]));
  const kept = (near ?? []).flatMap((id) => index.get(id) ?? []);
  const starts = usualOrders(c, placer.least);
  let before: { cost: number; places: readonly JobPlace[] } | null = null;
  if (kept.length) {
    // what is new stands behind what was there
    starts.unshift([...kept, ...starts[0]!.filter((n) => !kept.includes(n))]);
    const cost = placer.inOrder(starts[0]!);
    if (cost < Infinity) before = { cost, places: placer.kept() };
  }
  const random = seeded(1);
  const search = new OrderSearch(c, placer, starts, random);
  let bound = placer.least.reduce((a, b) => a + b, 0);
  const close = () => search.best - bound <= Math.max(enough, SURE * Math.max(1, Math.abs(bound)));
  const puts = PUTS * effort;
  let ordered = byOrder ? puts : puts * (1 - POLISH);
  const tasks = problem.jobs.reduce((sum, j) => sum + j.tasks.length, 0);
  const going = () => !close() && !stop() && search.best < Infinity;
  const anneal = (until: number) => {
    while (going() && search.spent < until) search.anneal(Math.min(400, 20 * problem.jobs.length), search.best * 0.004, stop);
  };
  const prices = new BoundSearch(c, placer.least, (order) => search.begin(order));
  const known = () => ({ cost: search.best, end: Math.max(...search.places().map((p) => p.done)) });
  const all = (nodes: number) => {
    if (!going() || tasks > FEW) return;
    const found = searchAll(c, prices.settled(known()), search.best, nodes, stop);
    if (found.places) search.take(found.places, found.cost);
    if (found.done) bound = search.best;
  };
  const patience = ({ rounds, share }: { rounds: number; share: number }) => ({ rounds, looks: LOOKS * share * effort, stop });
  const polish = (part: number) => {
    if (going() && tasks > FEW && !byOrder) search.polish(puts * part, search.best * 0.004, stop);
  };
  if (problem.jobs.length > 1) {
    const many = tasks > FEW && growthSteps(c) > 1 && puts * FIRST.grown > GROWTH * problem.jobs.length;
    anneal(tasks > FEW ? puts * (many ? FIRST.many : FIRST.few) : 30 * problem.jobs.length * Math.min(1, effort));
    if (going() && many) {
      if (search.best > 2 * WAITING * search.places().reduce((sum, p) => sum + p.done, 0)) {
        const { order, spent } = grownOrder(c, puts * FIRST.grown, random, stop);
        search.spent += spent;
        search.begin(order);
        // changed among all of them at once, it hardly gets better any more
        if (!byOrder) ordered = 0;
      } else anneal(puts * FIRST.few);
    }
    const priced = !quick || tasks <= FEW;
    if (going() && tasks <= FEW) bound = Math.max(bound, prices.raise(known(), patience({ rounds: 30, share: 1 })));
    all((NODES / 20) * effort);
    if (going() && priced) prices.coarse(known(), patience(COARSE));
    // a bound before the rest of the search, for who stops early, and beneath the best of it
    for (const part of FINE) {
      if (going() && priced) bound = Math.max(bound, prices.raise(known(), patience(part)));
      anneal(ordered);
      polish(POLISH / FINE.length);
    }
    all(NODES * effort);
  }
  const better = before === null || search.best < before.cost - Math.max(worth, SURE);
  const best = better ? { places: search.places(), cost: search.best } : before!;
  if (best.cost === Infinity && problem.jobs.length)
    throw new ImpossibleInput('the shifts end before all of the work is done: no order of the jobs that was tried fits in', 'people');
  let cost = moveUp(c, best.places);
  if (byOrder && better) {
    // of equals the one that comes of its own order: who plans near it gets the same people at the same work again
    const begins = (n: number) => best.places[n]!.start[0] ?? best.places[n]!.done;
    const cameSo = [...best.places.keys()].sort((a, b) => begins(a) - begins(b) || best.places[a]!.done - best.places[b]!.done);
    if (placer.inOrder(cameSo) <= cost + SURE) {
      best.places = placer.kept();
      cost = moveUp(c, best.places);
    }
  }
  bound = Math.min(bound, cost);
  return { tasks: told(c, best.places), cost, bound, optimal: cost - bound <= SURE * Math.max(1, Math.abs(bound)) };
}

/** Everything as early as its order lets it be: who does what, and who comes after whom, stays. No job ends later. @returns the cost then */
function moveUp(c: Compiled, places: readonly JobPlace[]): number {
  const steps = places.flatMap((p, job) =>
    Array.from(p.start, (start, task) => ({
      job,
      task,
      ...c.jobs[job]!.tasks[task]!.crews[p.crew[task]!]!,
      bay: p.bay,
      start,
      end: p.end[task]!,
    })),
  );
  const ready = follow(
    c,
    inTurn(steps),
    (s) => c.jobs[s.job]!.tasks[s.task]!.minutes,
    (s, start, end) => {
      places[s.job]!.start[s.task] = start;
      places[s.job]!.end[s.task] = end;
    },
  );
  return c.jobs.reduce((sum, j, n) => sum + endCost(j, ready[n]!), 0);
}

function told(c: Compiled, places: readonly JobPlace[]): ScheduledTask[] {
  const { problem } = c;
  return places.flatMap((p, n) => {
    const job = problem.jobs[n]!;
    return job.tasks.map((task, k) => ({
      job: job.id,
      task: task.id,
      people: c.jobs[n]!.tasks[k]!.crews[p.crew[k]!]!.who.map((w) => problem.people[w]!.id),
      bay: task.needsBay && p.bay >= 0 ? problem.bays[p.bay]!.id : null,
      start: p.start[k]!,
      end: p.end[k]!,
    }));
  });
}
