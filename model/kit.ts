import { z } from 'zod';
import { Awg, EquipmentFunction, LightColour, nonNegative, positive, Slug, UnitKind, WireColour, words } from './common';
import { Flasher, lampFields, Mount } from './lamp';
import { Control, Lead, LoadLawName, Part, Terminal, WireFunction } from './parts';
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

export const Device = z.strictObject({
  id: Slug,
  name: words(80),
  place: Slug,
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
});
export type Circuit = z.infer<typeof Circuit>;

export const ReadingUnit = z.enum(['V', 'A', 'ohm', 'mm', 'N', 'perMin', 'yes']);
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
  place: Slug,
  /** other places that must be reachable too */
  reach: z.array(Slug).default([]),
  tool: words(120).optional(),
  slideOnFirst: z.array(words(60)).default([]),
  cautions: z.array(words(200)).default([]),
  minutes: positive.max(10_000),
  hands: z.union([z.literal(1), z.literal(2)]).default(1),
  readings: z.array(StepReading).default([]),
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

export const Kit = z
  .strictObject({
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
    box: z.array(z.strictObject({ item: words(80), count: z.number().int().positive().max(999) })).min(1),
    devices: z.array(Device).max(100),
    circuits: z.array(Circuit).max(60).default([]),
    /** who is joined to whom; left out, each circuit's feed goes to its devices' plus and their minus to ground */
    leads: z.array(Lead).max(120).default([]),
    steps: z.array(KitStep).min(1).max(200),
    cautions: z.array(words(240)).default([]),
    /** shown to the owner at the end */
    owner: z.array(words(240)).default([]),
  })
  .superRefine((k, ctx) => {
    const devices = new Set(k.devices.map((d) => d.id));
    k.circuits.forEach((c, i) =>
      c.devices.forEach((d, j) => {
        if (!devices.has(d))
          ctx.addIssue({
            code: 'custom',
            path: ['circuits', i, 'devices', j],
            message: `names device “${d}”, which this kit does not have`,
          });
      }),
    );
    k.circuits.forEach((c, i) => {
      if (!c.switch) return;
      const device = k.devices.find((d) => d.id === c.switch!.device);
      if (!device)
        ctx.addIssue({
          code: 'custom',
          path: ['circuits', i, 'switch', 'device'],
          message: `names device “${c.switch.device}”, which this kit does not have`,
        });
      else
        for (const end of ['in', 'out'] as const)
          if (!device.terminals.some((t) => t.id === c.switch![end]))
            ctx.addIssue({
              code: 'custom',
              path: ['circuits', i, 'switch', end],
              message: `names terminal “${c.switch[end]}”, which ${device.name} does not have`,
            });
    });
    const terminalsOf = (d: Device) => new Set(d.terminals.length ? d.terminals.map((t) => t.id) : USUAL_TERMINALS);
    k.leads.forEach((l, i) => {
      for (const end of ['from', 'to'] as const) {
        const at = l[end];
        const miss = (what: string) =>
          ctx.addIssue({ code: 'custom', path: ['leads', i, end], message: `names ${what}, which this kit does not have` });
        if (at.startsWith('feed:')) {
          if (!k.circuits.some((c) => c.id === at.slice(5))) miss(`circuit “${at.slice(5)}”`);
        } else if (at.includes('.')) {
          const [id, terminal] = at.split('.') as [string, string];
          const device = k.devices.find((d) => d.id === id);
          if (!device) miss(`device “${id}”`);
          else if (!terminalsOf(device).has(terminal)) miss(`terminal “${terminal}” of ${device.name}`);
        }
      }
    });
    k.devices.forEach((d, i) =>
      d.inside.forEach((p, j) => {
        for (const end of ['from', 'to'] as const)
          if (d.terminals.length && !terminalsOf(d).has(p[end]) && !innerPoints(d).has(p[end]))
            ctx.addIssue({
              code: 'custom',
              path: ['devices', i, 'inside', j, end],
              message: `names “${p[end]}”, where nothing else of ${d.name} is joined`,
            });
      }),
    );
    for (const [key, list] of [
      ['devices', k.devices],
      ['circuits', k.circuits],
      ['steps', k.steps],
    ] as const)
      list.forEach((x, i) => {
        if (list.findIndex((y) => y.id === x.id) !== i)
          ctx.addIssue({ code: 'custom', path: [key, i, 'id'], message: `“${x.id}” is there twice` });
      });
    const wired = new Map<string, number>();
    k.circuits.forEach((c) => c.devices.forEach((d) => wired.set(d, (wired.get(d) ?? 0) + 1)));
    k.devices.forEach((d, i) => {
      if (d.load && !wired.has(d.id))
        ctx.addIssue({ code: 'custom', path: ['devices', i], message: `“${d.name}” draws current but is on no circuit` });
    });
    k.steps.forEach((s, i) =>
      s.readings.forEach((r, j) => {
        if (r.expect.kind === 'band' && r.expect.low > r.expect.high)
          ctx.addIssue({
            code: 'custom',
            path: ['steps', i, 'readings', j, 'expect'],
            message: 'the band is upside down: low is above high',
          });
        for (const [key, list] of Object.entries({ lit: r.sees?.lit ?? [], dark: r.sees?.dark ?? [] }))
          list.forEach((d, n) => {
            if (!devices.has(d))
              ctx.addIssue({
                code: 'custom',
                path: ['steps', i, 'readings', j, 'sees', key, n],
                message: `names device “${d}”, which this kit does not have`,
              });
          });
        (r.sees?.when ?? []).forEach((w, n) => {
          const own = /^([a-z0-9-]+)#([a-z0-9-]+):([a-z0-9-]+)$/.exec(w);
          const control = own && k.devices.find((d) => d.id === own[1])?.controls.find((c) => c.id === own[2]);
          if (own ? !control?.positions.some((p) => p.id === own[3]) : !/^[a-z0-9-]+:[a-z0-9-]+$/.test(w))
            ctx.addIssue({
              code: 'custom',
              path: ['steps', i, 'readings', j, 'sees', 'when', n],
              message: `“${w}” is not a switch of this kit in one of its positions, nor one of the unit’s, as “key:run”`,
            });
        });
      }),
    );
  });
export type Kit = z.infer<typeof Kit>;
