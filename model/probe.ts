import { z } from 'zod';
import { Slug, words } from './common';
import { HarnessId } from './harness';

/** How the switches stand. One left out is at rest. */
export const Switched = z.strictObject({ controls: z.record(HarnessId, Slug), beat: z.boolean() });

/** Where two probes of a meter touch, what it is set to, and how the switches stand. */
export const Probe = z.strictObject({
  look: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('volts'), plus: HarnessId, minus: HarnessId }),
    z.strictObject({ kind: z.literal('ohms'), plus: HarnessId, minus: HarnessId }),
  ]),
  state: Switched,
});
export type Probe = z.infer<typeof Probe>;

/** What a meter showed; null for ohms of an open way. */
export const ProbeValue = z.number().min(-100000).max(1e8).nullable();

/** A single fault as the fault finder names it. */
export const CauseId = z.string().regex(/^[a-z]+:[a-z0-9+<>/.#@:-]{1,330}$/);
export const CauseWords = words(300);
