/** A piece of work: `open` panels off, `shut` panels on, power as it wants it, and `after` done before. */
export interface SequenceTask {
  id: string;
  minutes: number;
  zone: string;
  open: readonly string[];
  shut?: readonly string[];
  power: 'off' | 'on' | 'any';
  after: readonly string[];
}
/** A panel comes off only when those in `after` are off, and goes on only when no panel that names it is off. */
export interface SequencePanel {
  id: string;
  zone: string;
  offMinutes: number;
  onMinutes: number;
  after: readonly string[];
}
export interface SequenceProblem {
  tasks: readonly SequenceTask[];
  panels: readonly SequencePanel[];
  /** where power is taken off and given back; `open`: panels that must be off to reach it */
  power: { zone: string; offMinutes: number; onMinutes: number; open?: readonly string[] };
  /** minutes for each change of zone between neighbouring steps */
  moveMinutes: number;
  /** where the work stands; left out: nothing done, every panel on, power on, nobody anywhere yet */
  start?: { done: readonly string[]; off: readonly string[]; power: 'on' | 'off'; zone: string | null };
}
export interface SequenceStep {
  do: 'task' | 'panel-off' | 'panel-on' | 'power-off' | 'power-on';
  id: string;
}
export interface Sequence {
  steps: SequenceStep[];
  /** of everything done, moves included */
  minutes: number;
  /** no sequence takes less */
  bound: number;
  optimal: boolean;
}

/** More than any unit here has; a panel is a bit of a number. */
export const MOST_PANELS = 30;
export const MOST_TASKS = 400;
/** Id of the power steps. */
export const POWER = 'power';

/** Where a step is done, and what it takes by itself. */
export function stepAt(p: SequenceProblem, s: SequenceStep): { zone: string; minutes: number } {
  if (s.do === 'task') return p.tasks.find((t) => t.id === s.id)!;
  if (s.do === 'power-off') return { zone: p.power.zone, minutes: p.power.offMinutes };
  if (s.do === 'power-on') return { zone: p.power.zone, minutes: p.power.onMinutes };
  const panel = p.panels.find((x) => x.id === s.id)!;
  return { zone: panel.zone, minutes: s.do === 'panel-off' ? panel.offMinutes : panel.onMinutes };
}
