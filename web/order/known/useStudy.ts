import { wrap, type Remote } from 'comlink';
import { useEffect, useState } from 'react';
import { canonical } from '#core/canonical';
import { CHARGING_STEP } from '#core/energy/measured';
import { restsOnAssumed } from '#core/known/pointer';
import type { Study } from '#core/known/study';
import { panelsOff } from '#core/plan/panels-off';
import { useOrder } from '../useOrder';
import type { KnownWork } from './known.worker';

const SOON_MS = 500;
/** One study at a time for all stations; the last one stays while nothing changed that it rests on. */
let bench: { worker: Worker; work: Remote<KnownWork>; key: string; done: Promise<Study> } | null = null;
let last: { order: string; key: string; study: Study } | null = null;

function begin(order: string, key: string, run: (w: Remote<KnownWork>) => Promise<Study>): Promise<Study> {
  if (bench?.key === key) return bench.done;
  bench?.worker.terminate();
  const worker = new Worker(new URL('./known.worker.ts', import.meta.url), { type: 'module' });
  const work = wrap<KnownWork>(worker);
  const mine = { worker, work, key, done: run(work) };
  bench = mine;
  return mine.done.then((study) => {
    last = { order, key, study };
    if (bench === mine) bench = null;
    worker.terminate();
    return study;
  });
}

/** What is assumed of the unit, and what it leaves open; null while it is worked out, or where nothing is assumed. `stale`: of a moment ago. */
export function useStudy(): { study: Study | null; stale: boolean } {
  const { order, given, settings, assessment } = useOrder();
  const on = order.status === 'open' && restsOnAssumed(given.model);
  const off = [...panelsOff(order, assessment.steps)];
  // what is done at the bench changes nothing of it, but for panels that come off
  const { values, kits, overrides, facts, changes, variants, places, days, lamps, packs, fitted, restVolts, wishes, unit } = order;
  const rests = [order.id, values, kits, overrides, facts, changes, variants, places, days, lamps, packs, fitted, restVolts, wishes, unit];
  const key = on ? canonical([rests, off, order.steps[CHARGING_STEP]?.readings, { ...settings, stock: [], shelf: [] }]) : '';
  const [study, setStudy] = useState(() => (last?.key === key ? last : null));
  useEffect(() => {
    if (!on || last?.key === key) return on ? setStudy(last) : undefined;
    let gone = false;
    const soon = setTimeout(
      () =>
        void begin(order.id, key, (w) => w.study(order, given, settings, off)).then(
          (s) => !gone && setStudy({ order: order.id, key, study: s }),
        ),
      SOON_MS,
    );
    return () => {
      gone = true;
      clearTimeout(soon);
    };
  }, [key]); // eslint-disable-line react-hooks/exhaustive-deps
  // of a moment ago is better than nothing, of another order is not
  const mine = on && study?.order === order.id ? study : null;
  return { study: mine?.study ?? null, stale: mine?.key !== key };
}
