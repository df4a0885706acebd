import { makeSheet } from '#core/archetype/make-sheet';
import { kitAdded, trialOrder } from '#core/order/trial';
import { assess } from '#core/order/assess';
import { soonest, type Soonest } from '#core/shop/soonest';
import { planWeek, type Week } from '#core/shop/week';
import type { WeekInput, WeekOrder } from '#core/shop/week-shop';
import { allocate, type Supply, type SupplyInput } from '#core/supply/allocate';
import { workLeft } from '#core/shop/work-left';
import { isTraction } from '#core/wire-rules/high-volts';
import type { Settings } from '#model/settings';
import type { SheetBegun } from '#model/sheet-begun';
import type { SheetRef } from '#model/sheet';
import type { OrderInput, WorkMemo } from './memo';

/** A week’s input as it is handed to a thread. */
export interface WeekTask extends Omit<WeekInput, 'pace' | 'orders'> {
  supply: SupplyInput;
  orders: (WeekOrder & { model: string })[];
  learned: { key: string; jobs: string };
}
/** What is asked for at the desk: a model of the sheets or one begun for it, and kits. */
export interface AskedUnit {
  x: Omit<OrderInput, 'order'>;
  model: SheetRef | null;
  begun: SheetBegun | null;
  build: string;
  kits: SheetRef[];
}

/** Searching ends so long after it began, ms: the best so far is answered with its bound. */
const PLAN_MS = 4000;
const ASK_MS = 2500;
const CUT_MS = 600;
const until = (ms: number) => {
  const end = Date.now() + ms;
  return () => Date.now() > end;
};

function inputOf(memo: WorkMemo, t: WeekTask, also: Record<string, string> = {}): WeekInput {
  const learned = memo.learnedFrom(t.learned.key, t.learned.jobs);
  const model = new Map([...t.orders.map((o): [string, string] => [o.id, o.model]), ...Object.entries(also)]);
  const waiting = new Map(allocate(t.supply, until(CUT_MS)).waiting.map((w) => [w.order, w]));
  const orders = t.orders.map((o) => {
    const w = waiting.get(o.id);
    return w ? { ...o, waitsFor: w.name, partsDay: w.day } : o;
  });
  return { ...t, orders, pace: (o, kit) => learned.pace(kit, model.get(o.id) ?? '', o.begun ? o.assignee : null) };
}

export const weekTask = (memo: WorkMemo, t: WeekTask): Week => planWeek(inputOf(memo, t), until(PLAN_MS));

/** What every order gets of shelf, spools and what is on order. */
export const supplyTask = (_memo: WorkMemo, t: SupplyInput): Supply => allocate(t, until(CUT_MS));

/** The id of what is only asked for. */
const ASKED = 'asked';

export function soonestTask(memo: WorkMemo, { week, unit }: { week: WeekTask; unit: AskedUnit }): { answer: Soonest } | { why: string } {
  const { x } = unit;
  const settings = JSON.parse(x.settings) as Settings;
  const model = unit.begun
    ? makeSheet(unit.begun, { at: new Date(week.now).toISOString(), by: 'nobody' })
    : memo.model({ shop: x.shop, bag: x.bag }, unit.model!);
  const kits = unit.kits.map((k) => memo.kit(x, k));
  const packs = x.packs.map((p) => memo.pack(x, p));
  const order = trialOrder(model, kits.map(kitAdded), {
    build: model.builds.some((b) => b.id === unit.build) ? unit.build : model.builds[0]!.id,
  });
  const a = assess(order, { model, kits, packs }, settings);
  const asked: WeekOrder = {
    id: ASKED,
    number: 0,
    unitName: `${model.maker} ${model.name}`,
    owner: '',
    kind: model.kind,
    packs: isTraction(model),
    promisedAt: new Date(week.now).toISOString(),
    assignee: null,
    begun: false,
    waitsFor: '',
    work: workLeft(order, a),
  };
  if (!asked.work.length) return { why: 'choose at least one kit: nothing is to be done yet' };
  const found = soonest(inputOf(memo, week, { [ASKED]: model.id }), asked, until(ASK_MS));
  return typeof found === 'string' ? { why: found } : { answer: found };
}
