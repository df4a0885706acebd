import { z } from 'zod';
import { EquipmentFunction, LightColour, nonNegative, Slug, Verdict, words } from './common';
import { OwnerDay } from './day';
import { AddedLamp, LampId, Point } from './lamp';
import { PowerChange } from './power-change';
import { CauseId, CauseWords, PhotoId, PhotoNote, Probe, ProbeValue } from './probe';
import { Expected } from './reading';
import { SheetRef } from './sheet';
import { Wish } from './wish';
import { PlanChoice, PlanPin } from './work-plan';

/** Something already on the unit when it arrived; it draws current too. */
export const FittedItem = z.strictObject({
  id: Slug,
  name: words(80),
  watts: nonNegative.max(5000).nullable(),
  standbyMa: nonNegative.max(5000).default(0),
  function: EquipmentFunction.optional(),
  colour: LightColour.optional(),
});
export type FittedItem = z.infer<typeof FittedItem>;

const arrive = {
  build: Slug,
  year: z.number().int('a year is a whole number').min(1950, 'a year from 1950 on').max(2100),
  identity: z.string().trim().toUpperCase().min(1, 'type the number on the plate').max(30, 'at most 30 characters'),
  meterValue: nonNegative.max(1_000_000).nullable(),
  owner: words(40),
  promisedAt: z.iso.datetime({ offset: true }),
  wishes: z.array(Wish).max(20),
  restVolts: z.number().gt(0, 'must be above zero').max(120, 'more than any pack here has').nullable(),
  condition: z.string().trim().max(500, 'at most 500 characters'),
};

export const OrderOpening = z.strictObject({ model: SheetRef, ...arrive, fitted: z.array(FittedItem).max(40) });
export type OrderOpening = z.infer<typeof OrderOpening>;

export const OverrideField = z.enum(['feed', 'awg', 'fuseA', 'lengthM', 'mode', 'route', 'joint']);
export type OverrideField = z.infer<typeof OverrideField>;

const reason = words(300);
const stepId = z.string().regex(/^[a-z0-9./-]{1,160}$/);

/** Everything that can happen to an order. The type's first word says which station it belongs to. */
export const EventBody = z.discriminatedUnion('type', [
  z.strictObject({ type: z.literal('order.opened'), number: z.number().int().positive(), opening: OrderOpening }),
  z.strictObject({ type: z.literal('arrive.changed'), patch: z.strictObject(arrive).partial() }),
  z.strictObject({ type: z.literal('fitted.added'), item: FittedItem }),
  z.strictObject({ type: z.literal('fitted.removed'), id: Slug }),
  z.strictObject({ type: z.literal('kit.added'), kit: SheetRef, name: words(80) }),
  z.strictObject({ type: z.literal('kit.removed'), kit: Slug }),
  z.strictObject({
    type: z.literal('box.counted'),
    kit: Slug,
    item: z.number().int().min(0),
    count: z.number().int().min(0).max(999),
    label: words(80),
  }),
  z.strictObject({
    type: z.literal('wire.overridden'),
    circuit: stepId,
    field: OverrideField,
    value: z.union([z.number(), z.string().max(80)]),
    reason: z.string().trim().max(300).default(''),
  }),
  z.strictObject({ type: z.literal('wire.override-cleared'), circuit: stepId, field: OverrideField }),
  z.strictObject({
    type: z.literal('fact.told'),
    key: z.string().regex(/^[a-z]+:[a-z0-9./-]{1,140}$/),
    value: z.union([z.number().min(0).max(100000), z.boolean()]),
    label: words(160),
  }),
  z.strictObject({ type: z.literal('day.described'), day: OwnerDay }),
  z.strictObject({ type: z.literal('day.dropped'), id: Slug }),
  z.strictObject({ type: z.literal('power.changed'), change: PowerChange, label: words(160) }),
  z.strictObject({ type: z.literal('power.restored'), key: z.string().max(140), label: words(160) }),
  z.strictObject({ type: z.literal('packs.chosen'), packs: z.array(Slug).max(20).nullable(), label: words(200) }),
  z.strictObject({ type: z.literal('lamp.placed'), lamp: LampId, at: Point, label: words(120) }),
  z.strictObject({ type: z.literal('lamp.freed'), lamp: LampId, label: words(120) }),
  z.strictObject({ type: z.literal('lamp.added'), lamp: AddedLamp }),
  z.strictObject({ type: z.literal('lamp.dropped'), id: Slug, label: words(120) }),
  z.strictObject({ type: z.literal('plan.chosen'), choice: PlanChoice }),
  z.strictObject({ type: z.literal('plan.pinned'), pin: PlanPin, label: words(420) }),
  z.strictObject({ type: z.literal('plan.freed'), step: stepId, label: words(200) }),
  z.strictObject({ type: z.literal('bench.assigned'), to: z.string().max(40).nullable() }),
  z.strictObject({ type: z.literal('step.started'), step: stepId }),
  z.strictObject({ type: z.literal('timer.stopped') }),
  z.strictObject({ type: z.literal('step.done'), step: stepId, title: words(200), next: stepId.nullable() }),
  z.strictObject({ type: z.literal('step.skipped'), step: stepId, title: words(200), reason, next: stepId.nullable() }),
  z.strictObject({ type: z.literal('step.reopened'), step: stepId, title: words(200) }),
  z.strictObject({
    type: z.literal('reading.taken'),
    step: stepId,
    reading: Slug,
    label: words(200),
    value: z.number().min(-100000).max(100000),
    expected: Expected,
    verdict: Verdict,
  }),
  z.strictObject({
    type: z.literal('fasteners.counted'),
    step: stepId,
    counts: z.array(z.number().int('count whole ones').min(0).max(999)).min(1).max(20),
    label: words(200),
  }),
  z.strictObject({ type: z.literal('fasteners.excused'), step: stepId, reason, label: words(300) }),
  /** a measurement beyond those of the plan, and what the live model has there as it should be */
  z.strictObject({
    type: z.literal('probe.taken'),
    step: stepId,
    probe: Probe,
    value: ProbeValue,
    foretold: ProbeValue,
    label: words(400),
  }),
  z.strictObject({ type: z.literal('fault.mended'), step: stepId, cause: CauseId.nullable(), says: CauseWords }),
  z.strictObject({ type: z.literal('photo.taken'), photo: PhotoId, step: stepId.optional(), note: PhotoNote }),
  z.strictObject({ type: z.literal('step.given'), step: stepId, to: z.string().max(40).nullable(), title: words(200) }),
  z.strictObject({ type: z.literal('finding.added'), text: words(500), step: stepId.optional(), photo: PhotoId.optional() }),
  z.strictObject({
    type: z.literal('finding.judged'),
    /** the order the finding was made on and the number of its event there */
    finding: z.string().regex(/^[0-9a-f-]{36}:\d+$/),
    still: z.boolean(),
    text: words(500),
  }),
  z.strictObject({ type: z.literal('time.corrected'), step: stepId, seconds: z.number().min(0).max(86_400), reason, label: words(300) }),
  z.strictObject({ type: z.literal('proof.overridden'), proof: stepId, title: words(200), reason }),
  z.strictObject({
    type: z.literal('handover.signed'),
    name: words(60),
    strokes: z.string().min(10, 'the signature is empty').max(60_000, 'the signature is too long'),
  }),
  z.strictObject({ type: z.literal('order.sealed'), sheetHash: z.string().length(64) }),
  z.strictObject({ type: z.literal('addition.made'), text: words(1000) }),
  z.strictObject({ type: z.literal('calc.kept'), name: words(40), input: z.record(z.string(), z.unknown()), answer: words(300) }),
]);
export type EventBody = z.infer<typeof EventBody>;
export type EventType = EventBody['type'];

/** An event as recorded: numbered within its order, stamped by the server, chained by hash to the one before. */
export const OrderEvent = z.object({
  seq: z.number().int().positive(),
  at: z.string(),
  by: z.string(),
  body: EventBody,
  prevHash: z.string(),
  hash: z.string(),
});
export type OrderEvent = z.infer<typeof OrderEvent>;

const plain = EventBody.options;
const pick = <T extends EventType>(type: T) =>
  plain.find((o) => o.shape.type.value === type) as Extract<(typeof plain)[number], { shape: { type: z.ZodLiteral<T> } }>;

/**
 * What a person asks to have recorded. Most are the event itself; where the record must say more than the person
 * (a step's title, what a reading should have been) the missing part is worked out when the command is decided.
 */
export const OrderCommand = z.discriminatedUnion('type', [
  pick('arrive.changed'),
  pick('fitted.added'),
  pick('fitted.removed'),
  z.strictObject({ type: z.literal('kit.added'), kit: Slug }),
  pick('kit.removed'),
  z.strictObject({ type: z.literal('box.counted'), kit: Slug, item: z.number().int().min(0), count: z.number().int().min(0).max(999) }),
  pick('wire.overridden'),
  pick('wire.override-cleared'),
  pick('fact.told'),
  pick('day.described'),
  pick('day.dropped'),
  pick('power.changed'),
  pick('power.restored'),
  pick('packs.chosen'),
  pick('lamp.placed'),
  pick('lamp.freed'),
  pick('lamp.added'),
  pick('lamp.dropped'),
  pick('plan.chosen'),
  z.strictObject({ type: z.literal('plan.pinned'), pin: PlanPin }),
  z.strictObject({ type: z.literal('plan.freed'), step: stepId }),
  pick('bench.assigned'),
  pick('step.started'),
  pick('timer.stopped'),
  z.strictObject({ type: z.literal('step.done'), step: stepId }),
  z.strictObject({ type: z.literal('step.skipped'), step: stepId, reason }),
  z.strictObject({ type: z.literal('step.reopened'), step: stepId }),
  z.strictObject({ type: z.literal('reading.taken'), step: stepId, reading: Slug, value: z.number().min(-100000).max(100000) }),
  z.strictObject({
    type: z.literal('fasteners.counted'),
    step: stepId,
    counts: z.array(z.number().int('count whole ones').min(0).max(999)).min(1).max(20),
  }),
  z.strictObject({ type: z.literal('fasteners.excused'), step: stepId, reason }),
  z.strictObject({ type: z.literal('probe.taken'), step: stepId, probe: Probe, value: ProbeValue }),
  pick('fault.mended'),
  pick('photo.taken'),
  z.strictObject({ type: z.literal('step.given'), step: stepId, to: z.string().max(40).nullable() }),
  pick('finding.added'),
  pick('finding.judged'),
  z.strictObject({ type: z.literal('time.corrected'), step: stepId, seconds: z.number().min(0).max(86_400), reason }),
  z.strictObject({ type: z.literal('proof.overridden'), proof: stepId, reason }),
  pick('handover.signed'),
  z.strictObject({ type: z.literal('order.sealed') }),
  pick('addition.made'),
  pick('calc.kept'),
]);
export type OrderCommand = z.infer<typeof OrderCommand>;
