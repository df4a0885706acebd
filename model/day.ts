import { z } from 'zod';
import { nonNegative, Slug, words } from './common';

/** Names a load of an order: `own/ID` the unit's, `fitted/ID` what was there before, `KIT/DEVICE` what a kit brings. */
export const LoadId = z.string().regex(/^[a-z0-9-]+\/[a-z0-9-]+$/, 'write own/ID, fitted/ID or KIT/DEVICE');

/** Pulls of a winch within a phase: how many, how hard as a share of its rated pull, how long each. */
export const Pulls = z.strictObject({
  count: z.number().int('pulls are counted whole').min(1, 'at least one pull').max(20, 'at most 20 pulls in a phase'),
  share: z.number().min(0, 'between 0 and 1 of the rated pull').max(1, 'between 0 and 1 of the rated pull'),
  seconds: z.number().gt(0, 'a pull lasts longer than nothing').max(600, 'at most ten minutes a pull'),
});
export type Pulls = z.infer<typeof Pulls>;

/** A stretch of an owner's day in which nothing changes. */
export const Phase = z.strictObject({
  id: Slug,
  name: words(60),
  minutes: z
    .number()
    .gt(0, 'a phase must last longer than nothing')
    .max(90 * 24 * 60, 'at most 90 days in a phase'),
  /** 0: the engine is off */
  rpm: nonNegative.max(20_000, 'faster than any engine here'),
  /** with the engine off: whether the key is on, so that keyed things have power */
  key: z.enum(['off', 'on']).default('on'),
  tempC: z.number().min(-40, 'colder than −40 °C').max(60, 'warmer than 60 °C').default(20),
  /** lamps are on */
  dark: z.boolean().default(false),
  /** share of the time a load is on, where it is not what Kadro takes */
  duty: z
    .record(LoadId, z.number().min(0, 'a share is at least 0').max(1, 'a share of the time is at most 1'))
    .refine((d) => Object.keys(d).length <= 80, 'at most 80 loads')
    .default({}),
  pulls: Pulls.optional(),
  /** driven on the pack, kilometres */
  driveKm: nonNegative.max(300, 'at most 300 km in a phase').default(0),
  /** on the charger at the wall */
  wall: z.boolean().default(false),
});
export type Phase = z.infer<typeof Phase>;
export type PhaseInput = z.input<typeof Phase>;

/** A day as the owner describes it. */
export const OwnerDay = z
  .strictObject({
    id: Slug,
    name: words(60),
    phases: z.array(Phase).min(1, 'a day has at least one phase').max(24, 'at most 24 phases'),
  })
  .superRefine((d, ctx) =>
    d.phases.forEach((p, i) => {
      if (d.phases.findIndex((q) => q.id === p.id) !== i)
        ctx.addIssue({ code: 'custom', path: ['phases', i, 'id'], message: `phase “${p.id}” is there twice` });
    }),
  );
export type OwnerDay = z.infer<typeof OwnerDay>;
