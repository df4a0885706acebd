import { ImpossibleInput } from '../errors';
import { followPlaces } from './follow';
import { Placer, type JobPlace } from './place-jobs';
import { compileSchedule, endCost, type Compiled, type ScheduleProblem } from './schedule-problem';
import { Homes, type EarlierTask } from './schedule-keep';
import { ScheduleSearch, SURE } from './schedule-search';

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
  /** an earlier schedule, which is kept to unless another costs less by more than `moving` for each job that it moves */
  near?: readonly EarlierTask[];
  moving?: number;
  /** a cost so near its bound is near enough: no longer looked for a better one */
  enough?: number;
  /** only a good schedule, soon: of many tasks no bound is looked for but what each job costs alone in the shop; near an earlier one nothing but what is worth being moved */
  quick?: boolean;
}

/**
 * Who does which job’s work when, and where its unit stands: least weighted lateness, then least waiting.
 * Its bound is proved; where no schedule between the two is left, the schedule is proved best.
 * @throws ImpossibleInput for a shop that cannot be, or whose shifts do not hold the work
 */
export function schedule(problem: ScheduleProblem, options: ScheduleOptions = {}): Schedule {
  const c = compileSchedule(problem);
  const { stop = () => false, effort = 1, near, moving = 0, enough = 0, quick = false } = options;
  const homes = near?.length ? new Homes(c, near, moving) : null;
  const placer = homes?.placer(c, [...c.jobs.keys()]) ?? new Placer(c);
  const never = placer.least.findIndex((x) => x === Infinity);
  if (never >= 0) {
    const job = problem.jobs[never]!;
    throw new ImpossibleInput(`the shifts do not hold the work of ${job.id}, even alone in the shop`, `jobs.${never}`);
  }
  const search = new ScheduleSearch(c, placer, homes, { stop, effort, enough, quick });
  search.run();
  const { places } = search;
  if (!places.length && problem.jobs.length)
    throw new ImpossibleInput('the shifts end before all of the work is done: no order of the jobs that was tried fits in', 'people');
  const cost = moveUp(c, places);
  const bound = Math.min(search.bound, cost);
  return { tasks: told(c, places), cost, bound, optimal: cost - bound <= SURE * Math.max(1, Math.abs(bound)) };
}

/** Everything as early as its order lets it be: who does what, and who comes after whom, stays. No job ends later. @returns the cost then */
function moveUp(c: Compiled, places: readonly JobPlace[]): number {
  const done = followPlaces(c, places);
  return c.jobs.reduce((sum, j, n) => sum + endCost(j, done[n]!), 0);
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
