import { z } from 'zod';
import { Awg, positive, WireColour, words } from './common';
import type { FittedItem } from './fitted';
import type { Job } from './job';
import type { ValueRead } from './known';
import type { OwnerDay } from './day';
import type { AddedLamp, Point } from './lamp';
import type { Trial } from './opening';
import type { OrderMoney } from './money';
import type { Origin } from './origin';
import type { OwnWork } from './own';
import type { OverrideField } from './override';
import type { PowerChange } from './power-change';
import type { Probe } from './probe';
import type { Reading } from './reading';
import type { SheetRef } from './sheet';
import type { WishId } from './wish';
import type { PlanChoice, PlanPin } from './work-plan';

export const STATIONS = ['arrive', 'fit', 'power', 'wire', 'lamps', 'plan', 'bench', 'handover'] as const;
export type Station = (typeof STATIONS)[number];

export type OrderStatus = 'open' | 'sealed' | 'cancelled';

export interface StepState {
  status: 'todo' | 'done' | 'skipped';
  reason?: string;
  /** time on the step, seconds */
  seconds: number;
  at?: string;
  by?: string;
  readings: Record<string, Reading>;
}

/** Time that is counted on a step. */
export interface Clock {
  step: string;
  since: string;
  by: string;
}

export interface WireOverride {
  circuit: string;
  field: OverrideField;
  value: number | string;
  reason: string;
  at: string;
  by: string;
}

/**
 * How a change to an order's state is turned back: the value at a path as it was (left out: there was none) and as it was left;
 * or, of a list, what stood there before and what stands there instead.
 */
export type Change = { path: string[]; was?: unknown; now?: unknown } | { path: string[]; at: number; was: unknown[]; now: unknown[] };
/** Something a person did that can be taken back. */
export interface Undoable {
  /** its event in the order's record */
  seq: number;
  says: string;
  back: Change[];
}

/** Something that a step used up: metres of a spool, or pieces off the shelf. */
export const Taken = z.discriminatedUnion('of', [
  z.strictObject({ of: z.literal('spool'), id: words(40), awg: Awg, colour: WireColour, lengthM: positive.max(1000) }),
  z.strictObject({ of: z.literal('shelf'), id: z.string().regex(/^[a-z0-9-]{1,60}$/), pieces: z.number().int().min(1).max(9999) }),
]);
export type Taken = z.infer<typeof Taken>;

/** A question of the unit’s owner, and its answer. */
export interface Question {
  id: string;
  text: string;
  at: string;
  answer: { text: string; photo: string | null; at: string; by: string } | null;
}

/** The state of one order, made only by applying its events in turn. */
export interface Order extends OwnWork {
  id: string;
  number: number;
  version: number;
  openedAt: string;
  status: OrderStatus;
  /** why it was cancelled; null while it is not */
  cancelled: { reason: string; at: string; by: string } | null;
  /** no customer's work: of the demo, or to practise on; null for real work */
  trial: Trial | null;
  sealedAt: string | null;
  assignee: string | null;
  unit: { model: SheetRef; build: string; year: number; identity: string; meterValue: number | null };
  owner: string;
  phone: string;
  promisedAt: string;
  wishes: WishId[];
  condition: string;
  fitted: FittedItem[];
  restVolts: number | null;
  kits: { kit: SheetRef; box: Record<number, number> }[];
  /** work that is no kit */
  jobs?: Job[];
  overrides: WireOverride[];
  /** what a box leaves open, as it was chosen: options of its variants, by kit; left out: the first of each */
  variants?: Record<string, Record<string, string>>;
  /** where a device stands that may stand in several places, by `kit/device`; left out: where its leads reach best */
  places?: Record<string, string>;
  /** which of the facts a meter gave, by key: the rest were told by a person */
  measured?: Record<string, Origin>;
  /** values of the unit's sheet as they were read or measured on this one, by pointer */
  values?: Record<string, ValueRead>;
  /** figures and answers the sheets lacked, by key */
  facts: Record<string, number | boolean>;
  steps: Record<string, StepState>;
  /** at most one for each person */
  clocks: Clock[];
  findings: { at: string; by: string; text: string; step?: string; photo?: string }[];
  /** measurements beyond those of the plan since a fault was last put right, and the faults put right */
  probes: { step: string; probe: Probe; value: number | null; origin: Origin; at: string; by: string }[];
  mended: { step: string; cause: string | null; says: string; at: string; by: string }[];
  photos: { photo: string; step?: string; note: string; at: string; by: string }[];
  /** steps given to one person, by step */
  given: Record<string, string>;
  proofOverrides: { proof: string; reason: string; at: string; by: string }[];
  signature: { name: string; strokes: string; at: string; by: string } | null;
  additions: { at: string; by: string; text: string }[];
  /** the owner's days as described; none: Kadro takes the usual one */
  days: OwnerDay[];
  /** what was agreed so that the unit carries its loads */
  changes: { change: PowerChange; label: string; at: string; by: string }[];
  /** the rule packs chosen; null: those that Kadro proposes */
  packs: string[] | null;
  /** lamps put elsewhere than their sheet says, or measured there, by lamp; and lamps beyond what kits bring */
  lamps: { placed: Record<string, Point>; added: AddedLamp[] };
  /** fasteners counted out and back, by the step of their panel, in the order of its sheet; the reason where it closed short */
  fasteners: Record<string, { counts: number[]; reason: string | null; at: string; by: string }>;
  /** what was cut and fitted, by the step that it was done at; it is off the shelf */
  used?: Record<string, Taken[]>;
  /** serial and lot numbers of what was fitted, by the item as shelf and label name it */
  lots?: { item: string; name: string; lot: string; at: string; by: string }[];
  /** how the work is to be done, and steps put elsewhere by hand */
  plan: { choice: PlanChoice; pins: PlanPin[] };
  kept: { at: string; by: string; name: string; answer: string }[];
  /** when each person last did something here: what they do next comes after it, whatever their device's clock says */
  lastDone: Record<string, string>;
  /** quotes, what was agreed, what turned up, what is owed */
  money?: OrderMoney;
  /** what was asked on the owner’s page, and what was answered */
  questions?: Question[];
  /** what each person may take back here, the last at the end */
  undo?: Record<string, Undoable[]>;
}
