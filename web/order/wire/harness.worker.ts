import { expose } from 'comlink';
import { scan, type Scan } from '#core/harness/scan';
import { Simulator, type Faults, type Meter, type Shown, type SwitchState } from '#core/harness/simulate';
import type { Harness } from '#model/harness';

/** One state of the switches as it settles, or why it does not. */
export type Answer = { shown: Shown; trouble: null } | { shown: null; trouble: string };

const work = {
  show(harness: Harness, state: SwitchState, faults: Faults, meter: Meter | null): Answer {
    try {
      return { shown: new Simulator(harness, faults, meter).show(state), trouble: null };
    } catch (e) {
      return { shown: null, trouble: (e as Error).message };
    }
  },
  /** Tries every reachable state; a sentence when it cannot. */
  scan(harness: Harness, faults: Faults): Scan | string {
    try {
      return scan(harness, faults);
    } catch (e) {
      return (e as Error).message;
    }
  },
};
export type HarnessWork = typeof work;
expose(work);
