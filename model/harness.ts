import { z } from 'zod';
import { Awg, nonNegative, positive, Slug, WireColour, words } from './common';
import { Conductor, ContactRating, Insulation, LoadLawName } from './parts';

/** Names within a harness: places, kits, circuits, devices and their terminals joined by `/ . # @ :`. */
export const HarnessId = z.string().regex(/^[a-z0-9+<>/.#@:-]{1,160}$/, 'use lower-case letters, digits and / . # @ : -');

/** A point that a probe can touch. */
export const HarnessNode = z.strictObject({
  id: HarnessId,
  label: words(160),
  /** where on the unit; null for a point inside something */
  place: Slug.nullable(),
  kind: z.enum(['battery', 'point', 'unit-wire', 'ground', 'fused', 'relay', 'feed', 'terminal', 'splice', 'inner']),
  /** what it belongs to: a device as `kit/device`, or a relay */
  of: HarnessId.nullable(),
  /** a joint within a ready harness of a box: nobody makes it */
  ready: z.boolean().optional(),
});
export type HarnessNode = z.infer<typeof HarnessNode>;

/** When a contact is closed: all of these must hold. */
export const When = z.union([
  z.strictObject({ control: HarnessId, in: z.array(Slug).min(1) }),
  z.strictObject({ coil: HarnessId, pulled: z.boolean() }),
  z.strictObject({ beat: z.literal(true) }),
]);
export type When = z.infer<typeof When>;

const base = { id: HarnessId, name: words(160), from: HarnessId, to: HarnessId, of: HarnessId.nullable(), circuit: HarnessId.nullable() };
export const HarnessElement = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('wire'),
    ...base,
    awg: Awg.nullable(),
    /** cut length, metres; null while no run leads there and nobody measured */
    lengthM: nonNegative.nullable(),
    colour: WireColour,
    unitColour: WireColour.nullable(),
    places: z.array(Slug),
    signal: z.boolean(),
    bothWays: z.boolean(),
    tempC: z.number().min(-60).max(200),
    /** it lies along something hot, or in an engine space */
    hot: z.boolean().default(false),
    /** current-carrying wires that lie together where it lies in the thickest bundle, itself among them */
    bundled: z.number().int().min(1).max(4000).default(1),
    insulationC: Insulation.optional(),
    standard: Conductor.optional(),
    ends: z.tuple([words(60), words(60)]),
    /** where it comes from: ready out of a box, by kit, harness and the wire of its sheet; left out: cut from the shelf */
    box: z.strictObject({ kit: Slug, harness: Slug, wire: Slug }).optional(),
    /** other circuits whose current it brings home too: it is sized for all of them */
    shared: z.array(HarnessId).min(1).max(40).optional(),
  }),
  z.strictObject({
    kind: z.literal('fuse'),
    ...base,
    ratingA: positive,
    family: z.enum(['blade', 'bolt']),
    /** the most volts that it may interrupt */
    ratedV: positive.default(32),
    /** the longest that its load lasts; null: for good */
    burstS: positive.nullable(),
    /** it came in the box, in its holder */
    box: z.strictObject({ kit: Slug, harness: Slug }).optional(),
  }),
  z.strictObject({
    kind: z.literal('contact'),
    ...base,
    when: z.array(When),
    ohms: nonNegative,
    /** what it may make and break; left out: nobody says, or nothing that opens under load */
    rated: ContactRating.optional(),
  }),
  z.strictObject({
    kind: z.literal('coil'),
    ...base,
    ohms: positive,
    pullInV: positive,
    dropOutV: positive,
    /** the relay or contactor that it is a part of, as the shelf names it; left out: it came with a device */
    part: z.strictObject({ id: Slug, name: words(120) }).optional(),
  }),
  z.strictObject({
    kind: z.literal('load'),
    ...base,
    law: LoadLawName,
    /** null: its maker does not say; it is simulated as drawing nothing */
    watts: nonNegative.nullable(),
    volts: positive,
    minVolts: positive,
    leastVolts: positive.nullable(),
    /** draws when it is given volts but is no lamp or machine: the unit's own needs */
    own: z.boolean(),
  }),
  z.strictObject({ kind: z.literal('diode'), ...base, volts: positive }),
  z.strictObject({ kind: z.literal('resistor'), ...base, ohms: nonNegative }),
  /** `from` is plus */
  /** taking charge, it holds its volts less stiffly: `chargeOhms` */
  z.strictObject({ kind: z.literal('battery'), ...base, volts: positive, ohms: positive, chargeOhms: positive }),
  /** `from` is plus; gives at most these amperes while the engine runs */
  z.strictObject({ kind: z.literal('charger'), ...base, volts: positive, ohms: positive, idleA: nonNegative, workingA: nonNegative }),
  /** a reducer: takes from `from`, gives at `out`, both above `to`; asleep until its trigger is above half of its input */
  z.strictObject({
    kind: z.literal('supply'),
    ...base,
    out: HarnessId,
    trigger: HarnessId.nullable(),
    volts: positive,
    ohms: positive,
    limitA: positive,
    efficiency: z.number().gt(0).max(1),
    cutoffV: positive.nullable(),
    asleepV: nonNegative,
  }),
]);
export type HarnessElement = z.infer<typeof HarnessElement>;
export type HarnessWire = Extract<HarnessElement, { kind: 'wire' }>;
export type HarnessFuse = Extract<HarnessElement, { kind: 'fuse' }>;

export const HarnessControl = z.strictObject({
  id: HarnessId,
  name: words(80),
  positions: z.array(z.strictObject({ id: Slug, name: words(40) })).min(1),
  momentary: z.boolean(),
  /** what it does, where its id does not say so */
  does: Slug.optional(),
  /** `unit` for what the unit came with */
  of: HarnessId,
  place: Slug.nullable(),
});
export type HarnessControl = z.infer<typeof HarnessControl>;

/** Something wrong with the wiring as described, in the trade's words, at its place. */
export const HarnessProblem = z.strictObject({
  text: words(240),
  node: HarnessId.nullable(),
  place: Slug.nullable(),
  circuit: HarnessId.nullable(),
});
export type HarnessProblem = z.infer<typeof HarnessProblem>;

/** The whole added wiring of a unit as a network that can be switched on. */
export const Harness = z
  .strictObject({
    unit: words(120),
    nodes: z.array(HarnessNode).max(2000),
    elements: z.array(HarnessElement).max(4000),
    controls: z.array(HarnessControl).max(100),
    /** circuits that must be dead with the key off */
    keyed: z.array(HarnessId).max(400).default([]),
    problems: z.array(HarnessProblem).max(400).default([]),
  })
  .superRefine((h, ctx) => {
    const nodes = new Set(h.nodes.map((n) => n.id));
    const coils = new Set(h.elements.flatMap((e) => (e.kind === 'coil' ? [e.id] : [])));
    const controls = new Map(h.controls.map((c) => [c.id, new Set(c.positions.map((p) => p.id))]));
    if (!nodes.has('bat-'))
      ctx.addIssue({ code: 'custom', path: ['nodes'], message: 'a harness needs the node “bat-” that volts are counted from' });
    const seen = new Set<string>();
    h.elements.forEach((e, i) => {
      if (seen.has(e.id)) ctx.addIssue({ code: 'custom', path: ['elements', i, 'id'], message: `“${e.id}” is there twice` });
      seen.add(e.id);
      const ends: [string, string | null][] = [
        ['from', e.from],
        ['to', e.to],
        ...(e.kind === 'supply'
          ? ([
              ['out', e.out],
              ['trigger', e.trigger],
            ] as [string, string | null][])
          : []),
      ];
      for (const [key, end] of ends)
        if (end !== null && !nodes.has(end))
          ctx.addIssue({ code: 'custom', path: ['elements', i, key], message: `ends at “${end}”, which is not a node` });
      if (e.from === e.to) ctx.addIssue({ code: 'custom', path: ['elements', i, 'to'], message: 'both ends are the same point' });
      if (e.kind === 'contact')
        e.when.forEach((w, k) => {
          if ('coil' in w && !coils.has(w.coil))
            ctx.addIssue({ code: 'custom', path: ['elements', i, 'when', k], message: `asks for coil “${w.coil}”, which is not here` });
          if ('control' in w) {
            const has = controls.get(w.control);
            const lost = has ? w.in.find((p) => !has.has(p)) : undefined;
            if (!has)
              ctx.addIssue({
                code: 'custom',
                path: ['elements', i, 'when', k],
                message: `asks for the switch “${w.control}”, which is not here`,
              });
            else if (lost)
              ctx.addIssue({
                code: 'custom',
                path: ['elements', i, 'when', k],
                message: `asks for position “${lost}”, which the switch does not have`,
              });
          }
        });
    });
  });
export type Harness = z.infer<typeof Harness>;

/** The file that a harness is saved in and read back from. */
export const HarnessFile = z.strictObject({ kadro: z.literal('harness'), format: z.literal(1), harness: Harness });
