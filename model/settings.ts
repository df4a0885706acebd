import { z } from 'zod';
import { Conductor, Insulation } from './parts';
import { messageSettings } from './message';
import { moneySettings } from './money';
import { weekSettings } from './shop-week';
import { supplySettings } from './supply';
import { Awg, nonNegative, positive, WireColour, words } from './common';

function isTimeZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name });
    return true;
  } catch {
    return false;
  }
}

/** What a shop decides for itself. Every threshold here is common practice, no source, unless a calculation says otherwise. */
export const Settings = z.strictObject({
  shop: words(80).default('My shop'),
  units: z.enum(['imperial', 'metric']).default('imperial'),
  /** where the shop's clocks are: paper and records of times follow it; IANA name */
  timeZone: z.string().max(60).refine(isTimeZone, 'a time zone such as America/Denver').default('UTC'),
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
  /** the wire that the shop cuts from: class of its insulation, °C, and its conductor */
  wireInsulationC: Insulation.default(105),
  wireStandard: Conductor.default('awg'),
  /** a shortage with everything on that the owner's day makes up again is Tight; on: it fails, whatever the day says */
  steadyMustCarry: z.boolean().default(false),
  /** days in a row that an owner's day must be possible without a charger in between */
  repeatDays: z.number().int().min(1).max(60).default(7),
  /** volts above the least that a start should keep: fewer is Tight */
  crankSpareV: z.number().min(0).max(3).default(0.4),
  /** charge that a traction pack should keep: under it fails */
  packReserveSoc: z.number().min(0.05).max(0.9).default(0.2),
  /** chance of not starting, in per cent of simulated days, above which the day is Tight, and above which it fails */
  noStartTightPct: z.number().min(0).max(100).default(1),
  noStartFailPct: z.number().min(0).max(100).default(10),
  /** what remedies are priced with; set your own */
  labourPerHour: nonNegative.max(1000).default(100),
  batteryPerAh: nonNegative.max(100).default(6),
  isolatorPrice: nonNegative.max(5000).default(85),
  relayPrice: nonNegative.max(1000).default(18),
  reducerPerA: nonNegative.max(500).default(7),
  /** ISO 4217: quotes and bills refuse any other */
  currency: words(5).default('USD'),
  /** minutes from one zone of the unit to another, with tools; and to fish a wire under a panel that stays on */
  moveMinutes: nonNegative.max(30).default(0.5),
  fishMinutes: nonNegative.max(60).default(4),
  ...weekSettings,
  ...moneySettings,
  ...supplySettings,
  ...messageSettings,
  /** spools and offcuts of wire on hand */
  stock: z
    .array(z.strictObject({ id: words(40), awg: Awg, colour: WireColour, lengthM: positive.max(1000) }))
    .max(400)
    .superRefine((list, ctx) =>
      list.forEach((s, i) => {
        if (list.findIndex((x) => x.id === s.id) !== i)
          ctx.addIssue({ code: 'custom', path: [i, 'id'], message: `“${s.id}” is there twice` });
      }),
    )
    .default([]),
  /** fuses, relays and ends on the shelf, by the name that a plan gives them */
  shelf: z
    .array(
      z.strictObject({
        id: z.string().regex(/^[a-z0-9-]{1,60}$/),
        have: z.number().int().min(0).max(9999),
        version: z.number().int().min(0).optional(),
      }),
    )
    .max(400)
    .default([]),
});
export type Settings = z.infer<typeof Settings>;

/** Told on screens and paper, kept on the shelf, or of the shop as a whole: nothing of one order is judged by them. */
const BESIDE_ORDERS = new Set([
  ...['shop', 'units', 'timeZone', 'currency', 'labourPerHour', 'stock', 'shelf'],
  ...[weekSettings, moneySettings, supplySettings, messageSettings].flatMap((s) => Object.keys(s)),
]);
/** Whether what an order is judged by, and what it takes, follows from a setting. */
export const judgesOrders = (field: string): boolean => field in Settings.shape && !BESIDE_ORDERS.has(field);

export const DEFAULT_SETTINGS: Settings = Settings.parse({});
