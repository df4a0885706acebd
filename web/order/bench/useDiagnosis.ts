import { wrap, type Remote } from 'comlink';
import { useEffect, useMemo, useState } from 'react';
import type { Diagnosis } from '#core/fault/find';
import type { Evidence } from '#core/fault/sight';
import type { Harness } from '#model/harness';
import type { FaultWork } from './fault.worker';

let worker: Remote<FaultWork> | null = null;
const work = (): Remote<FaultWork> =>
  (worker ??= wrap<FaultWork>(new Worker(new URL('./fault.worker.ts', import.meta.url), { type: 'module' })));

/** What is likely wrong, worked out aside; the last answer stays until the next is there. `null` before the first. */
export function useDiagnosis(harness: Harness, evidence: readonly Evidence[], hard: readonly string[]) {
  const key = useMemo(() => JSON.stringify(harness), [harness]);
  const asked = JSON.stringify([evidence.map((e) => [e.id, e.value, e.sight, e.failing]), hard]);
  const [answer, setAnswer] = useState<{ asked: string; diagnosis: Diagnosis | string } | null>(null);
  useEffect(() => {
    let stale = false;
    void work()
      .find(
        key,
        harness,
        evidence.map(({ id, sight, value, failing }) => ({ id, sight, value, failing })),
        [...hard],
      )
      .then((diagnosis) => !stale && setAnswer({ asked, diagnosis }));
    return () => {
      stale = true;
    };
  }, [key, asked]); // eslint-disable-line react-hooks/exhaustive-deps
  return { diagnosis: answer?.diagnosis ?? null, busy: answer?.asked !== asked };
}
