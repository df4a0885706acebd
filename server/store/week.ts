import { weekOrder } from '#core/shop/week-order';
import type { WeekPlan } from '#core/shop/week-shop';
import type { Workers } from '../work/workers';
import type { WeekTask } from '../work/week-task';
import { row, run, type Store } from './db';
import { listFloor } from './orders';
import { listPeople } from './people';
import { localDay } from '#core/quantity/say-here';
import { readSettings } from './settings';
import { supplyOf } from './supply';
import { learning } from './worked';

/** All that a week is planned from, as it stands now. */
export async function weekOf(s: Store, workers: Workers, now: number): Promise<WeekTask> {
  const [{ orders }, people, settings, learned, near] = [
    await listFloor(s, workers),
    await listPeople(s),
    await readSettings(s),
    await learning(s),
    await row<{ json: string }>(s, 'SELECT json FROM week_plan WHERE id = 1'),
  ];
  const { claims, coming, settings: kept } = await supplyOf(s, workers, localDay(new Date(now).toISOString(), settings.timeZone));
  const supply = { claims, coming, settings: kept };
  const { hours, closed, bays, roster, promiseChance, pins, timeZone } = settings;
  return {
    now,
    orders: orders.flatMap((o) => weekOrder(o) ?? []),
    people,
    settings: { hours, closed, bays, roster, promiseChance, pins, timeZone },
    learned,
    supply,
    near: near ? planIn(near.json) : undefined,
  };
}

/** The week as it was planned; none where a Kadro before kept it in another way. */
function planIn(json: string): WeekPlan | undefined {
  const plan = JSON.parse(json) as WeekPlan | string[];
  return Array.isArray(plan) ? undefined : plan;
}

/** Keeps the week as it is planned. Of two servers that plan at once, either’s will do. */
export async function keepWeek(s: Store, { work, holds }: WeekPlan): Promise<void> {
  await run(s, 'REPLACE INTO week_plan (id, json, at) VALUES (1, ?, ?)', [JSON.stringify({ work, holds }), new Date()]);
}
