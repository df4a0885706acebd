import { z } from 'zod';

/** A short name that is safe in addresses and files: lower-case letters, digits and dashes. */
export const Slug = z
  .string()
  .regex(/^[a-z0-9]+(-[a-z0-9]+)*$/, 'use lower-case letters, digits and single dashes')
  .max(60);

/** Words that people read: trimmed, not empty, at most `max` characters. */
export const words = (max = 200) => z.string().trim().min(1, 'must not be empty').max(max, `must be at most ${max} characters`);

const EARLIEST = Date.UTC(2000, 0, 1);
const LATEST = Date.UTC(2101, 0, 1);
/** A moment as ISO 8601 with its offset, within the years that a shop's record can hold. */
export const moment = z.iso
  .datetime({ offset: true, error: 'a day and time as 2026-03-31T16:00:00Z' })
  .refine((t) => Date.parse(t) >= EARLIEST && Date.parse(t) < LATEST, 'a day from 2000 to 2100');

/** No figure of any unit here is larger: what is, is a slip of the finger or worse. */
const MOST = 10_000_000;

/** A finite number that is zero or more. */
export const nonNegative = z.number().min(0, 'must not be below zero').max(MOST, 'beyond what any unit has');

/** A finite number above zero. */
export const positive = z.number().gt(0, 'must be above zero').max(MOST, 'beyond what any unit has');

/** A coordinate in a unit's frame, millimetres. */
export const coordinateMm = z.number().min(-50_000, 'further off than any unit reaches').max(50_000, 'further off than any unit reaches');
/** A length of a unit or of a part of it, millimetres. */
export const sizeMm = z.number().gt(0, 'must be above zero').max(50_000, 'longer than any unit here');

/** The four words of every judgement, worst last but for `unknown`, which names a missing number. */
export const Verdict = z.enum(['holds', 'tight', 'fails', 'unknown']);
export type Verdict = z.infer<typeof Verdict>;

/**
 * One line of the arithmetic behind a verdict, as data: screens, paper and tests read the same line.
 * `source` names where a constant comes from; `kind` says whether the line adds, is a result or is a limit.
 */
export const SumLine = z.object({
  label: z.string(),
  value: z.union([z.number(), z.string()]),
  unit: z.string().optional(),
  source: z.string().optional(),
  kind: z.enum(['term', 'result', 'limit', 'note']).default('term'),
});
export type SumLine = z.infer<typeof SumLine>;
export type SumLineInput = z.input<typeof SumLine>;

/** What is used of a limit, in `unit`; `used` is null where a number is missing. */
export const Margin = z.object({ used: z.number().nullable(), limit: z.number().nullable(), unit: z.string() });
export type Margin = z.infer<typeof Margin>;

/** AWG as an integer: 1/0 is 0, 2/0 is −1, 3/0 is −2, 4/0 is −3. */
export const Awg = z.number().int('a gauge is a whole number').min(-3, 'the largest gauge is 4/0').max(40, 'the smallest gauge is 40');

export const Chemistry = z.enum(['flooded', 'agm', 'lfp']);
export type Chemistry = z.infer<typeof Chemistry>;

export const UnitKind = z.enum(['side-by-side', 'golf-cart', 'motorcycle', 'quad', 'boat', 'snow-machine']);
export type UnitKind = z.infer<typeof UnitKind>;

/** Lamp and body colours by the letters of IEC 60757, with a tracer after a slash. */
export const WireColour = z
  .string()
  .regex(/^(BK|BN|RD|OG|YE|GN|BU|VT|GY|WH|PK|TQ|GNYE)(\/(BK|BN|RD|OG|YE|GN|BU|VT|GY|WH|PK|TQ))?$/, 'use IEC 60757 letters, such as GN/GY');

export const LightColour = z.enum(['white', 'amber', 'red', 'green', 'selective-yellow']);
export type LightColour = z.infer<typeof LightColour>;

/** What a piece of equipment does on a unit, in the words rule packs ask for. */
export const EquipmentFunction = z.enum([
  'headlamp',
  'main-beam',
  'position',
  'tail',
  'stop',
  'turn-front',
  'turn-rear',
  'plate',
  'reflector-side',
  'reflector-rear',
  'horn',
  'mirror-driver',
  'mirror-passenger',
  'mirror-inside',
  'parking-brake',
  'windshield',
  'identity-plate',
  'belt',
  'rear-visibility',
  'alert-sound',
  'high-beam-indicator',
  'turn-indicator',
  'kill-switch',
  'sidelight-port',
  'sidelight-starboard',
  'masthead',
  'stern',
  'all-round',
  'sound-signal',
  'auxiliary-lamp',
  'work-lamp',
  'docking-lamp',
  'dome',
  'hazard-switch',
]);
export type EquipmentFunction = z.infer<typeof EquipmentFunction>;
