import { normal, seeded } from '../random';
import { atZ, checkBand, type Band } from './band';
import { follow, inTurn, type PlanStep } from './follow';
import { compileSchedule, type ScheduleJob, type ScheduleProblem, type ScheduleTask } from './schedule-problem';
import { schedule, type Schedule, type ScheduledTask, type ScheduleOptions } from './schedule';

/** A shop whose times are only likely. */
export interface LikelyProblem extends Omit<ScheduleProblem, 'jobs'> {
  jobs: readonly (Omit<ScheduleJob, 'tasks'> & { tasks: readonly (Omit<ScheduleTask, 'minutes'> & { minutes: Band })[] })[];
}

/** How a job’s promise stands. */
export interface Chance {
  id: string;
  /** share of the draws in which it ended in time */
  onTime: number;
  /** ends that half and 95 in 100 of the draws held; null where the shifts ended before */
  p50End: number | null;
  p95End: number | null;
  /** the end that holds at the chance asked for */
  holdsBy: number | null;
}

/** The shop with each task at its middle. */
export const atMiddle = (p: LikelyProblem): ScheduleProblem => ({
  ...p,
  jobs: p.jobs.map((j) => ({ ...j, tasks: j.tasks.map((t) => ({ ...t, minutes: t.minutes.p50 })) })),
});

/** @throws ImpossibleInput for a band that falls */
export function checkBands(p: LikelyProblem): void {
  p.jobs.forEach((j, n) => j.tasks.forEach((t, k) => checkBand(t.minutes, `jobs.${n}.tasks.${k}.minutes`)));
}

/**
 * Chances of a plan that is kept to: who does what, in which bay and in which order stays, and everything begins as soon as what is
 * before it is done, whatever that took. Each task’s minutes are drawn from its band, apart from the others’.
 * @returns per job, in their order
 */
export function chancesOf(
  p: LikelyProblem,
  plan: readonly ScheduledTask[],
  options: { draws: number; seed: number; confidence: number; stop?: () => boolean },
): Chance[] {
  const c = compileSchedule(atMiddle(p));
  const person = new Map(p.people.map((x, i) => [x.id, i]));
  const bayAt = new Map(p.bays.map((x, i) => [x.id, i]));
  const jobAt = new Map(p.jobs.map((x, i) => [x.id, i]));
  const steps = inTurn(
    plan.map((t) => {
      const job = jobAt.get(t.job)!;
      const task = p.jobs[job]!.tasks.findIndex((x) => x.id === t.task);
      const who = t.people.map((id) => person.get(id)!);
      const { shifts } = c.jobs[job]!.tasks[task]!.crews.find((x) => x.who.length === who.length && x.who.every((w) => who.includes(w)))!;
      return { job, task, who, shifts, bay: t.bay === null ? -1 : bayAt.get(t.bay)!, start: t.start, end: t.end };
    }),
  );
  const random = seeded(options.seed);
  const minutes = (s: PlanStep) => atZ(p.jobs[s.job]!.tasks[s.task]!.minutes, normal(random));
  const ends = p.jobs.map(() => new Float64Array(options.draws));
  let drawn = 0;
  for (; drawn < options.draws; drawn++) {
    if (drawn % 50 === 49 && options.stop?.()) break;
    follow(c, steps, minutes).forEach((end, i) => (ends[i]![drawn] = end));
  }
  return p.jobs.map((j, i) => {
    const sorted = ends[i]!.subarray(0, drawn).slice().sort();
    const onTime = sorted.reduce((s, e) => s + (e <= j.dueMin + 1e-9 ? 1 : 0), 0) / Math.max(1, drawn);
    const at = (q: number) => {
      const e = sorted[Math.min(drawn - 1, Math.max(0, Math.ceil(q * drawn) - 1))];
      return e !== undefined && Number.isFinite(e) ? e : null;
    };
    return { id: j.id, onTime, p50End: at(0.5), p95End: at(0.95), holdsBy: at(options.confidence) };
  });
}

/**
 * Each job’s chance to keep its promise: the shop is scheduled at the middle of every band, and that plan is kept to.
 * @throws ImpossibleInput as `schedule`, and for a band that falls
 */
export function promise(
  p: LikelyProblem,
  options: { draws: number; seed: number; confidence: number } & ScheduleOptions,
): { jobs: Chance[]; plan: Schedule } {
  checkBands(p);
  const plan = schedule(atMiddle(p), options);
  return { jobs: chancesOf(p, plan.tasks, options), plan };
}
