import { words } from '#model/common';
import { PlanChoice, PlanPin } from '#model/work-plan';
import { stepState } from '../order/assess';
import { pinnedTasks, pinRefused } from '../plan/problem';
import { BENCH, event, Refused } from './definition';
import { stepId } from './shapes';

export const planEvents = [
  event({
    type: 'plan.chosen',
    may: BENCH,
    records: { choice: PlanChoice },
    apply: (order, { choice }) => ({ ...order, plan: { ...order.plan, choice } }),
    touches: () => ['plan'],
    says: ({ choice: { runs, benchTest } }) =>
      `Plan: ${runs === null ? 'panels over wires as is quicker' : runs === 'fish' ? 'wires pulled through' : 'panels over wires off'}, harnesses ${benchTest ? '' : 'not '}tried at the bench`,
  }),
  event({
    type: 'plan.pinned',
    may: BENCH,
    records: { pin: PlanPin, label: words(420) },
    asks: { pin: PlanPin },
    decide: ({ pin }, order, c) => {
      const tasks = c.assessment.work?.problem.tasks ?? [];
      const named = (id: string, path: string) => {
        const t = tasks.find((x) => x.id === id);
        if (!t) throw new Refused(`“${id}” is not a step that can be put elsewhere: panels and power follow the work.`, 'input', path);
        return t.step.title;
      };
      if (stepState(order, pin.step).status !== 'todo') throw new Refused('That step is settled: it stays where it was done.');
      const title = named(pin.step, 'pin.step');
      const [after, before] = [pin.after && named(pin.after, 'pin.after'), pin.before && named(pin.before, 'pin.before')];
      if (!after && !before) throw new Refused('Say what the step comes after, or before.', 'input', 'pin');
      // as the plan would be without where this step was put before
      const others = order.plan.pins.filter((p) => p.step !== pin.step);
      const refused = pinRefused(pinnedTasks(c.assessment.work!.free, others), pin);
      if (refused) throw new Refused(`${refused.why}.`, 'state', 'pin');
      const where = [after && `after “${after}”`, before && `before “${before}”`].filter(Boolean).join(', ');
      return { type: 'plan.pinned', pin, label: `“${title}” ${where}`.slice(0, 420) };
    },
    apply: (order, { pin }) => ({
      ...order,
      plan: { ...order.plan, pins: [...order.plan.pins.filter((p) => p.step !== pin.step), pin] },
    }),
    touches: (c) => [`pin.${c.pin.step}`],
    says: (e) => `Plan: ${e.label}`,
  }),
  event({
    type: 'plan.freed',
    may: BENCH,
    records: { step: stepId, label: words(200) },
    asks: { step: stepId },
    decide: (command, order, c) => {
      if (!order.plan.pins.some((p) => p.step === command.step)) throw new Refused('That step stands where Kadro put it.', 'input', 'step');
      return { ...command, label: c.assessment.steps.find((s) => s.id === command.step)?.title ?? command.step };
    },
    apply: (order, { step }) => ({ ...order, plan: { ...order.plan, pins: order.plan.pins.filter((p) => p.step !== step) } }),
    touches: (c) => [`pin.${c.step}`],
    says: (e) => `Plan: ${e.label} where Kadro puts it`,
  }),
] as const;
