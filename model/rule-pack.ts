import { z } from 'zod';
import { EquipmentFunction, LightColour, positive, Slug, UnitKind, words } from './common';

const shared = {
  id: Slug,
  title: words(120),
  source: words(160),
  note: words(300).optional(),
};

/** Equipment that must be there: `count` pieces of any of the functions, perhaps of one colour and within a height band. */
export const EquipmentRule = z.strictObject({
  ...shared,
  kind: z.literal('equipment'),
  anyOf: z.array(EquipmentFunction).min(1),
  count: z.number().int().positive().default(1),
  /** one on each side of the centre line */
  eachSide: z.boolean().default(false),
  colour: z.array(LightColour).optional(),
  heightMm: z.strictObject({ min: z.number().min(0), max: positive }).optional(),
});

/** Something a person must have seen or heard and says so, such as a horn heard at 200 ft. */
export const ProofRule = z.strictObject({ ...shared, kind: z.literal('proof'), question: words(200) });

/** A figure of the unit that must stay within a limit: gross mass in kilograms or top speed in km/h. */
export const LimitRule = z.strictObject({
  ...shared,
  kind: z.literal('limit'),
  of: z.enum(['gvwrKg', 'topSpeedKmh']),
  above: z.number().optional(),
  atMost: positive,
});

export const RuleItem = z.discriminatedUnion('kind', [EquipmentRule, ProofRule, LimitRule]);
export type RuleItem = z.infer<typeof RuleItem>;

export const RulePack = z
  .strictObject({
    id: Slug,
    name: words(120),
    place: words(120),
    edition: words(120),
    kinds: z.array(UnitKind).min(1),
    /** always shown with the pack's verdicts */
    caution: words(400),
    items: z.array(RuleItem).min(1),
  })
  .superRefine((p, ctx) =>
    p.items.forEach((it, i) => {
      if (p.items.findIndex((o) => o.id === it.id) !== i)
        ctx.addIssue({ code: 'custom', path: ['items', i, 'id'], message: `item “${it.id}” is there twice` });
      if (it.kind === 'equipment' && it.heightMm && it.heightMm.min >= it.heightMm.max)
        ctx.addIssue({ code: 'custom', path: ['items', i, 'heightMm'], message: 'the band is upside down: min is not below max' });
    }),
  );
export type RulePack = z.infer<typeof RulePack>;
