import type { JobPlace } from './place-jobs';
import type { Compiled } from './schedule-problem';
import { doneAt, firstWork, type Shifts } from './shifts';

/** One task of a plan that is kept to: who does it, when they work, and the bay its unit stands in, −1 for none. */
export interface PlanStep {
  job: number;
  task: number;
  who: readonly number[];
  shifts: Shifts;
  bay: number;
  start: number;
  end: number;
}

/** A plan’s tasks as they come. */
export const inTurn = <S extends Pick<PlanStep, 'start' | 'end' | 'task'>>(steps: readonly S[]): S[] =>
  [...steps].sort((a, b) => a.start - b.start || a.end - b.end || a.task - b.task);

/**
 * Keeps to a plan: who does what, in which bay and in which order stays, and everything begins as soon as what is before it is done.
 * @param steps in turn
 * @param minutes that a step takes
 * @param told when each step begins and ends
 * @returns when each job is done, Infinity where the shifts end before
 */
export function follow(
  c: Compiled,
  steps: readonly PlanStep[],
  minutes: (step: PlanStep) => number,
  told?: (step: PlanStep, start: number, end: number) => void,
): Float64Array {
  const ready = Float64Array.from(c.jobs, (j) => j.ready);
  const free = new Float64Array(c.people.length).fill(c.now);
  const bayFree = new Float64Array(c.bayCount).fill(c.now);
  for (const s of steps) {
    const job = c.jobs[s.job]!;
    let t = ready[s.job]!;
    for (const w of s.who) t = Math.max(t, free[w]!);
    if (s.task === job.bayFrom) t = Math.max(t, bayFree[s.bay]!);
    const start = firstWork(s.shifts, t);
    const end = start === Infinity ? Infinity : doneAt(s.shifts, start, minutes(s));
    for (const w of s.who) free[w] = end;
    ready[s.job] = end + job.tasks[s.task]!.wait;
    if (s.task === job.bayTo) bayFree[s.bay] = ready[s.job]!;
    told?.(s, start, end);
  }
  return ready;
}

/**
 * The same for jobs where they are, each task in the minutes that it takes: their starts and ends are told anew.
 * @returns when each job is done, Infinity where the shifts end before; as soon as it may begin where it is nowhere
 */
export function followPlaces(c: Compiled, places: readonly (JobPlace | null)[]): Float64Array {
  const steps = places.flatMap((p, job) =>
    p
      ? Array.from(p.start, (start, task) => ({
          job,
          task,
          ...c.jobs[job]!.tasks[task]!.crews[p.crew[task]!]!,
          bay: p.bay,
          start,
          end: p.end[task]!,
        }))
      : [],
  );
  return follow(
    c,
    inTurn(steps),
    (s) => c.jobs[s.job]!.tasks[s.task]!.minutes,
    (s, start, end) => {
      places[s.job]!.start[s.task] = start;
      places[s.job]!.end[s.task] = end;
    },
  );
}
