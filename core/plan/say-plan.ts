import { sayUncovered, type Uncovered } from './coverage';
import type { PlannedStep } from './planned';
import type { OtherWays } from './other-ways';
import type { WorkPlan } from './work';

const min = (m: number) => `${Math.round(m)} minutes`;

/**
 * The plan’s answer in a sentence: how much work, whether it can be less, and what one tear-down saves.
 * @param other null: not known yet, and not said
 */
export function planSays(work: WorkPlan & { leftOut?: readonly Uncovered[] }, other: Pick<OtherWays, 'apart'> | null): string {
  const waits = [...new Set(work.steps.map((s) => s.waits).filter(Boolean))];
  const saved = other ? Math.round(other.apart.minutes - work.cost.minutes) : 0;
  const idle = work.idle.reduce((s, x) => s + x.minutes, 0);
  const over = ((work.cost.minutes + idle) / Math.max(1e-9, work.bound) - 1) * 100;
  return [
    `${work.steps.length} steps, ${min(work.cost.minutes)}`,
    idle ? ` and ${min(idle)} of waiting (${[...new Set(work.idle.map((x) => x.for))].join('; ')})` : '',
    work.optimal ? '; no order takes less' : `; no order takes less than ${min(work.bound)} (${over.toFixed(1)} % under)`,
    saved > 0 ? `, and one tear-down saves ${min(saved)} over kit by kit` : '',
    '.',
    work.leftOut ? (work.leftOut.length ? ` Left out: ${sayUncovered(work.leftOut)}.` : ' Nothing is left out.') : '',
    waits.length ? ` Waits for ${waits.join(', ')}: that work comes last.` : '',
  ].join('');
}

/** Every tool that the steps name, each once, in the order in which they are wanted; hands are always there. */
export const toolsOf = (steps: readonly PlannedStep[]): string[] => [
  ...new Set(steps.flatMap((s) => (s.tool ?? '').split(/,\s*/).map((t) => t.trim())).filter((t) => t && t !== 'hand')),
];
