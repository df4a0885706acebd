import { z } from 'zod';
import { Awg, nonNegative, positive, Slug, WireColour, words } from './common';

/** What a wire of the unit, or a terminal of a kit, carries: the words by which another kit asks to be joined to it. */
export const WireFunction = z.enum([
  'key',
  'tail',
  'stop',
  'turn-left',
  'turn-right',
  'low-beam',
  'high-beam',
  'horn',
  'reverse',
  /** wakes with the unit’s own modules */
  'data',
  'winch-feed',
  'winch-in',
  'winch-out',
]);
export type WireFunction = z.infer<typeof WireFunction>;

/**
 * When a contact is closed: `turn:left|hazard` a control in one of those positions, `@coil` a coil of the same device
 * pulled in, `!@coil` that coil at rest, `beat` while a flasher is on. A control is the device's own, or the unit's.
 */
export const Condition = z
  .string()
  .regex(
    /^(beat|!?@[a-z0-9-]+|[a-z0-9-]+:[a-z0-9-]+(\|[a-z0-9-]+)*)$/,
    'write a control and its positions (turn:left|hazard), a coil (@coil, !@coil), or beat',
  );

/** What a contact may make and break for good: amperes, at volts up to these. */
export const ContactRating = z.strictObject({ amps: positive.max(5000), volts: positive.max(1500) });
export type ContactRating = z.infer<typeof ContactRating>;

/** Class of a wire's insulation, °C of its conductor. */
export const Insulation = z.literal([60, 75, 80, 90, 105, 125]);
export type Insulation = z.infer<typeof Insulation>;
/** Conductors by American wire gauge, or the thinner ones of SAE J1128 under the same numbers. */
export const Conductor = z.enum(['awg', 'sae']);
export type Conductor = z.infer<typeof Conductor>;

/** Something to turn, press or throw. The first position is the one at rest. */
export const Control = z.strictObject({
  id: Slug,
  name: words(60),
  positions: z.array(z.strictObject({ id: Slug, name: words(40) })).max(12),
  /** what it does, where its id does not say so: `lights`, `brake`, `turn`, `hazard`, `beam`, `horn`, `nav` */
  does: Slug.optional(),
  /** springs back when let go */
  momentary: z.boolean().default(false),
});
export type Control = z.infer<typeof Control>;

/** A place on a device where a wire is joined. */
export const Terminal = z.strictObject({
  id: Slug,
  name: words(40).optional(),
  colour: WireColour.optional(),
  awg: Awg.optional(),
  /** the lead that the device comes with */
  leadMm: nonNegative.optional(),
  end: words(40).optional(),
  /** what another kit finds here */
  gives: WireFunction.optional(),
});
export type Terminal = z.infer<typeof Terminal>;

const ends = { from: Slug, to: Slug };
export const LoadLawName = z.enum(['constant-power', 'constant-current', 'filament', 'resistor']);

/** What is inside a device, between its terminals. */
export const Part = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('load'),
    ...ends,
    /** share of the device's watts; 1 for all */
    share: z.number().gt(0).max(1).default(1),
    /** watts of its own, where they are not the device's, such as a lamp in a switch */
    watts: nonNegative.optional(),
    law: LoadLawName.default('constant-power'),
    minVolts: positive.default(8),
  }),
  z.strictObject({
    kind: z.literal('contact'),
    ...ends,
    when: z.array(Condition).max(4),
    /** what its maker rates it for; left out, a 12 V accessory switch is taken */
    rated: ContactRating.optional(),
  }),
  z.strictObject({ kind: z.literal('coil'), id: Slug, ...ends, ohms: positive, pullInV: positive, dropOutV: positive }),
  z.strictObject({ kind: z.literal('diode'), ...ends, volts: positive.default(0.7) }),
  z.strictObject({ kind: z.literal('resistor'), ...ends, ohms: positive }),
  z.strictObject({ kind: z.literal('fuse'), ...ends, ratingA: positive }),
]);
export type Part = z.infer<typeof Part>;

/** One end of a kit's lead: the circuit's fused feed, ground, a wire of the unit by what it does, or a device's terminal. */
export const LeadEnd = z
  .string()
  .regex(/^(ground|feed:[a-z0-9-]+|wire:[a-z-]+|[a-z0-9-]+\.[a-z0-9-]+)$/, 'write feed:CIRCUIT, ground, wire:FUNCTION or DEVICE.TERMINAL');

/** A lead of a kit, from where power comes to where it goes. */
export const Lead = z.strictObject({
  from: LeadEnd,
  to: LeadEnd,
  colour: WireColour,
  /** the gauge it comes in; left out, Kadro sizes it */
  awg: Awg.optional(),
  /** carries a signal to a coil or a module, not a load */
  signal: z.boolean().default(false),
  /** current may run either way in it, as to a motor that turns both ways */
  bothWays: z.boolean().default(false),
  /** colour of the unit's wire that it is joined to */
  unitColour: WireColour.optional(),
  /** terminals at both ends, from and to */
  ends: z.tuple([words(40), words(40)]).optional(),
  /** under which choice of a variant it is there, as `VARIANT:OPTION` */
  when: z
    .string()
    .regex(/^[a-z0-9-]+:[a-z0-9-]+$/, 'write VARIANT:OPTION')
    .optional(),
});
export type Lead = z.infer<typeof Lead>;
