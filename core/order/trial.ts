import type { Order } from '#model/order';
import type { UnitModel } from '#model/unit-model';
import { applyEvent } from '../events/apply';
import type { EventBody } from '../events/registry';

/** An order's state is made by events, and events have a time: here always this one, so that the same question has the same answer. */
const THEN = Date.UTC(2026, 0, 5, 8);

type Opening = Extract<EventBody, { type: 'order.opened' }>['opening'];

/**
 * An order that is in no record, as its events would make it: for what is only asked or tried.
 * @param model its sheet, taken as revision 1
 * @param bodies what happens to it once it is open, one after another
 */
export function trialOrder(model: UnitModel, bodies: readonly EventBody[], opening: Partial<Opening> = {}): Order {
  const first: EventBody = {
    type: 'order.opened',
    number: 1,
    opening: {
      model: { id: model.id, revision: 1 },
      build: model.builds[0]!.id,
      year: Math.min(model.years.to, Math.max(model.years.from, 2026)),
      identity: '',
      meterValue: null,
      owner: 'owner',
      promisedAt: new Date(THEN + 86_400_000).toISOString(),
      wishes: [],
      restVolts: null,
      condition: '',
      fitted: [],
      ...opening,
    },
  };
  return [first, ...bodies].reduce<Order | null>(
    (order, body, i) => applyEvent(order, 'order', { seq: i + 1, doneAt: new Date(THEN + i * 60_000).toISOString(), by: 'somebody', body }),
    null,
  )!;
}

/** The event by which a kit comes to an order that is only tried. */
export const kitAdded = (kit: { id: string; name: string }): EventBody => ({
  type: 'kit.added',
  kit: { id: kit.id, revision: 1 },
  name: kit.name,
});
