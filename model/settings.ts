import { z } from 'zod';
import { Awg, positive, WireColour, words } from './common';

/** What a shop decides for itself. Every threshold here is common practice, no source, unless a calculation says otherwise. */
export const Settings = z.strictObject({
  shop: words(80).default('My shop'),
  units: z.enum(['imperial', 'metric']).default('imperial'),
  /** the share of what is left of the source above which a load is Tight */
  tightShare: z.number().gt(0).lt(1).default(0.8),
  /** days a unit should stand parked and still start: fewer fails; fewer than twice as many is Tight */
  parkedDays: positive.max(400).default(14),
  /** charge below which a start is not to be counted on */
  reserveSoc: z.number().min(0.1).max(0.9).default(0.5),
  /** hours of engine-off use an owner should get from the battery before the reserve */
  engineOffHours: positive.max(48).default(3),
  selfDischargePctPerMonth: z.number().min(0).max(50).default(4),
  /** allow a fuse up to 150 % of the wire's allowable amperes (ABYC E-11); off by default */
  fuse150: z.boolean().default(false),
  /** spools and offcuts of wire on hand */
  stock: z
    .array(z.strictObject({ id: words(40), awg: Awg, colour: WireColour, lengthM: positive.max(1000) }))
    .max(400)
    .default([])
    .superRefine((list, ctx) =>
      list.forEach((s, i) => {
        if (list.findIndex((x) => x.id === s.id) !== i)
          ctx.addIssue({ code: 'custom', path: [i, 'id'], message: `“${s.id}” is there twice` });
      }),
    ),
});
export type Settings = z.infer<typeof Settings>;
export const DEFAULT_SETTINGS: Settings = Settings.parse({});
