import type { Chemistry } from '#model/common';
import type { HarnessFuse } from '#model/harness';
import type { Order } from '#model/order';
import type { PowerChange } from '#model/power-change';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import { voltsFromSoc } from '../energy/battery';
import { CHANGE_MINUTES } from '../energy/change-times';
import type { Wiring } from '../wiring/planned';
import { fuseFamilyFor, sizesAt } from '../wire-rules/fuse-volts';
import { fuseWithinMm, sayFusePlace } from '../wire-rules/fuse-place';
import { highestSystemVolts } from '../wire-rules/highest-volts';
import { CONTACTORS } from '../wire-rules/contacts';
import { FUSE_FACTOR } from '../wire/fuse';
import { fuseFamily } from '../wire/fuse-time';
import { fuseId, sayFuse } from './say-fuse';
import { BATTERY_CAUTION, step, yes, type PlannedStep } from './planned';

type Of<K extends PowerChange['kind']> = Extract<PowerChange, { kind: K }>;

const WORD: Record<Chemistry, string> = { flooded: 'flooded', agm: 'AGM', lfp: 'LiFePO4' };

const PREFIX = 'change/';
/** Whether a step is there because something was agreed at Power. */
export const isChange = (id: string): boolean => id.startsWith(PREFIX);

/** Steps at which something is fitted that comes off the shelf. */
const STEP = {
  battery: `${PREFIX}second-battery/fit`,
  join: `${PREFIX}second-battery/wire`,
  source: `${PREFIX}source`,
  led: (load: string) => `${PREFIX}led/${load}`,
  reducer: (makes: string) => `${PREFIX}reducer/${makes}`,
  shed: (kit: string) => `${PREFIX}shed/${kit}`,
};

const agreed = <K extends PowerChange['kind']>(order: Order, kind: K): Of<K>[] =>
  order.changes.flatMap(({ change }) => (change.kind === kind ? [change as Of<K>] : []));

/** What a change is made to: a kit’s device, or a load of the unit itself. */
function loadOf(sheets: Sheets, load: string) {
  const [of, id] = load.split('/');
  const kit = sheets.kits.find((k) => k.id === of) ?? null;
  const device = kit?.devices.find((d) => d.id === id) ?? null;
  const own = of === 'own' ? (sheets.model.electrical.ownLoads.find((l) => l.id === id) ?? null) : null;
  return { kit: kit?.id ?? null, device, own, name: device?.name ?? own?.name ?? load };
}

/** Changes of one kind to what the kits bring, kit by kit: what is set together is set together. */
function byKit<C extends { load: string }>(sheets: Sheets, list: readonly C[]) {
  return sheets.kits.flatMap((kit) => {
    const of = list.filter((c) => c.load.startsWith(`${kit.id}/`)).map((c) => ({ ...c, ...loadOf(sheets, c.load) }));
    return of.length ? [{ kit, of }] : [];
  });
}

function settingSteps(order: Order, sheets: Sheets): PlannedStep[] {
  return byKit(sheets, agreed(order, 'setting')).map(({ kit, of }) =>
    step({
      id: `${PREFIX}setting/${kit.id}`,
      stage: 'prove',
      kit: kit.id,
      proof: true,
      place: of[0]!.device?.place ?? null,
      title: `Set ${kit.name} as agreed`,
      text: 'At the device itself, where it is set; show the owner.',
      minutes: CHANGE_MINUTES.setting * of.length,
      readings: of.map((c, i) => yes(`set-${i + 1}`, `${c.name} at ${Math.round(c.share * 100)} %`)),
    }),
  );
}

function shedSteps(order: Order, sheets: Sheets, wiring: Wiring): PlannedStep[] {
  return byKit(sheets, agreed(order, 'shed')).flatMap(({ kit, of }) => {
    const circuit = wiring.circuits.find((c) => c.kit.id === kit.id && of.some((d) => c.circuit.devices.includes(d.device!.id)));
    const rpm = [...new Set(of.map((c) => c.belowRpm))];
    const names = of.map((c) => c.name).join(', ');
    const base = { kit: kit.id, place: circuit?.feed?.place ?? null };
    return [
      step({
        ...base,
        id: STEP.shed(kit.id),
        stage: 'wire',
        title: `Shed relay for ${kit.name}`,
        text: `${CONTACTORS[0]!.name.charAt(0).toUpperCase()}${CONTACTORS[0]!.name.slice(1)}, in the line to ${names}; its coil from a switch that follows the charging volts or the engine’s speed: closed above ${rpm.join(' and ')} rpm. A ${sayFuse(COIL_FUSE)} before the coil.`,
        tool: 'cutter, stripper, crimper',
        slideOnFirst: ['heat-shrink'],
        minutes: CHANGE_MINUTES.shed - 4,
      }),
      step({
        ...base,
        id: `${STEP.shed(kit.id)}/prove`,
        stage: 'prove',
        proof: true,
        title: `${kit.name} goes off by itself`,
        text: 'Engine at idle, then a little faster, then at idle again.',
        cautions: ['Engine running: exhaust led outside, hands and hair clear'],
        minutes: 4,
        readings: [yes('off', 'Off at idle'), yes('on', `On above ${rpm.join(' and ')} rpm`), yes('off-again', 'Off again at idle')],
      }),
    ];
  });
}

/** What replaces a filament is turned round where it stays dark, and is looked at with the law in mind. */
function ledSteps(order: Order, sheets: Sheets): PlannedStep[] {
  return agreed(order, 'led').flatMap((c) => {
    const { kit, device, own, name } = loadOf(sheets, c.load);
    const base = { kit, place: device?.place ?? null };
    return [
      step({
        ...base,
        id: STEP.led(c.load),
        stage: 'mount',
        title: `LED into ${name}`,
        text: `The filament lamp out, the LED one of ${c.watts} W in. It has a plus and a minus: turned round if it stays dark.`,
        cautions: ['Hot lamps burn', 'An LED in a lamp made for a filament may not be legal on the road: local rules come first'],
        minutes: Math.max(1, ((own ?? device)?.led?.minutes ?? 10) - 1),
      }),
      step({
        ...base,
        id: `${STEP.led(c.load)}/prove`,
        stage: 'prove',
        proof: true,
        title: `${name} lights as LED`,
        text: 'Every position of its switch; from in front, nothing of it dark.',
        minutes: 1,
        readings: [yes('lights', 'Lights in every position, and goes out')],
      }),
    ];
  });
}

type AddedFuse = Pick<HarnessFuse, 'ratingA' | 'family' | 'ratedV'>;
/** The fuse at either end of the cable between two batteries: it stands all that the source gives. */
function joinFuse({ model }: Sheets): AddedFuse {
  const { source } = model.electrical;
  const most = source.kind === 'none' ? 0 : Math.max(...source.curve.map(([, a]) => a));
  const highestV = highestSystemVolts(model);
  const ratingA = sizesAt(highestV).find((a) => a >= most * FUSE_FACTOR) ?? sizesAt(highestV).at(-1)!;
  return { ratingA, family: fuseFamily(ratingA), ratedV: fuseFamilyFor(ratingA, highestV).ratedV };
}
/** The fuse before a shed relay's coil. */
const COIL_FUSE: AddedFuse = { ratingA: 1, family: 'blade', ratedV: 32 };

function secondBatterySteps(order: Order, sheets: Sheets): PlannedStep[] {
  const [c] = agreed(order, 'second-battery');
  const { battery, source } = sheets.model.electrical;
  if (!c || source.kind === 'none') return [];
  const join = c.join === 'isolator' ? 'isolator' : 'charging relay';
  const moved = sheets.kits.flatMap((k) => k.devices.filter((d) => d.load?.engineOff).map((d) => d.name));
  const volts = (soc: number) => Math.round(voltsFromSoc(c, soc) * 100) / 100;
  const base = { place: battery.place, tool: '10 mm wrench', cautions: [BATTERY_CAUTION] };
  return [
    step({
      ...base,
      id: STEP.battery,
      stage: 'mount',
      title: 'Fit the second battery',
      text: `${c.capacityAh} Ah ${WORD[c.chemistry]}: in a tray or box that holds it when the unit rolls, its posts covered, its minus to the frame where the first one’s is.`,
      minutes: CHANGE_MINUTES.second - 30,
    }),
    step({
      ...base,
      id: STEP.join,
      stage: 'wire',
      title: `Wire the ${join}`,
      text: `Between the plus of both, a ${sayFuse(joinFuse(sheets))} ${sayFusePlace('each post', fuseWithinMm('battery-post'))}, left out for now.${moved.length ? ` From the second one: ${moved.join(', ')}.` : ''}`,
      slideOnFirst: ['heat-shrink', 'boot'],
      minutes: 22,
    }),
    step({
      ...base,
      id: `${PREFIX}second-battery/prove`,
      stage: 'prove',
      proof: true,
      tool: 'meter',
      title: 'Second battery: charged when it runs, apart when it stands',
      text: 'At rest first, then the engine at a fast idle, then off with something on at the second battery for a minute.',
      cautions: [BATTERY_CAUTION, 'Engine running: exhaust led outside, hands and hair clear'],
      minutes: 8,
      readings: [
        {
          id: 'rest',
          label: 'Second battery at rest',
          expected: { low: volts(0.5), high: volts(1) + 0.2, unit: 'V', why: 'half charged or better, before it is joined' },
        },
        {
          id: 'charging',
          label: 'Second battery, engine at a fast idle',
          expected: {
            low: Math.round((source.regulatedV - 0.9) * 100) / 100,
            high: source.regulatedV + 0.4,
            unit: 'V',
            why: 'charged along with the first one',
          },
        },
        yes('apart', 'The first one keeps its volts while the second is loaded'),
      ],
    }),
  ];
}

function sourceSteps(order: Order, sheets: Sheets): PlannedStep[] {
  return agreed(order, 'source').map((c) =>
    step({
      id: STEP.source,
      stage: 'mount',
      title: `Fit ${c.name}`,
      text: 'As its maker’s manual says: what it bolts to, its torque, its gasket. Its plug is joined last.',
      cautions: ['Engine cold, nothing that turns within reach'],
      minutes: sheets.model.electrical.sourceUpgrades.find((u) => u.id === c.upgrade)?.minutes ?? 60,
    }),
  );
}

function idleSteps(order: Order): PlannedStep[] {
  return agreed(order, 'idle').map((c) =>
    step({
      id: `${PREFIX}idle`,
      stage: 'prove',
      proof: true,
      title: `Idle to ${c.rpm} rpm`,
      text: 'Engine warm, by the screw or with the maker’s tool, never beyond what the maker allows.',
      tool: 'tachometer',
      cautions: ['Engine running: exhaust led outside, hands and hair clear; a unit with an automatic clutch must not creep'],
      minutes: CHANGE_MINUTES.idle,
      readings: [yes('rpm', `Holds ${c.rpm} rpm, warm`), yes('creep', 'Does not creep in gear')],
    }),
  );
}

function reducerSteps(order: Order, sheets: Sheets): PlannedStep[] {
  return agreed(order, 'reducer').flatMap((c) => {
    const kit = sheets.kits.find((k) => k.circuits.some((x) => x.makes?.id === c.makes));
    const makes = kit?.circuits.find((x) => x.makes?.id === c.makes)?.makes;
    if (!kit || !makes) return [];
    return [
      step({
        id: STEP.reducer(c.makes),
        stage: 'mount',
        kit: kit.id,
        place: makes.place,
        title: `${makes.name} of ${c.ratedA} A, not the one in the box`,
        text: 'The bigger one is larger: look that it fits, that air gets to it, and that its lugs take the wire.',
        minutes: CHANGE_MINUTES.reducer,
        readings: [yes('rated', `Its label says ${c.ratedA} A`)],
      }),
    ];
  });
}

/**
 * The work of what was agreed at Power, where it is work: fitting, and a proof of each that it does what the budget
 * reckons with. What only changes how wires run is in the wiring already; a shorter day is no work.
 * Job practice, common practice, no source, but where named.
 * @param sheets as agreed for the order
 */
export const changeSteps = (order: Order, sheets: Sheets, wiring: Wiring): PlannedStep[] =>
  order.changes.length
    ? [
        ...sourceSteps(order, sheets),
        ...secondBatterySteps(order, sheets),
        ...reducerSteps(order, sheets),
        ...ledSteps(order, sheets),
        ...shedSteps(order, sheets, wiring),
        ...idleSteps(order),
        ...settingSteps(order, sheets),
      ]
    : [];

/** A thing that an agreed change takes, with its price in the shop’s currency where one is known. */
export interface ChangePart {
  /** the step at which it is fitted: from then on it is off the shelf */
  step: string;
  kind: 'part' | 'relay' | 'fuse';
  id: string;
  name: string;
  price?: number;
}
const fusePart = (step: string, f: AddedFuse): ChangePart => ({ step, kind: 'fuse', id: fuseId(f), name: `${sayFuse(f)} and holder` });

/** What agreed changes take from the shelf: one entry for each thing. */
export function changeParts(order: Order, sheets: Sheets, settings: Settings): ChangePart[] {
  const part = (step: string, id: string, name: string, price: number): ChangePart => ({ step, kind: 'part', id, name, price });
  return order.changes
    .flatMap(({ change: c }): ChangePart[] => {
      switch (c.kind) {
        case 'second-battery':
          return [
            part(
              STEP.battery,
              `battery-${c.chemistry}-${Math.round(c.capacityAh)}`,
              `battery, ${c.capacityAh} Ah ${WORD[c.chemistry]}`,
              c.capacityAh * settings.batteryPerAh,
            ),
            part(
              STEP.join,
              c.join === 'isolator' ? 'battery-isolator' : 'charging-relay',
              c.join === 'isolator' ? 'battery isolator' : 'charging relay',
              settings.isolatorPrice,
            ),
            // one at either end of the cable between them
            fusePart(STEP.join, joinFuse(sheets)),
            fusePart(STEP.join, joinFuse(sheets)),
          ];
        case 'source': {
          const u = sheets.model.electrical.sourceUpgrades.find((x) => x.id === c.upgrade);
          return u ? [part(STEP.source, u.id, u.name, u.cost)] : [];
        }
        case 'led': {
          const { own, device } = loadOf(sheets, c.load);
          return [part(STEP.led(c.load), `led-${Math.round(c.watts)}w`, `LED lamp, ${c.watts} W`, (own ?? device)?.led?.cost ?? 0)];
        }
        case 'reducer':
          return [
            part(STEP.reducer(c.makes), `reducer-${Math.round(c.ratedA)}a`, `reducer of ${c.ratedA} A`, c.ratedA * settings.reducerPerA),
          ];
        default:
          return [];
      }
    })
    .concat(
      // one relay switches all that a kit sheds together
      byKit(sheets, agreed(order, 'shed')).flatMap(({ kit }): ChangePart[] => [
        { step: STEP.shed(kit.id), kind: 'relay', id: CONTACTORS[0]!.id, name: CONTACTORS[0]!.name, price: settings.relayPrice },
        fusePart(STEP.shed(kit.id), COIL_FUSE),
      ]),
    );
}
