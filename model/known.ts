import { z } from 'zod';
import { words } from './common';

/** How a value of a sheet is known: from the kind of unit, a manual or plate, an eye on the unit, or a meter or tape. */
export const How = z.enum(['assumed', 'maker', 'read', 'measured']);
export type How = z.infer<typeof How>;

/**
 * Where a value stands in a sheet: a JSON pointer (RFC 6901) in which an item of a list stands by its `id` and a run by
 * `from..to`, so that it still points there after something was put in before it. The empty one is the whole sheet.
 */
export const Pointer = z
  .string()
  .max(200)
  .regex(/^(\/[A-Za-z0-9.-]+)*$/, 'a pointer as /electrical/battery/capacityAh');
export type Pointer = z.infer<typeof Pointer>;

/** How one value, or all below it, is known. */
export const Known = z.strictObject({
  how: How,
  /** the band that holds it 8 times in 10, in the value’s own unit */
  spread: z
    .tuple([z.number(), z.number()])
    .refine(([low, high]) => low <= high, 'the band is upside down: low is above high')
    .optional(),
  by: words(60).optional(),
  at: z.iso.datetime({ offset: true }).optional(),
  order: words(60).optional(),
  note: words(200).optional(),
});
export type Known = z.infer<typeof Known>;

/** A value that one build has otherwise than its model, and how it is known there. */
export const BuildValue = z.strictObject({ value: z.number(), known: Known });
export type BuildValue = z.infer<typeof BuildValue>;

/** A value of the unit as somebody read it off or measured it on an order. */
export interface ValueRead {
  value: number;
  how: 'read' | 'measured';
  at: string;
  by: string;
}
