import { givenAt, soonest } from '#core/shop/soonest';
import type { ScheduleProblem } from '#core/shop/schedule-problem';
import { middle, MIN, WeekShop, type WeekInput, type WeekOrder, type WeekPlan } from '#core/shop/week-shop';
import { workLeft, type WorkLeft } from '#core/shop/work-left';
import { isTraction } from '#core/wire-rules/high-volts';
import type { UnitKind } from '#model/common';
import { DEFAULT_SETTINGS } from '#model/settings';
import { USUAL_HOURS, type Skill, type WeekHours } from '#model/shop-week';
import { assessed, demoIds, demoKit, demoModel, demoOrder } from './demo-sheets';
import { draws } from './random-week';

const DAY = 86_400_000;
/** A Monday, when the shop opens. */
const MONDAY = Date.UTC(2026, 2, 2, 8);
const PEOPLE = 8;
const BAYS = 6;
const ORDERS = 40;
const KINDS = ['side-by-side', 'golf-cart', 'motorcycle', 'boat', 'snow-machine'] as const satisfies readonly UnitKind[];

const work = new Map<string, WorkLeft[]>();
/** What is to be done on a unit of the demo for some of its kits. */
function workOn(model: string, kits: string[]): WorkLeft[] {
  const key = `${model} ${kits.join(' ')}`;
  let known = work.get(key);
  if (!known) {
    const { order, sheets } = demoOrder(model, kits);
    work.set(key, (known = workLeft(order, assessed(order, sheets))));
  }
  return known;
}
const kitsFor = (model: string) =>
  demoIds('kits').filter((k) => demoKit(k).fits.some((f) => f.models?.includes(model) || f.kinds?.includes(demoModel(model).kind)));

/** Hours that begin and end so many hours later. */
const later = (hours: number): WeekHours => {
  const clock = (time: string) => `${String(Number(time.slice(0, 2)) + hours).padStart(2, '0')}${time.slice(2)}`;
  const day = USUAL_HOURS.mon.map(({ from, to }) => ({ from: clock(from), to: clock(to) }));
  return { ...USUAL_HOURS, mon: day, tue: day, wed: day, thu: day, fri: day };
};

/**
 * A shop as it comes about with Kadro: forty orders of the demo’s models and kits come in one after another, each is promised for when the
 * desk says that it could be ready, or for a later day that suits the owner. Then somebody falls ill, parts are late and work takes longer.
 */
export function ownWeek(seed: number): ScheduleProblem {
  const random = draws(seed);
  const int = (a: number, b: number) => a + Math.floor(random() * (b - a + 1));
  const some = <T>(list: readonly T[]): T => list[int(0, list.length - 1)]!;
  const ids = Array.from({ length: PEOPLE }, (_, i) => `p${i}`);
  const roster = ids.map((person, i) => {
    const kinds = KINDS.filter((_, k) => random() < 0.5 || k % PEOPLE === i);
    const packs = random() < 0.5 || i === 1;
    const skills: Skill[] = [...new Set([...kinds, ...(packs ? (['golf-cart', 'packs'] as const) : [])])];
    return { person, skills, hours: some([null, null, null, later(-1), later(1)]), off: [] as { from: string; to: string; why: string }[] };
  });
  const bays = Array.from({ length: BAYS }, (_, i) => ({
    id: `b${i}`,
    name: `Bay ${i}`,
    kinds: KINDS.filter((_, k) => random() < 0.5 || k % BAYS === i),
  }));
  const slow = new Map<string, number>();
  const orders: WeekOrder[] = [];
  let near: WeekPlan | undefined;
  const input = (): WeekInput => ({
    now: MONDAY,
    orders,
    people: ids.map((id) => ({ id, name: id, role: 'installer' as const, version: 1, ended: false })),
    settings: { ...DEFAULT_SETTINGS, timeZone: 'UTC', closed: [], pins: [], roster, bays },
    // in one of ten times done a fifth sooner, in one of ten it takes a third longer: common practice, no source
    pace: (o) => {
      const factor = slow.get(o.id) ?? 1;
      return { factor, low: 0.8 * factor, high: 1.35 * factor, jobs: 3, own: 1 };
    },
    near,
  });
  while (orders.length < ORDERS) {
    const model = some(demoIds('models'));
    const fits = kitsFor(model).map((kit) => ({ kit, at: random() }));
    fits.sort((a, b) => a.at - b.at).splice(int(1, 5));
    const todo = workOn(model, fits.map((f) => f.kit).sort());
    if (!todo.length) continue;
    const { kind } = demoModel(model);
    const asked: WeekOrder = {
      id: `o${orders.length}`,
      number: orders.length,
      unitName: model,
      owner: '',
      kind,
      packs: isTraction(demoModel(model)),
      promisedAt: new Date(MONDAY).toISOString(),
      assignee: null,
      begun: false,
      waitsFor: '',
      work: todo,
    };
    const found = soonest(input(), asked);
    if (typeof found === 'string') throw new Error(found);
    const soon = found.day === null ? MONDAY + 28 * DAY : givenAt(found.day);
    const suits = random() < 0.5 ? 0 : MONDAY + int(0, 9) * DAY + 8 * 60 * MIN;
    orders.push({ ...asked, promisedAt: new Date(Math.max(soon, suits)).toISOString() });
    near = planned(new WeekShop(input(), () => false));
  }
  for (let k = 0; k < 4; k++) slow.set(some(orders).id, 1.5);
  for (let k = 0; k < 3; k++) Object.assign(some(orders), { waitsFor: 'a part', partsDay: `2026-03-0${int(3, 6)}` });
  some(roster).off.push({ from: '2026-03-02', to: '2026-03-03', why: 'ill' });
  const shop = new WeekShop(input(), () => false);
  return middle(shop.problem(shop.jobs().jobs));
}

/** The week planned anew beside what was planned before, as when an order comes in. */
function planned(shop: WeekShop): WeekPlan {
  const p = shop.problem(shop.jobs().jobs);
  const { tasks } = shop.plan(p, { near: shop.before(), quick: true, effort: 0.04 });
  const at = (list: typeof tasks) => ({ from: shop.moment(list[0]!.start), to: shop.moment(list.at(-1)!.end) });
  return {
    work: tasks.map((t) => ({ order: t.job, people: t.people, ...at([t]) })),
    // everything is done in a bay
    holds: p.jobs.map((j) => {
      const own = tasks.filter((t) => t.job === j.id);
      return { order: j.id, bay: own[0]!.bay!, ...at(own) };
    }),
  };
}
