import { z } from 'zod';
import { Slug, UnitKind, words } from './common';
import { PersonId } from './person';

/** A time of day on the shop's clocks. */
export const ClockTime = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time as 08:30');
/** A day by the calendar. */
export const Day = z
  .string()
  .regex(/^\d{4}-\d\d-\d\d$/, 'a day as 2026-03-31')
  .refine((d) => !Number.isNaN(Date.parse(`${d}T00:00:00Z`)) && new Date(`${d}T00:00:00Z`).toISOString().startsWith(d), 'no such day');

/** When work is done on one day of the week, in order. */
export const DayHours = z
  .array(z.strictObject({ from: ClockTime, to: ClockTime }))
  .max(6)
  .superRefine((list, ctx) =>
    list.forEach((s, i) => {
      if (s.to <= s.from)
        ctx.addIssue({ code: 'custom', path: [i, 'to'], message: `a shift from ${s.from} to ${s.to} ends before it begins` });
      else if (i && s.from < list[i - 1]!.to)
        ctx.addIssue({ code: 'custom', path: [i, 'from'], message: `${s.from} lies within the shift before it` });
    }),
  );
export type DayHours = z.infer<typeof DayHours>;

export const WEEKDAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const;
export type Weekday = (typeof WEEKDAYS)[number];
export const WeekHours = z.strictObject({
  mon: DayHours,
  tue: DayHours,
  wed: DayHours,
  thu: DayHours,
  fri: DayHours,
  sat: DayHours,
  sun: DayHours,
});
export type WeekHours = z.infer<typeof WeekHours>;

const day = [
  { from: '08:00', to: '12:00' },
  { from: '12:45', to: '17:00' },
];
export const USUAL_HOURS: WeekHours = { mon: day, tue: day, wed: day, thu: day, fri: day, sat: [], sun: [] };

/** What some work asks of a person beyond hands: a kind of unit, or traction packs. */
export const Skill = z.enum([...UnitKind.options, 'packs']);
export type Skill = z.infer<typeof Skill>;

export const ShopBay = z.strictObject({
  id: Slug,
  name: words(30),
  kinds: z.array(UnitKind).min(1, 'say which kinds of unit it takes').max(10),
});
export type ShopBay = z.infer<typeof ShopBay>;

/** Days on which somebody, or the whole shop, is not there. */
export const DaysOff = z
  .strictObject({ from: Day, to: Day, why: z.string().trim().max(60).default('') })
  .refine((d) => d.to >= d.from, { message: 'ends before it begins', path: ['to'] });
export type DaysOff = z.infer<typeof DaysOff>;

/** Who works on what, and when. */
export const Rostered = z.strictObject({
  person: PersonId,
  skills: z.array(Skill).max(20),
  /** null: the shop's hours */
  hours: WeekHours.nullable().default(null),
  off: z.array(DaysOff).max(100).default([]),
});
export type Rostered = z.infer<typeof Rostered>;

/** What was decided by hand of an order's place in the week. */
export const Pin = z
  .strictObject({
    order: z.string().min(1).max(40),
    bay: Slug.nullable().default(null),
    person: PersonId.nullable().default(null),
    /** not before this day */
    notBefore: Day.nullable().default(null),
    /** how much a late hour of it counts beside one of any other order */
    weight: z.number().int().min(1).max(20).default(1),
  })
  .refine((p) => p.bay !== null || p.person !== null || p.notBefore !== null || p.weight !== 1, 'say what is to stay');
export type Pin = z.infer<typeof Pin>;

const onceEach = <T>(list: readonly T[], key: (x: T) => string, ctx: z.RefinementCtx, says: string) =>
  list.forEach((x, i) => {
    if (list.findIndex((y) => key(y) === key(x)) !== i) ctx.addIssue({ code: 'custom', path: [i], message: `“${key(x)}” ${says}` });
  });

/** What a shop decides of its week: fields of its settings. */
export const weekSettings = {
  /** when the shop is open */
  hours: WeekHours.default(USUAL_HOURS),
  /** when it is closed beside that */
  closed: z.array(DaysOff).max(200).default([]),
  /** where units stand to be worked on */
  bays: z
    .array(ShopBay)
    .max(30)
    .superRefine((list, ctx) => onceEach(list, (b) => b.id, ctx, 'is there twice'))
    .default([{ id: 'bay-1', name: 'Bay 1', kinds: [...UnitKind.options] }]),
  /** who works on what and when; an installer or lead who is not named works the shop's hours on everything but traction packs */
  roster: z
    .array(Rostered)
    .max(60)
    .superRefine((list, ctx) => onceEach(list, (r) => r.person, ctx, 'is there twice'))
    .default([]),
  /** the chance at which a promise counts as kept */
  promiseChance: z.number().min(0.5).max(0.99).default(0.8),
  pins: z
    .array(Pin)
    .max(200)
    .superRefine((list, ctx) => onceEach(list, (p) => p.order, ctx, 'is pinned twice'))
    .default([]),
};
