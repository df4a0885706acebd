import type { Verdict } from '#model/common';
import { daysFrom, isOff, stretchesOf, type Stretch } from './calendar';
import { costOfPins, doneAt, lateness, savesOf, type WeekSave } from './week-otherwise';
import { WeekShop, type WeekHold, type WeekInput, type WeekPlan } from './week-shop';

export interface WeekPromise {
  order: string;
  /** share of the draws in which it is kept */
  chance: number;
  verdict: Verdict;
  /** ends that hold half the time, at the shop’s chance, and 95 times in 100; null beyond what is planned */
  likely: number | null;
  holdsBy: number | null;
  sure: number | null;
  saves: WeekSave[];
}
export interface Week extends WeekPlan {
  now: number;
  /** the days that are drawn, with the shop’s hours on each */
  days: { day: string; open: Stretch[]; closed: string | null }[];
  bays: { id: string; name: string }[];
  people: { id: string; name: string; shifts: Stretch[]; off: { day: string; why: string }[] }[];
  promises: WeekPromise[];
  /** what orders wait for, with its day where one is known */
  parts: { order: string; name: string; day: string | null }[];
  /** orders that have no place in the week, and why */
  unplanned: { order: string; why: string }[];
  /** minutes of lateness of all promises together, at the middle of every band */
  lateMin: number;
  /** by what share another week could cost less, at most: lateness and waiting together, see `shop.schedule` */
  less: number;
  optimal: boolean;
  /** minutes of lateness that pins cost */
  pinsCostMin: number;
}

const verdictOf = (chance: number, limit: number): Verdict => (chance >= limit ? 'holds' : chance >= 0.5 ? 'tight' : 'fails');

/** Days that are drawn. */
const DRAWN = 7;
/** How long is searched for the week, as a share of what is usual. */
const WEEK_EFFORT = 0.5;

/**
 * The week of a shop: who works on which order when, in which bay, with each promise’s chance. What cannot be planned is said beside it.
 * @param stop see `shop.schedule`
 */
export function planWeek(q: WeekInput, stop: () => boolean = () => false): Week {
  const shop = new WeekShop(q, stop);
  const { settings } = q;
  const { jobs, unplanned } = shop.jobs();
  const whole = shop.problem(jobs);
  const plan = shop.plan(whole, { effort: WEEK_EFFORT, near: shop.before() });
  const chances = shop.chances(whole, plan);
  const holds = jobs.map((j): WeekHold => {
    const first = plan.tasks.find((t) => t.job === j.id)!;
    return { order: j.id, bay: first.bay!, from: shop.moment(first.start), to: shop.moment(doneAt(j, plan)) };
  });
  const planned = { jobs, plan, chances };
  const saves = savesOf(shop, planned);
  const zone = settings.timeZone;
  const open = stretchesOf(settings.hours, settings.closed, shop.start, DRAWN, zone);
  const dayOf = (ms: number) => daysFrom(ms, 1, zone)[0]!.day;
  const days = daysFrom(shop.start, DRAWN, zone).map(({ day }) => ({
    day,
    open: open.filter(([from]) => dayOf(from) === day),
    closed: isOff(settings.closed, day)?.why ?? null,
  }));
  return {
    now: shop.start,
    days,
    bays: settings.bays.map(({ id, name }) => ({ id, name })),
    people: shop.workers.map((w) => ({
      id: w.id,
      name: w.name,
      shifts: stretchesOf(w.hours, w.off, shop.start, DRAWN, zone),
      off: days.flatMap(({ day }) => {
        const off = isOff(w.off, day);
        return off && !isOff(settings.closed, day) ? [{ day, why: off.why }] : [];
      }),
    })),
    work: plan.tasks.map((t) => ({ order: t.job, people: t.people, from: shop.moment(t.start), to: shop.moment(t.end) })),
    holds,
    promises: chances.map((c) => ({
      order: c.id,
      chance: c.onTime,
      verdict: verdictOf(c.onTime, settings.promiseChance),
      likely: shop.moment(c.p50End),
      holdsBy: shop.moment(c.holdsBy),
      sure: shop.moment(c.p95End),
      saves: saves.get(c.id) ?? [],
    })),
    parts: q.orders.flatMap((o) => (o.waitsFor ? [{ order: o.id, name: o.waitsFor, day: o.partsDay ?? null }] : [])),
    unplanned,
    lateMin: lateness(jobs, plan),
    less: plan.cost > 0 ? 1 - plan.bound / plan.cost : 0,
    optimal: plan.optimal,
    pinsCostMin: costOfPins(shop, planned),
  };
}
