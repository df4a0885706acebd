import { z } from 'zod';
import { Slug, Verdict, words } from '#model/common';
import type { StepState } from '#model/order';
import { Origin } from '#model/origin';
import { CauseId, CauseWords, Probe, ProbeValue } from '#model/probe';
import { Expected } from '#model/reading';
import { liveModel } from '../fault/predict';
import { sayState } from '../harness/scan';
import { readingVerdict } from '../order/assess';
import { judgeReading } from '../plan/judge';
import { followedBy, planned, settled, whyNotDone } from './bench';
import { BENCH, event, Refused } from './definition';
import { asTold, originOf } from './origin';
import { withReading } from './read-step';
import { stepId } from './shapes';
import { tookShape, withTaken } from './take-stock';

const value = z.number().min(-100_000).max(100_000);
const UNIT: Record<string, string> = { V: 'V', A: 'A', ohm: 'Ω', mm: 'mm', N: 'N', perMin: 'per minute', yes: '' };

/** Readings with those that fail told as of before something was put right. */
const asMended = (readings: StepState['readings']): StepState['readings'] =>
  Object.fromEntries(Object.entries(readings).map(([id, r]) => [id, r.verdict === 'fails' ? { ...r, mended: true } : r]));

/** Readings before their origin was kept. */
const withoutOrigin = (body: Record<string, unknown>) => ({ ...body, origin: { how: 'untold' } });

export const measureEvents = [
  event({
    type: 'reading.taken',
    version: 4,
    may: BENCH,
    atBench: true,
    records: {
      step: stepId,
      reading: Slug,
      label: words(200),
      value,
      expected: Expected,
      verdict: Verdict,
      origin: Origin,
      /** the last that its step waited for: the step is done with it, and what comes next; null: not so */
      settles: z.strictObject({ title: words(200), next: stepId.nullable(), took: tookShape }).nullable(),
    },
    /** `go`: the step is done with it, if nothing else is left there */
    asks: { step: stepId, reading: Slug, value, origin: Origin.optional(), go: z.boolean().optional() },
    earlier: {
      1: withoutOrigin,
      2: (body) => ({ ...body, settles: null }),
      3: (body) => ({ ...body, settles: body.settles && { ...body.settles, took: [] } }),
    },
    decide: ({ origin, go, ...command }, order, c) => {
      const step = planned(command.step, c);
      const r = step.readings.find((x) => x.id === command.reading);
      if (!r) throw new Refused(`“${step.title}” has no reading “${command.reading}”.`, 'input', 'reading');
      if (r.expected.unit === 'yes' && command.value !== 0 && command.value !== 1)
        throw new Refused('This is answered yes or no.', 'input', 'value');
      const taken = {
        ...command,
        origin: originOf(origin, order),
        label: `${step.title}: ${r.label}`,
        expected: r.expected,
        verdict: judgeReading(command.value, r.expected),
        settles: null,
      };
      const after = withReading(order, taken, { at: order.openedAt, by: c.by });
      const all = step.readings.every((x) => x.optional || readingVerdict(after, step, x.id) !== null);
      return go && all && !r.optional && whyNotDone(step, after, c) === null ? { ...taken, settles: followedBy(step, after, c) } : taken;
    },
    apply: (order, e, stamp) => {
      const read = withReading(order, e, stamp);
      return e.settles
        ? settled(withTaken(read, e.step, e.settles.took), e.step, e.settles.next, stamp.by, stamp.at, { status: 'done' })
        : read;
    },
    touches: (c) => [`reading.${c.step}.${c.reading}`, ...('settles' in c && c.settles ? [`step.${c.step}`] : [])],
    says: (e) => {
      const { low, high, unit } = e.expected;
      const band =
        unit === 'yes'
          ? ''
          : low !== null && high !== null
            ? `, expected ${low} to ${high} ${UNIT[unit]}`
            : low !== null
              ? `, expected at least ${Math.round(low)} ${UNIT[unit]}`
              : '';
      const told = unit === 'yes' ? (e.value === 1 ? 'yes' : 'no') : `${e.value} ${UNIT[unit]}`;
      // an old reading whose origin nobody kept says nothing of it
      return `${e.label}: ${told}${asTold(e.origin)}${band}: ${e.verdict}${e.settles ? '; done' : ''}`;
    },
    marks: (e) => (e.verdict === 'fails' ? ['out-of-band'] : []),
  }),
  event({
    type: 'probe.taken',
    version: 2,
    may: BENCH,
    atBench: true,
    /** a measurement beyond those of the plan, and what the live model has there as it should be */
    records: { step: stepId, probe: Probe, value: ProbeValue, foretold: ProbeValue, origin: Origin, label: words(400) },
    asks: { step: stepId, probe: Probe, value: ProbeValue, origin: Origin.optional() },
    earlier: { 1: withoutOrigin },
    decide: ({ origin, ...command }, order, c) => {
      planned(command.step, c);
      const { harness } = c.assessment.wiring;
      const { look, state } = command.probe;
      const point = (id: string) => {
        const n = harness.nodes.find((x) => x.id === id);
        if (!n) throw new Refused(`There is no point “${id}” in this wiring.`, 'input', 'probe');
        return n.label;
      };
      if (look.kind === 'volts' && command.value === null) throw new Refused('Volts are a figure.', 'input', 'value');
      const label = `${look.kind === 'volts' ? 'Volts' : 'Ohms'}, ${point(look.plus)} to ${point(look.minus)}, ${sayState(harness, state)}`;
      const foretold = liveModel(harness).value(command.probe);
      return {
        ...command,
        origin: originOf(origin, order),
        foretold: foretold === null || !Number.isFinite(foretold) ? null : foretold,
        label: label.slice(0, 400),
      };
    },
    apply: (order, e, stamp) => ({
      ...order,
      probes: [...order.probes, { step: e.step, probe: e.probe, value: e.value, origin: e.origin, ...stamp }],
    }),
    touches: () => [],
    says: (e) =>
      `${e.label}: ${e.value === null ? 'open' : `${Number(e.value.toPrecision(4))} ${e.probe.look.kind === 'volts' ? 'V' : 'Ω'}`}${asTold(e.origin)}${e.foretold === null ? '' : `, should be ${Number(e.foretold.toPrecision(4))}`}`,
  }),
  event({
    type: 'fault.mended',
    may: BENCH,
    atBench: true,
    records: { step: stepId, cause: CauseId.nullable(), says: CauseWords },
    decide: (command, _order, c) => {
      planned(command.step, c);
      return command;
    },
    apply: (order, e, stamp) => ({
      ...order,
      // what was measured before is of another unit now
      probes: [],
      steps: Object.fromEntries(Object.entries(order.steps).map(([id, s]) => [id, { ...s, readings: asMended(s.readings) }])),
      mended: [...order.mended, { step: e.step, cause: e.cause, says: e.says, ...stamp }],
    }),
    touches: () => [],
    says: (e) => `Put right: ${e.says}`,
    marks: () => ['mended'],
  }),
] as const;
