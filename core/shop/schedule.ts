import { ImpossibleInput } from '../errors';
import { follow, inTurn } from './follow';
import { Placer, type JobPlace } from './place-jobs';
import { compileSchedule, endCost, type Compiled, type ScheduleProblem } from './schedule-problem';
import { ScheduleSearch, SURE } from './schedule-search';
import { usualOrders } from './schedule-order';

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

/**
 * Who does which job’s work when, and where its unit stands: least weighted lateness, then least waiting.
 * Its bound is proved; where no schedule between the two is left, the schedule is proved best.
 * @throws ImpossibleInput for a shop that cannot be, or whose shifts do not hold the work
 */
export function schedule(problem: ScheduleProblem, options: ScheduleOptions = {}): Schedule {
  const c = compileSchedule(problem);
  const placer = new Placer(c);
  const never = placer.least.findIndex((x) => x === Infinity);
  if (never >= 0) {
    const job = problem.jobs[never]!;
    throw new ImpossibleInput(`the shifts do not hold the work of ${job.id}, even alone in the shop`, `jobs.${never}`);
  }
  const { stop = () => false, effort = 1, near, worth = 0, enough = 0, quick = false, byOrder = near !== undefined } = options;
  const starts = usualOrders(c, placer.least);
  const before = near?.length ? earlier(c, placer, near, starts[0]!) : null;
  if (before) starts.unshift(before.order);
  const search = new ScheduleSearch(c, placer, starts, { stop, effort, enough, quick, byOrder });
  search.run();
  const better = !before || search.cost < before.cost - Math.max(worth, SURE);
  const best = better ? search : before;
  if (best.cost === Infinity && problem.jobs.length)
    throw new ImpossibleInput('the shifts end before all of the work is done: no order of the jobs that was tried fits in', 'people');
  let { places } = best;
  let cost = moveUp(c, places);
  if (byOrder && better) {
    // of equals the one that comes of its own order: who plans near it gets the same people at the same work again
    const own = asItCame(c, placer, places);
    if (own.cost <= cost + SURE) {
      places = own.places;
      cost = moveUp(c, places);
    }
  }
  const bound = Math.min(search.bound, cost);
  return { tasks: told(c, places), cost, bound, optimal: cost - bound <= SURE * Math.max(1, Math.abs(bound)) };
}

interface Placed {
  cost: number;
  places: readonly JobPlace[];
}

/** The schedule of an earlier order of jobs; what is new stands behind what was there. Null where nothing of it is left. */
function earlier(c: Compiled, placer: Placer, near: readonly string[], usual: readonly number[]): (Placed & { order: number[] }) | null {
  const index = new Map(c.problem.jobs.map((j, n) => [j.id, n]));
  const kept = near.flatMap((id) => index.get(id) ?? []);
  if (!kept.length) return null;
  const order = [...kept, ...usual.filter((n) => !kept.includes(n))];
  const cost = placer.inOrder(order);
  return { order, cost, places: cost < Infinity ? placer.kept() : [] };
}

/** The schedule that comes of the order in which its jobs begin. */
function asItCame(c: Compiled, placer: Placer, places: readonly JobPlace[]): Placed {
  const begins = (n: number) => places[n]!.start[0] ?? places[n]!.done;
  const order = c.jobs.map((_, n) => n).sort((a, b) => begins(a) - begins(b) || places[a]!.done - places[b]!.done);
  const cost = placer.inOrder(order);
  return { cost, places: cost < Infinity ? placer.kept() : [] };
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
