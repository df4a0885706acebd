import { expose } from 'comlink';
import { flashes, scan, type Scan } from '#core/harness/scan';
import { Simulator, type Faults, type Meter, type Shown, type SwitchState } from '#core/harness/simulate';
import type { Harness } from '#model/harness';

/** One state of the switches as it settles, or why it does not. */
export type Answer = { shown: Shown; trouble: null } | { shown: null; trouble: string };

function answer(sim: Simulator, state: SwitchState): Answer {
  sim.reset();
  try {
    return { shown: sim.show(state), trouble: null };
  } catch (e) {
    return { shown: null, trouble: (e as Error).message };
  }
}

const work = {
  /** How a harness stands on both beats of a flasher; the same twice where nothing flashes. */
  show(harness: Harness, state: Omit<SwitchState, 'beat'>, faults: Faults, meter: Meter | null): [Answer, Answer] {
    try {
      const sim = new Simulator(harness, faults, meter);
      const on = answer(sim, { ...state, beat: true });
      return [on, flashes(harness) ? answer(sim, { ...state, beat: false }) : on];
    } catch (e) {
      const none: Answer = { shown: null, trouble: (e as Error).message };
      return [none, none];
    }
  },
  /** Tries a share of the reachable states; a sentence when it cannot. */
  scan(harness: Harness, faults: Faults, part: { nth: number; of: number }): Scan | string {
    try {
      return scan(harness, faults, { part });
    } catch (e) {
      return (e as Error).message;
    }
  },
};
export type HarnessWork = typeof work;
expose(work);
