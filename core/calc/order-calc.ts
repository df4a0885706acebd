import { z } from 'zod';
import { Verdict } from '#model/common';
import { FittedItem } from '#model/fitted';
import type { Order, Station } from '#model/order';
import { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import { Wish } from '#model/wish';
import { ImpossibleInput } from '../errors';
import { EventBody } from '../events/registry';
import { shippedPacks } from '../lighting/shipped';
import { assess, type Assessment } from '../order/assess';
import { kitAdded, trialOrder } from '../order/trial';
import { sum } from '../sum';
import { calculation, field, firstProblem } from './calculation';
import { EXAMPLE_KIT, EXAMPLE_MODEL } from './example-sheets';
import { GivenSheet, soundSheet } from './given-sheets';

const MOST_CHOICES = 400;

const Circuit = z.object({
  id: z.string(),
  kit: z.string(),
  verdict: Verdict,
  feed: z.string().nullable(),
  mode: z.string(),
  awg: z.number().nullable(),
  lengthM: z.number().nullable(),
  wireFrom: z.enum(['box', 'shelf', 'both']),
  fuseA: z.number().nullable(),
  fuseVolts: z.number().nullable(),
  fuseFrom: z.enum(['box', 'shelf', 'unit']).nullable(),
  problems: z.array(z.string()),
});
const Step = z.object({
  id: z.string(),
  stage: z.string(),
  kit: z.string().nullable(),
  title: z.string(),
  text: z.string(),
  place: z.string().nullable(),
  device: z.string().optional(),
  minutes: z.number(),
  waitMinutes: z.number(),
  hands: z.number(),
  power: z.enum(['on', 'off', 'any']),
  panelsOff: z.array(z.string()),
  tools: z.array(z.string()),
  readings: z.array(
    z.object({
      id: z.string(),
      label: z.string(),
      unit: z.string(),
      low: z.number().optional(),
      high: z.number().optional(),
      required: z.boolean(),
    }),
  ),
  cautions: z.array(z.string()),
  parts: z.array(z.string()),
});
const Mark = z.object({ verdict: Verdict.nullable(), owed: z.string() });
const texts = z.array(z.string());

/** The order as its events make it, with the sheets it is computed from. */
function made(q: {
  model: Record<string, unknown>;
  kits: Record<string, unknown>[];
  packs?: Record<string, unknown>[] | undefined;
  build?: string | undefined;
  year?: number | undefined;
  identity?: string | undefined;
  restVolts?: number | undefined;
  wishes: z.output<typeof Wish>[];
  fitted: FittedItem[];
  choices: Record<string, unknown>[];
}): { order: Order; sheets: Sheets } {
  const model = soundSheet(q.model, 'model', 'model');
  const kits = q.kits.map((k, i) => soundSheet(k, 'kit', `kits.${i}`));
  kits.forEach((k, i) => {
    if (kits.findIndex((x) => x.id === k.id) !== i) throw new ImpossibleInput(`kits.${i}: “${k.id}” is there twice`, `kits.${i}.id`);
  });
  const given = q.packs?.map((p, i) => soundSheet(p, 'rules', `packs.${i}`));
  const build = q.build ?? model.builds[0]!.id;
  if (!model.builds.some((b) => b.id === build))
    throw new ImpossibleInput(`build: this model has no build “${build}”: ${model.builds.map((b) => b.id).join(', ')}`, 'build');
  const bodies = [
    ...kits.map((k) => kitAdded(k)),
    ...(given ? [{ type: 'packs.chosen' as const, packs: given.map((p) => p.id), label: given.map((p) => p.name).join(', ') }] : []),
    ...q.choices.map((c, i): EventBody => {
      const parsed = EventBody.safeParse(c, { reportInput: true });
      if (!parsed.success) {
        const wrong = firstProblem(parsed.error);
        throw new ImpossibleInput(`choices.${i}: ${wrong.message}`, wrong.path ? `choices.${i}.${wrong.path}` : `choices.${i}`);
      }
      if (parsed.data.type === 'order.opened') throw new ImpossibleInput(`choices.${i}: the order is open already`, `choices.${i}.type`);
      return parsed.data;
    }),
  ];
  const order = trialOrder(model, bodies, {
    build,
    ...(q.year !== undefined && { year: q.year }),
    identity: q.identity ?? '',
    wishes: q.wishes,
    restVolts: q.restVolts ?? null,
    fitted: q.fitted,
  });
  return { order, sheets: { model, kits, packs: given ?? [...shippedPacks()] } };
}

/** What each step asks of panels and power, as the plan goes. */
function steps(a: Assessment): z.output<typeof Step>[] {
  const asks = new Map(a.work?.problem.tasks.map((t) => [t.step.id, t.power]));
  const off = new Set<string>();
  return a.steps.map((s) => {
    if (s.panel && s.stage === 'open') off.add(s.panel.id);
    if (s.panel && s.stage === 'close') off.delete(s.panel.id);
    return {
      id: s.id,
      stage: s.stage,
      kit: s.kit,
      title: s.title,
      text: s.text,
      place: s.place,
      minutes: s.minutes,
      waitMinutes: s.waitMinutes,
      hands: s.hands,
      power: asks.get(s.id) ?? 'any',
      panelsOff: [...off],
      tools: s.tool ? s.tool.split(', ') : [],
      readings: s.readings.map((r) => ({
        id: r.id,
        label: r.label,
        unit: r.expected.unit,
        ...(r.expected.low !== null && { low: r.expected.low }),
        ...(r.expected.high !== null && { high: r.expected.high }),
        required: !r.optional,
      })),
      cautions: s.cautions,
      parts: [],
    };
  });
}

/** Amperes left of the source with everything on; null without a source, or while a draw is not known. */
function margin(a: Assessment, id: 'idle' | 'working'): number | null {
  const c = a.power.checks.find((x) => x.id === id);
  return c && c.margin.used !== null && c.margin.limit !== null ? c.margin.limit - c.margin.used : null;
}

/** Minutes that it takes to settle what is not known. Common practice, no source. */
const SETTLE = { draw: 3, lamp: 2 } as const;

export const orderAssess = calculation({
  name: 'order.assess',
  title: 'A whole order',
  description: 'Everything that Kadro computes of an order, from its sheets and what was chosen: the same assessment as the screens.',
  input: {
    model: field(GivenSheet, 'Model, its sheet'),
    kits: field(z.array(GivenSheet).max(40), 'Kits, their sheets'),
    packs: field(z.array(GivenSheet).max(20).optional(), 'Rule packs, their sheets; left out, those that ship and apply'),
    build: field(z.string().max(60).optional(), 'Build'),
    year: field(z.number().int().min(1950).max(2100).optional(), 'Year'),
    identity: field(z.string().max(30).optional(), 'Identity number'),
    restVolts: field(z.number().gt(0).max(200).optional(), 'Battery at rest', 'V'),
    wishes: field(z.array(Wish).max(20).default([]), 'What the owner wants'),
    fitted: field(z.array(FittedItem).max(40).default([]), 'Fitted before'),
    choices: field(z.array(GivenSheet).max(MOST_CHOICES).default([]), 'What was chosen on the order, as its events'),
    settings: field(GivenSheet.optional(), 'Shop settings that differ from the usual'),
  },
  result: {
    stations: z.record(z.string(), Mark),
    fit: z.array(z.object({ kit: z.string(), verdict: Verdict, says: z.string() })),
    power: z.object({ verdict: Verdict, says: z.string(), idleMarginA: z.number().nullable(), workingMarginA: z.number().nullable() }),
    circuits: z.array(Circuit),
    needs: z.array(z.object({ item: z.string(), quantity: z.number(), unit: z.string() })),
    lamps: z.array(z.object({ pack: z.string(), item: z.string(), verdict: Verdict.nullable() })),
    steps: z.array(Step),
    minutes: z.number(),
    coverage: z.object({
      unmounted: texts,
      unjoined: texts,
      uncapped: texts,
      untied: texts,
      closedWhenTouched: texts,
      unidentified: texts,
    }),
    unknowns: z.array(z.object({ path: z.string(), how: z.string(), settles: z.string(), minutes: z.number() })),
  },
  example: { model: EXAMPLE_MODEL, kits: [EXAMPLE_KIT], restVolts: 12.8 },
  run: (q) => {
    const set = Settings.safeParse(q.settings ?? {}, { reportInput: true });
    if (!set.success) {
      const wrong = firstProblem(set.error);
      throw new ImpossibleInput(`settings: ${wrong.message}`, wrong.path ? `settings.${wrong.path}` : 'settings');
    }
    const { order, sheets } = made(q);
    const a = assess(order, sheets, set.data);
    const unknowns = [
      ...a.power.missing.map((m) => ({ path: m.key, how: 'not known', settles: m.label, minutes: SETTLE.draw })),
      ...a.lamps.packs.flatMap(({ items }) =>
        items.flatMap((i) =>
          i.verdict === 'unknown' && i.asks ? [{ path: i.asks.key, how: 'not known', settles: i.asks.question, minutes: SETTLE.lamp }] : [],
        ),
      ),
    ];
    const list = steps(a);
    return {
      stations: Object.fromEntries(Object.entries(a.stations) as [Station, Assessment['stations'][Station]][]),
      fit: a.fit.kits.map((k) => ({ kit: k.kit.id, verdict: k.verdict, says: k.says })),
      power: {
        verdict: a.power.verdict,
        says: a.power.says,
        idleMarginA: margin(a, 'idle'),
        workingMarginA: margin(a, 'working'),
      },
      circuits: a.wiring.circuits.map((c) => ({
        id: c.id,
        kit: c.kit.id,
        verdict: c.verdict,
        feed: c.feed?.id ?? null,
        mode: c.mode,
        awg: c.awg,
        lengthM: c.lengthM,
        wireFrom: c.wireFrom,
        fuseA: c.fuseA,
        fuseVolts: c.fuseKind?.ratedV ?? null,
        fuseFrom: c.fuseFrom,
        problems: c.problems,
      })),
      needs: a.needs.map((n) => ({ item: n.name, quantity: n.need, unit: n.unit })),
      lamps: a.lamps.packs.flatMap((p) => p.items.map((i) => ({ pack: p.pack.id, item: i.id, verdict: i.verdict }))),
      steps: list,
      minutes: a.minutes.planned,
      coverage: {
        unmounted: [],
        unjoined: a.wiring.harness.problems.map((p) => p.text),
        uncapped: [],
        untied: [],
        closedWhenTouched: [],
        unidentified: [],
      },
      unknowns: unknowns.filter((u, i) => unknowns.findIndex((x) => x.path === u.path) === i),
      sum: sum(
        ...Object.entries(a.stations).map(([station, m]) => ({ label: station, value: m.verdict ?? '–', source: m.owed || undefined })),
        { label: 'Steps', value: list.length },
        { label: 'Minutes of work', value: a.minutes.planned, unit: 'min', kind: 'result' as const },
      ),
    };
  },
});
