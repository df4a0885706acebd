import { sayInUnits, type UnitSystem } from '../quantity/quantity';
import { expectedText } from '../quantity/reading-units';
import type { PlannedReading, PlannedStep } from './planned';
import type { WorkPlan } from './work';

/** A step by its name, with what it waits for. */
export function sayStep(s: PlannedStep, work: Pick<WorkPlan, 'idle'>, units: UnitSystem): string {
  const idle = work.idle.find((x) => x.before === s.id);
  return [
    s.title,
    s.waits ? ` (waits for ${sayInUnits(s.waits, units)})` : '',
    idle ? ` (after ${Math.round(idle.minutes)} minutes of waiting: ${sayInUnits(idle.for, units)})` : '',
  ].join('');
}

const sayReading = (r: PlannedReading, units: UnitSystem): string =>
  r.expected.unit === 'yes'
    ? `[ ] ${sayInUnits(r.label, units)}`
    : `[ ] ${sayInUnits(r.label, units)}${r.optional ? ', if you can' : ''}: ______ (${expectedText(r.expected, units)})`;

/** All that is said of a step at the bench, line by line, for paper: the same words, with room for what is read. */
export const stepLines = (s: PlannedStep, units: UnitSystem): string[] => [
  ...s.text.split('\n').map((l) => sayInUnits(l, units)),
  ...(s.slideOnFirst.length ? [`Slide on first: ${s.slideOnFirst.join(', ')}.`] : []),
  ...s.cautions.map((c) => `Caution: ${sayInUnits(c, units)}.`),
  ...(s.panel?.fasteners.length
    ? [`${s.stage === 'open' ? 'Out' : 'Back'}: ${s.panel.fasteners.map((f) => `___ of ${f.count} × ${f.kind}`).join(', ')}.`]
    : []),
  ...s.readings.map((r) => sayReading(r, units)),
];
