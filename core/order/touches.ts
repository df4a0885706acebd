import type { EventBody, OrderCommand } from '#model/event';
import { changeKey } from '#model/power-change';

/**
 * The parts of an order that an event or a command touches. Two changes made at once clash only when they touch the
 * same part; a part that ends in `*` stands for everything under it.
 */
export function touches(c: EventBody | OrderCommand): string[] {
  switch (c.type) {
    case 'order.opened':
    case 'order.sealed':
      return ['*'];
    case 'arrive.changed':
      return Object.keys(c.patch).map((k) => `arrive.${k}`);
    case 'fitted.added':
      return [`fitted.${c.item.id}`];
    case 'fitted.removed':
      return [`fitted.${c.id}`];
    case 'kit.added':
      return [`kit.${typeof c.kit === 'string' ? c.kit : c.kit.id}`];
    case 'kit.removed':
      return [`kit.${c.kit}`];
    case 'box.counted':
      return [`box.${c.kit}.${c.item}`];
    case 'wire.overridden':
    case 'wire.override-cleared':
      return [`wire.${c.circuit}.${c.field}`];
    case 'fact.told':
      return [`fact.${c.key}`];
    case 'day.described':
      return [`day.${c.day.id}`];
    case 'day.dropped':
      return [`day.${c.id}`];
    case 'power.changed':
      return [`power.${changeKey(c.change)}`];
    case 'power.restored':
      return [`power.${c.key}`];
    case 'packs.chosen':
      return ['packs'];
    case 'lamp.placed':
    case 'lamp.freed':
      return [`lamp.${c.lamp}`];
    case 'lamp.added':
      return [`lamp.added/${c.lamp.id}`];
    case 'lamp.dropped':
      return [`lamp.added/${c.id}`];
    case 'plan.chosen':
      return ['plan'];
    case 'plan.pinned':
      return [`pin.${c.pin.step}`];
    case 'plan.freed':
      return [`pin.${c.step}`];
    case 'bench.assigned':
      return ['assignee'];
    case 'step.started':
      return [`timer.${c.step}`];
    case 'step.given':
      return [`given.${c.step}`];
    // everyone has a clock of their own
    case 'timer.stopped':
      return [];
    case 'step.done':
    case 'step.skipped':
    case 'step.reopened':
      return [`step.${c.step}`];
    case 'reading.taken':
      return [`reading.${c.step}.${c.reading}`];
    case 'fasteners.counted':
    case 'fasteners.excused':
      return [`fasteners.${c.step}`];
    case 'finding.judged':
      return [`finding.${c.finding}`];
    case 'time.corrected':
      return [`time.${c.step}`];
    case 'proof.overridden':
      return [`proof.${c.proof}`];
    case 'handover.signed':
      return ['signature'];
    case 'probe.taken':
    case 'fault.mended':
    case 'photo.taken':
    case 'finding.added':
    case 'addition.made':
    case 'calc.kept':
      return [];
  }
}

const clash = (a: string, b: string) => a === b || a === '*' || b === '*';

/** Whether a change made on an older version may still be applied after what came between. */
export const clashes = (mine: OrderCommand, between: readonly EventBody[]): EventBody[] =>
  between.filter((e) => touches(e).some((t) => touches(mine).some((m) => clash(t, m))));
