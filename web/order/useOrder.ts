import { useQuery, useQueryClient } from '@tanstack/react-query';
import { createContext, useCallback, useContext, useMemo } from 'react';
import { assess, type Assessment } from '#core/order/assess';
import { decide, Refused } from '#core/order/decide';
import { applyEvent } from '#core/order/reduce';
import { stampAfter } from '#core/order/stamp';
import type { OrderCommand } from '#model/event';
import type { Order } from '#model/order';
import type { Person } from '#model/person';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import { call, queries, type Trouble, type Dossier } from '../app/api';
import { useOutbox, usePending, usePerson } from '../app/context';
import type { Pending } from '../app/outbox';

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
  /** changes of this order that are not confirmed yet */
  waiting: number;
  /** Records something: seen at once, sent in order, kept through reloads. A refusal is told and answered false. */
  record: (command: OrderCommand) => boolean;
  /** For what only the server can do; answers whether it was done. */
  ask: (command: OrderCommand) => Promise<boolean>;
}

interface Built {
  order: Order;
  assessment: Assessment;
}

const context = (order: Order, a: Assessment, sheets: Sheets, person: Person, people: readonly string[]) => ({
  role: person.role,
  sheets,
  assessment: a,
  kit: () => null,
  people,
  by: person.id,
  // the queue sends a picture before what names it
  hasPhoto: () => true,
  seal: () => '0'.repeat(64),
});

/** The order as the server knows it with what is still on its way applied on top. */
function withPending(d: Dossier, pending: Pending[], person: Person): Built {
  let order = d.order;
  let assessment = assess(order, d.sheets, d.settings);
  for (const p of pending) {
    if (p.order !== d.order.id || p.state === 'clash' || (p.state === 'sent' && p.version! <= d.order.version)) continue;
    try {
      const body = decide(
        p.command,
        order,
        context(order, assessment, d.sheets, person, 'to' in p.command && p.command.to ? [p.command.to] : []),
      );
      order = applyEvent(order, order.id, { seq: order.version, at: stampAfter(order, p.at), by: p.by, body, prevHash: '', hash: '' });
      assessment = assess(order, d.sheets, d.settings);
    } catch {
      // no longer possible here: the server will say so
    }
  }
  return { order, assessment };
}

/** How long what only the server can do waits for what was recorded before it. */
const ARRIVE_MS = 15_000;

export const OrderContext = createContext<OpenOrder | null>(null);
export const useOrder = (): OpenOrder => useContext(OrderContext)!;

/** Opens an order for its screens. */
export function useOpenOrder(id: string): { open: OpenOrder | null; error: Trouble | null } {
  const client = useQueryClient();
  const person = usePerson();
  const outbox = useOutbox();
  const pending = usePending();
  const { data, error } = useQuery(queries.order(id));
  const mine = useMemo(() => pending.filter((p) => p.order === id), [pending, id]);
  const built = useMemo(() => (data ? withPending(data, mine, person) : null), [data, mine, person]);

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
          headers: { 'If-Match': `"${version}"`, 'Idempotency-Key': crypto.randomUUID() },
        });
        await Promise.all([client.invalidateQueries({ queryKey: ['order', id] }), client.invalidateQueries({ queryKey: ['events', id] })]);
        return true;
      } catch (e) {
        outbox.tell((e as Trouble).message);
        return false;
      }
    },
    [client, id, outbox],
  );

  const record = useCallback(
    (command: OrderCommand): boolean => {
      if (!data || !built) return false;
      try {
        decide(
          command,
          built.order,
          context(built.order, built.assessment, data.sheets, person, 'to' in command && command.to ? [command.to] : []),
        );
      } catch (e) {
        if (e instanceof Refused) {
          outbox.tell(e.message);
          return false;
        }
        throw e;
      }
      outbox.add({ order: id, command, onVersion: data.order.version, by: person.id });
      return true;
    },
    [built, data, id, outbox, person],
  );

  const open = useMemo<OpenOrder | null>(
    () =>
      data && built
        ? {
            ...built,
            sheets: built.assessment.sheets,
            given: data.sheets,
            measured: data.measured,
            paces: data.paces,
            settings: data.settings,
            findings: data.findings,
            waiting: mine.filter((p) => p.state === 'waiting').length,
            record,
            ask: send,
          }
        : null,
    [built, data, mine, record, send],
  );
  return { open, error: open ? null : (error as Trouble | null) };
}
