import type { Order } from '#model/order';
import type { OrderOpening } from '#model/opening';
import { USUAL_PLAN } from '#model/work-plan';
import { definitionOf } from './registry';
import type { OrderEvent } from './record';

/** Rises with every change of what an order's state is: a kept state of an older version is made anew from its events. */
export const STATE_VERSION = 2;

/** What applying an event needs of it. */
export type Happened = Pick<OrderEvent, 'seq' | 'doneAt' | 'by' | 'body'>;

const opened = (id: string, number: number, o: OrderOpening, { seq, doneAt }: Happened): Order => ({
  id,
  number,
  version: seq,
  openedAt: doneAt,
  status: 'open',
  trial: o.trial ?? null,
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
  const after = definitionOf(body.type).apply(begun, body as never, { at: doneAt, by });
  return { ...after, version: event.seq, lastDone: { ...after.lastDone, [by]: doneAt } };
}

/** The state after a whole history. */
export const replay = (id: string, events: readonly Happened[]): Order =>
  events.reduce<Order | null>((o, e) => applyEvent(o, id, e), null)!;
