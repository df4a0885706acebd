import { z } from 'zod';
import type { Kit } from '#model/kit';
import type { Order, OrderStatus } from '#model/order';
import type { Unpriced } from '../money/price-lines';
import type { Asker } from '#model/person';
import type { QuotedOption, Discount, OptionChange } from '#model/money';
import type { Settings } from '#model/settings';
import type { SheetRef, Sheets } from '#model/sheet';
import type { UnitModel } from '#model/unit-model';
import type { Assessment } from '../order/assess';
import type { Mark } from './marks';

/** Roles that work at the bench, and all there are. */
export const BENCH: readonly Asker[] = ['installer', 'lead', 'owner'];
export const ALL: readonly Asker[] = ['installer', 'desk', 'lead', 'owner'];
export const LEADS: readonly Asker[] = ['lead', 'owner'];
/** Who keeps the books. */
export const DESK: readonly Asker[] = ['desk', 'lead', 'owner'];

/** A command that may not be carried out, with a message for the person. `role` refusals are a matter of who asks. */
export class Refused extends Error {
  override readonly name = 'Refused';
  constructor(
    message: string,
    readonly why: 'role' | 'state' | 'input' = 'state',
    readonly path?: string,
  ) {
    super(message);
  }
}

/** Only the record can decide this: a device does not have what it takes, and asks. */
export class ForTheRecord extends Error {
  override readonly name = 'ForTheRecord';
}

/** What is known of the rest of the shop. A side that does not know something leaves it out: it never pretends. */
export interface Known {
  /** ids of everybody in the shop */
  people?: readonly string[];
  /** the newest revision of a kit, if there is one */
  kit?: (id: string) => { ref: SheetRef; kit: Kit } | null;
  /** the newest revision of the order's model, if there is one */
  model?: () => { ref: SheetRef; model: UnitModel } | null;
  /** whether a picture has arrived */
  hasPhoto?: (id: string) => boolean;
  /** the hash of the hand-over sheet as it is sealed, SHA-256 in hex */
  seal?: () => string;
  /** today by the shop’s calendar, as `2026-03-31` */
  today?: string;
  /** options of a quote, each computed as the order would be; and what nobody has priced */
  quote?: (asked: {
    options: readonly { name: string; changes: readonly OptionChange[] }[];
    prices: Readonly<Record<string, string>>;
    discount: Discount | null;
  }) => { options: QuotedOption[]; unpriced: Unpriced[] };
}

/** What a command is decided by: the same on a device and on the server, but for what is `known`. */
export interface Context {
  /** who asks */
  by: string;
  role: Asker;
  sheets: Sheets;
  settings: Settings;
  assessment: Assessment;
  known: Known;
}

/** When something was done, ISO 8601, and by whom. */
export interface Stamp {
  at: string;
  by: string;
}

type Shape = z.ZodRawShape;
type Schema<T extends string, S extends Shape> = z.ZodObject<{ type: z.ZodLiteral<T> } & S, z.core.$strict>;
type Out<T extends string, S extends Shape> = z.output<Schema<T, S>>;

/**
 * One kind of event, whole. `records` is what the record keeps, at `version`; `asks` what a person asks for, where the
 * record must say more than they do (a step's title, what a reading should have been); null where nobody asks.
 */
export interface Spec<T extends string, B extends Shape, C extends Shape> {
  type: T;
  version?: number;
  may: readonly Asker[];
  /** the states of an order that take it; left out: an open one */
  takenWhen?: readonly OrderStatus[];
  /** left out: whoever did it may take it back. `final`: nothing before it can be taken back either */
  undo?: 'final' | 'undoes';
  records: B;
  asks?: C | null;
  /**
   * The event to record, complete.
   * @throws Refused with a reason, in words for who asked
   * @throws ForTheRecord where something is needed that this side does not know
   */
  decide?: (command: Out<T, C>, order: Order, c: Context) => Out<T, B>;
  /** The order after it. */
  apply: (order: Order, body: Out<T, B>, stamp: Stamp) => Order;
  /** The parts of an order that it touches; `*` is all of it. Two changes made at once clash only in the same part. */
  touches: (of: Out<T, B> | Out<T, C>) => string[];
  /** A line of a log that a person reads and searches. */
  says: (body: Out<T, B>) => string;
  /** What happened here that may be looked for by itself. */
  marks?: (body: Out<T, B>) => Mark[];
  /** done at the bench: whoever did it is found as having worked there */
  atBench?: boolean;
  /** a body of version n as one of version n + 1, by n */
  earlier?: Record<number, (body: Record<string, unknown>) => Record<string, unknown>>;
}

export interface Definition<T extends string = string, B extends Shape = Shape, C extends Shape = Shape> extends Omit<
  Spec<T, B, C>,
  'version' | 'records' | 'asks' | 'decide'
> {
  version: number;
  body: Schema<T, B>;
  command: Schema<T, C> | null;
  decide: (command: Out<T, C>, order: Order, c: Context) => Out<T, B>;
}

/** Makes a definition whole: what is asked is what is recorded unless told otherwise. */
export function event<const T extends string, B extends Shape, C extends Shape = B>(spec: Spec<T, B, C>): Definition<T, B, C> {
  const { records, asks, version = 1, decide, ...rest } = spec;
  const whole = <S extends Shape>(shape: S) => z.strictObject({ type: z.literal(spec.type), ...shape }) as unknown as Schema<T, S>;
  const body = whole(records);
  return {
    ...rest,
    version,
    body,
    command: asks === null ? null : asks ? whole(asks) : (body as unknown as Schema<T, C>),
    decide: decide ?? ((command) => command as unknown as Out<T, B>),
  };
}
