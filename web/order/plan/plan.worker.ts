import { expose } from 'comlink';
import { Memo } from '#core/memo';
import { placesFor } from '#core/plan/moves';
import { otherWays } from '#core/plan/other-ways';

const memo = new Memo();
const work = {
  places: placesFor,
  otherWays: (...[order, plan, of, times]: Parameters<typeof otherWays>) => otherWays(order, plan, of, times, memo),
};
export type PlanWork = typeof work;
expose(work);
