import { z } from 'zod';
import { Awg, positive, Slug, WireColour, words } from './common';
import { ContactRating, Insulation } from './parts';

/** A plug of a family, by what decides whether two halves go together. */
export const Connector = z.strictObject({
  family: words(40),
  gender: z.enum(['plug', 'socket']),
  cavities: z.number().int().min(1).max(60),
  sealed: z.boolean().default(false),
});
export type Connector = z.infer<typeof Connector>;

/** Whether two halves go together: one family, one of each gender, as many cavities. */
export const mates = (a: Connector, b: Connector): boolean => a.family === b.family && a.gender !== b.gender && a.cavities === b.cavities;
/** A connector in words. */
export const sayConnector = (c: Connector): string =>
  `a ${c.family} ${c.gender} with ${c.cavities} ${c.cavities === 1 ? 'cavity' : 'cavities'}`;

/** What a wire of a box ends in. */
export const WireEnd = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('bare') }),
  z.strictObject({ kind: z.literal('ring'), studMm: positive.max(20) }),
  z.strictObject({ kind: z.literal('spade'), studMm: positive.max(20) }),
  z.strictObject({ kind: z.literal('blade'), gender: z.enum(['female', 'male']).default('female') }),
  z.strictObject({ kind: z.literal('butt') }),
  z.strictObject({ kind: z.literal('tap') }),
  z.strictObject({ kind: z.literal('connector'), ...Connector.shape }),
]);
export type WireEnd = z.infer<typeof WireEnd>;

/** A conductor of a box harness. */
export const BoxWire = z.strictObject({
  id: Slug,
  colour: WireColour,
  awg: Awg,
  insulationC: Insulation.optional(),
  /** carries a signal to a coil or a module, not a load */
  signal: z.boolean().default(false),
  /** current may run either way in it, as to a motor that turns both ways */
  bothWays: z.boolean().default(false),
});
export type BoxWire = z.infer<typeof BoxWire>;

/** A stretch of a box harness between two of its points: its trunk, or a leg. */
export const BoxLeg = z.strictObject({
  id: Slug,
  name: words(60).optional(),
  from: Slug,
  to: Slug,
  lengthMm: z.number().gt(0, 'a leg has a length above 0').max(50_000, 'longer than any unit here'),
});
export type BoxLeg = z.infer<typeof BoxLeg>;

/** A point of a box harness where some of its wires end. A point that is no end is where legs part. */
export const BoxEnd = z.strictObject({
  /** the point */
  id: Slug,
  name: words(60),
  end: WireEnd,
  /** the wires that end there; of a connector, in which cavity */
  wires: z
    .array(z.strictObject({ wire: Slug, cavity: z.number().int().min(1).max(60).optional() }))
    .min(1)
    .max(60),
  side: z.enum(['left', 'right']).optional(),
});
export type BoxEnd = z.infer<typeof BoxEnd>;

/** What the maker put into a wire on its way along a leg. */
export const BoxInline = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('fuse'),
    leg: Slug,
    wire: Slug,
    ratingA: positive.max(500),
    family: z.enum(['blade', 'bolt']).default('blade'),
    ratedV: positive.max(1500).default(32),
  }),
  z.strictObject({ kind: z.literal('diode'), leg: Slug, wire: Slug, volts: positive.max(5).default(0.7) }),
]);
export type BoxInline = z.infer<typeof BoxInline>;

/** A relay in its socket at a point of a box harness; its wires by terminal. */
export const BoxRelay = z.strictObject({
  id: Slug,
  name: words(60),
  at: Slug,
  wires: z.strictObject({ '30': Slug, '85': Slug, '86': Slug, '87': Slug }),
  coilOhms: positive.max(10_000).default(90),
  coilV: positive.max(120).default(12),
  rated: ContactRating.default({ amps: 30, volts: 16 }),
});
export type BoxRelay = z.infer<typeof BoxRelay>;

/** A ready harness, or a single lead, as it comes out of the box: a tree of legs. */
export const BoxHarness = z
  .strictObject({
    id: Slug,
    name: words(80),
    wires: z.array(BoxWire).min(1).max(60),
    legs: z.array(BoxLeg).min(1).max(60),
    ends: z.array(BoxEnd).min(1).max(60),
    inline: z.array(BoxInline).max(40).default([]),
    relays: z.array(BoxRelay).max(12).default([]),
    when: z.string().optional(),
  })
  .superRefine((h, ctx) => {
    const bad = (path: (string | number)[], message: string) => ctx.addIssue({ code: 'custom', path, message });
    const wires = new Set(h.wires.map((w) => w.id));
    const legs = new Map(h.legs.map((l) => [l.id, l]));
    for (const [key, list] of [
      ['wires', h.wires],
      ['legs', h.legs],
      ['ends', h.ends],
    ] as const)
      list.forEach((x, i) => {
        if (list.findIndex((y) => y.id === x.id) !== i) bad([key, i, 'id'], `“${x.id}” is there twice`);
      });
    // a tree: each leg brings one new point
    const joined = new Map<string, string>();
    const root = (p: string): string => {
      const up = joined.get(p) ?? p;
      return up === p ? p : root(up);
    };
    h.legs.forEach((l, i) => {
      const [a, b] = [root(l.from), root(l.to)];
      if (a === b) bad(['legs', i], `“${l.id}” closes a loop: a harness is a tree of legs`);
      joined.set(a, b);
    });
    const points = new Set(h.legs.flatMap((l) => [l.from, l.to]));
    const roots = new Set([...points].map(root));
    if (roots.size > 1) bad(['legs'], 'falls apart: every leg must be joined to the others');
    h.ends.forEach((e, i) => {
      if (!points.has(e.id)) bad(['ends', i, 'id'], `names point “${e.id}”, where no leg ends`);
      e.wires.forEach((w, j) => {
        if (!wires.has(w.wire)) bad(['ends', i, 'wires', j, 'wire'], `names wire “${w.wire}”, which this harness does not have`);
        if (e.end.kind === 'connector') {
          if (w.cavity === undefined) bad(['ends', i, 'wires', j], 'says no cavity, and it ends in a connector');
          else if (w.cavity > e.end.cavities)
            bad(['ends', i, 'wires', j, 'cavity'], `cavity ${w.cavity} of a connector with ${e.end.cavities}`);
          else if (e.wires.findIndex((x) => x.cavity === w.cavity) !== j)
            bad(['ends', i, 'wires', j, 'cavity'], `cavity ${w.cavity} has a wire already`);
        }
      });
    });
    h.inline.forEach((x, i) => {
      if (!legs.has(x.leg)) bad(['inline', i, 'leg'], `names leg “${x.leg}”, which this harness does not have`);
      if (!wires.has(x.wire)) bad(['inline', i, 'wire'], `names wire “${x.wire}”, which this harness does not have`);
    });
    h.relays.forEach((r, i) => {
      if (!points.has(r.at)) bad(['relays', i, 'at'], `names point “${r.at}”, where no leg ends`);
      for (const [t, w] of Object.entries(r.wires))
        if (!wires.has(w)) bad(['relays', i, 'wires', t], `names wire “${w}”, which this harness does not have`);
    });
    h.wires.forEach((w, i) => {
      const stops = h.ends.filter((e) => e.wires.some((x) => x.wire === w.id)).length;
      const sockets = h.relays.reduce((n, r) => n + Object.values(r.wires).filter((x) => x === w.id).length, 0);
      if (stops + sockets < 2) bad(['wires', i], `“${w.id}” has ${stops + sockets ? 'one end only' : 'no end'}`);
    });
  });
export type BoxHarness = z.infer<typeof BoxHarness>;

/** Where a wire of a box goes: a circuit’s feed, what triggers it, ground, a wire of the unit by what it does, or a device’s terminal; or nowhere, and why. */
export const JoinTarget = z
  .string()
  .regex(
    /^(ground|capped|spare|(feed|trigger):[a-z0-9-]+|wire:[a-z-]+|[a-z0-9-]+\.[a-z0-9-]+)$/,
    'write feed:CIRCUIT, trigger:CIRCUIT, ground, wire:FUNCTION, DEVICE.TERMINAL, capped or spare',
  );

/** An end of a box harness and where each of its wires goes. */
export const BoxJoin = z.strictObject({
  harness: Slug,
  end: Slug,
  /** by wire; several where they share a terminal’s way, such as the lamps of one housing */
  to: z.record(Slug, z.union([JoinTarget, z.array(JoinTarget).min(1).max(12)])),
  when: z.string().optional(),
});
export type BoxJoin = z.infer<typeof BoxJoin>;

/** Where a wire of a join goes, one by one. */
export const targetsOf = (j: Pick<BoxJoin, 'to'>, wire: string): string[] => {
  const to = j.to[wire];
  return to === undefined ? [] : typeof to === 'string' ? [to] : to;
};
/** Every wire of a join with each of its targets. */
export const pairsOf = (j: Pick<BoxJoin, 'to'>): [string, string][] =>
  Object.keys(j.to).flatMap((wire) => targetsOf(j, wire).map((to): [string, string] => [wire, to]));
