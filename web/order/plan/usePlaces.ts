import { wrap, type Remote } from 'comlink';
import { useEffect, useState } from 'react';
import type { Place } from '#core/plan/moves';
import type { WorkPlan } from '#core/plan/work';
import type { PlanPin } from '#model/work-plan';
import type { PlanWork } from './plan.worker';

let remote: Remote<PlanWork> | null = null;
const worker = (): Remote<PlanWork> =>
  (remote ??= wrap<PlanWork>(new Worker(new URL('./plan.worker.ts', import.meta.url), { type: 'module' })));

/** Where a step could stand instead, searched in a worker; null while nothing is asked or the search is under way. */
export function usePlaces(work: WorkPlan | null, pins: readonly PlanPin[], ahead: readonly string[], step: string | null): Place[] | null {
  const [state, setState] = useState<{ of: WorkPlan; step: string; places: Place[] } | null>(null);
  const key = ahead.join();
  useEffect(() => {
    if (!work || !step) return;
    let stale = false;
    void worker()
      .places(work.problem, work.free, [...pins], key.split(','), step, work.left)
      .then((places) => !stale && setState({ of: work, step, places }));
    return () => {
      stale = true;
    };
  }, [work, pins, key, step]);
  return state && state.of === work && state.step === step ? state.places : null;
}
