import { z } from 'zod';
import {
  Chemistry,
  coordinateMm,
  EquipmentFunction,
  LightColour,
  nonNegative,
  positive,
  sizeMm,
  Slug,
  UnitKind,
  WireColour,
  words,
} from './common';
import { Connector } from './box';
import { BuildValue, Known, Pointer } from './known';
import { PhotoId } from './photo';
import { Flasher, lampFields, Obstacle } from './lamp';
import { Condition, LoadLawName, WireFunction } from './parts';

/** A named point in the unit's frame: x forward, y to the unit's left, z up from the ground, millimetres. */
export const Place = z.strictObject({
  id: Slug,
  name: words(80),
  x: coordinateMm,
  y: coordinateMm,
  z: coordinateMm,
  wet: z.boolean().default(false),
  /** a closed space in which fuel vapour may gather */
  space: z.enum(['engine', 'tank']).optional(),
});
export type Place = z.infer<typeof Place>;

export const Hazard = z.enum(['heat', 'moving', 'steering', 'pinch', 'wet', 'sharp']);
export type Hazard = z.infer<typeof Hazard>;

/** A way along which wires are laid, between two places. Without a measured length it is taken from the places. */
export const Run = z.strictObject({ from: Slug, to: Slug, lengthMm: sizeMm.optional(), hazards: z.array(Hazard).default([]) });
export type Run = z.infer<typeof Run>;

export const PowerPointKind = z.enum([
  'battery-post',
  'bus-bar-stud',
  'fuse-box-screw',
  'accessory-port',
  'socket-plug',
  'solenoid-post',
  'key-wire',
  'reducer-output',
  'pack-tap',
  'switch-panel',
  'manager-channel',
  'factory-wire',
  'switch-position',
]);
export type PowerPointKind = z.infer<typeof PowerPointKind>;

/**
 * Somewhere current may be taken from. `fuseA` is the fuse that already guards it (absent: none, the new circuit
 * brings its own), `usedA` what is already drawn through that fuse, `volts` the nominal volts found there.
 */
export const PowerPoint = z.strictObject({
  id: Slug,
  name: words(80),
  place: Slug,
  kind: PowerPointKind,
  switching: z.enum(['constant', 'keyed']),
  volts: positive,
  fuseA: positive.optional(),
  usedA: nonNegative.default(0),
  limitA: positive.optional(),
  /** connector family of its plug */
  plug: words(60).optional(),
  /** what it is, by what decides whether a kit's plug goes into it */
  connector: Connector.optional(),
  /** the plug's cavities, in order, seen from the wire side */
  pins: z
    .array(
      z.strictObject({
        pin: words(8),
        colour: WireColour.optional(),
        use: words(60),
        /** what a kit’s plug finds there */
        carries: z.enum(['feed', 'ground']).optional(),
      }),
    )
    .max(24)
    .default([]),
  /** resistance of the unit's own wire that feeds it */
  ohms: nonNegative.default(0.01),
  note: words(200).optional(),
});
export type PowerPoint = z.infer<typeof PowerPoint>;

/** Where a return wire may end. */
export const GroundPoint = z.strictObject({
  id: Slug,
  name: words(80),
  place: Slug,
  /** resistance back to the battery's negative post */
  ohms: nonNegative.default(0.002),
});
export type GroundPoint = z.infer<typeof GroundPoint>;

/** A wire that the unit left the factory with and that a kit may be joined to. */
export const FactoryWire = z.strictObject({
  id: Slug,
  name: words(80),
  function: WireFunction,
  colour: WireColour,
  place: Slug,
  volts: positive,
  fuseA: positive.optional(),
  usedA: nonNegative.default(0),
  /** its own plug: what is joined to it goes in there, and nothing is cut */
  connector: Connector.optional(),
  /** it leads to something that draws so many watts, and is live when what is joined to it is */
  takesW: positive.max(5000).optional(),
  /** all must hold for it to be live; `key`, `engine`, `lights`, `brake`, `turn`, `hazard`, `beam`, `gear`, `horn` are the unit's own controls */
  live: z.array(Condition).max(4),
});
export type FactoryWire = z.infer<typeof FactoryWire>;

export const Panel = z.strictObject({
  id: Slug,
  name: words(60),
  after: z.array(Slug).default([]),
  hides: z.array(Slug).default([]),
  offMinutes: nonNegative,
  onMinutes: nonNegative,
  fasteners: z.array(z.strictObject({ kind: words(40), count: z.number().int().positive().max(999), tool: words(40) })).default([]),
  hands: z.union([z.literal(1), z.literal(2)]).default(1),
});
export type Panel = z.infer<typeof Panel>;

/** Equipment the unit left the factory with. `present` is `unknown` where it depends on how it was ordered. */
export const Equipment = z.strictObject({
  id: Slug,
  name: words(80),
  function: EquipmentFunction,
  colour: LightColour.optional(),
  place: Slug.optional(),
  present: z.enum(['yes', 'unknown']).default('yes'),
  ...lampFields,
  /** all must hold for it to be lit, by the unit's own controls; left out, the factory wire of its function says so */
  lit: z.array(Condition).max(4).optional(),
});
export type Equipment = z.infer<typeof Equipment>;

/** A point of a source's output curve: engine speed in rpm, output in amperes at the regulated volts. */
const CurvePoint = z.tuple([nonNegative, nonNegative]);

export const Source = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.enum(['stator', 'alternator', 'outboard']),
    regulatedV: positive,
    idleRpm: positive,
    workingRpm: positive,
    curve: z.array(CurvePoint).min(2, 'a curve needs at least two points'),
    /** share of its output lost per °C above 25 °C */
    lossPerC: nonNegative.max(0.02).default(0.001),
  }),
  z.strictObject({ kind: z.literal('none') }),
]);
export type Source = z.infer<typeof Source>;

export const BatteryBank = z.strictObject({
  name: words(60),
  chemistry: Chemistry,
  /** batteries in series */
  count: z.number().int().positive().max(999),
  voltsEach: positive,
  capacityAh: positive,
  ratedHours: positive.default(20),
  peukert: z.number().min(1, 'Peukert’s exponent is at least 1').max(1.6),
  /** made to be emptied far, as those of carts are: flooded ones then stand at other volts than a starter's */
  deepCycle: z.boolean().default(false),
  place: Slug,
  /** of the whole bank; left out, it is taken from the cranking rating, or from capacity and kind */
  innerOhms: positive.optional(),
  /** cold cranking amperes (SAE J537) */
  cca: positive.max(5000).optional(),
});
export type BatteryBank = z.infer<typeof BatteryBank>;

/** What the starter takes, and the volts under which it or the engine's electronics give up. */
export const Crank = z.strictObject({ amps: positive.max(3000), seconds: positive.max(30).default(2), leastVolts: positive.default(9.6) });

/** A battery of its own for what runs with the engine off, and how charge reaches it. */
export const HouseBattery = z.strictObject({
  battery: BatteryBank,
  join: z.enum(['isolator', 'relay']),
  /** power points that it feeds */
  feeds: z.array(Slug).max(20),
});

/** A stronger source that the maker, or a trade house, sells for this model. */
export const SourceUpgrade = z.strictObject({
  id: Slug,
  name: words(80),
  curve: z.array(CurvePoint).min(2, 'a curve needs at least two points').max(20),
  cost: nonNegative,
  minutes: nonNegative,
});

/** What is wrong with an output curve: the point and why; null for a sound one. */
export function curveProblem(curve: readonly (readonly [number, number])[]): { at: number; message: string } | null {
  for (let i = 1; i < curve.length; i++) {
    if (curve[i]![0] <= curve[i - 1]![0]) return { at: i, message: 'engine speed must rise from point to point' };
    if (curve[i]![1] < curve[i - 1]![1]) return { at: i, message: 'output falls back as engine speed rises' };
  }
  return null;
}

/** No battery of these kinds is charged at more than so many times its nominal volts. Makers' sheets, from memory. */
export const MOST_CHARGING = 1.5;

/** Shapes that units of one kind come in: boats stand on tubes or have a hull, motorcycles are built for different ways. */
export const BodyShape = z.enum(['pontoon', 'open-hull', 'console', 'road', 'touring', 'scooter', 'trail']);
export type BodyShape = z.infer<typeof BodyShape>;

/** The four sides that a unit is drawn from. */
export const ViewName = z.enum(['side', 'top', 'front', 'rear']);
export type ViewName = z.infer<typeof ViewName>;

/** A photograph as it lies behind a view, straightened: its upper left corner and its size, millimetres of the view. */
const BehindView = z.strictObject({
  photo: PhotoId,
  box: z.strictObject({ x: z.number(), y: z.number(), w: positive.max(100_000), h: positive.max(100_000) }),
});

export const UnitModel = z
  .strictObject({
    id: Slug,
    maker: words(60),
    name: words(60),
    kind: UnitKind,
    /** what its kind comes as where that decides how it looks; left out: the first */
    body: BodyShape.optional(),
    years: z.strictObject({ from: z.number().int().min(1900).max(2101), to: z.number().int().min(1900).max(2101) }),
    builds: z
      .array(
        z.strictObject({
          id: Slug,
          name: words(60),
          note: words(300).optional(),
          /** figures that are otherwise on this build, by pointer */
          values: z.record(Pointer, BuildValue).optional(),
        }),
      )
      .min(1, 'at least one build'),
    identity: z.enum(['vin', 'hin', 'maker']),
    meter: z.enum(['hours', 'distance']),
    dims: z.strictObject({
      lengthMm: sizeMm,
      widthMm: sizeMm,
      heightMm: sizeMm,
      /** axle to axle; 0 for a boat */
      wheelbaseMm: nonNegative.max(50_000, 'longer than any unit here'),
      /** wheel diameter, or pontoon diameter on a boat */
      wheelMm: sizeMm,
      /** from the rear end of the body to the frame's origin */
      rearOverhangMm: nonNegative.max(50_000, 'longer than any unit here'),
      seats: z.number().int().min(1).max(20),
      cab: z.enum(['none', 'roof', 'full']),
    }),
    massKg: positive,
    /** share of its mass, empty, that stands on the rear axle */
    rearShare: z.number().gt(0).lt(1).optional(),
    gvwrKg: positive.optional(),
    topSpeedKmh: positive.optional(),
    electrical: z.strictObject({
      systemV: positive,
      source: Source,
      battery: BatteryBank,
      ownLoads: z.array(
        z.strictObject({
          id: Slug,
          name: words(60),
          idleW: nonNegative,
          workingW: nonNegative,
          /** with the key on and the engine off */
          keyW: nonNegative.default(0),
          law: LoadLawName.default('constant-power'),
          /** filament lamps that can be had as LED: watts, price and minutes of the change */
          led: z.strictObject({ watts: positive, cost: nonNegative, minutes: nonNegative }).optional(),
        }),
      ),
      parkedMa: nonNegative,
      crank: Crank.optional(),
      house: HouseBattery.optional(),
      /** driving on the pack */
      drive: z.strictObject({ whPerKm: positive, kmh: positive }).optional(),
      /** charging at the wall */
      wall: z.strictObject({ amps: positive, volts: positive }).optional(),
      sourceUpgrades: z.array(SourceUpgrade).max(6).default([]),
      /** the fastest idle that the maker allows */
      idleMaxRpm: positive.optional(),
    }),
    places: z.array(Place).min(1),
    runs: z.array(Run),
    powerPoints: z.array(PowerPoint).min(1),
    grounds: z.array(GroundPoint).max(20).default([]),
    factoryWires: z.array(FactoryWire).max(60).default([]),
    panels: z.array(Panel),
    equipment: z.array(Equipment),
    /** the signal flasher it came with */
    flasher: Flasher.optional(),
    /** what may hide a light: frame, canopy, posts, tower, motor, people in their seats */
    obstacles: z.array(Obstacle).max(80).default([]),
    rulePacks: z.array(Slug),
    /** photographs behind its drawing */
    pictures: z.partialRecord(ViewName, BehindView).optional(),
    /** how its values are known, by pointer; a value without an entry is the maker’s */
    known: z.record(Pointer, Known).default({}),
  })
  .superRefine((m, ctx) => {
    const places = new Set(m.places.map((p) => p.id));
    const panels = new Set(m.panels.map((p) => p.id));
    const miss = (path: (string | number)[], what: string) =>
      ctx.addIssue({ code: 'custom', path, message: `names ${what}, which this model does not have` });
    m.places.forEach((p, i) => {
      if (m.places.findIndex((q) => q.id === p.id) !== i)
        ctx.addIssue({ code: 'custom', path: ['places', i, 'id'], message: `place “${p.id}” is there twice` });
    });
    m.runs.forEach((r, i) => {
      for (const end of ['from', 'to'] as const) if (!places.has(r[end])) miss(['runs', i, end], `place “${r[end]}”`);
    });
    m.powerPoints.forEach((p, i) => {
      if (!places.has(p.place)) miss(['powerPoints', i, 'place'], `place “${p.place}”`);
    });
    m.grounds.forEach((g, i) => {
      if (!places.has(g.place)) miss(['grounds', i, 'place'], `place “${g.place}”`);
    });
    m.factoryWires.forEach((w, i) => {
      if (!places.has(w.place)) miss(['factoryWires', i, 'place'], `place “${w.place}”`);
    });
    m.equipment.forEach((e, i) => {
      if (e.place && !places.has(e.place)) miss(['equipment', i, 'place'], `place “${e.place}”`);
    });
    m.panels.forEach((p, i) => {
      p.hides.forEach((h, k) => places.has(h) || miss(['panels', i, 'hides', k], `place “${h}”`));
      p.after.forEach((a, k) => panels.has(a) || miss(['panels', i, 'after', k], `panel “${a}”`));
    });
    if (!places.has(m.electrical.battery.place)) miss(['electrical', 'battery', 'place'], `place “${m.electrical.battery.place}”`);
    if (m.years.to < m.years.from) ctx.addIssue({ code: 'custom', path: ['years', 'to'], message: 'ends before it begins' });
    const curves: [(string | number)[], [number, number][]][] = [
      ...(m.electrical.source.kind === 'none' ? [] : [[['source', 'curve'], m.electrical.source.curve] as [string[], [number, number][]]]),
      ...m.electrical.sourceUpgrades.map((u, i): [(string | number)[], [number, number][]] => [['sourceUpgrades', i, 'curve'], u.curve]),
    ];
    for (const [path, curve] of curves) {
      const wrong = curveProblem(curve);
      if (wrong) ctx.addIssue({ code: 'custom', path: ['electrical', ...path, wrong.at], message: wrong.message });
    }
    const { battery, systemV, source, wall } = m.electrical;
    const bankV = battery.count * battery.voltsEach;
    const above = (path: (string | number)[], volts: number, what: string) => {
      if (volts > bankV * MOST_CHARGING)
        ctx.addIssue({
          code: 'custom',
          path: ['electrical', ...path],
          message: `${what} of ${volts} V on a battery of ${bankV} V would boil or burn it`,
        });
    };
    if (source.kind !== 'none') above(['source', 'regulatedV'], source.regulatedV, 'a regulator');
    if (wall) above(['wall', 'volts'], wall.volts, 'a charger');
    if (Math.abs(systemV - bankV) > bankV * 0.25)
      ctx.addIssue({
        code: 'custom',
        path: ['electrical', 'systemV'],
        message: `${systemV} V, but ${battery.count} × ${battery.voltsEach} V make ${bankV} V`,
      });
    const points = new Set(m.powerPoints.map((p) => p.id));
    m.electrical.house?.feeds.forEach((f, i) => {
      if (!points.has(f))
        ctx.addIssue({
          code: 'custom',
          path: ['electrical', 'house', 'feeds', i],
          message: `names power point “${f}”, which this model does not have`,
        });
    });
  });
export type UnitModel = z.infer<typeof UnitModel>;
