import type { Chance, LikelyProblem } from './promise';
import type { Schedule } from './schedule';
import type { LikelyJob, WeekShop } from './week-shop';

/** What would save a promise that does not hold, and what it would cost others. */
export interface WeekSave {
  how: 'first' | 'hour' | 'second' | 'less';
  /** the kit that it would be done without */
  kit?: string;
  chance: number;
  /** orders whose promises no longer hold then: who is to be called */
  slips: string[];
}
/** Promises for which it is asked what would save them. */
const MOST_SAVED = 2;
/** What two do together takes this share of what it takes one: common practice, no source. */
const BY_TWO = 0.6;
/** How long is searched for what would be otherwise, as a share of what is usual: nothing but what is worth being moved. */
const TRY = { effort: 0.1, quick: true };
const TRY_DRAWS = 500;
/** It must help by so much at least. */
const GAIN = 0.05;
/** An hour more at the end of each day. */
const HOUR = 60;

/** A job that a second person helps with from its beginning to its end. */
const byTwo = (j: LikelyJob): LikelyJob => ({
  ...j,
  tasks: j.tasks.map((t) =>
    t.hands === 2
      ? t
      : { ...t, hands: 2, minutes: { p10: t.minutes.p10 * BY_TWO, p50: t.minutes.p50 * BY_TWO, p90: t.minutes.p90 * BY_TWO } },
  ),
});

/** A week as it is planned: its jobs, and when they are done. */
export interface PlannedWeek {
  jobs: readonly LikelyJob[];
  plan: Schedule;
  chances: readonly Chance[];
}

/**
 * What would save the promises that slip, those soonest saved first. What is tried begins as the week is planned: what differs comes
 * of what was changed.
 */
export function savesOf(shop: WeekShop, { jobs, plan, chances }: PlannedWeek): Map<string, WeekSave[]> {
  const limit = shop.q.settings.promiseChance;
  const slipping = chances.filter((c) => c.onTime < limit).sort((a, b) => b.onTime - a.onTime);
  return new Map(slipping.slice(0, MOST_SAVED).map(({ id, onTime }) => [id, ways(id, onTime)]));

  function ways(id: string, onTime: number): WeekSave[] {
    const whole = shop.problem(jobs);
    const other = (change: (j: LikelyJob) => LikelyJob) => ({ ...whole, jobs: jobs.map((j) => (j.id === id ? change(j) : j)) });
    const tried = (how: WeekSave['how'], p: LikelyProblem, planned = p): WeekSave[] => {
      // the week itself comes first where time is short
      if (shop.stop()) return [];
      const next = shop.chances(p, shop.plan(planned, { ...TRY, near: plan.tasks }), TRY_DRAWS);
      const chance = next.find((c) => c.id === id)!.onTime;
      if (chance < Math.max(limit, onTime + GAIN)) return [];
      return [
        { how, chance, slips: next.filter((c, i) => c.id !== id && c.onTime < limit && chances[i]!.onTime >= limit).map((c) => c.id) },
      ];
    };
    return [
      // as if it were late already: the sooner the better
      ...tried(
        'first',
        whole,
        other((j) => ({ ...j, weight: 50, dueMin: 0 })),
      ),
      ...tried('hour', shop.problem(jobs, HOUR)),
      ...(shop.workers.length > 1 ? tried('second', other(byTwo)) : []),
      ...shop.withoutKits(id).flatMap(({ kit, job }) =>
        tried(
          'less',
          other(() => job),
        ).map((save) => ({ ...save, kit })),
      ),
    ];
  }
}

/** Minutes of lateness that pins cost: the week without them, tried, with all that is not pinned near where it is. */
export function costOfPins(shop: WeekShop, { jobs, plan }: PlannedWeek): number {
  const orders = new Map(shop.q.orders.map((o) => [o.id, o]));
  const pinned = new Set(jobs.flatMap((j) => (shop.pinOf(j.id) ? [j.id] : [])));
  if (!pinned.size) return 0;
  const free = shop.problem(
    jobs.map((j) => {
      const job = shop.job(orders.get(j.id)!, false);
      return typeof job === 'string' ? j : job;
    }),
  );
  const near = plan.tasks.filter((t) => !pinned.has(t.job));
  return Math.max(0, lateness(jobs, plan) - lateness(free.jobs, shop.plan(free, { ...TRY, near })));
}

/** Minutes of lateness of all jobs together, in a plan. */
export const lateness = (jobs: readonly LikelyJob[], plan: Schedule): number =>
  jobs.reduce((sum, j) => sum + Math.max(0, doneAt(j, plan) - j.dueMin), 0);

/** The minute at which a job is done and its last wait over. */
export const doneAt = (j: LikelyJob, plan: Schedule): number =>
  Math.max(...plan.tasks.filter((t) => t.job === j.id).map((t) => t.end)) + (j.tasks.at(-1)?.waitAfterMin ?? 0);
