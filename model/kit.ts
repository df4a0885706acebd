import { z } from 'zod';
import { BoxHarness, BoxJoin, Connector, mates, pairsOf, sayConnector, targetsOf } from './box';
import { Awg, EquipmentFunction, LightColour, nonNegative, positive, Slug, UnitKind, WireColour, words } from './common';
import { Flasher, lampFields, Mount } from './lamp';
import { Control, Lead, LoadLawName, Part, Terminal, WireFunction } from './parts';
import { OWN_KIT } from './own';
import { PhotoId } from './photo';
import { PowerPointKind } from './unit-model';

/** What a load is for: it says when an owner has it on. */
export const LoadUse = z.enum(['lamp', 'heat', 'audio', 'winch', 'pump', 'signal', 'electronics']);
export type LoadUse = z.infer<typeof LoadUse>;

/** A winch by its sheet: rated pull on the first layer, drum and rope, and its motor's amperes at none and at rated pull. */
export const WinchSpec = z.strictObject({
  ratedN: positive.max(500_000),
  noLoadA: positive.max(2000),
  ratedA: positive.max(2000),
  /** line speed on the first layer, metres a minute, at none and at rated pull */
  noLoadMPerMin: positive.max(60),
  ratedMPerMin: positive.max(60),
  drumDiameterMm: positive.max(1000),
  drumWidthMm: positive.max(2000),
  ropeDiameterMm: positive.max(50),
  ropeLengthM: positive.max(200),
});
export type WinchSpec = z.infer<typeof WinchSpec>;

/** An amplifier by its sheet, with the sensitivity of one of its speakers, dB at 1 W and 1 m. */
export const AudioSpec = z.strictObject({
  ratedW: positive.max(5000),
  efficiency: z.number().gt(0).max(1),
  sensitivityDb: z.number().min(50).max(120).optional(),
});
export type AudioSpec = z.infer<typeof AudioSpec>;

/** How a device draws. `watts` null means the maker does not say: verdicts that need it are *not known*. */
export const Load = z.strictObject({
  watts: nonNegative.nullable(),
  volts: positive.default(12),
  kind: z.enum(['continuous', 'intermittent', 'burst']),
  /** share of the time a continuous load is really on or drawing its full watts */
  share: z.number().min(0).max(1).default(1),
  /** used with the engine off, such as lamps at anchor or music at a stop */
  engineOff: z.boolean().default(false),
  /** how its amperes follow its volts */
  law: LoadLawName.default('constant-power'),
  /** the least volts at which it works; below them it is judged not to */
  leastVolts: positive.optional(),
  /** what it takes as it is switched on: times its amperes, for seconds */
  inrush: z.strictObject({ times: z.number().min(1).max(20), seconds: positive.max(5) }).optional(),
  /** the longest that a burst lasts */
  burstSeconds: positive.max(600).default(30),
  use: LoadUse.optional(),
  /** settings that the owner may choose, as shares of the watts, such as those of heated grips */
  settings: z
    .array(z.strictObject({ name: words(40), share: z.number().gt(0).max(1) }))
    .max(10)
    .default([]),
});
export type Load = z.infer<typeof Load>;

/** Under which choice of a variant something is there, as `VARIANT:OPTION`; left out: always. */
const when = z
  .string()
  .regex(/^[a-z0-9-]+:[a-z0-9-]+$/, 'write VARIANT:OPTION')
  .optional();

export const Device = z.strictObject({
  id: Slug,
  name: words(80),
  place: Slug,
  /** other places where it may stand, such as a contactor’s: Kadro takes the one that the box’s leads reach */
  places: z.array(Slug).max(12).default([]),
  /** it is the unit’s own lamp of this function, at its place, put to another use: nothing is mounted */
  uses: EquipmentFunction.optional(),
  /** the plug that its terminals stand in, by cavity */
  plug: z.strictObject({ ...Connector.shape, pins: z.record(z.string().regex(/^[0-9]{1,2}$/, 'a cavity’s number'), Slug) }).optional(),
  when,
  equipment: z
    .strictObject({
      function: EquipmentFunction,
      colour: LightColour.optional(),
      ...lampFields,
      /** it takes the place of the unit's own lamp of its function on its side */
      replaces: z.boolean().optional(),
    })
    .optional(),
  /** the hole or bolts it is mounted by */
  mount: Mount.optional(),
  flasher: Flasher.optional(),
  load: Load.optional(),
  winch: WinchSpec.optional(),
  audio: AudioSpec.optional(),
  /** what the same light costs as LED, for a device with filament lamps */
  led: z.strictObject({ watts: positive, cost: nonNegative, minutes: nonNegative }).optional(),
  standbyMa: nonNegative.default(0),
  massKg: nonNegative.default(0),
  /** left out, a device that draws has a plus and a minus with its load between */
  terminals: z.array(Terminal).max(24).default([]),
  inside: z.array(Part).max(40).default([]),
  controls: z.array(Control).max(8).default([]),
});
export type Device = z.infer<typeof Device>;

/** What a device that draws has where its sheet says nothing of terminals. */
const USUAL_TERMINALS = ['plus', 'minus'];

/** Points inside a device that more than one of its parts is joined to. */
function innerPoints(d: Device): Set<string> {
  const ends = d.inside.flatMap((p) => [p.from, p.to]);
  return new Set(ends.filter((e) => ends.indexOf(e) !== ends.lastIndexOf(e)));
}

export const Joint = z.enum(['crimp-shrink', 'crimp-solder', 'solder-sleeve', 'piercing-tap', 'factory-plug', 'ring']);
export type Joint = z.infer<typeof Joint>;

/** One feed with its wire, fuse and devices. */
export const Circuit = z.strictObject({
  id: Slug,
  name: words(80),
  devices: z.array(Slug).min(1),
  /** `either`: works on both; keyed is better while it stands parked */
  switching: z.enum(['keyed', 'constant', 'either']),
  relay: z.enum(['required', 'allowed', 'never']).default('allowed'),
  /** only these kinds of power point are right, such as a battery post for a winch */
  only: z.array(PowerPointKind).optional(),
  /** the supply a kit makes, such as a reducer: the circuit is its input and this its output */
  makes: z
    .strictObject({
      id: Slug,
      name: words(80),
      place: Slug,
      volts: positive,
      ratedA: positive,
      efficiency: z.number().gt(0).max(1),
      /** input volts under which it shuts itself off */
      cutoffV: positive.optional(),
      /** what a meter shows at its output while its trigger is not connected */
      asleepV: nonNegative.default(0),
      /** a power manager has several switched channels, each with a limit of its own */
      channels: z.strictObject({ count: z.number().int().min(1).max(12), amps: positive }).optional(),
    })
    .optional(),
  /** the switch that works it: in the line itself, or in the trigger of a relay */
  switch: z.strictObject({ device: Slug, in: Slug, out: Slug }).optional(),
  /** joined to wires of the unit, or of another kit, that do this, instead of a feed of its own */
  taps: z.array(WireFunction).max(4).optional(),
  volts: positive.default(12),
  dropPct: z.number().gt(0).max(20).default(10),
  awgMin: Awg.default(18),
  fuseMaxA: positive.optional(),
  colour: WireColour,
  unitColour: WireColour.optional(),
  joint: Joint.default('crimp-shrink'),
  terminal: words(60).default('ring'),
  when,
});
export type Circuit = z.infer<typeof Circuit>;

export const ReadingUnit = z.enum(['V', 'A', 'ohm', 'mm', 'N', 'Nm', 'C', 'min', 'perMin', 'yes']);
export type ReadingUnit = z.infer<typeof ReadingUnit>;

/**
 * What a kit's step wants read. `expect` is a plain band, a yes, or a word for a band Kadro works out from the unit:
 * `supply` (volts at the device with the engine running), `rest` (battery volts at rest), `charging` (volts at idle, all on).
 */
/**
 * What a yes-or-no reading sees of the kit's devices, so that a failing one can be traced through the wiring: those that must
 * work and those that must not, with the key and switches so, as `key:run` or `device#switch:position`. Without `when`:
 * however the first of them is switched on.
 */
export const Sees = z.strictObject({
  lit: z.array(Slug).max(40).default([]),
  dark: z.array(Slug).max(40).default([]),
  when: z.array(words(80)).max(20).default([]),
});
export type Sees = z.infer<typeof Sees>;

/** A figure of a reading's band. */
const reading = z.number().min(-100_000).max(100_000);

export const StepReading = z.strictObject({
  id: Slug,
  label: words(120),
  unit: ReadingUnit,
  expect: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('band'), low: reading, high: reading }),
    z.strictObject({ kind: z.literal('yes') }),
    z.strictObject({ kind: z.enum(['supply', 'rest', 'charging']) }),
  ]),
  sees: Sees.optional(),
});
export type StepReading = z.infer<typeof StepReading>;

export const Stage = z.enum(['bench-test', 'mount', 'wire', 'prove', 'close']);
export type Stage = z.infer<typeof Stage>;

export const KitStep = z.strictObject({
  id: Slug,
  stage: Stage,
  title: words(120),
  text: words(600),
  /** why it is done, for who has not done it before */
  why: words(240).optional(),
  /** what it looks like */
  picture: PhotoId.optional(),
  place: Slug,
  /** other places that must be reachable too */
  reach: z.array(Slug).default([]),
  tool: words(120).optional(),
  slideOnFirst: z.array(words(60)).default([]),
  cautions: z.array(words(200)).default([]),
  minutes: positive.max(10_000),
  hands: z.union([z.literal(1), z.literal(2)]).default(1),
  readings: z.array(StepReading).default([]),
  /** devices that are mounted by it */
  mounts: z.array(Slug).max(40).default([]),
  /** things of the box that it uses: their torque, thread-locker, cleaning and press time stand at it */
  uses: z.array(Slug).max(40).default([]),
  when,
});
export type KitStep = z.infer<typeof KitStep>;

/** One rule of fit. The first rule that matches a unit decides; a kit with no matching rule does not fit. */
export const Fit = z.strictObject({
  models: z.array(Slug).optional(),
  kinds: z.array(UnitKind).optional(),
  years: z.strictObject({ from: z.number().int(), to: z.number().int() }).optional(),
  builds: z.array(Slug).optional(),
  fits: z.boolean().default(true),
  mount: words(200).optional(),
  note: words(400).optional(),
});
export type Fit = z.infer<typeof Fit>;

/** A piece of the box. */
export const Content = z.strictObject({
  /** by which a step names it */
  id: Slug.optional(),
  item: words(80),
  count: z.number().int().positive().max(999),
  /** devices and harnesses that it is */
  of: z.array(Slug).max(40).default([]),
  /** bolts and screws: how tight, with thread-locker or not, and whether they hold a person */
  fastener: z
    .strictObject({
      torqueNm: positive.max(1000).optional(),
      threadLocker: z.boolean().default(false),
      /** a seat belt, a seat, bars: a second person looks at it */
      holdsPerson: z.boolean().default(false),
    })
    .refine((f) => !f.holdsPerson || f.torqueNm !== undefined, 'what holds a person needs its torque')
    .optional(),
  /** tape and glue: what cleans the place, how long it is pressed, how long it cures, and from how warm on */
  pad: z
    .strictObject({
      clean: words(40).default('alcohol'),
      pressS: positive.max(3600),
      cureH: nonNegative.max(240).default(0),
      leastC: z.number().min(-40).max(60).optional(),
      /** steps of this kit that wait until it has cured, beside the test ride */
      before: z.array(Slug).max(20).default([]),
    })
    .optional(),
  when,
});
export type Content = z.infer<typeof Content>;

/** Something that one kit gives others to take: each is taken once. */
export const Provided = z.strictObject({
  id: Slug,
  name: words(80),
  /** the terminal it is found at */
  at: z.string().regex(/^[a-z0-9-]+\.[a-z0-9-]+$/, 'write DEVICE.TERMINAL'),
  kind: z.enum(['accessory-port', 'switch-position', 'manager-channel', 'reducer-output']),
  switching: z.enum(['constant', 'keyed']),
  volts: positive.default(12),
  fuseA: positive.optional(),
  limitA: positive.optional(),
  connector: Connector.optional(),
  /** a cavity of it is the unit’s ground */
  groundPin: z.boolean().default(false),
  when,
});
export type Provided = z.infer<typeof Provided>;

/** What a kit takes off the unit: equipment, by what it is and where, or a piece by its name, such as a cover or an old switch. */
export const TakenOff = z
  .strictObject({
    function: EquipmentFunction.optional(),
    item: words(80).optional(),
    place: Slug.optional(),
    keep: z.enum(['bag', 'discard', 'owner']).default('bag'),
    minutes: positive.max(600).default(2),
    when,
  })
  .refine((t) => (t.function === undefined) !== (t.item === undefined), 'write what it is: a function, or an item by its name');
export type TakenOff = z.infer<typeof TakenOff>;

/** A wire of the unit that a kit cuts, with what becomes of both its sides: neither is forgotten. */
export const FactoryCut = z.strictObject({
  wire: WireFunction,
  /** where it is cut, such as a hand’s breadth before a lamp */
  place: Slug,
  /** the side that comes from the unit: goes to what this kit joins to such a wire, or is capped */
  unitSide: z.enum(['joined', 'capped']),
  /** the side that leads on: a terminal of a device of this kit, as `device.terminal`, or `capped` */
  otherSide: z.string().regex(/^(capped|[a-z0-9-]+\.[a-z0-9-]+)$/, 'write `capped`, or a terminal as `device.terminal`'),
  minutes: positive.max(600).default(2),
  when,
});
export type FactoryCut = z.infer<typeof FactoryCut>;

/** A choice that one box leaves open; the first option is taken until somebody chooses. */
export const Variant = z.strictObject({
  id: Slug,
  name: words(60),
  options: z
    .array(z.strictObject({ id: Slug, name: words(80), note: words(200).optional(), price: nonNegative.optional() }))
    .min(2)
    .max(8),
});
export type Variant = z.infer<typeof Variant>;

/** What a kit’s choices come to: the option of each variant, the first where none is chosen. */
export const chosenOption = (v: Variant, chosen: Readonly<Record<string, string>>): string =>
  v.options.find((o) => o.id === chosen[v.id])?.id ?? v.options[0]!.id;
/** Whether something is there under these choices. */
export const isThere = (
  x: { when?: string | undefined },
  variants: readonly Variant[],
  chosen: Readonly<Record<string, string>>,
): boolean => {
  if (x.when === undefined) return true;
  const [variant, option] = x.when.split(':') as [string, string];
  const v = variants.find((y) => y.id === variant);
  return v === undefined || chosenOption(v, chosen) === option;
};

const KitFields = z.strictObject({
  id: Slug,
  maker: words(60),
  name: words(80),
  summary: words(300),
  wishes: z.array(Slug).default([]),
  fits: z.array(Fit).min(1).max(60),
  needs: z
    .array(
      z.strictObject({
        anyOf: z.array(Slug).min(1),
        when: z.array(UnitKind).optional(),
        models: z.array(Slug).optional(),
        why: words(200),
      }),
    )
    .default([]),
  contents: z.array(Content).max(200),
  /** what must be there besides: neither in the box nor on the unit */
  besides: z
    .array(z.strictObject({ item: words(80), count: z.number().int().positive().max(999), when }))
    .max(40)
    .default([]),
  variants: z.array(Variant).max(8).default([]),
  /** ready harnesses and leads of the box, and where their ends go */
  harnesses: z.array(BoxHarness).max(20).default([]),
  joins: z.array(BoxJoin).max(120).default([]),
  provides: z.array(Provided).max(24).default([]),
  takesOff: z.array(TakenOff).max(24).default([]),
  cuts: z.array(FactoryCut).max(12).default([]),
  devices: z.array(Device).max(100),
  circuits: z.array(Circuit).max(60).default([]),
  /** who is joined to whom; left out, each circuit's feed goes to its devices' plus and their minus to ground */
  leads: z.array(Lead).max(120).default([]),
  steps: z.array(KitStep).max(200).default([]),
  cautions: z.array(words(240)).default([]),
  /** shown to the owner at the end */
  owner: z.array(words(240)).default([]),
});
type KitFields = z.infer<typeof KitFields>;

/** The terminals that a device has under a kit’s circuits: its own, those of a supply, or a plus and a minus. */
export function terminalsOf(k: Pick<KitFields, 'circuits'>, d: Device): string[] {
  if (d.terminals.length) return d.terminals.map((t) => t.id);
  return k.circuits.some((c) => c.makes && c.devices.includes(d.id)) ? ['in', 'minus', 'trigger'] : USUAL_TERMINALS;
}

type Bad = (path: (string | number)[], message: string) => void;

/** What is wrong within a kit as one choice of its variants has it. */
function checkKit(k: KitFields, chosen: Readonly<Record<string, string>>, bad: Bad): void {
  const here = <T extends { when?: string | undefined }>(list: readonly T[]): [T, number][] =>
    list.flatMap((x, i): [T, number][] => (isThere(x, k.variants, chosen) ? [[x, i]] : []));
  const devices = here(k.devices);
  const circuits = here(k.circuits);
  const harnesses = here(k.harnesses);
  const ids = new Set(devices.map(([d]) => d.id));
  const deviceOf = (id: string) => devices.find(([d]) => d.id === id)?.[0];
  const lacks = (what: string) => `names ${what}, which this kit does not have`;
  const terminal = (at: string): string | null => {
    const [id, t] = at.split('.') as [string, string];
    const d = deviceOf(id);
    if (!d) return lacks(`device “${id}”`);
    return terminalsOf(k, d).includes(t) ? null : lacks(`terminal “${t}” of ${d.name}`);
  };
  for (const [c, i] of circuits) {
    c.devices.forEach((d, j) => ids.has(d) || bad(['circuits', i, 'devices', j], lacks(`device “${d}”`)));
    if (!c.switch) continue;
    const device = deviceOf(c.switch.device);
    if (!device) bad(['circuits', i, 'switch', 'device'], lacks(`device “${c.switch.device}”`));
    else
      for (const end of ['in', 'out'] as const)
        if (!device.terminals.some((t) => t.id === c.switch![end]))
          bad(['circuits', i, 'switch', end], `names terminal “${c.switch[end]}”, which ${device.name} does not have`);
  }
  for (const [l, i] of here(k.leads))
    for (const end of ['from', 'to'] as const) {
      const at = l[end];
      if (at.startsWith('feed:')) {
        if (!circuits.some(([c]) => c.id === at.slice(5))) bad(['leads', i, end], lacks(`circuit “${at.slice(5)}”`));
      } else if (at.includes('.')) {
        const wrong = terminal(at);
        if (wrong) bad(['leads', i, end], wrong);
      }
    }
  const joined = new Set<string>();
  for (const [j, i] of here(k.joins)) {
    const h = harnesses.find(([x]) => x.id === j.harness)?.[0];
    const end = h?.ends.find((e) => e.id === j.end);
    if (!h) bad(['joins', i, 'harness'], lacks(`harness “${j.harness}”`));
    else if (!end) bad(['joins', i, 'end'], `names end “${j.end}”, which ${h.name} does not have`);
    else {
      if (joined.has(`${h.id} ${end.id}`)) bad(['joins', i, 'end'], `${end.name} of ${h.name} is joined twice`);
      joined.add(`${h.id} ${end.id}`);
      for (const [wire, to] of pairsOf(j)) {
        if (!end.wires.some((w) => w.wire === wire)) bad(['joins', i, 'to', wire], `no wire “${wire}” ends at ${end.name} of ${h.name}`);
        const circuit = /^(?:feed|trigger):(.*)$/.exec(to)?.[1];
        if (circuit !== undefined) {
          if (!circuits.some(([c]) => c.id === circuit)) bad(['joins', i, 'to', wire], lacks(`circuit “${circuit}”`));
        } else if (to.includes('.')) {
          const wrong = terminal(to);
          if (wrong) bad(['joins', i, 'to', wire], wrong);
        }
      }
      const goes = new Set(pairsOf(j).flatMap(([, t]) => (t.includes('.') ? [t.split('.')[0]!] : [])));
      const [only] = goes;
      const plug = goes.size === 1 ? deviceOf(only!)?.plug : undefined;
      if (plug && end.end.kind === 'connector' && !mates(end.end, plug))
        bad(
          ['joins', i],
          `${end.name} of ${h.name}, ${sayConnector(end.end)}, does not go into ${deviceOf(only!)!.name}, ${sayConnector(plug)}`,
        );
      if (plug && end.end.kind === 'connector')
        for (const w of end.wires) {
          const pin = plug.pins[String(w.cavity)];
          const to = targetsOf(j, w.wire).find((t) => t.includes('.'));
          if (to !== undefined && pin !== to.split('.')[1])
            bad(['joins', i, 'to', w.wire], `is in cavity ${w.cavity}, which is ${pin ? `“${pin}”` : 'empty'} at ${deviceOf(only!)!.name}`);
        }
    }
  }
  for (const [c, i] of here(k.cuts)) {
    const ends = [...here(k.leads).flatMap(([l]) => [l.from, l.to]), ...here(k.joins).flatMap(([j]) => pairsOf(j).map(([, t]) => t))];
    if (c.unitSide === 'joined' && !ends.includes(`wire:${c.wire}`))
      bad(['cuts', i, 'unitSide'], `is joined to nothing: no lead of this kit goes to wire:${c.wire}; write “capped”, or join it`);
    const wrong = c.otherSide === 'capped' ? null : terminal(c.otherSide);
    if (wrong) bad(['cuts', i, 'otherSide'], wrong);
  }
  for (const [p, i] of here(k.provides)) {
    const wrong = terminal(p.at);
    if (wrong) bad(['provides', i, 'at'], wrong);
  }
  for (const [d, i] of devices) {
    if (d.plug)
      for (const [cavity, t] of Object.entries(d.plug.pins)) {
        if (!terminalsOf(k, d).includes(t))
          bad(['devices', i, 'plug', 'pins', cavity], `names terminal “${t}”, which ${d.name} does not have`);
        if (Number(cavity) < 1 || Number(cavity) > d.plug.cavities)
          bad(['devices', i, 'plug', 'pins', cavity], `cavity ${cavity} of a connector with ${d.plug.cavities}`);
      }
    d.inside.forEach((p, j) => {
      for (const end of ['from', 'to'] as const)
        if (d.terminals.length && !terminalsOf(k, d).includes(p[end]) && !innerPoints(d).has(p[end]))
          bad(['devices', i, 'inside', j, end], `names “${p[end]}”, where nothing else of ${d.name} is joined`);
    });
    if (d.load && !circuits.some(([c]) => c.devices.includes(d.id))) bad(['devices', i], `“${d.name}” draws current but is on no circuit`);
  }
  const pieces = new Set(here(k.contents).flatMap(([c]) => c.id ?? []));
  for (const [c, i] of here(k.contents))
    c.of.forEach(
      (x, j) => ids.has(x) || harnesses.some(([h]) => h.id === x) || bad(['contents', i, 'of', j], lacks(`device or harness “${x}”`)),
    );
  const steps = here(k.steps);
  for (const [key, list] of [
    ['devices', devices],
    ['circuits', circuits],
    ['harnesses', harnesses],
    ['provides', here(k.provides)],
    ['steps', steps],
  ] as const)
    (list as [{ id: string }, number][]).forEach(([x, i], n) => {
      if ((list as [{ id: string }, number][]).findIndex(([y]) => y.id === x.id) !== n) bad([key, i, 'id'], `“${x.id}” is there twice`);
    });
  for (const [c, i] of here(k.contents))
    (c.pad?.before ?? []).forEach(
      (b, j) => steps.some(([s]) => s.id === b) || bad(['contents', i, 'pad', 'before', j], lacks(`step “${b}”`)),
    );
  for (const [s, i] of steps) {
    s.mounts.forEach((d, j) => ids.has(d) || bad(['steps', i, 'mounts', j], lacks(`device “${d}”`)));
    s.uses.forEach((c, j) => pieces.has(c) || bad(['steps', i, 'uses', j], `names “${c}”, which is not in this box`));
    s.readings.forEach((r, j) => {
      if (r.expect.kind === 'band' && r.expect.low > r.expect.high)
        bad(['steps', i, 'readings', j, 'expect'], 'the band is upside down: low is above high');
      for (const [key, list] of Object.entries({ lit: r.sees?.lit ?? [], dark: r.sees?.dark ?? [] }))
        list.forEach((d, n) => ids.has(d) || bad(['steps', i, 'readings', j, 'sees', key, n], lacks(`device “${d}”`)));
      (r.sees?.when ?? []).forEach((w, n) => {
        const own = /^([a-z0-9-]+)#([a-z0-9-]+):([a-z0-9-]+)$/.exec(w);
        const control = own && deviceOf(own[1]!)?.controls.find((c) => c.id === own[2]);
        if (own ? !control?.positions.some((p) => p.id === own[3]) : !/^[a-z0-9-]+:[a-z0-9-]+$/.test(w))
          bad(
            ['steps', i, 'readings', j, 'sees', 'when', n],
            `“${w}” is not a switch of this kit in one of its positions, nor one of the unit’s, as “key:run”`,
          );
      });
    });
  }
}

/** Choices under which a kit is checked: the first options, and each other one by itself. */
export const choicesOf = (variants: readonly Variant[]): Record<string, string>[] => [
  {},
  ...variants.flatMap((v) => v.options.slice(1).map((o) => ({ [v.id]: o.id }))),
];

export const Kit = KitFields.superRefine((k, ctx) => {
  const said = new Set<string>();
  const bad: Bad = (path, message) => {
    const key = JSON.stringify([path, message]);
    if (said.has(key)) return;
    said.add(key);
    ctx.addIssue({ code: 'custom', path, message });
  };
  for (const key of ['contents', 'besides', 'harnesses', 'joins', 'provides', 'takesOff', 'devices', 'circuits', 'leads', 'steps'] as const)
    k[key].forEach((x: { when?: string | undefined }, i) => {
      if (x.when === undefined) return;
      const [variant, option] = x.when.split(':') as [string, string];
      if (!k.variants.some((v) => v.id === variant && v.options.some((o) => o.id === option)))
        bad([key, i, 'when'], `names “${x.when}”, which this kit leaves open nowhere`);
    });
  // parts of one order come in no box
  if (!k.contents.length && k.id !== OWN_KIT) bad(['contents'], 'an empty box');
  for (const chosen of choicesOf(k.variants)) checkKit(k, chosen, bad);
});
export type Kit = z.infer<typeof Kit>;

/** A kit’s sheet of the first format as one of today’s: its box is what it contains. Anything else is left as it is. */
export function broughtUpToDate(sheet: unknown): unknown {
  if (typeof sheet !== 'object' || sheet === null || !('box' in sheet) || 'contents' in sheet) return sheet;
  const { box, ...rest } = sheet as Record<string, unknown>;
  return Object.fromEntries(Object.entries({ ...rest, contents: box }));
}

/** The points that a supply makes: its one output, or a channel each. */
export const madeIds = (m: NonNullable<Circuit['makes']>): string[] =>
  m.channels ? Array.from({ length: m.channels.count }, (_, i) => `${m.id}-${i + 1}`) : [m.id];
