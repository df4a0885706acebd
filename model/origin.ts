import { z } from 'zod';
import { words } from './common';

/** Where a reading came from: a person's fingers or voice, a meter by its name, a stand-in, or nobody told. */
export const Origin = z.strictObject({
  how: z.enum(['typed', 'spoken', 'meter', 'simulated', 'untold']),
  meter: words(60).optional(),
});
export type Origin = z.infer<typeof Origin>;

/** Whether an instrument gave it, and not a person's word. */
export const isMeasured = (o: Origin): boolean => o.how === 'meter' || o.how === 'simulated';

/** In a few words; empty for what a person typed. */
export const sayOrigin = (o: Origin): string =>
  o.how === 'typed'
    ? ''
    : o.how === 'spoken'
      ? 'spoken'
      : o.how === 'meter'
        ? `by ${o.meter ?? 'a meter'}`
        : o.how === 'simulated'
          ? `simulated by ${o.meter ?? 'a stand-in'}`
          : 'origin not told';
