import type { Order } from '#model/order';
import { stepState, type Assessment } from '../order/assess';

/** A stretch of an order’s work that one person, or two, does without a break. */
export interface WorkLeft {
  /** planned minutes by kit; the unit’s own under the empty name */
  kits: { kit: string; minutes: number }[];
  hands: 1 | 2;
  /** minutes that it is left to itself afterwards */
  waitMinutes: number;
}

/** A second person for less than this is called over, and plans no day. */
const SHORT_HELP_MIN = 5;
/** What waits less than this is waited for at the bench. */
const SHORT_WAIT_MIN = 15;

/**
 * The steps still to do, in the plan’s order, as stretches: cut where a second person comes or goes, and before what must wait
 * for something that cures or falls asleep, as long as the work in between does not fill the time. What nothing waits for is
 * left to itself once all is done.
 */
export function workLeft(order: Order, a: Assessment): WorkLeft[] {
  const out: WorkLeft[] = [];
  const todo = a.steps.filter((s) => stepState(order, s.id).status === 'todo' && s.minutes > 0);
  // runs of two hands, as long as they are together
  const runs: { hands: 1 | 2; steps: typeof todo; wait: number }[] = [];
  const ready = new Map<string, number>();
  const later = (id: string, at: number) => ready.set(id, Math.max(ready.get(id) ?? 0, at));
  const END = '';
  let t = 0;
  /** waits for what is not ready, after what was done last */
  const hold = (id: string) => {
    const wait = Math.round((ready.get(id) ?? 0) - t);
    const last = runs.at(-1);
    if (!last || wait < SHORT_WAIT_MIN) return;
    last.wait = wait;
    t += wait;
  };
  for (const s of todo) {
    hold(s.id);
    const last = runs.at(-1);
    if (last && last.hands === s.hands && !last.wait) last.steps.push(s);
    else runs.push({ hands: s.hands, steps: [s], wait: 0 });
    t += s.minutes;
    if (!s.waitMinutes) continue;
    const held = s.holds.filter((id) => todo.some((x) => x.id === id));
    for (const id of held.length ? held : [END]) later(id, t + s.waitMinutes);
  }
  hold(END);
  for (const run of runs) {
    const minutes = run.steps.reduce((sum, s) => sum + s.minutes, 0);
    const hands = run.hands === 2 && minutes < SHORT_HELP_MIN ? 1 : run.hands;
    const last = out.at(-1);
    const into = last && last.hands === hands && !last.waitMinutes ? last : { kits: [], hands, waitMinutes: 0 };
    if (into !== last) out.push(into);
    for (const s of run.steps) {
      const kit = s.kit ?? '';
      const known = into.kits.find((k) => k.kit === kit);
      if (known) known.minutes += s.minutes;
      else into.kits.push({ kit, minutes: s.minutes });
    }
    into.waitMinutes = run.wait;
  }
  return out;
}
