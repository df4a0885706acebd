import { wrap, type Remote } from 'comlink';
import type { PlanWork } from './plan.worker';

let remote: Remote<PlanWork> | null = null;
/** What the plan is asked that takes a while, answered beside the screen. */
export const planWork = (): Remote<PlanWork> =>
  (remote ??= wrap<PlanWork>(new Worker(new URL('./plan.worker.ts', import.meta.url), { type: 'module' })));
