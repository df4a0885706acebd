import type { OrderEvent } from '#model/event';
import { changeKey } from '#model/power-change';
import type { Clock, Order, StepState } from '#model/order';
import { USUAL_PLAN } from '#model/work-plan';

const seconds = (from: string, to: string) => Math.max(0, (Date.parse(to) - Date.parse(from)) / 1000);

/** Nobody stands at one step for longer than this without touching the tablet: what is over is not counted. */
const LONGEST_STEP_S = 4 * 3600;

function withStep(order: Order, id: string, change: (s: StepState) => StepState): Order {
  const before = order.steps[id] ?? { status: 'todo', seconds: 0, readings: {} };
  return { ...order, steps: { ...order.steps, [id]: change(before) } };
}

/** Readings with those that fail told as of before something was put right. */
const asMended = (readings: StepState['readings']): StepState['readings'] =>
  Object.fromEntries(Object.entries(readings).map(([id, r]) => [id, r.verdict === 'fails' ? { ...r, mended: true } : r]));

/** Stops some clocks, giving their time to their steps. */
function stopClocks(order: Order, at: string, which: (c: Clock) => boolean): Order {
  return order.clocks.filter(which).reduce(
    (o, clock) => ({
      ...withStep(o, clock.step, (s) => ({ ...s, seconds: s.seconds + Math.min(LONGEST_STEP_S, seconds(clock.since, at)) })),
      clocks: o.clocks.filter((c) => c !== clock),
    }),
    order,
  );
}
const startClock = (order: Order, step: string, at: string, by: string): Order => ({
  ...order,
  clocks: [...order.clocks, { step, since: at, by }],
});

/**
 * Applies one event to an order's state. Pure: the state at any time is its events applied in turn.
 * @param order null before `order.opened`
 */
export function applyEvent(order: Order | null, id: string, event: OrderEvent): Order {
  const { body, at, by } = event;
  if (body.type === 'order.opened') {
    const o = body.opening;
    return {
      id,
      number: body.number,
      version: event.seq,
      openedAt: at,
      status: 'open',
      sealedAt: null,
      assignee: null,
      unit: { model: o.model, build: o.build, year: o.year, identity: o.identity, meterValue: o.meterValue },
      owner: o.owner,
      promisedAt: o.promisedAt,
      wishes: o.wishes,
      condition: o.condition,
      fitted: o.fitted,
      restVolts: o.restVolts,
      kits: [],
      overrides: [],
      facts: {},
      steps: {},
      clocks: [],
      findings: [],
      probes: [],
      mended: [],
      photos: [],
      given: {},
      proofOverrides: [],
      signature: null,
      additions: [],
      days: [],
      changes: [],
      packs: null,
      lamps: { placed: {}, added: [] },
      fasteners: {},
      plan: { choice: USUAL_PLAN, pins: [] },
      kept: [],
    };
  }
  if (!order) throw new Error(`event ${event.seq} of order ${id} comes before it was opened`);
  return { ...change(order, event, at, by), version: event.seq };
}

function change(order: Order, { body }: OrderEvent, at: string, by: string): Order {
  switch (body.type) {
    case 'order.opened':
      return order;
    case 'arrive.changed': {
      const { build, year, identity, meterValue, ...rest } = body.patch;
      const unit = {
        ...order.unit,
        ...(build !== undefined && { build }),
        ...(year !== undefined && { year }),
        ...(identity !== undefined && { identity }),
        ...(meterValue !== undefined && { meterValue }),
      };
      return { ...order, ...rest, unit };
    }
    case 'fitted.added':
      return { ...order, fitted: [...order.fitted.filter((f) => f.id !== body.item.id), body.item] };
    case 'fitted.removed':
      return { ...order, fitted: order.fitted.filter((f) => f.id !== body.id) };
    case 'kit.added':
      return { ...order, kits: [...order.kits.filter((k) => k.kit.id !== body.kit.id), { kit: body.kit, box: {} }] };
    case 'kit.removed':
      return {
        ...order,
        kits: order.kits.filter((k) => k.kit.id !== body.kit),
        overrides: order.overrides.filter((o) => !o.circuit.startsWith(`${body.kit}/`)),
        changes: order.changes.filter((c) => !('load' in c.change && c.change.load.startsWith(`${body.kit}/`))),
        lamps: {
          placed: Object.fromEntries(Object.entries(order.lamps.placed).filter(([id]) => !id.startsWith(`${body.kit}/`))),
          added: order.lamps.added.filter((l) => !l.like?.startsWith(`${body.kit}/`)),
        },
      };
    case 'box.counted':
      return { ...order, kits: order.kits.map((k) => (k.kit.id === body.kit ? { ...k, box: { ...k.box, [body.item]: body.count } } : k)) };
    case 'wire.overridden':
      return {
        ...order,
        overrides: [
          ...order.overrides.filter((o) => o.circuit !== body.circuit || o.field !== body.field),
          { circuit: body.circuit, field: body.field, value: body.value, reason: body.reason, at, by },
        ],
      };
    case 'wire.override-cleared':
      return { ...order, overrides: order.overrides.filter((o) => o.circuit !== body.circuit || o.field !== body.field) };
    case 'fact.told':
      return { ...order, facts: { ...order.facts, [body.key]: body.value } };
    case 'day.described': {
      const at = order.days.findIndex((d) => d.id === body.day.id);
      return { ...order, days: at < 0 ? [...order.days, body.day] : order.days.map((d, i) => (i === at ? body.day : d)) };
    }
    case 'day.dropped':
      return { ...order, days: order.days.filter((d) => d.id !== body.id) };
    case 'power.changed': {
      const others = order.changes.filter((c) => changeKey(c.change) !== changeKey(body.change));
      return { ...order, changes: [...others, { change: body.change, label: body.label, at, by }] };
    }
    case 'power.restored':
      return { ...order, changes: order.changes.filter((c) => changeKey(c.change) !== body.key) };
    case 'packs.chosen':
      return { ...order, packs: body.packs };
    case 'lamp.placed': {
      // what was added keeps its own place
      const added = order.lamps.added.map((l) => (body.lamp === `added/${l.id}` ? { ...l, at: body.at } : l));
      const placed = body.lamp.startsWith('added/') ? order.lamps.placed : { ...order.lamps.placed, [body.lamp]: body.at };
      return { ...order, lamps: { placed, added } };
    }
    case 'lamp.freed': {
      const { [body.lamp]: _, ...placed } = order.lamps.placed;
      return { ...order, lamps: { ...order.lamps, placed } };
    }
    case 'lamp.added':
      return { ...order, lamps: { ...order.lamps, added: [...order.lamps.added.filter((l) => l.id !== body.lamp.id), body.lamp] } };
    case 'lamp.dropped':
      return { ...order, lamps: { ...order.lamps, added: order.lamps.added.filter((l) => l.id !== body.id) } };
    case 'plan.chosen':
      return { ...order, plan: { ...order.plan, choice: body.choice } };
    case 'plan.pinned':
      return { ...order, plan: { ...order.plan, pins: [...order.plan.pins.filter((p) => p.step !== body.pin.step), body.pin] } };
    case 'plan.freed':
      return { ...order, plan: { ...order.plan, pins: order.plan.pins.filter((p) => p.step !== body.step) } };
    case 'bench.assigned':
      return { ...order, assignee: body.to };
    case 'step.started':
      return startClock(
        stopClocks(order, at, (c) => c.by === by),
        body.step,
        at,
        by,
      );
    case 'timer.stopped':
      return stopClocks(order, at, (c) => c.by === by);
    case 'step.done':
    case 'step.skipped': {
      const ran = order.clocks.some((c) => c.by === by);
      const stopped = stopClocks(order, at, (c) => c.by === by || c.step === body.step);
      const settled = withStep(stopped, body.step, (s) => ({
        ...s,
        status: body.type === 'step.done' ? 'done' : 'skipped',
        reason: body.type === 'step.skipped' ? body.reason : undefined,
        at,
        by,
      }));
      // a person's clock goes on with their next step only if it was running
      return body.next && ran ? startClock(settled, body.next, at, by) : settled;
    }
    case 'step.reopened':
      return withStep(order, body.step, (s) => ({ ...s, status: 'todo', reason: undefined, at, by }));
    case 'reading.taken':
      return withStep(order, body.step, (s) => ({
        ...s,
        readings: { ...s.readings, [body.reading]: { value: body.value, expected: body.expected, verdict: body.verdict, at, by } },
      }));
    case 'fasteners.counted':
      return { ...order, fasteners: { ...order.fasteners, [body.step]: { counts: body.counts, reason: null, at, by } } };
    case 'fasteners.excused': {
      const counted = order.fasteners[body.step] ?? { counts: [], at, by };
      return { ...order, fasteners: { ...order.fasteners, [body.step]: { ...counted, reason: body.reason } } };
    }
    case 'finding.added':
      return {
        ...order,
        findings: [
          ...order.findings,
          { at, by, text: body.text, ...(body.step && { step: body.step }), ...(body.photo && { photo: body.photo }) },
        ],
      };
    case 'probe.taken':
      return { ...order, probes: [...order.probes, { step: body.step, probe: body.probe, value: body.value, at, by }] };
    case 'fault.mended':
      return {
        ...order,
        // what was measured before is of another unit now
        probes: [],
        steps: Object.fromEntries(Object.entries(order.steps).map(([id, s]) => [id, { ...s, readings: asMended(s.readings) }])),
        mended: [...order.mended, { step: body.step, cause: body.cause, says: body.says, at, by }],
      };
    case 'photo.taken':
      return { ...order, photos: [...order.photos, { photo: body.photo, ...(body.step && { step: body.step }), note: body.note, at, by }] };
    case 'step.given': {
      const { [body.step]: _, ...others } = order.given;
      return { ...order, given: body.to === null ? others : { ...others, [body.step]: body.to } };
    }
    case 'finding.judged':
      return order;
    case 'time.corrected':
      return withStep(order, body.step, (s) => ({ ...s, seconds: body.seconds }));
    case 'proof.overridden':
      return {
        ...order,
        proofOverrides: [...order.proofOverrides.filter((p) => p.proof !== body.proof), { proof: body.proof, reason: body.reason, at, by }],
      };
    case 'handover.signed':
      return { ...order, signature: { name: body.name, strokes: body.strokes, at, by } };
    case 'order.sealed':
      return { ...stopClocks(order, at, () => true), status: 'sealed', sealedAt: at };
    case 'addition.made':
      return { ...order, additions: [...order.additions, { at, by, text: body.text }] };
    case 'calc.kept':
      return { ...order, kept: [...order.kept, { at, by, name: body.name, answer: body.answer }] };
  }
}

/** The state after a whole history. */
export const replay = (id: string, events: readonly OrderEvent[]): Order =>
  events.reduce<Order | null>((o, e) => applyEvent(o, id, e), null)!;
