import { applyEvent, type Happened } from '#core/events/apply';
import { canonical } from '#core/canonical';
import { checkBuild, checkFitted } from '#core/events/arrive';
import { decide, Refused } from '#core/events/decide';
import type { OrderEvent } from '#core/events/record';
import { definitionOf, say, type EventBody, type OrderCommand } from '#core/events/registry';
import { workedOf } from '#core/learn/worked';
import type { Worked } from '#core/learn/learn';
import { dueMessages, type DueMessage } from '#core/messages/due';
import { currentStation, type Assessment } from '#core/order/assess';
import { handoverSheet } from '#core/order/handover-sheet';
import { quoteOptions } from '#core/money/order-quote';
import { localDay } from '#core/quantity/say-here';
import { eventWords, nameWords, tokens } from '#core/order/search';
import { demandsOf } from '#core/supply/demand';
import { summarise } from '#core/order/summary';
import type { OrderOpening } from '#model/opening';
import type { Order } from '#model/order';
import type { AskedBy } from '../store/orders';
import type { SheetRef } from '#model/sheet';
import { sha256 } from '../store/chain';
import { stockMoves } from '#core/plan/used';
import type { OrderInput, WorkMemo } from './memo';

/** All that one event writes, worked out before any row is locked. */
export interface Prepared {
  body: EventBody;
  /** of the body's schema */
  bodyVersion: number;
  says: string;
  order: Pick<Order, 'number' | 'version' | 'status' | 'promisedAt'> & { model: string; build: string };
  /** the state after it, and what lists show of it, as JSON */
  state: string;
  summary: string;
  /** what it still uses up, as JSON */
  demands: string;
  /** what its unit’s owner is told of it */
  messages: DueMessage[];
  addWords: string[];
  dropWords: string[];
  /** what it takes off the shop's spools and shelf, or puts back */
  moves: ReturnType<typeof stockMoves>;
  /** the hand-over sheet as it is sealed, and what was learned of times */
  sealed: { json: string; hash: string; worked: Omit<Worked, 'nth'>[] } | null;
}

/** An order as it is computed. */
interface Computed {
  order: Order;
  assessment: Assessment;
}

interface When {
  by: string;
  doneAt: string;
}

/**
 * The order as it would be. One that cannot be computed is never recorded: it could not be opened again.
 * @throws Refused
 */
function computable(memo: WorkMemo, x: OrderInput, after: Order, state: string) {
  try {
    return memo.computed(x, after, state);
  } catch (e) {
    throw new Refused(`This order could not be computed with that, so nothing was changed: ${(e as Error).message.slice(0, 200)}`);
  }
}

function prepared(
  memo: WorkMemo,
  x: OrderInput,
  was: Computed | null,
  id: string,
  body: EventBody,
  when: When,
  sealed: Prepared['sealed'],
): Prepared {
  const before = was?.order ?? null;
  const happened: Happened = { seq: (before?.version ?? 0) + 1, body, ...when };
  const after = applyEvent(before, id, happened);
  const state = canonical(after);
  const { sheets, assessment, settings } = computable(memo, x, after, state);
  const summary = summarise(after, sheets, assessment);
  const kits = (o: Order | null) => (o?.kits ?? []).map((k) => tokens.kit(k.kit.id));
  // an order is found by the kits that it has, however they came and went
  const went = kits(before).filter((t) => !kits(after).includes(t));
  const came = kits(after).filter((t) => !kits(before).includes(t));
  return {
    body,
    bodyVersion: definitionOf(body.type).version,
    says: say(body),
    order: {
      number: after.number,
      version: after.version,
      status: after.status,
      promisedAt: after.promisedAt,
      model: after.unit.model.id,
      build: after.unit.build,
    },
    state,
    summary: JSON.stringify(summary),
    messages: dueMessages(
      was && { order: was.order, station: currentStation(was.order, was.assessment) },
      { order: after, station: summary.station },
      body,
      settings,
      summary.unitName,
    ),
    demands: JSON.stringify(demandsOf(after, sheets, assessment)),
    addWords: [...nameWords(body, after.number, after.unit.model.id, after.condition, summary), ...eventWords(body, when.by), ...came],
    dropWords: went,
    moves: stockMoves(before, after),
    sealed,
  };
}

export interface DecideInput extends When {
  x: OrderInput;
  command: OrderCommand;
  person: AskedBy;
  recordedAt: string;
  known: { people: string[]; kit: SheetRef | null; model: SheetRef | null; hasPhoto: boolean };
  /** for a seal: all that was recorded */
  history: OrderEvent[];
}

/** Decides a command and works out all that it writes. @throws Refused */
export function decideTask(memo: WorkMemo, { x, command, person, known, history, recordedAt, ...when }: DecideInput): Prepared {
  const { order } = x;
  const { sheets, settings, assessment } = memo.computed(x);
  let sealed: Prepared['sealed'] = null;
  const seal = () => {
    const json = canonical(handoverSheet({ ...order, status: 'sealed', sealedAt: when.doneAt }, sheets, assessment, history));
    sealed = { json, hash: sha256(json), worked: workedOf(order, assessment.steps, recordedAt) };
    return sealed.hash;
  };
  const body = decide(command, order, {
    by: person.id,
    role: person.role,
    sheets,
    settings,
    assessment,
    known: {
      people: known.people,
      kit: () => known.kit && { ref: known.kit, kit: memo.kit(x, known.kit) },
      model: () => known.model && { ref: known.model, model: memo.model(x, known.model) },
      hasPhoto: () => known.hasPhoto,
      seal,
      today: localDay(recordedAt, settings.timeZone),
      quote: ({ options, prices, discount }) => quoteOptions(order, sheets, settings, options, { byHand: prices, discount }),
    },
  });
  return prepared(memo, x, { order, assessment }, order.id, body, when, sealed);
}

export interface OpenInput extends When {
  x: Omit<OrderInput, 'order'>;
  id: string;
  number: number;
  opening: OrderOpening;
}

/** Works out all that taking a unit in writes. @throws Refused when model, build and year do not go together */
export function openTask(memo: WorkMemo, { x, id, number, opening, ...when }: OpenInput): Prepared {
  const model = memo.model(x, opening.model);
  checkBuild(model, opening);
  checkFitted(model, opening.fitted);
  return prepared(memo, { ...x, order: null as never }, null, id, { type: 'order.opened', number, opening }, when, null);
}
