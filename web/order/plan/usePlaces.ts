import { useEffect, useState } from 'react';
import type { Place } from '#core/plan/moves';
import type { WorkPlan } from '#core/plan/work';
import type { PlanPin } from '#model/work-plan';
import { planWork } from './plan-work';

/** Where a step could stand instead, searched in a worker; null while nothing is asked or the search is under way. */
export function usePlaces(work: WorkPlan | null, pins: readonly PlanPin[], ahead: readonly string[], step: string | null): Place[] | null {
  const [state, setState] = useState<{ of: WorkPlan; step: string; places: Place[] } | null>(null);
  const key = ahead.join();
  useEffect(() => {
    if (!work || !step) return;
    let stale = false;
    void planWork()
      .places(work.problem, work.free, [...pins], key.split(','), step, work.left)
      .then((places) => !stale && setState({ of: work, step, places }));
    return () => {
      stale = true;
    };
  }, [work, pins, key, step]);
  return state && state.of === work && state.step === step ? state.places : null;
}
