import type { PlanPin } from '#model/work-plan';
import { allBefore } from './precedence';
import { pinnedTasks, type WorkProblem, type WorkTask } from './problem';
import { sequence } from './sequence';

/** A place for a step between two others, with what the whole work would then take, or why it cannot stand there. */
export interface Place {
  after: string | null;
  before: string | null;
  /** minutes more than now; null where it is refused */
  more: number | null;
  why: string;
}

/** States looked at for each place. */
const MOST_STATES = 300;

/**
 * Every place between the steps still to do at which one of them could stand.
 * @param ahead ids of the steps still to do, in their present order, panels and power left out
 * @param now minutes that what is left takes at present
 */
export function placesFor(
  problem: WorkProblem,
  free: readonly WorkTask[],
  pins: readonly PlanPin[],
  ahead: readonly string[],
  step: string,
  now: number,
): Place[] {
  const others = pins.filter((p) => p.step !== step);
  const tasks = pinnedTasks(free, others);
  const rest = ahead.filter((id) => id !== step);
  const before = allBefore(tasks, step);
  const behind = new Set(tasks.filter((t) => allBefore(tasks, t.id).has(step)).map((t) => t.id));
  const name = (id: string) => tasks.find((t) => t.id === id)?.step.title ?? id;
  const out: Place[] = [];
  for (let i = 0; i <= rest.length; i++) {
    const pin: PlanPin = { step, after: rest[i - 1] ?? null, before: rest[i] ?? null };
    // the others stay in their order, so all that comes before it must stand before, and all that comes after it after
    const early = rest.slice(i).find((id) => before.has(id));
    const late = rest.slice(0, i).findLast((id) => behind.has(id));
    const why = early ? `“${name(early)}” comes before “${name(step)}”` : late ? `“${name(late)}” comes after “${name(step)}”` : '';
    if (why) {
      out.push({ after: pin.after, before: pin.before, more: null, why });
      continue;
    }
    // what the move itself costs is asked, not what a new plan would save
    const fixed = [...rest.slice(0, i), step, ...rest.slice(i)];
    const chained = tasks.map((t) => {
      const at = fixed.indexOf(t.id);
      return at > 0 ? { ...t, after: [...new Set([...t.after, fixed[at - 1]!])] } : t;
    });
    const minutes = sequence({ ...problem, tasks: chained }, { most: MOST_STATES }).minutes;
    out.push({ after: pin.after, before: pin.before, more: Math.max(0, minutes - now), why: '' });
  }
  return out;
}
