import { z } from 'zod';
import { EquipmentFunction, LightColour, nonNegative, positive, Slug, words } from './common';

/** A point of the unit's frame, millimetres: x forward, y to the unit's left, z up from the ground or the water. */
export const Point = z.strictObject({ x: z.number(), y: z.number(), z: z.number() });
export type Point = z.infer<typeof Point>;

/** What a lamp shows and how: for a device of a kit, equipment of a model, or something already fitted. */
export const lampFields = {
  /** candela in its direction of use */
  candela: positive.max(1e6).optional(),
  /** the arc it is seen over, degrees clockwise from dead ahead, such as [-112.5, 0] for a port sidelight */
  arcDeg: z.tuple([z.number().min(-360).max(360), z.number().min(-360).max(360)]).optional(),
  /** width and height of what lights, millimetres */
  litMm: z.strictObject({ w: positive.max(3000), h: positive.max(1000) }).optional(),
  /** watts, where they are not those of the device's load: for the flasher's reckoning */
  lampW: nonNegative.max(500).optional(),
  /** pieces that this stands for, such as the belts of every seat; left out, one */
  pieces: z.number().int().min(1).max(60).optional(),
};

/** A hole that a device is put in or through, as its maker gives it: the cut-out, its bolts, and what goes in the edge. */
export const Mount = z.strictObject({
  cut: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('round'), mm: positive.max(400) }),
    z.strictObject({ kind: z.literal('rect'), w: positive.max(600), h: positive.max(400), r: nonNegative.max(200).default(0) }),
    /** bolts alone */
    z.strictObject({ kind: z.literal('none') }),
  ]),
  /** the part's own outline, which must cover the cut-out, millimetres */
  bezel: z.strictObject({ w: positive.max(3000), h: positive.max(1000) }).optional(),
  /** bolt holes from the centre, right and up as seen from outside on the unit's left side, millimetres */
  bolts: z
    .array(z.strictObject({ right: z.number().min(-1500).max(1500), up: z.number().min(-600).max(600), mm: positive.max(60) }))
    .max(24)
    .default([]),
  /** left and right are not the same part turned round: on the unit's right its sheet is flipped over */
  handed: z.boolean().optional(),
  grommet: words(80).optional(),
  note: words(200).optional(),
});
export type Mount = z.infer<typeof Mount>;

/** How a flasher keeps its beat: by a clock, by the amperes it feels, or by a strip that heats. */
export const Flasher = z.strictObject({
  name: words(60).default('Flasher'),
  kind: z.enum(['fixed', 'load-sensing', 'thermal']),
  /** flashes a minute with the lamps it was made for */
  perMinute: positive.max(300).default(85),
  onSharePct: positive.max(99).default(50),
  /** watts of one side that it was made for */
  ratedW: positive.max(500).default(42),
  /** a load-sensing one takes less than this, watts, for a dead lamp and hurries */
  leastW: positive.max(500).optional(),
});
export type Flasher = z.infer<typeof Flasher>;

/** Something solid that hides a light behind it: a box along the unit's axes, or a round bar from one point to another. */
export const Obstacle = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('box'), id: Slug, name: words(60), from: Point, to: Point }),
  z.strictObject({ kind: z.literal('bar'), id: Slug, name: words(60), from: Point, to: Point, mm: positive.max(2000) }),
]);
export type Obstacle = z.infer<typeof Obstacle>;

/** Which lamp is meant: `KIT/DEVICE`, `factory/EQUIPMENT`, `fitted/ITEM` or `added/ID`. */
export const LampId = z.string().regex(/^[a-z0-9-]+\/[a-z0-9-]+$/, 'write KIT/DEVICE, factory/ID, fitted/ID or added/ID');

/** A lamp, reflector or mirror put on one order beyond what its kits bring. */
export const AddedLamp = z.strictObject({
  id: Slug,
  name: words(80),
  function: EquipmentFunction,
  colour: LightColour.optional(),
  at: Point,
  /** a device of a kit that it is like: the same lamp once more, wired beside it. Without it, something that takes no current */
  like: LampId.nullable(),
});
export type AddedLamp = z.infer<typeof AddedLamp>;

/** Functions that shine by current; the rest reflect, guard or show. */
export const LIT_FUNCTIONS: readonly EquipmentFunction[] = [
  'headlamp',
  'main-beam',
  'position',
  'tail',
  'stop',
  'turn-front',
  'turn-rear',
  'plate',
  'high-beam-indicator',
  'turn-indicator',
  'sidelight-port',
  'sidelight-starboard',
  'masthead',
  'stern',
  'all-round',
  'auxiliary-lamp',
  'work-lamp',
  'docking-lamp',
  'dome',
];
