import type { UnitKind } from '#model/common';
import type { PersonInShop } from '#model/person';
import type { Settings } from '#model/settings';
import type { Pin, ShopBay } from '#model/shop-week';
import type { Pace } from '../learn/pace';
import { DELIVERED } from '../supply/delivered';
import type { Band } from './band';
import { daysFrom, timeOn, stretchesOf, workersOf, type Stretch, type Worker } from './calendar';
import { atMiddle, chancesOf, type Chance, type LikelyProblem } from './promise';
import { schedule, type Schedule, type ScheduleOptions } from './schedule';
import type { ScheduleProblem } from './schedule-problem';
import type { EarlierTask } from './schedule-keep';
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
  /** the week as it was planned before: what it says of who does what, where and when is kept to where little is gained otherwise */
  near?: WeekPlan;
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
/** Who does what, and where units stand. */
export interface WeekPlan {
  work: readonly WeekWork[];
  holds: readonly WeekHold[];
}

export const MIN = 60_000;
/** Times of a week are told in steps of so many minutes. */
const STEP = 5;
const DAYS = 42;
const DRAWS = 1000;
const SEED = 20;
/** That an order goes to somebody else or to another bay must save so many minutes of lateness; to another hour, a part of that. */
export const MOVING_MIN = 120;
/** Costs so near their bounds are near enough: a minute of lateness, or a thousand of waiting. */
const ENOUGH = 1;
/** Kits of one order without which it is tried. */
const MOST_LESS = 2;

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

export type LikelyJob = LikelyProblem['jobs'][number];

/** The shop as `shop.schedule` and `shop.promise` have it: pins are skills and kinds that only one person or bay has. */
export class WeekShop {
  readonly start: number;
  readonly workers: Worker[];
  private readonly shifts: Map<string, Stretch[]>;

  /** @param stop see `shop.schedule` */
  constructor(
    readonly q: WeekInput,
    readonly stop: () => boolean,
  ) {
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
  moment(minute: number): number;
  moment(minute: number | null): number | null;
  moment(minute: number | null): number | null {
    return minute === null ? null : this.start + minute * MIN;
  }

  pinOf(order: string): Pin | undefined {
    return this.q.settings.pins.find((p) => p.order === order);
  }

  /** Every order that has a place, as pinned, and why others have none. */
  jobs(): { jobs: LikelyJob[]; unplanned: { order: string; why: string }[] } {
    const jobs: LikelyJob[] = [];
    const unplanned: { order: string; why: string }[] = [];
    for (const o of this.q.orders) {
      if (!o.work.length) continue;
      const job = this.job(o, true);
      if (typeof job === 'string') unplanned.push({ order: o.id, why: job });
      else jobs.push(job);
    }
    return { jobs, unplanned };
  }

  /** The schedule at the middle of every band, in the steps of the week. */
  plan(p: LikelyProblem, options: Pick<ScheduleOptions, 'effort' | 'near' | 'quick'>): Schedule {
    return schedule(middle(p), { stop: this.stop, enough: ENOUGH, moving: MOVING_MIN, ...options });
  }

  /** The week as it was planned before, if it was. */
  before(): EarlierTask[] | undefined {
    const { near } = this.q;
    const bays = new Map(near?.holds.map((h) => [h.order, h.bay]));
    return near?.work.map((w) => ({
      job: w.order,
      people: w.people,
      bay: bays.get(w.order) ?? null,
      start: this.minute(w.from),
      end: this.minute(w.to),
    }));
  }

  /** Each job’s chance in a plan, with the end that holds at the shop’s own. */
  chances(p: LikelyProblem, plan: Schedule, draws = DRAWS): Chance[] {
    return chancesOf(p, plan.tasks, { draws, seed: SEED, confidence: this.q.settings.promiseChance, stop: this.stop });
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

/** The middle of every band, in the steps of the week. */
export const middle = (p: LikelyProblem): ScheduleProblem => {
  const m = atMiddle(p);
  return {
    ...m,
    jobs: m.jobs.map((j) => ({ ...j, tasks: j.tasks.map((t) => ({ ...t, minutes: Math.max(STEP, Math.ceil(t.minutes / STEP) * STEP) })) })),
  };
};
