import { useEffect, useState } from 'react';
import type { OtherWays } from '#core/plan/other-ways';
import { useOrder } from '../useOrder';
import { planWork } from './plan-work';

/** What the work would take done otherwise, reckoned in a worker; the last answer stays until the next is there, null before the first. */
export function useOtherWays(): OtherWays | null {
  const { order, assessment, settings } = useOrder();
  const { work, sheets, wiring } = assessment;
  const { moveMinutes, fishMinutes } = settings;
  const [other, setOther] = useState<{ order: string; ways: OtherWays } | null>(null);
  useEffect(() => {
    if (!work) return;
    let stale = false;
    void planWork()
      .otherWays(
        order,
        { all: work.all, steps: work.steps, runs: work.runs },
        { sheets: { model: sheets.model }, wiring: { circuits: wiring.circuits, points: wiring.points } },
        { moveMinutes, fishMinutes },
      )
      .then((ways) => !stale && setOther({ order: order.id, ways }));
    return () => {
      stale = true;
    };
  }, [order, work, sheets, wiring, moveMinutes, fishMinutes]);
  return work && other?.order === order.id ? other.ways : null;
}
