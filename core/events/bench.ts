import { z } from 'zod';
import { Slug, words } from '#model/common';
import type { Order } from '#model/order';
import { PhotoId, PhotoNote } from '#model/photo';

import { Expected } from '#model/reading';
import { readingVerdict, stepState } from '../order/assess';
import { fastenersHold, ledger, shortOf } from '../plan/fasteners';
import { judgeReading } from '../plan/judge';
import { SECOND_LOOK } from '../plan/kit-steps';
import type { PlannedStep } from '../plan/planned';
import { behind } from '../plan/problem';
import { startClock, stopClocks, withStep } from './clock';
import { ALL, BENCH, event, LEADS, Refused, type Context, type Stamp } from './definition';
import { withReading } from './read-step';
import { reason, someone, stepId } from './shapes';
import { tookAt, tookShape, withTaken } from './take-stock';

/** Pictures that an order keeps. */
const MOST_PHOTOS = 200;

/**
 * The step as it is planned now.
 * @throws Refused when there is none of that id
 */
export function planned(id: string, c: Context): PlannedStep {
  const step = c.assessment.steps.find((s) => s.id === id);
  if (!step) throw new Refused(`There is no step “${id}” in this order as it is planned now.`, 'input', 'step');
  return step;
}

function checkPerson(to: string | null, c: Context): void {
  if (to !== null && c.known.people && !c.known.people.includes(to)) throw new Refused(`Nobody here is called “${to}”.`, 'input', 'to');
}

/** Steps that only a lead may leave out: what makes the unit safe, and what holds a person. */
const keepsSafe = (s: PlannedStep): boolean =>
  s.stage === 'make-safe' || s.stage === 'power-up' || s.readings.some((r) => r.id === SECOND_LOOK);

/** What must be proved before a step that closes something; null: nothing, or all is. */
function closesEarly(step: PlannedStep, c: Context): string | null {
  const tasks = c.assessment.work?.problem.tasks ?? [];
  if (step.stage !== 'close') return null;
  const panel = step.panel?.id;
  // a panel stays off for what is proved behind it; what comes after closing waits for everything
  const holds = (id: string) => !panel || behind(c.sheets.model, tasks.find((t) => t.id === id)?.open ?? []).has(panel);
  // what is proved once all is closed waits for that, not the other way round
  const open = c.assessment.proofs.find(
    (p) => (p.state === 'missing' || p.state === 'failing') && p.step.stage !== 'close' && holds(p.step.id),
  );
  return open ? `Prove before closing: “${open.step.title}” is ${open.state === 'failing' ? 'failing' : 'not proved yet'}.` : null;
}

/** Why a step cannot be called done; null: it can. */
export function whyNotDone(step: PlannedStep, order: Order, c: Context): string | null {
  if (stepState(order, step.id).status === 'done') return `“${step.title}” is already done.`;
  const tasks = c.assessment.work?.problem.tasks ?? [];
  if (step.proof) {
    // what is proved must be there
    const first = c.assessment.steps.find(
      (s) => tasks.find((t) => t.id === step.id)?.after.includes(s.id) && !s.proof && stepState(order, s.id).status === 'todo',
    );
    if (first) return `“${first.title}” comes before: what is not there yet cannot be proved.`;
  }
  const power = tasks.find((t) => t.id === step.id)?.power;
  const isolated = c.assessment.work?.isolated ?? false;
  const left = (stage: PlannedStep['stage']) =>
    c.assessment.steps.filter((s) => s.stage === stage && s.panel === null && stepState(order, s.id).status === 'todo').map((s) => s.title);
  if (power === 'on' && isolated) return `Power is off as the work stands: “${left('power-up')[0] ?? ''}” comes first.`;
  // a bracket may be bolted on with the power on, a wire not joined
  if (power === 'off' && step.stage === 'wire' && !isolated) return `The unit is live: “${left('make-safe').at(-1) ?? ''}” comes first.`;
  const count = fastenersHold(order, step);
  if (count) return count;
  const early = closesEarly(step, c);
  if (early) return early;
  const missing = step.readings.find((r) => !r.optional && readingVerdict(order, step, r.id) === null);
  if (missing) return `Read “${missing.label}” first.`;
  const failing = step.readings.find((r) => readingVerdict(order, step, r.id) === 'fails');
  if (failing) return `“${failing.label}” is out of its band: put it right and read again, or skip the step with a reason.`;
  return null;
}

/** The first that is left to this person, not the next on the list: what comes before must be done before. */
function nextAfter(id: string, order: Order, c: Context): string | null {
  const mine = (s: PlannedStep) => (order.given[s.id] ?? c.by) === c.by;
  return c.assessment.steps.find((s) => s.id !== id && mine(s) && stepState(order, s.id).status === 'todo')?.id ?? null;
}

/** What follows once a step is done: the next of this person, and what it took off the shelf. */
export const followedBy = (step: PlannedStep, order: Order, c: Context) => ({
  title: step.title,
  next: nextAfter(step.id, order, c),
  took: tookAt(step, order, c),
});

/** A step settled: its clocks stop, and a person's own goes on with their next step only if it was running. */
export function settled(
  order: Order,
  step: string,
  next: string | null,
  by: string,
  at: string,
  change: { status: 'done' | 'skipped'; reason?: string },
): Order {
  const ran = order.clocks.some((c) => c.by === by);
  const stopped = stopClocks(order, at, (c) => c.by === by || c.step === step);
  const after = withStep(stopped, step, (s) => ({ ...s, reason: undefined, ...change, at, by }));
  return next && ran ? startClock(after, next, at, by) : after;
}

const minutesSeconds = (s: number) => `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`;
const counts = z.array(z.number().int('count whole ones').min(0).max(999)).min(1).max(20);
const seconds = z.number().min(0).max(86_400);

/**
 * Fasteners as counted at a panel.
 * @throws Refused when they are not those of its sheet, or more go back than came out
 */
function checkCounts(step: PlannedStep, counts: number[], order: Order): number[] {
  const list = step.panel?.fasteners ?? [];
  if (!list.length) throw new Refused(`“${step.title}” has no fasteners to count.`, 'input', 'step');
  if (counts.length !== list.length)
    throw new Refused(
      `${step.panel!.name} has ${list.length} ${list.length === 1 ? 'kind' : 'kinds'} of fastener: count each.`,
      'input',
      'counts',
    );
  const over = step.stage === 'close' ? ledger(order, step).find((l, i) => counts[i]! > l.out) : undefined;
  if (over)
    throw new Refused(
      `${over.out} × ${over.kind} came out: more cannot go back. Put the count at taking off right first.`,
      'input',
      'counts',
    );
  return counts;
}

const withCounts = (order: Order, step: string, counts: number[], stamp: Stamp): Order => ({
  ...order,
  fasteners: { ...order.fasteners, [step]: { counts, reason: null, ...stamp } },
});

/**
 * A question of a step, for a yes.
 * @throws Refused when the step asks nothing of the sort
 */
function asked(step: PlannedStep, id: string) {
  const r = step.readings.find((x) => x.id === id);
  if (!r || r.expected.unit !== 'yes') throw new Refused(`“${step.title}” does not ask “${id}”.`, 'input', 'yes');
  return { reading: r.id, label: r.label, expected: r.expected };
}

/** An order with what was said in the moment in which a step was done. */
const withSaid = (
  order: Order,
  step: string,
  said: { counts: number[] | null; affirmed: { reading: string; expected: Expected }[] },
  stamp: Stamp,
): Order =>
  said.affirmed.reduce(
    (o, { reading, expected }) =>
      withReading(o, { step, reading, expected, value: 1, verdict: judgeReading(1, expected), origin: { how: 'typed' } }, stamp),
    said.counts ? withCounts(order, step, said.counts, stamp) : order,
  );

export const benchEvents = [
  event({
    type: 'bench.assigned',
    may: ALL,
    records: { to: someone },
    decide: (command, _order, c) => {
      checkPerson(command.to, c);
      return command;
    },
    apply: (order, { to }) => ({ ...order, assignee: to }),
    touches: () => ['assignee'],
    says: (e) => (e.to ? `On the bench of ${e.to}` : 'On nobody’s bench'),
  }),
  event({
    type: 'step.started',
    may: BENCH,
    atBench: true,
    version: 2,
    records: { step: stepId, title: words(200) },
    asks: { step: stepId },
    earlier: { 1: (body) => ({ ...body, title: body.step }) },
    decide: (command, _order, c) => ({ ...command, title: planned(command.step, c).title }),
    apply: (order, { step }, { at, by }) =>
      startClock(
        stopClocks(order, at, (c) => c.by === by),
        step,
        at,
        by,
      ),
    touches: (c) => [`timer.${c.step}`],
    says: (e) => `Clock started: ${e.title}`,
  }),
  event({
    type: 'timer.stopped',
    may: BENCH,
    atBench: true,
    records: {},
    decide: (command, order, c) => {
      if (!order.clocks.some((x) => x.by === c.by)) throw new Refused('No clock of yours is running.');
      return command;
    },
    apply: (order, _e, { at, by }) => stopClocks(order, at, (c) => c.by === by),
    // everyone has a clock of their own
    touches: () => [],
    says: () => 'Clock stopped',
  }),
  event({
    type: 'step.done',
    may: BENCH,
    atBench: true,
    version: 3,
    /**
     * Said in the same moment: `counts`, fasteners counted back, by kind in the order of the panel's sheet; `affirmed`, questions
     * answered with yes. `took`: what was cut and taken off the shelf for it.
     */
    records: {
      step: stepId,
      title: words(200),
      next: stepId.nullable(),
      counts: counts.nullable(),
      took: tookShape,
      affirmed: z.array(z.strictObject({ reading: Slug, label: words(200), expected: Expected })).max(40),
    },
    asks: { step: stepId, counts: counts.optional(), yes: z.array(Slug).max(40).optional() },
    earlier: { 1: (body) => ({ ...body, counts: null }), 2: (body) => ({ ...body, affirmed: [], took: [] }) },
    decide: (command, order, c) => {
      const step = planned(command.step, c);
      const counted = command.counts ? checkCounts(step, command.counts, order) : null;
      const affirmed = (command.yes ?? []).map((id) => asked(step, id));
      const said = { counts: counted, affirmed };
      const why = whyNotDone(step, withSaid(order, step.id, said, { at: order.openedAt, by: c.by }), c);
      if (why) throw new Refused(why);
      return { type: 'step.done', step: step.id, ...followedBy(step, order, c), ...said };
    },
    apply: (order, e, stamp) =>
      settled(withTaken(withSaid(order, e.step, e, stamp), e.step, e.took), e.step, e.next, stamp.by, stamp.at, { status: 'done' }),
    touches: (c) => [
      `step.${c.step}`,
      ...('affirmed' in c ? c.affirmed.map((a) => a.reading) : (c.yes ?? [])).map((r) => `reading.${c.step}.${r}`),
    ],
    says: (e) => `Done: ${[e.title, ...e.affirmed.map((a) => `${a.label}: yes`)].join('; ')}`,
  }),
  event({
    type: 'step.skipped',
    may: BENCH,
    atBench: true,
    records: { step: stepId, title: words(200), reason, next: stepId.nullable() },
    asks: { step: stepId, reason },
    decide: (command, order, c) => {
      const step = planned(command.step, c);
      if (keepsSafe(step) && !LEADS.includes(c.role))
        throw new Refused(`“${step.title}” keeps people safe: a lead may skip it, with a reason.`, 'role', 'step');
      return { ...command, title: step.title, next: nextAfter(step.id, order, c) };
    },
    apply: (order, e, { at, by }) => settled(order, e.step, e.next, by, at, { status: 'skipped', reason: e.reason }),
    touches: (c) => [`step.${c.step}`],
    says: (e) => `Skipped: ${e.title}, because ${e.reason}`,
    marks: () => ['skipped'],
  }),
  event({
    type: 'step.reopened',
    may: BENCH,
    atBench: true,
    records: { step: stepId, title: words(200) },
    asks: { step: stepId },
    decide: (command, order, c) => {
      const step = planned(command.step, c);
      if (stepState(order, step.id).status === 'todo') throw new Refused(`“${step.title}” is not done yet.`);
      return { ...command, title: step.title };
    },
    apply: (order, e, stamp) => withStep(order, e.step, (s) => ({ ...s, status: 'todo', reason: undefined, ...stamp })),
    touches: (c) => [`step.${c.step}`],
    says: (e) => `Reopened: ${e.title}`,
  }),
  event({
    type: 'step.given',
    may: BENCH,
    atBench: true,
    records: { step: stepId, to: someone, title: words(200) },
    asks: { step: stepId, to: someone },
    decide: (command, order, c) => {
      const step = planned(command.step, c);
      checkPerson(command.to, c);
      if (stepState(order, step.id).status !== 'todo') throw new Refused(`“${step.title}” is settled already.`);
      return { ...command, title: step.title };
    },
    apply: (order, e) => {
      const { [e.step]: _, ...others } = order.given;
      return { ...order, given: e.to === null ? others : { ...others, [e.step]: e.to } };
    },
    touches: (c) => [`given.${c.step}`],
    says: (e) => (e.to ? `For ${e.to}: ${e.title}` : `For anyone: ${e.title}`),
  }),
  event({
    type: 'time.corrected',
    may: BENCH,
    records: { step: stepId, seconds, reason, label: words(300) },
    asks: { step: stepId, seconds, reason },
    decide: (command, order, c) => {
      const step = planned(command.step, c);
      if (order.clocks.some((x) => x.step === step.id)) throw new Refused('The clock runs on this step: stop it first.');
      const was = stepState(order, step.id).seconds;
      return { ...command, label: `${step.title}: ${minutesSeconds(command.seconds)} instead of ${minutesSeconds(was)}` };
    },
    apply: (order, e) => withStep(order, e.step, (s) => ({ ...s, seconds: e.seconds })),
    touches: (c) => [`time.${c.step}`],
    says: (e) => `${e.label}, because ${e.reason}`,
  }),
  event({
    type: 'fasteners.counted',
    may: BENCH,
    atBench: true,
    records: { step: stepId, counts, label: words(200) },
    asks: { step: stepId, counts },
    decide: (command, order, c) => {
      const step = planned(command.step, c);
      checkCounts(step, command.counts, order);
      const lines = ledger(order, step);
      const closing = step.stage === 'close';
      const says = lines.map((l, i) => `${command.counts[i]}${closing ? ` of ${l.out}` : ''} × ${l.kind}`).join(', ');
      return { ...command, label: `${step.panel!.name}: ${says} ${closing ? 'back' : 'out'}`.slice(0, 200) };
    },
    apply: (order, e, stamp) => withCounts(order, e.step, e.counts, stamp),
    touches: (c) => [`fasteners.${c.step}`],
    says: (e) => e.label,
  }),
  event({
    type: 'fasteners.excused',
    may: BENCH,
    atBench: true,
    records: { step: stepId, reason, label: words(300) },
    asks: { step: stepId, reason },
    decide: (command, order, c) => {
      const step = planned(command.step, c);
      const short = step.stage === 'close' ? shortOf(ledger(order, step)) : '';
      if (!short) throw new Refused('Nothing is counted short there.', 'input', 'step');
      return { ...command, label: `${step.panel!.name}: ${short} not back`.slice(0, 300) };
    },
    apply: (order, e, stamp) => {
      const counted = order.fasteners[e.step] ?? { counts: [], ...stamp };
      return { ...order, fasteners: { ...order.fasteners, [e.step]: { ...counted, reason: e.reason } } };
    },
    touches: (c) => [`fasteners.${c.step}`],
    says: (e) => `${e.label}, closed all the same, because ${e.reason}`,
  }),
  event({
    type: 'photo.taken',
    may: ALL,
    records: { photo: PhotoId, step: stepId.optional(), note: PhotoNote },
    decide: (command, order, c) => {
      if (command.step) planned(command.step, c);
      if (c.known.hasPhoto && !c.known.hasPhoto(command.photo))
        throw new Refused('That picture has not arrived: take it again.', 'input', 'photo');
      if (order.photos.length >= MOST_PHOTOS) throw new Refused(`An order keeps at most ${MOST_PHOTOS} pictures.`);
      return command;
    },
    apply: (order, e, stamp) => ({
      ...order,
      photos: [...order.photos, { photo: e.photo, ...(e.step && { step: e.step }), note: e.note, ...stamp }],
    }),
    touches: () => [],
    says: (e) => `Picture${e.note ? `: ${e.note}` : ''}`,
    marks: () => ['picture'],
  }),
  event({
    type: 'finding.added',
    may: ALL,
    records: { text: words(500), step: stepId.optional(), photo: PhotoId.optional() },
    decide: (command, _order, c) => {
      if (command.photo && c.known.hasPhoto && !c.known.hasPhoto(command.photo))
        throw new Refused('Its picture has not arrived: take it again.', 'input', 'photo');
      return command;
    },
    apply: (order, e, stamp) => ({
      ...order,
      findings: [...order.findings, { ...stamp, text: e.text, ...(e.step && { step: e.step }), ...(e.photo && { photo: e.photo }) }],
    }),
    touches: () => [],
    says: (e) => `Finding: ${e.text}`,
    marks: (e) => (e.photo ? ['finding', 'picture'] : ['finding']),
  }),
  event({
    type: 'finding.judged',
    may: BENCH,
    records: {
      /** the order the finding was made on and the number of its event there */
      finding: z.string().regex(/^[0-9a-f-]{36}:\d{1,9}$/),
      still: z.boolean(),
      text: words(500),
    },
    apply: (order) => order,
    touches: (c) => [`finding.${c.finding}`],
    says: (e) => `Finding ${e.still ? 'confirmed' : 'outdated'}: ${e.text}`,
  }),
] as const;
