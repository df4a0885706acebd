import type { Order } from '#model/order';
import type { OrderOpening } from '#model/opening';
import { USUAL_PLAN } from '#model/work-plan';
import { definitionOf, say } from './registry';
import { forgetting, remembering } from './undo';
import type { OrderEvent } from './record';

/** Rises with every change of what an order's state is: a kept state of an older version is made anew from its events. */
export const STATE_VERSION = 3;

/** What applying an event needs of it. */
export type Happened = Pick<OrderEvent, 'seq' | 'doneAt' | 'by' | 'body'>;

const opened = (id: string, number: number, o: OrderOpening, { seq, doneAt }: Happened): Order => ({
  id,
  number,
  version: seq,
  openedAt: doneAt,
  status: 'open',
  cancelled: null,
  trial: o.trial ?? null,
  sealedAt: null,
  assignee: null,
  unit: { model: o.model, build: o.build, year: o.year, identity: o.identity, meterValue: o.meterValue },
  owner: o.owner,
  phone: o.phone ?? '',
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
  lastDone: {},
});

/**
 * Applies one event to an order's state. Pure: the state at any time is its events applied in turn.
 * @param order null before `order.opened`
 */
export function applyEvent(order: Order | null, id: string, event: Happened): Order {
  const { body, doneAt, by } = event;
  const begun = body.type === 'order.opened' ? opened(id, body.number, body.opening, event) : order;
  if (!begun) throw new Error(`event ${event.seq} of order ${id} comes before it was opened`);
  const { apply, undo } = definitionOf(body.type);
  const after = apply(begun, body as never, { at: doneAt, by });
  const kept =
    undo === 'undoes' ? after : undo === 'final' ? forgetting(after) : remembering(begun, after, by, { seq: event.seq, says: say(body) });
  return { ...kept, version: event.seq, lastDone: { ...kept.lastDone, [by]: doneAt } };
}

/** The state after a whole history. */
export const replay = (id: string, events: readonly Happened[]): Order =>
  events.reduce<Order | null>((o, e) => applyEvent(o, id, e), null)!;
