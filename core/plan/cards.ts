import type { PlannedStep } from './planned';

/** So many steps at most share a card: what is said yes to must be seen. Common practice, no source. */
const MOST = 3;

/** Whether a step asks for nothing but a look: no figure, no count, no second pair of hands, nothing to be warned of. */
const isLook = (s: PlannedStep): boolean =>
  s.readings.every((r) => r.expected.unit === 'yes' && !r.optional) &&
  !s.cautions.length &&
  !s.slideOnFirst.length &&
  !s.waits &&
  s.hands === 1 &&
  !s.panel?.fasteners.length;

const isBegin = (s: PlannedStep): boolean => s.stage === 'unpack' || (s.kit === null && s.stage === 'make-safe' && !s.readings.length);

/** Lids by themselves, keys and boxes, or proofs of one kit. */
const alike = (a: PlannedStep, b: PlannedStep): boolean =>
  a.stage === 'prove' || b.stage === 'prove'
    ? a.stage === b.stage && a.kit !== null && a.kit === b.kit && a.circuit === null && b.circuit === null
    : [a, b].every((s) => (s.kit === null && s.panel !== null) || isBegin(s));

/**
 * The steps that are done with one answer beside one of a plan: it, and those right after it that ask for no more than a look and
 * belong together, as lids do, or what is tried of one kit.
 * @param open whether a step is this person's and still to be done
 */
export function cardOf(steps: readonly PlannedStep[], step: PlannedStep, open: (s: PlannedStep) => boolean): PlannedStep[] {
  const card = [step];
  // what it warns of stands at the head of the card
  const leads = isLook(isBegin(step) ? { ...step, cautions: [] } : step);
  const at = steps.indexOf(step);
  for (const next of steps.slice(at + 1, at + MOST)) {
    if (!leads || !isLook(next) || !alike(step, next) || !open(next)) break;
    card.push(next);
  }
  return card;
}
