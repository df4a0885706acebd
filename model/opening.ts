import { z } from 'zod';
import { moment, nonNegative, Slug, words } from './common';
import { FittedItem } from './fitted';
import { SheetRef } from './sheet';
import { Wish } from './wish';

/** What is written down when a unit arrives, and may be put right later. */
export const arriveFields = {
  build: Slug,
  year: z.number().int('a year is a whole number').min(1950, 'a year from 1950 on').max(2100),
  /** the number on its plate; empty while nobody has found one */
  identity: z.string().trim().toUpperCase().max(30, 'at most 30 characters'),
  meterValue: nonNegative.max(1_000_000).nullable(),
  owner: words(80),
  /** how the owner is reached */
  phone: z.string().trim().max(40, 'at most 40 characters').optional(),
  promisedAt: moment,
  wishes: z.array(Wish).max(20),
  restVolts: z.number().gt(0, 'must be above zero').max(120, 'more than any pack here has').nullable(),
  condition: z.string().trim().max(500, 'at most 500 characters'),
};

/**
 * An order that is no customer's work: of the demo shop, or to practise on. Only there may a stand-in take the place of a
 * device; screens and paper say so.
 */
export const Trial = z.enum(['demo', 'practice']);
export type Trial = z.infer<typeof Trial>;

export const OrderOpening = z.strictObject({
  model: SheetRef,
  ...arriveFields,
  fitted: z.array(FittedItem).max(40),
  trial: Trial.optional(),
});
export type OrderOpening = z.infer<typeof OrderOpening>;
