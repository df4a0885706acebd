import { useQuery, useQueryClient } from '@tanstack/react-query';
import { createContext, useCallback, useContext, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { canonical } from '#core/canonical';
import { Memo } from '#core/memo';
import { assess, type Assessment } from '#core/order/assess';
import { decide, ForTheRecord, Refused, type Context } from '#core/events/decide';
import { applyEvent } from '#core/events/apply';
import { doneAtOf } from '#core/events/record';
import type { OrderCommand } from '#core/events/registry';
import type { Order } from '#model/order';
import type { Person, PersonInShop } from '#model/person';
import { settingsAfter, stockMoves } from '#core/plan/used';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import { call, queries, type ApiError, type Dossier } from '../app/api';
import { useOutbox, usePending, usePerson } from '../app/context';
import { placeInShop } from '../app/place';
import { deviceClock } from '../device/clock';
import type { Pending } from '../device/outbox';

export interface OpenOrder {
  order: Order;
  sheets: Sheets;
  settings: Settings;
  assessment: Assessment;
  findings: Dossier['findings'];
  measured: Dossier['measured'];
  paces: Dossier['paces'];
  /** the sheets as they came, before what was agreed and measured */
  given: Sheets;
  /** Records something: seen at once, sent in order, kept through reloads. A refusal is told and answered false. */
  record: (command: OrderCommand) => boolean;
  /** For what only the server can do; answers whether it was done. */
  ask: (command: OrderCommand) => Promise<boolean>;
}

interface Built {
  order: Order;
  assessment: Assessment;
  /** the shop's, with what was cut here off its spools */
  settings: Settings;
}

/** What a device decides a command by: it knows the people it was told of, and leaves to the record what only the record knows. */
const context = (
  a: Assessment,
  d: Pick<Dossier, 'sheets' | 'settings'>,
  person: Person,
  people: readonly string[] | undefined,
): Context => ({
  by: person.id,
  role: person.role,
  sheets: d.sheets,
  settings: d.settings,
  assessment: a,
  known: people ? { people } : {},
});

type Assess = (order: Order, d: Pick<Dossier, 'sheets' | 'settings'>) => Built;
const KEPT = 4;
/**
 * Computes an order, and answers the same objects again while nothing that it is computed from changed: what was recorded here
 * and is read back later leaves what was worked out from it, and what shows it, as it is.
 */
function assessKept(): Assess {
  const memo = new Memo();
  const kept: { key: string; sheets: Sheets; settings: Settings; built: Built }[] = [];
  return (order, { sheets, settings }) => {
    // what is computed rests on none of these, but for the words of what can be taken back
    const undo = Object.entries(order.undo ?? {}).map(([by, list]) => [by, list.map((u) => u.says)]);
    const key = canonical({ ...order, version: 0, lastDone: null, undo });
    const known = kept.find((k) => k.key === key && k.sheets === sheets && k.settings === settings);
    if (known) return known.built;
    const built = { order, assessment: assess(order, sheets, settings, memo), settings };
    kept.unshift({ key, sheets, settings, built });
    if (kept.length > KEPT) kept.pop();
    return built;
  };
}

/** The shop's settings beside an order with what is on its way: what was cut here is off the spools, before the record says so. */
function settingsKept(): (d: Dossier, order: Order) => Settings {
  let last: { of: Settings; key: string; settings: Settings } | null = null;
  return (d, order) => {
    const moves = order.used === d.order.used ? [] : stockMoves(d.order, order);
    if (!moves.length) return d.settings;
    const key = JSON.stringify(moves);
    if (last?.of !== d.settings || last.key !== key) last = { of: d.settings, key, settings: settingsAfter(d.settings, moves) };
    return last.settings;
  };
}

/** The order as the server knows it with what this person has on its way applied on top. */
function withPending(
  d: Dossier,
  pending: readonly Pending[],
  person: Person,
  assessed: Assess,
  settingsOf: ReturnType<typeof settingsKept>,
): Built {
  let order = d.order;
  let built = assessed(order, d);
  for (const p of pending) {
    if (p.by !== person.id || p.state === 'clash' || p.state === 'refused') continue;
    if (p.state === 'sent' && p.version! <= d.order.version) continue;
    try {
      const body = decide(p.command, order, context(built.assessment, { sheets: d.sheets, settings: built.settings }, person, undefined));
      const ahead = p.aheadMs ?? deviceClock.aheadMs ?? 0;
      const told = new Date(Date.parse(p.at) + ahead).toISOString();
      const doneAt = doneAtOf(told, new Date(Math.max(Date.now() + ahead, Date.parse(told))).toISOString(), p.by, order);
      order = applyEvent(order, order.id, { seq: order.version, doneAt, by: p.by, body });
      built = assessed(order, { sheets: d.sheets, settings: settingsOf(d, order) });
    } catch {
      // no longer possible here: the server will say so
    }
  }
  return built;
}

/** How long what only the server can do waits for what was recorded before it. */
const ARRIVE_MS = 15_000;

export const OrderContext = createContext<OpenOrder | null>(null);
export const useOrder = (): OpenOrder => useContext(OrderContext)!;

/** Changes of an order that this person made and that are not confirmed yet. */
export function useWaiting(id: string): number {
  const person = usePerson();
  return usePending().filter((p) => p.order === id && p.state === 'waiting' && p.by === person.id).length;
}

/** Opens an order for its screens. */
export function useOpenOrder(id: string): { open: OpenOrder | null; error: ApiError | null } {
  const client = useQueryClient();
  const person = usePerson();
  const outbox = useOutbox();
  const pending = usePending();
  const { data, error } = useQuery(queries.order(id));
  const mine = useMemo(() => pending.filter((p) => p.order === id), [pending, id]);
  const [assessed] = useState(assessKept);
  const [settingsOf] = useState(settingsKept);
  const built = useMemo(
    () => (data ? withPending(data, mine, person, assessed, settingsOf) : null),
    [assessed, data, mine, person, settingsOf],
  );

  const send = useCallback(
    async (command: OrderCommand): Promise<boolean> => {
      // what was recorded before comes before
      if (!(await outbox.arrived(id, ARRIVE_MS))) {
        outbox.tell('What was recorded before has not arrived yet: try again once it has.');
        return false;
      }
      try {
        const version = client.getQueryData<Dossier>(['order', id])!.order.version;
        await call(`/api/orders/${id}/events?merge=yes`, {
          json: command,
          headers: { 'If-Match': `"${version}"`, 'Idempotency-Key': crypto.randomUUID(), Author: person.id },
        });
        await Promise.all([client.invalidateQueries({ queryKey: ['order', id] }), client.invalidateQueries({ queryKey: ['events', id] })]);
        return true;
      } catch (e) {
        outbox.refuse((e as ApiError).message, placeInShop());
        return false;
      }
    },
    [client, id, outbox, person],
  );

  // what is recorded is decided on the newest that is known, whatever is still being painted
  const newest = useRef({ built, data });
  useLayoutEffect(() => {
    newest.current = { built, data };
  });
  const record = useCallback(
    (command: OrderCommand): boolean => {
      const now = newest.current;
      if (!now.data || !now.built) return false;
      try {
        const people = client.getQueryData<PersonInShop[]>(['people'])?.filter((p) => !p.ended);
        decide(
          command,
          now.built.order,
          context(
            now.built.assessment,
            { sheets: now.data.sheets, settings: now.built.settings },
            person,
            people?.map((p) => p.id),
          ),
        );
      } catch (e) {
        if (e instanceof ForTheRecord) {
          void send(command);
          return true;
        }
        if (e instanceof Refused) {
          outbox.refuse(e.message, placeInShop());
          return false;
        }
        throw e;
      }
      outbox.left(null);
      void outbox.add({ order: id, command, onVersion: now.data.order.version, by: person.id });
      return true;
    },
    [client, id, outbox, person, send],
  );

  const { sheets: given, measured, paces, findings } = data ?? {};
  const open = useMemo<OpenOrder | null>(
    () =>
      built && given
        ? {
            ...built,
            sheets: built.assessment.sheets,
            given,
            measured: measured!,
            paces: paces!,
            findings: findings!,
            record,
            ask: send,
          }
        : null,
    [built, findings, given, measured, paces, record, send],
  );
  return { open, error: open ? null : (error as ApiError | null) };
}
