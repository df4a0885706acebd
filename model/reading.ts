import { z } from 'zod';
import { ReadingUnit } from './kit';
import { Verdict } from './common';
import { Origin } from './origin';

/** What a reading should be, said before it is taken. A `yes` reading has no band. */
export const Expected = z.object({
  low: z.number().nullable(),
  high: z.number().nullable(),
  unit: ReadingUnit,
  why: z.string(),
});
export type Expected = z.infer<typeof Expected>;

/** A reading as it stands in the record: with what was expected of it then, and the verdict given then. */
export const Reading = z.object({
  value: z.number(),
  expected: Expected,
  verdict: Verdict,
  origin: Origin,
  /** when it was read, ISO 8601 */
  at: z.string(),
  by: z.string(),
  /** it failed, and something was put right since: it is to be read again */
  mended: z.boolean().optional(),
});
export type Reading = z.infer<typeof Reading>;
