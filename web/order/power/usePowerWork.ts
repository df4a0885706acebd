import { proxy, wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useState } from 'react';
import type { Chance } from '#core/energy/chance';
import type { By, RemedySearch } from '#core/energy/remedies';
import type { SpareKit } from '#core/energy/remedy-parts';
import type { PowerSystem } from '#core/energy/system';
import type { OwnerDay } from '#model/day';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import type { PowerWork } from './power.worker';

/** A worker for one job at a time: a job that is no longer wanted is stopped with its worker. */
class Bench {
  private at: { worker: Worker; work: Remote<PowerWork>; busy: boolean } | null = null;

  async run<T>(job: (work: Remote<PowerWork>) => Promise<T>): Promise<T> {
    if (this.at?.busy) this.stop();
    if (!this.at) {
      const worker = new Worker(new URL('./power.worker.ts', import.meta.url), { type: 'module' });
      this.at = { worker, work: wrap<PowerWork>(worker), busy: false };
    }
    const mine = this.at;
    mine.busy = true;
    try {
      return await job(mine.work);
    } finally {
      mine.busy = false;
    }
  }

  stop(): void {
    this.at?.worker.terminate();
    this.at = null;
  }
}

const chances = new Bench();
const searches = new Bench();

/** Days for the bands at once; more on request. */
const FEW = 1000;
export const MANY = 10_000;
const SEED = 20260302;
const SOON_MS = 350;

export interface ChanceState {
  chance: Chance | null;
  /** days done of those asked for; null when nothing runs */
  progress: { done: number; of: number } | null;
  runMany: () => void;
  cancel: () => void;
}

/** Many simulated days in a worker: a thousand by themselves, ten thousand on request, stopped when the day or the unit changes. */
export function useChance(system: PowerSystem, day: OwnerDay, settings: Settings, ageKnown: boolean, on: boolean): ChanceState {
  const [state, setState] = useState<{ of: unknown; chance: Chance } | null>(null);
  const [progress, setProgress] = useState<ChanceState['progress']>(null);
  const key = JSON.stringify([system, day]);
  const start = useCallback(
    (days: number) => {
      setProgress({ done: 0, of: days });
      void chances
        .run((w) =>
          w.chance(
            system,
            day,
            settings,
            days,
            SEED,
            ageKnown,
            proxy((done: number) => setProgress((p) => (p ? { ...p, done } : p))),
          ),
        )
        .then((chance) => {
          setState({ of: key, chance });
          setProgress(null);
        })
        .catch(() => setProgress(null));
    },
    [key, ageKnown], // eslint-disable-line react-hooks/exhaustive-deps
  );
  useEffect(() => {
    if (!on) return;
    const soon = setTimeout(() => start(FEW), SOON_MS);
    return () => {
      clearTimeout(soon);
      chances.stop();
      setProgress(null);
    };
  }, [start, on]);
  return {
    chance: state?.of === key ? state.chance : null,
    progress,
    runMany: () => start(MANY),
    cancel: () => {
      chances.stop();
      setProgress(null);
    },
  };
}

/** What would make it hold, searched in a worker when the order is not as it should be. */
export function useRemedies(order: Order, given: Sheets, settings: Settings, spare: SpareKit[], by: By, on: boolean): RemedySearch | null {
  const [state, setState] = useState<{ of: string; found: RemedySearch } | null>(null);
  const key = JSON.stringify([
    order.id,
    order.version,
    order.days,
    order.changes,
    order.overrides,
    order.facts,
    order.kits,
    settings,
    by,
    spare.length,
  ]);
  useEffect(() => {
    if (!on) return;
    let stale = false;
    const soon = setTimeout(
      () => void searches.run((w) => w.remedies(order, given, settings, spare, by)).then((found) => !stale && setState({ of: key, found })),
      SOON_MS,
    );
    return () => {
      stale = true;
      clearTimeout(soon);
      // what nobody looks at any more leaves the cores to the next station
      searches.stop();
    };
  }, [key, on]); // eslint-disable-line react-hooks/exhaustive-deps
  return state?.of === key ? state.found : null;
}
