import { z } from 'zod';
import { EquipmentFunction, LightColour, positive, Slug, UnitKind, words } from './common';
import { Wish } from './wish';

const functions = z.array(EquipmentFunction).min(1, 'name at least one function');

/** A band with one or two ends; `min` below `max`. */
const band = (least = -1e6) =>
  z.strictObject({ min: z.number().min(least).optional(), max: z.number().optional() }).superRefine((b, ctx) => {
    if (b.min === undefined && b.max === undefined) ctx.addIssue({ code: 'custom', message: 'the band has no end: give min, max or both' });
    if (b.min !== undefined && b.max !== undefined && b.min >= b.max)
      ctx.addIssue({ code: 'custom', message: 'the band is upside down: min is not below max' });
  });
export type Band = { min?: number; max?: number };

/** When an item, or a whole pack, is called for at all. Everything given must hold; left out, it always is. */
export const Applies = z.strictObject({
  kinds: z.array(UnitKind).min(1).optional(),
  power: z.enum(['electric', 'engine']).optional(),
  lengthM: band(0).optional(),
  /** above `min`, up to `max` */
  topSpeedKmh: band(0).optional(),
  gvwrKg: band(0).optional(),
  /** what the owner wants of it; any of these */
  use: z.array(Wish).min(1).optional(),
  /** the unit has, or has not, equipment of any of these functions */
  has: functions.optional(),
  hasNot: functions.optional(),
  /** a fact that only a person knows; asked once for the unit, under `fact:KEY` */
  ask: z.strictObject({ key: Slug, question: words(200) }).optional(),
  /** why it does not apply when it does not, in a few words */
  because: words(160).optional(),
});
export type Applies = z.infer<typeof Applies>;

const shared = {
  id: Slug,
  title: words(120),
  source: words(160),
  note: words(300).optional(),
  when: Applies.optional(),
};

/** From where to where a distance is taken: between centres, or between the edges of what lights. */
const Measure = z.enum(['centres', 'edges']);

/** Equipment that must be there: `count` pieces of any of the functions, perhaps of one colour and within a height band. */
export const EquipmentRule = z.strictObject({
  ...shared,
  kind: z.literal('equipment'),
  anyOf: functions,
  count: z.number().int().positive().default(1),
  /** no more than so many */
  most: z.number().int().positive().optional(),
  /** one on each side of the centre line */
  eachSide: z.boolean().default(false),
  /** as many as the unit has seats, whatever `count` says */
  perSeat: z.boolean().default(false),
  /** on this side of the centre line, or on it */
  side: z.enum(['left', 'right']).optional(),
  /** on the front half of the unit, or on the rear half */
  end: z.enum(['front', 'rear']).optional(),
  colour: z.array(LightColour).optional(),
  /** of the lamp's centre above the ground */
  heightMm: band(0).optional(),
});

/** Distance between the left and the right lamp of a pair, millimetres. */
export const SeparationRule = z.strictObject({
  ...shared,
  kind: z.literal('separation'),
  of: functions,
  apartMm: band(0),
  measure: Measure.default('centres'),
});

/** Least distance of these lamps from those, millimetres, seen from the front or the rear. */
export const ClearanceRule = z.strictObject({
  ...shared,
  kind: z.literal('clearance'),
  of: functions,
  /** only those of `of` that show one of these colours */
  colour: z.array(LightColour).optional(),
  from: functions,
  leastMm: positive,
  measure: Measure.default('centres'),
  /** called for only where there is a single one of `from` */
  single: z.boolean().default(false),
});

/** How far a lamp's outer edge may stand in from the unit's outermost edge, millimetres. */
export const EdgeRule = z.strictObject({ ...shared, kind: z.literal('edge'), of: functions, mostMm: positive });

/** Left and right alike: the same height and the same distance from the centre line, within a tolerance. */
export const SymmetryRule = z.strictObject({ ...shared, kind: z.literal('symmetry'), of: functions, withinMm: positive });

/**
 * Height of a lamp over others, or over a height that a person measures, millimetres. Of the functions in `of` the first that the
 * unit has is meant: a masthead light before an all-round one that is for anchor.
 */
export const AboveRule = z
  .strictObject({
    ...shared,
    kind: z.literal('above'),
    of: functions,
    over: functions.optional(),
    overFact: z.strictObject({ key: Slug, name: words(60), question: words(200) }).optional(),
    leastMm: positive,
  })
  .refine((r) => (r.over === undefined) !== (r.overFact === undefined), { message: 'give over or overFact, one of them' });

/** Seen over an arc, degrees clockwise from dead ahead, with no more hidden in one piece than allowed. */
export const SectorRule = z.strictObject({
  ...shared,
  kind: z.literal('sector'),
  of: functions,
  arcDeg: z.tuple([z.number().min(-360).max(360), z.number().min(-360).max(360)]).refine(([a, b]) => b > a && b - a <= 360, {
    message: 'the arc is upside down: it runs clockwise from the first to the second bearing, at most 360°',
  }),
  hiddenMostDeg: z.number().min(0).max(90).default(0),
  /** how far a light may show outside of it: at a limit dead ahead, and at another */
  spillMostDeg: z.strictObject({ ahead: z.number().min(0).max(30), other: z.number().min(0).max(30) }).optional(),
});

/** Bright enough: candela, or seen at a range in sea miles by the rule's own formula. */
export const IntensityRule = z
  .strictObject({
    ...shared,
    kind: z.literal('intensity'),
    of: functions,
    rangeNm: positive.max(20).optional(),
    candela: positive.optional(),
    transmissivity: z.number().gt(0).lt(1).default(0.8),
  })
  .refine((r) => (r.rangeNm === undefined) !== (r.candela === undefined), { message: 'give a range or candela, one of them' });

/** The flasher's beat, flashes a minute, and the share of each beat that it is lit. */
export const FlashRule = z.strictObject({ ...shared, kind: z.literal('flash'), perMinute: band(0), onSharePct: band(0).optional() });

/** Something about the switches or the lamps in one state: a control in one of these positions, or lamps lit or dark. */
export const StateClause = z.union([
  z.strictObject({ control: Slug, in: z.array(Slug).min(1) }),
  z.strictObject({ lit: functions, side: z.enum(['left', 'right']).optional(), which: z.enum(['any', 'all']).default('all') }),
  z.strictObject({ dark: functions, side: z.enum(['left', 'right']).optional() }),
]);
export type StateClause = z.infer<typeof StateClause>;

/**
 * What must be so in every state of the switches: wherever all of `given` holds, all of `then` must. With `flashing`, lamps
 * called lit must be lit on the flasher's beat and dark between. Controls are named by what they do: key, engine, lights,
 * brake, turn, hazard, beam, gear, horn, nav.
 */
export const LogicRule = z.strictObject({
  ...shared,
  kind: z.literal('logic'),
  given: z.array(StateClause).default([]),
  then: z.array(StateClause).min(1),
  flashing: z.boolean().default(false),
  /** it is enough that the switches can be put so, in one state at least */
  some: z.boolean().default(false),
  /** only where a control does this */
  ifSwitch: Slug.optional(),
  /** in words, for a person who tries it where the wiring is not known */
  question: words(200),
});

/** A figure that a person reads, such as the feet at which a horn was heard. */
export const ReadingRule = z.strictObject({
  ...shared,
  kind: z.literal('reading'),
  question: words(200),
  unit: z.enum(['m', 'mm', 'dB', 'N', 'count']),
  band: band(0),
});

/** Something a person must have seen or heard and says so. */
export const ProofRule = z.strictObject({ ...shared, kind: z.literal('proof'), question: words(200) });

/** A figure of the unit that must stay within a limit: gross mass in kilograms, top speed in km/h, length in metres. */
export const LimitRule = z
  .strictObject({
    ...shared,
    kind: z.literal('limit'),
    of: z.enum(['gvwrKg', 'topSpeedKmh', 'lengthM']),
    above: z.number().optional(),
    atMost: positive.optional(),
    below: positive.optional(),
  })
  .superRefine((r, ctx) => {
    const top = r.atMost ?? r.below;
    if (top === undefined && r.above === undefined)
      ctx.addIssue({ code: 'custom', path: ['atMost'], message: 'the limit has no figure: give above, atMost or below' });
    if (top !== undefined && r.above !== undefined && r.above >= top)
      ctx.addIssue({ code: 'custom', path: ['above'], message: 'the limit is upside down: above is not below its top' });
  });

/** The unit with its kits, and with people on every seat, within its gross rating or a figure. */
export const WeightRule = z.strictObject({ ...shared, kind: z.literal('weight'), atMostKg: positive.optional() });

export const RuleItem = z.discriminatedUnion('kind', [
  EquipmentRule,
  SeparationRule,
  ClearanceRule,
  EdgeRule,
  SymmetryRule,
  AboveRule,
  SectorRule,
  IntensityRule,
  FlashRule,
  LogicRule,
  ReadingRule,
  ProofRule,
  LimitRule,
  WeightRule,
]);
export type RuleItem = z.infer<typeof RuleItem>;
export type RuleKind = RuleItem['kind'];
export const RULE_KINDS: readonly RuleKind[] = RuleItem.options.map((o) => o.shape.kind.value);

const head = {
  id: Slug,
  name: words(120),
  place: words(120),
  edition: words(120),
  kinds: z.array(UnitKind).min(1),
  /** when it is proposed for a unit of these kinds; it may always be chosen by hand */
  when: Applies.optional(),
  /** always shown with the pack's verdicts */
  caution: words(400),
};
/** An item that could not be read: kept as it came, named in every answer, never counted as met. */
export const BadItem = z.strictObject({
  index: z.number().int().min(0),
  id: z.string(),
  title: z.string(),
  message: z.string(),
  raw: z.unknown(),
});
export type BadItem = z.infer<typeof BadItem>;

export const RulePack = z
  .strictObject({ ...head, items: z.array(RuleItem).min(1), bad: z.array(BadItem).optional() })
  .superRefine((p, ctx) =>
    p.items.forEach((it, i) => {
      if (p.items.findIndex((o) => o.id === it.id) !== i)
        ctx.addIssue({ code: 'custom', path: ['items', i, 'id'], message: `item “${it.id}” is there twice` });
    }),
  );
export type RulePack = z.infer<typeof RulePack>;

/** A pack's head alone: a pack with bad items is still a pack, and its good items are judged. */
export const RulePackHead = z.strictObject({ ...head, items: z.array(z.unknown()).min(1) });
