import type { Band } from './band';
import { MIN, WeekShop, type LikelyJob, type WeekInput, type WeekOrder } from './week-shop';

/** How long is searched while somebody waits at the desk, as a share of what is usual. */
const ASK_EFFORT = 0.04;

/** A promise is given to the quarter of an hour, and never before what was computed. */
const QUARTER = 15 * MIN;
export const givenAt = (ms: number): number => Math.ceil(ms / QUARTER) * QUARTER;

/** When a unit that is not here yet could be ready. */
export interface Soonest {
  /** the end that holds at the shop’s chance with everything promised before it; null beyond six weeks */
  day: number | null;
  likely: number | null;
  chance: number;
  /** minutes of work, as they are likely */
  minutes: Band;
  /** the end if it went before everything, and whose promises would no longer hold then */
  first: { day: number | null; slips: string[] } | null;
}

/**
 * When could this be ready? Everything that is promised keeps its place; what is asked for is put where it is done soonest beside it.
 * @returns why it has no place, or when
 */
export function soonest(q: WeekInput, asked: WeekOrder, stop: () => boolean = () => false): Soonest | string {
  const shop = new WeekShop(q, stop);
  const job = shop.job(asked, false);
  if (typeof job === 'string') return job;
  const { jobs } = shop.jobs();
  const planned = (more: readonly LikelyJob[], how: Parameters<WeekShop['plan']>[1]) => {
    const p = shop.problem([...jobs, ...more]);
    const plan = shop.plan(p, how);
    return { tasks: plan.tasks, chances: shop.chances(p, plan) };
  };
  const known = shop.before();
  const { tasks, chances: before } = planned([], { near: known, quick: known !== undefined, effort: known ? 0 : ASK_EFFORT });
  // nothing moves for what comes behind everything
  const { chances: behind } = planned([{ ...job, weight: 0, dueMin: 1e6 }], { near: tasks, quick: true, effort: 0 });
  const { chances: ahead } = planned([{ ...job, weight: 50, dueMin: 0 }], { near: tasks, quick: true, effort: ASK_EFFORT });
  const at = behind.at(-1)!;
  const early = ahead.at(-1)!;
  const limit = q.settings.promiseChance;
  const sooner = early.holdsBy !== null && (at.holdsBy === null || early.holdsBy < at.holdsBy - 60);
  const add = (a: Band, b: Band): Band => ({ p10: a.p10 + b.p10, p50: a.p50 + b.p50, p90: a.p90 + b.p90 });
  return {
    day: shop.moment(at.holdsBy),
    likely: shop.moment(at.p50End),
    chance: limit,
    minutes: job.tasks.map((t) => t.minutes).reduce(add, { p10: 0, p50: 0, p90: 0 }),
    first: sooner
      ? {
          day: shop.moment(early.holdsBy),
          slips: ahead.slice(0, -1).flatMap((c, i) => (c.onTime < limit && before[i]!.onTime >= limit ? [c.id] : [])),
        }
      : null,
  };
}
