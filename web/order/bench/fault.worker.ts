import { expose } from 'comlink';
import { FaultFinder, type Diagnosis } from '#core/fault/find';
import type { Evidence } from '#core/fault/sight';
import type { Harness } from '#model/harness';

let open: { key: string; finder: FaultFinder } | null = null;

const work = {
  /** @param hard points that are not within reach now */
  find(key: string, harness: Harness, evidence: Evidence[], hard: string[]): Diagnosis | string {
    try {
      if (open?.key !== key) open = { key, finder: new FaultFinder(harness) };
      const far = new Set(hard);
      return open.finder.find(evidence, (n) => (far.has(n) ? 3 : 1));
    } catch (e) {
      return (e as Error).message;
    }
  },
};
export type FaultWork = typeof work;
expose(work);
