import { z } from 'zod';
import { positive, Slug, words } from './common';

/** Work of one order that is no kit: a joint mended, a switch moved, a lamp set. It is planned, done and proved like the rest. */
export const Job = z.strictObject({
  id: Slug,
  title: words(120),
  place: Slug,
  minutes: positive.max(600),
  /** what is to be done, for who does it */
  text: z.string().max(600),
  /** the battery is off while it is done */
  powerOff: z.boolean(),
  /** by what it is proved: a question that is answered with yes */
  question: words(120),
});
export type Job = z.infer<typeof Job>;

/** By what its steps and its minutes are known, as those of a kit are by the kit. */
export const jobKey = (id: string): string => `job-${id}`;
