import type { Placer } from './place-jobs';
import { OrderSearch, usualOrders, type Random } from './schedule-order';
import type { Compiled } from './schedule-problem';

/** Jobs that join at a time, about. */
const JOIN = 7;
/** How much dearer than the best a change may be at first. */
const HEAT = 0.03;

/** In how many steps a shop grows; one says that it is not worth it. */
export const growthSteps = (c: Compiled): number => Math.max(1, Math.round(c.jobs.length / JOIN));

/**
 * An order of the jobs that has grown: first those due soonest, as if they were alone in the shop, then more and more of the others
 * beside them (a horizon that rolls on, after Baker 1977, from memory). Who is in time by how little is settled among few jobs, where
 * that is soon looked through; among all of them a change that keeps one evening’s promise mostly costs another one first.
 * @param puts jobs put in at most, about; @param placerOf a shop of some of the jobs
 */
export function grownOrder(
  c: Compiled,
  puts: number,
  random: Random,
  stop: () => boolean,
  placerOf: (part: Compiled, jobs: readonly number[]) => Placer,
): { order: number[]; spent: number } {
  const steps = growthSteps(c);
  const byDue = c.jobs.map((_, n) => n).sort((a, b) => c.jobs[a]!.due - c.jobs[b]!.due || a - b);
  let grown: number[] = [];
  let spent = 0;
  for (let step = 1; step <= steps && !stop(); step++) {
    const there = byDue.slice(0, Math.round((byDue.length * step) / steps));
    const part = { ...c, jobs: there.map((n) => c.jobs[n]!) };
    const placer = placerOf(part, there);
    // what was there before keeps its order among itself, and what joins stands behind it
    const at = new Map(there.map((n, i) => [n, i]));
    const starts = [[...grown, ...there.slice(grown.length)].map((n) => at.get(n)!)];
    if (step === 1) starts.push(...usualOrders(part, placer.least));
    const search = new OrderSearch(part, placer, starts, random);
    const share = puts / steps;
    while (search.spent < share && search.best < Infinity && !stop())
      search.anneal(Math.ceil((2.5 * share) / there.length), search.best * HEAT, stop);
    spent += search.spent;
    if (search.bestOrder.length) grown = search.bestOrder.map((i) => there[i]!);
  }
  return { order: [...grown, ...byDue.slice(grown.length)], spent };
}
