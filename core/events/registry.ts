import { z } from 'zod';
import type { Asker } from '#model/person';
import { arriveEvents } from './arrive';
import { benchEvents } from './bench';
import { courseEvents } from './course';
import type { Definition } from './definition';
import { fitEvents } from './fit';
import { handoverEvents } from './handover';
import { lampEvents } from './lamps';
import { lotEvents } from './lots';
import type { Mark } from './marks';
import { measureEvents } from './measure';
import { moneyEvents } from './money';
import { planEvents } from './plan';
import { powerEvents } from './power';
import { ownEvents } from './own';
import { valueEvents } from './values';
import { wireEvents } from './wire';

/** Every kind of event there is: the one place where the next one is added. */
export const DEFINITIONS = [
  ...arriveEvents,
  ...fitEvents,
  ...powerEvents,
  ...ownEvents,
  ...valueEvents,
  ...wireEvents,
  ...lampEvents,
  ...planEvents,
  ...benchEvents,
  ...measureEvents,
  ...lotEvents,
  ...handoverEvents,
  ...moneyEvents,
  ...courseEvents,
] as const;

type Each = (typeof DEFINITIONS)[number];
type Asked = Exclude<Each, { type: 'order.opened' }>;

/** Everything that can happen to an order, as the record keeps it. */
export type EventBody = z.output<Each['body']>;
/** What a person asks to have recorded. */
export type OrderCommand = z.output<NonNullable<Asked['command']>>;
export type EventType = EventBody['type'];

const union = <T>(list: readonly unknown[]) =>
  z.discriminatedUnion('type', list as unknown as [z.ZodObject<{ type: z.ZodLiteral<string> }>]) as unknown as z.ZodType<T>;
export const EventBody = union<EventBody>(DEFINITIONS.map((d) => d.body));
export const OrderCommand = union<OrderCommand>(DEFINITIONS.flatMap((d) => (d.command ? [d.command] : [])));

const byType = new Map<string, Definition>(DEFINITIONS.map((d) => [d.type, d as unknown as Definition]));

/** The definition of a kind of event. @throws Error for a type that nobody defined */
export function definitionOf(type: string): Definition {
  const d = byType.get(type);
  if (!d) throw new Error(`no event is called “${type}”`);
  return d;
}
export const isEvent = (type: string): type is EventType => byType.has(type);
export const rolesOf = (type: EventType): readonly Asker[] => definitionOf(type).may;

/** What an event was, as a line of a log that a person reads and searches. */
export const say = (body: EventBody): string => definitionOf(body.type).says(body as never);
/** What happened that may be looked for by itself. */
export const marksOf = (body: EventBody): Mark[] => definitionOf(body.type).marks?.(body as never) ?? [];
export const isAtBench = (type: EventType): boolean => definitionOf(type).atBench ?? false;

/** The parts of an order that an event or a command touches. */
export const touches = (of: EventBody | OrderCommand): string[] => definitionOf(of.type).touches(of as never);

const clash = (a: string, b: string) => a === b || a === '*' || b === '*';
/** Of what came between, what touches the same as a change that was made on an older version. */
export const clashes = (mine: OrderCommand, between: readonly EventBody[]): EventBody[] =>
  between.filter((e) => touches(e).some((t) => touches(mine).some((m) => clash(t, m))));
