import type { UnitKind, Verdict } from '#model/common';
import type { PersonInShop } from '#model/person';
import type { Settings } from '#model/settings';
import type { Pin, ShopBay } from '#model/shop-week';
import type { Pace } from '../learn/pace';
import { DELIVERED } from '../supply/delivered';
import type { Band } from './band';
import { daysFrom, isOff, timeOn, stretchesOf, workersOf, type Stretch, type Worker } from './calendar';
import { atMiddle, chancesOf, type Chance, type LikelyProblem } from './promise';
import { schedule, type Schedule } from './schedule';
import type { WorkLeft } from './work-left';

/** An open order as the week has to know it. */
export interface WeekOrder {
  id: string;
  number: number;
  unitName: string;
  owner: string;
  kind: UnitKind;
  /** done at a traction pack */
  packs: boolean;
  promisedAt: string;
  assignee: string | null;
  begun: boolean;
  /** a part that is not here, empty when none is waited for */
  waitsFor: string;
  /** the day that it is here, in the middle of it; null: no day is known */
  partsDay?: string | null;
  work: readonly WorkLeft[];
}
export interface WeekInput {
  /** milliseconds of the clock of the world */
  now: number;
  orders: readonly WeekOrder[];
  people: readonly PersonInShop[];
  settings: Pick<Settings, 'hours' | 'closed' | 'bays' | 'roster' | 'promiseChance' | 'pins' | 'timeZone'>;
  /** how a kit’s times stand to the sheets’ on an order */
  pace: (order: WeekOrder, kit: string) => Pace;
  /** ids in the order of the week as it was planned before */
  near?: readonly string[];
}

/** A stretch of somebody’s work in the week; times are milliseconds of the clock of the world. */
export interface WeekWork {
  order: string;
  people: string[];
  from: number;
  to: number;
}
/** When a unit stands where. */
export interface WeekHold {
  order: string;
  bay: string;
  from: number;
  to: number;
}
/** What would save a promise that does not hold, and what it would cost others. */
export interface WeekSave {
  how: 'first' | 'hour' | 'second' | 'less';
  /** the kit that it would be done without */
  kit?: string;
  chance: number;
  /** orders whose promises no longer hold then: who is to be called */
  slips: string[];
}
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
export interface Week {
  now: number;
  /** the days that are drawn, with the shop’s hours on each */
  days: { day: string; open: Stretch[]; closed: string | null }[];
  bays: { id: string; name: string }[];
  people: { id: string; name: string; shifts: Stretch[]; off: { day: string; why: string }[] }[];
  work: WeekWork[];
  holds: WeekHold[];
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
  /** the orders as they come, to plan the next week near this one */
  sequence: string[];
}

const MIN = 60_000;
/** Times of a week are told in steps of so many minutes. */
const STEP = 5;
const DAYS = 42;
/** Days that are drawn. */
const DRAWN = 7;
const DRAWS = 1000;
const SEED = 20;
/** A changed week must save so many minutes of lateness. */
const WORTH_MIN = 20;
/** Promises for which it is asked what would save them. */
const MOST_SAVED = 2;
/** Kits of one order without which it is tried. */
const MOST_LESS = 2;
/** What two do together takes this share of what it takes one: common practice, no source. */
const BY_TWO = 0.6;
/** How long is searched for the week, for what would be otherwise, and while somebody waits at the desk, as shares of what is usual. */
const WEEK_EFFORT = 0.5;
const TRY_EFFORT = 0.1;
const ASK_EFFORT = 0.02;
/** Costs so near their bounds are near enough: a minute of lateness, or a thousand of waiting. */
const ENOUGH = 1;
/** An hour more at the end of each day. */
const HOUR = 60;

/** A stretch of work as minutes that are likely: its kits’ paces, each for its share. */
export function bandOf(order: WeekOrder, work: WorkLeft, pace: WeekInput['pace']): Band {
  const at = (of: (p: Pace) => number) => work.kits.reduce((sum, k) => sum + k.minutes * of(pace(order, k.kit)), 0);
  const p50 = at((p) => p.factor);
  return {
    p10: Math.min(
      p50,
      at((p) => p.low),
    ),
    p50,
    p90: Math.max(
      p50,
      at((p) => p.high),
    ),
  };
}

type LikelyJob = LikelyProblem['jobs'][number];

/** The shop as `shop.schedule` and `shop.promise` have it: pins are skills and kinds that only one person or bay has. */
class WeekShop {
  readonly start: number;
  readonly workers: Worker[];
  readonly unplanned: { order: string; why: string }[] = [];
  private readonly shifts: Map<string, Stretch[]>;

  constructor(readonly q: WeekInput) {
    this.start = Math.floor(q.now / (STEP * MIN)) * STEP * MIN;
    this.workers = workersOf(q.people, q.settings);
    this.shifts = new Map(
      this.workers.map((w) => [
        w.id,
        stretchesOf(w.hours, w.off, this.start, DAYS, q.settings.timeZone).filter(([, to]) => to > this.start),
      ]),
    );
  }
  readonly minute = (ms: number): number => Math.round((ms - this.start) / MIN);
  readonly moment = (minute: number): number => this.start + minute * MIN;

  pinOf(order: string): Pin | undefined {
    return this.q.settings.pins.find((p) => p.order === order);
  }

  /** One order as a job, or why it has no place. */
  job(o: WeekOrder, pinned: boolean): LikelyJob | string {
    const { bays } = this.q.settings;
    const pin = pinned ? this.pinOf(o.id) : undefined;
    if (o.waitsFor && !o.partsDay && !pin?.notBefore) return `waits for ${o.waitsFor}; no day is known`;
    const skills = [o.kind, ...(o.packs ? ['packs'] : [])];
    const person = pin?.person ?? (o.begun ? o.assignee : null);
    const able = this.workers.filter((w) => skills.every((s) => (w.skills as readonly string[]).includes(s)));
    const only = person === null ? undefined : this.workers.find((w) => w.id === person);
    if (!only && !able.length)
      return o.packs ? 'nobody here works on traction packs of that kind' : `nobody here works on that kind of unit`;
    if (!(only ? [only] : able).some((w) => this.shifts.get(w.id)!.length)) return 'nobody who could do it has a shift in six weeks';
    const takes = bays.filter((b) => b.kinds.includes(o.kind));
    const bay = pin?.bay ? bays.find((b) => b.id === pin.bay) : undefined;
    if (!bay && !takes.length) return 'no bay takes that kind of unit';
    if (o.work.some((w) => w.hands === 2) && this.workers.length < 2)
      return 'it asks for a second pair of hands, and one person works here';
    const decided = pin?.notBefore ? this.opens(pin.notBefore) : 0;
    const here = o.waitsFor && o.partsDay ? this.opens(o.partsDay, DELIVERED) : 0;
    if (decided === null) return `not before ${pin!.notBefore}, which is beyond six weeks`;
    if (here === null) return `waits for ${o.waitsFor} until ${o.partsDay}, which is beyond six weeks`;
    return {
      id: o.id,
      kind: bay ? `bay ${bay.id}` : o.kind,
      releaseMin: Math.max(decided, here),
      dueMin: this.minute(Date.parse(o.promisedAt)),
      weight: this.pinOf(o.id)?.weight ?? 1,
      tasks: o.work.map((w, k) => ({
        id: String(k),
        minutes: bandOf(o, w, this.q.pace),
        skills: only ? [`is ${only.id}`] : skills,
        hands: w.hands,
        waitAfterMin: Math.round(w.waitMinutes / STEP) * STEP,
        needsBay: true,
      })),
    };
  }

  /** A late order without one of its kits, those with most of its work first; nothing of what is begun, or of its only kit. */
  withoutKits(id: string): { kit: string; job: LikelyJob }[] {
    const o = this.q.orders.find((x) => x.id === id)!;
    const minutes = new Map<string, number>();
    for (const w of o.work) for (const k of w.kits) if (k.kit) minutes.set(k.kit, (minutes.get(k.kit) ?? 0) + k.minutes);
    if (o.begun || minutes.size < 2) return [];
    return [...minutes]
      .sort((a, b) => b[1] - a[1])
      .slice(0, MOST_LESS)
      .flatMap(([kit]) => {
        const work = o.work.map((w) => ({ ...w, kits: w.kits.filter((k) => k.kit !== kit) })).filter((w) => w.kits.length);
        const job = work.length ? this.job({ ...o, work }, true) : '';
        return typeof job === 'string' ? [] : [{ kit, job }];
      });
  }

  /** The minute from which the shop is open on a day or after it, by its clocks not before `from`; null beyond what is planned. */
  private opens(day: string, from = '00:00'): number | null {
    const { hours, timeZone } = this.q.settings;
    const earliest = timeOn(day, from, timeZone);
    const open = stretchesOf(hours, [], this.start, DAYS, timeZone).find(([, to]) => to > earliest);
    return open ? Math.max(0, this.minute(Math.max(open[0], earliest))) : null;
  }

  /** The whole shop; `more`: minutes more at the end of each shift day. */
  problem(jobs: readonly LikelyJob[], more = 0): LikelyProblem {
    return {
      now: 0,
      people: this.workers.map((w) => ({
        id: w.id,
        skills: [...w.skills, `is ${w.id}`],
        shifts: this.longer(this.shifts.get(w.id)!, more).map(([a, b]): [number, number] => [Math.max(0, this.minute(a)), this.minute(b)]),
      })),
      bays: this.q.settings.bays.map((b: ShopBay) => ({ id: b.id, kinds: [...b.kinds, `bay ${b.id}`] })),
      jobs,
    };
  }

  private longer(shifts: readonly Stretch[], more: number): Stretch[] {
    if (!more) return [...shifts];
    const day = (ms: number) => daysFrom(ms, 1, this.q.settings.timeZone)[0]!.day;
    return shifts.map(([a, b], i): Stretch => (shifts[i + 1] && day(shifts[i + 1]![0]) === day(a) ? [a, b] : [a, b + more * MIN]));
  }
}

/** A job that a second person helps with from its beginning to its end. */
const byTwo = (j: LikelyJob): LikelyJob => ({
  ...j,
  tasks: j.tasks.map((t) =>
    t.hands === 2
      ? t
      : { ...t, hands: 2, minutes: { p10: t.minutes.p10 * BY_TWO, p50: t.minutes.p50 * BY_TWO, p90: t.minutes.p90 * BY_TWO } },
  ),
});

/** The middle of every band, in the steps of the week. */
const middle = (p: LikelyProblem) => {
  const m = atMiddle(p);
  return {
    ...m,
    jobs: m.jobs.map((j) => ({ ...j, tasks: j.tasks.map((t) => ({ ...t, minutes: Math.max(STEP, Math.ceil(t.minutes / STEP) * STEP) })) })),
  };
};
const lateness = (p: LikelyProblem, s: Schedule) =>
  p.jobs.reduce((sum, j) => {
    const ends = s.tasks.filter((t) => t.job === j.id).map((t) => t.end);
    return sum + Math.max(0, Math.max(...ends) + (j.tasks.at(-1)?.waitAfterMin ?? 0) - j.dueMin);
  }, 0);
const verdictOf = (chance: number, limit: number): Verdict => (chance >= limit ? 'holds' : chance >= 0.5 ? 'tight' : 'fails');

/**
 * The week of a shop: who works on which order when, in which bay, with each promise’s chance. What cannot be planned is said beside it.
 * @param stop see `shop.schedule`
 */
export function planWeek(q: WeekInput, stop: () => boolean = () => false): Week {
  const shop = new WeekShop(q);
  const { settings } = q;
  const jobs: LikelyJob[] = [];
  for (const o of q.orders) {
    if (!o.work.length) continue;
    const job = shop.job(o, true);
    if (typeof job === 'string') shop.unplanned.push({ order: o.id, why: job });
    else jobs.push(job);
  }
  const whole = shop.problem(jobs);
  const plan = schedule(middle(whole), { stop, effort: WEEK_EFFORT, enough: ENOUGH, near: q.near, worth: WORTH_MIN, byOrder: true });
  const draws = { draws: DRAWS, seed: SEED, confidence: settings.promiseChance, stop };
  const chances = chancesOf(whole, plan.tasks, draws);
  const limit = settings.promiseChance;
  const slipping = chances.filter((c) => c.onTime < limit).sort((a, b) => b.onTime - a.onTime);
  const holds = jobs.map((j): WeekHold => {
    const own = plan.tasks.filter((t) => t.job === j.id);
    const end = Math.max(...own.map((t) => t.end)) + (j.tasks.at(-1)?.waitAfterMin ?? 0);
    return { order: j.id, bay: own[0]!.bay!, from: shop.moment(own[0]!.start), to: shop.moment(end) };
  });
  // what is tried begins as the week is planned: what differs comes of what was changed
  const sequence = [...holds].sort((a, b) => a.from - b.from || a.to - b.to).map((h) => h.order);
  const otherwise = { stop, effort: TRY_EFFORT, enough: ENOUGH, near: sequence, quick: true };
  const saves = new Map<string, WeekSave[]>();
  for (const { id, onTime } of slipping.slice(0, MOST_SAVED)) {
    const tried = (how: WeekSave['how'], p: LikelyProblem, kit?: string, planned = p): WeekSave[] => {
      // the week itself comes first where time is short
      if (stop()) return [];
      const next = chancesOf(p, schedule(middle(planned), otherwise).tasks, { ...draws, draws: DRAWS / 2 });
      const chance = next.find((c) => c.id === id)!.onTime;
      if (chance < Math.max(limit, onTime + 0.05)) return [];
      return [
        {
          how,
          ...(kit !== undefined && { kit }),
          chance,
          slips: next.filter((c, i) => c.id !== id && c.onTime < limit && chances[i]!.onTime >= limit).map((c) => c.id),
        },
      ];
    };
    saves.set(id, [
      // as if it were late already: the sooner the better
      ...tried('first', whole, undefined, { ...whole, jobs: whole.jobs.map((j) => (j.id === id ? { ...j, weight: 50, dueMin: 0 } : j)) }),
      ...tried('hour', shop.problem(jobs, HOUR)),
      ...(shop.workers.length > 1 ? tried('second', { ...whole, jobs: whole.jobs.map((j) => (j.id === id ? byTwo(j) : j)) }) : []),
      ...shop
        .withoutKits(id)
        .flatMap(({ kit, job }) => tried('less', { ...whole, jobs: whole.jobs.map((j) => (j.id === id ? job : j)) }, kit)),
    ]);
  }
  const lateMin = lateness(whole, plan);
  let pinsCostMin = 0;
  const pinned = q.orders.filter((o) => jobs.some((j) => j.id === o.id) && shop.pinOf(o.id));
  if (pinned.length) {
    const free = shop.problem(
      q.orders.flatMap((o) => {
        const job = shop.job(o, false);
        return typeof job !== 'string' && jobs.some((j) => j.id === o.id) ? [job] : jobs.filter((j) => j.id === o.id);
      }),
    );
    pinsCostMin = Math.max(0, lateMin - lateness(free, schedule(middle(free), otherwise)));
  }
  const moment = (m: number | null) => (m === null ? null : shop.moment(m));
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
    promises: chances.map((c: Chance) => ({
      order: c.id,
      chance: c.onTime,
      verdict: verdictOf(c.onTime, limit),
      likely: moment(c.p50End),
      holdsBy: moment(c.holdsBy),
      sure: moment(c.p95End),
      saves: saves.get(c.id) ?? [],
    })),
    parts: q.orders.flatMap((o) => (o.waitsFor ? [{ order: o.id, name: o.waitsFor, day: o.partsDay ?? null }] : [])),
    unplanned: shop.unplanned,
    lateMin,
    less: plan.cost > 0 ? 1 - plan.bound / plan.cost : 0,
    optimal: plan.optimal,
    pinsCostMin,
    sequence,
  };
}

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
  const shop = new WeekShop(q);
  const jobs = q.orders.flatMap((o) => {
    const job = o.work.length ? shop.job(o, true) : '';
    return typeof job === 'string' ? [] : [job];
  });
  const job = shop.job(asked, false);
  if (typeof job === 'string') return job;
  const draws = { draws: DRAWS, seed: SEED, confidence: q.settings.promiseChance, stop };
  const plan = (weight: number, dueMin: number, near: readonly string[] | undefined) => {
    const p = shop.problem([...jobs, { ...job, weight, dueMin }]);
    return chancesOf(p, schedule(middle(p), { stop, effort: ASK_EFFORT, enough: ENOUGH, near, worth: WORTH_MIN }).tasks, draws);
  };
  const alone = shop.problem(jobs);
  const before = jobs.length
    ? chancesOf(alone, schedule(middle(alone), { stop, effort: ASK_EFFORT, enough: ENOUGH, near: q.near, worth: WORTH_MIN }).tasks, draws)
    : [];
  const behind = plan(0, 1e6, q.near ?? before.map((c) => c.id));
  const ahead = plan(50, 0, undefined);
  const moment = (m: number | null) => (m === null ? null : shop.moment(m));
  const at = behind.at(-1)!;
  const early = ahead.at(-1)!;
  const limit = q.settings.promiseChance;
  const sooner = early.holdsBy !== null && (at.holdsBy === null || early.holdsBy < at.holdsBy - 60);
  const add = (a: Band, b: Band): Band => ({ p10: a.p10 + b.p10, p50: a.p50 + b.p50, p90: a.p90 + b.p90 });
  return {
    day: moment(at.holdsBy),
    likely: moment(at.p50End),
    chance: limit,
    minutes: job.tasks.map((t) => t.minutes).reduce(add, { p10: 0, p50: 0, p90: 0 }),
    first: sooner
      ? {
          day: moment(early.holdsBy),
          slips: ahead.slice(0, -1).flatMap((c, i) => (c.onTime < limit && before[i]!.onTime >= limit ? [c.id] : [])),
        }
      : null,
  };
}
