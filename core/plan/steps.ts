import type { Kit, KitStep, Stage } from '#model/kit';
import type { Order } from '#model/order';
import type { Sheets } from '#model/sheet';
import type { Panel, UnitModel } from '#model/unit-model';
import type { Harness } from '#model/harness';
import type { PlannedCircuit, Wiring } from '../wiring/planned';
import type { Budget } from '../energy/budget';
import type { OrderLamps } from '../lighting/check';
import { fuseWithinMm, sayFusePlace } from '../wire-rules/fuse-place';
import { thinInThick } from '../wire-rules/terminal-size';
import { isHighVoltage, isTraction, PACK_WORK_V } from '../wire-rules/high-volts';
import { crimpPull } from '../wire/choose';
import { awgName } from '../wire/resistance';
import { round } from '../sum';
import { ownFuse } from '../circuit/flows';
import { PROTECTION } from '../circuit/route';
import { sayEndWork, type EndWork } from '../wiring/box-work';
import { takenOff } from '../wiring/chosen';
import { wireStepOf } from './used';
import { lampSteps } from './lamp-steps';
import { sayCircuit } from './say-wiring';
import { changeSteps } from './change-steps';
import { BATTERY_CAUTION, step, yes, type PlannedStep } from './planned';
import {
  sourceExpected,
  chargingExpected,
  deadExpected,
  kitExpected,
  liveExpected,
  parkedExpected,
  restBand,
  supplyExpected,
} from './expect';

/** Read while everything is still as it came. */
export const REST_STEP = 'safe/rest';
export const CHARGING_STEP = 'prove/charging';

/** The first of all steps, whoever goes to the unit: nothing is live by the key. */
export const keyOff = (model: UnitModel): PlannedStep =>
  step({
    id: 'safe/off',
    stage: 'make-safe',
    title: 'Key off and out',
    text:
      model.kind === 'boat' ? 'Engine off, every switch off, key in your pocket.' : 'Key out and in your pocket, everything switched off.',
    place: null,
    minutes: 1,
  });

/** Read before power goes off. */
function restStep(model: UnitModel): PlannedStep {
  const [low, high] = restBand(model);
  return step({
    id: REST_STEP,
    stage: 'make-safe',
    title: 'Read the battery at rest',
    text: 'Meter on the posts, key off, nothing running.',
    place: model.electrical.battery.place,
    tool: 'meter',
    minutes: 2,
    readings: [
      {
        id: 'rest',
        label: `${model.electrical.battery.name} at rest`,
        expected: { low, high, unit: 'V', why: 'at rest, before anything is touched' },
      },
    ],
    cautions: [BATTERY_CAUTION],
  });
}

/** What isolates a traction pack, and puts it back. */
const INSULATED = 'insulated wrench, insulating gloves';
const TRACTION_CAUTION = 'A traction pack can kill: isolate it as its maker says, one hand, insulated tools, shock and arc';

/** How power is taken off, by kind of unit. Job practice, common practice, no source; the unit’s own manual comes first. */
export function powerOffSteps(model: UnitModel): PlannedStep[] {
  const at = model.electrical.battery.place;
  if (isTraction(model))
    return [
      ...(isHighVoltage(model)
        ? [
            step({
              id: 'safe/isolation',
              stage: 'make-safe',
              title: 'The maker’s isolation procedure',
              text: `Over ${PACK_WORK_V} V direct current: a qualified person, by the maker’s own procedure. Service disconnect out and locked, capacitors waited for.`,
              place: at,
              minutes: 10,
              cautions: [TRACTION_CAUTION],
              readings: [yes('qualified', 'A qualified person does it'), yes('procedure', 'The maker’s procedure is followed')],
            }),
          ]
        : []),
      model.kind === 'golf-cart'
        ? step({
            id: 'safe/tow',
            stage: 'make-safe',
            title: 'Run/tow switch to TOW',
            text: 'Key out, switch under the seat to TOW.',
            place: at,
            minutes: 1,
            readings: [yes('tow', 'Switch stands at TOW')],
          })
        : step({
            id: 'safe/drive-off',
            stage: 'make-safe',
            title: 'Drive off',
            text: 'Charger unplugged, main switch off, key out.',
            place: at,
            minutes: 1,
            readings: [yes('off', 'Charger unplugged, main switch off')],
          }),
      step({
        id: 'safe/isolate',
        stage: 'make-safe',
        title: 'Isolate the pack',
        text: 'Main negative off first, then main positive, as the maker’s manual says. Cardboard over live posts.',
        place: at,
        tool: INSULATED,
        minutes: 4,
        cautions: [TRACTION_CAUTION, BATTERY_CAUTION],
        readings: [yes('dead', 'Meter across the isolated leads reads nothing')],
      }),
    ];
  return [
    step({
      id: 'safe/negative',
      stage: 'make-safe',
      title: 'Negative cable off, then positive',
      text: `${model.kind === 'boat' ? 'Battery switch to OFF. ' : ''}Negative first. Wrap both ends; cardboard over the posts.`,
      place: at,
      tool: '10 mm wrench',
      minutes: 3,
      cautions: [BATTERY_CAUTION],
      readings: [yes('off', 'Negative is off and cannot spring back')],
    }),
  ];
}

/** How power comes back. */
export function powerOnSteps(model: UnitModel): PlannedStep[] {
  const at = model.electrical.battery.place;
  const quiet = yes('quiet', 'No smoke, nothing warm');
  if (isTraction(model))
    return [
      step({
        id: 'power/on',
        stage: 'power-up',
        title: 'Pack back on, fuses last',
        text: 'Loads off, key out, charger unplugged. Positive first, main negative last. Then the fuses, one at a time.',
        place: at,
        tool: INSULATED,
        minutes: 4,
        readings: [quiet],
        cautions: [
          'The last post may spark, though loads are off: eyes covered, face away',
          TRACTION_CAUTION,
          'Nobody touches the wiring while power goes on',
        ],
      }),
      ...(model.kind === 'golf-cart'
        ? [
            step({
              id: 'power/run',
              stage: 'power-up',
              title: 'Run/tow switch back to RUN',
              text: 'Before anything is proved by the key. Brake on, drive wheels chocked, or raised on stands.',
              place: at,
              minutes: 1,
              readings: [yes('held', 'Wheels chocked, or raised on stands'), yes('run', 'Switch stands at RUN')],
              cautions: ['It may move when the key is turned: nobody in front or behind'],
            }),
          ]
        : []),
    ];
  return [
    step({
      id: 'power/on',
      stage: 'power-up',
      title: 'Positive on, negative last, fuses in',
      text: 'Positive first, negative last. Then the fuses, one at a time.',
      place: at,
      tool: '10 mm wrench',
      minutes: 4,
      readings: [quiet],
      cautions: ['A small spark at the last post is possible: eyes covered', 'Nobody touches the wiring while power goes on'],
    }),
  ];
}

/** A panel off, or back on. */
export const panelStep = (p: Panel, off: boolean): PlannedStep =>
  step({
    id: `${off ? 'open' : 'shut'}/${p.id}`,
    stage: off ? 'open' : 'close',
    panel: p,
    hands: p.hands,
    title: off ? `${p.name} off` : `${p.name} back on`,
    text: p.fasteners.length ? (off ? 'Bag, label and count what comes out.' : 'Count what goes back in.') : off ? 'Lift off.' : 'Fit.',
    tool: [...new Set(p.fasteners.map((f) => f.tool))].join(', ') || null,
    minutes: off ? p.offMinutes : p.onMinutes,
    place: p.hides[0] ?? null,
    cautions: p.hands === 2 ? ['Two people for this lift'] : [],
  });

function kitSteps(kit: Kit, stage: Stage, model: UnitModel, budget: Budget, wiring: Wiring): PlannedStep[] {
  return kit.steps.filter((s) => s.stage === stage).map((s) => fromKit(kit, s, model, budget, wiring));
}

/** Where a kit's step is done: at the device that it mounts, wherever that stands, else where its sheet says. */
function placeOf(kit: Kit, s: KitStep): string {
  const device = kit.devices.find((d) => d.id === s.mounts[0] && d.places.length);
  return device?.place ?? s.place;
}

/** What the pieces that a step uses ask for: how tight, what cleans, how long it is pressed and left. */
function usesOf(kit: Kit, s: KitStep): { says: string[]; readings: PlannedStep['readings']; waitMinutes: number } {
  const pieces = s.uses.flatMap((id) => kit.contents.find((c) => c.id === id) ?? []);
  const tight = pieces.filter((c) => c.fastener?.torqueNm !== undefined);
  const pads = pieces.filter((c) => c.pad);
  return {
    says: pieces.flatMap((c) => {
      const out: string[] = [];
      if (c.fastener)
        out.push(
          `${c.item}, ${c.count}: ${[
            c.fastener.torqueNm === undefined ? 'hand-tight and a quarter turn' : `${c.fastener.torqueNm} N·m`,
            ...(c.fastener.threadLocker ? ['thread-locker'] : []),
          ].join(', ')}.`,
        );
      if (c.pad)
        out.push(
          `${c.item}: wipe with ${c.pad.clean}, press ${c.pad.pressS} s${c.pad.cureH ? `, leave ${c.pad.cureH} h` : ''}${c.pad.leastC === undefined ? '' : `; not under ${c.pad.leastC} °C`}.`,
        );
      return out;
    }),
    readings: tight.length ? [yes('torque', `Tightened: ${tight.map((c) => `${c.item} to ${c.fastener!.torqueNm} N·m`).join(', ')}`)] : [],
    waitMinutes: Math.max(0, ...pads.map((c) => c.pad!.cureH * 60)),
  };
}

const fromKit = (kit: Kit, s: KitStep, model: UnitModel, budget: Budget, wiring: Wiring): PlannedStep =>
  step({
    id: `${kit.id}/${s.id}`,
    stage: s.stage,
    title: s.title,
    text: [s.text, ...usesOf(kit, s).says].join('\n'),
    waitMinutes: usesOf(kit, s).waitMinutes,
    place: placeOf(kit, s),
    reach: s.reach,
    tool: s.tool ?? null,
    slideOnFirst: s.slideOnFirst,
    cautions: s.cautions,
    minutes: s.minutes,
    hands: s.hands,
    readings: [
      ...s.readings.map((r) => ({
        id: r.id,
        label: r.label,
        expected: kitExpected(
          r,
          model,
          budget,
          wiring.circuits.find((c) => c.kit.id === kit.id),
          wiring.harness,
        ),
        ...(r.sees && { sees: r.sees }),
      })),
      ...usesOf(kit, s).readings,
    ],
    proof: s.stage === 'prove' || s.stage === 'bench-test',
    kit: kit.id,
  });

/** Minutes that ends of a box take, by how they are dealt with, and its laying. Common practice, no source. */
const END_MINUTES = { plug: 1, screw: 2, push: 0.5, join: 3, extend: 6, cap: 0.5, spare: 0.5 } as const;
const LAY_MINUTES = 2;
const LAY_MINUTES_PER_M = 1.5;
/** Minutes of a circuit's wire off the shelf. Common practice, no source. */
const SHELF_MINUTES = 6;

const minutesOfEnds = (ends: readonly EndWork[]): number => ends.reduce((n, e) => n + END_MINUTES[e.how], 0);

/** Whether a circuit leaves anything to be done by itself: all of one may go on with the ends of another. */
const isWork = (c: PlannedCircuit, h: Harness, all: readonly EndWork[]): boolean =>
  c.wireFrom === 'shelf' ||
  all.some((e) => e.circuits[0] === c.id) ||
  h.elements.some((e) => e.circuit === c.id && ((e.kind === 'wire' && !e.box) || (e.kind === 'fuse' && e.id === ownFuse(c.id) && !e.box)));

/** The wiring of one circuit as a step: what its box brings is plugged and screwed on, what it does not is cut and joined. */
function wireStep(c: PlannedCircuit, wiring: Wiring, model: UnitModel, all: readonly EndWork[]): PlannedStep {
  const { harness } = wiring;
  const ends = all.filter((e) => e.circuits[0] === c.id);
  const shelf = harness.elements.filter((e) => e.kind === 'wire' && e.circuit === c.id && !e.box);
  const leads = wiring.boxes.filter((b) => b.kit === c.kit.id && b.laid && isLead(b) && ends.some((e) => e.of.harness === b.harness.id));
  const leadsM = leads.reduce((s, b) => s + b.harness.legs[0]!.lengthMm / 1000, 0);
  const hazards = [...new Set(leads.flatMap((b) => b.laid!.legs.flatMap((l) => l.hazards)))];
  const crimps = shelf.length > 0 || ends.some((e) => e.how === 'join' || e.how === 'extend');
  // what is crimped is pulled, the thinnest of it as the rest
  const crimped = [
    ...shelf.flatMap((e) => (e.kind === 'wire' && !e.signal ? (e.awg ?? []) : [])),
    ...ends.flatMap((e) => (e.how === 'join' || e.how === 'extend' ? e.wires.filter((w) => w.goes !== 'capped').map((w) => w.awg) : [])),
  ];
  const thinnest = Math.max(...crimped);
  const pull = crimped.length ? crimpPull(thinnest) : null;
  return step({
    id: wireStepOf(c.id),
    stage: 'wire',
    kit: c.kit.id,
    circuit: c.id,
    title: crimps ? `Wire ${c.circuit.name}` : `Plug in ${c.circuit.name}`,
    text: [
      sayCircuit(c, harness, model, ends),
      ...(hazards.length ? [`On its way: ${hazards.map((z) => `${z}: ${PROTECTION[z]}`).join('; ')}.`] : []),
    ].join('\n'),
    place: c.feed?.place ?? null,
    reach: [
      ...new Set([
        ...c.circuit.devices.map((d) => c.kit.devices.find((x) => x.id === d)!.place),
        ...(c.trigger ? [c.trigger.place] : []),
        ...ends.flatMap((e) => e.place ?? []),
      ]),
    ],
    way: [...new Set([...(shelf.length ? (c.route?.places ?? []) : []), ...leads.flatMap((b) => b.laid!.legs.flatMap((l) => l.places))])],
    tool: crimps ? 'cutter, stripper, crimper' : ends.some((e) => e.how === 'screw') ? '10 mm wrench' : null,
    slideOnFirst:
      !crimps || c.joint === 'factory-plug' ? [] : ['heat-shrink', ...(c.circuit.terminal === 'ring' && shelf.length ? ['boot'] : [])],
    cautions: [`Never across steering or brake parts${crimps ? '; heat gun away from fuel' : ''}`, ...(crimps ? thinLeads(c) : [])],
    minutes: Math.max(
      1,
      Math.round((shelf.length && !ends.length ? SHELF_MINUTES : shelf.length ? 3 : 0) + minutesOfEnds(ends) + LAY_MINUTES_PER_M * leadsM),
    ),
    readings: [
      ...(pull && crimps
        ? [
            // by hand, as it is done at a bench; by figures for who has a gauge
            yes(TUGGED, 'Each crimp held a tug by hand', `as hard as ${round(pull.newtons)} N pulls`),
            {
              id: 'tug',
              label: 'Tug test of each crimp, by gauge',
              optional: true,
              expected: {
                low: pull.newtons,
                high: null,
                unit: 'N' as const,
                why: `on ${awgName(thinnest)} AWG (ABYC E-11)`,
              },
            },
          ]
        : []),
      ...(!crimps ? [yes('seated', 'Each plug clicked, each nut tight')] : []),
      ...(c.fuseFrom === 'shelf' && c.feed ? [yes(FUSE_PLACE, `Fuse ${sayFusePlace(c.feed.name, fuseWithinMm(c.feed.kind))}`)] : []),
    ],
  });
}

/** A single lead is laid as it is joined. */
const isLead = (b: Wiring['boxes'][number]): boolean => b.harness.legs.length === 1;

/** Laying each ready harness of a kit along the unit, before anything of it is joined. */
function laySteps(kit: Kit, wiring: Wiring, model: UnitModel, all: readonly EndWork[]): PlannedStep[] {
  const name = (id: string) => model.places.find((p) => p.id === id)?.name ?? id;
  return wiring.boxes.flatMap((box) => {
    if (box.kit !== kit.id || !box.laid || isLead(box)) return [];
    const ends = all.filter((e) => e.kit.id === kit.id && e.of.harness === box.harness.id);
    const joined = ends.filter((e) => e.place);
    const lengthM = box.harness.legs.reduce((s, l) => s + l.lengthMm, 0) / 1000;
    const hazards = [...new Set(box.laid.legs.flatMap((l) => l.hazards))];
    // what belongs to no circuit is seen to as it is laid
    const loose = ends.filter((e) => !e.circuits.length);
    return [
      step({
        id: `lay/${kit.id}/${box.harness.id}`,
        stage: 'wire',
        kit: kit.id,
        title: `Lay the ${box.harness.name}`,
        text: [
          ...joined.map((e) => `${e.name}: ${e.leg ? `to ${name(e.place!)}` : `at ${name(e.place!)}`}.`),
          ...loose.map((e) => sayEndWork(e, name)),
          ...(hazards.length ? [`On its way: ${hazards.map((z) => `${z}: ${PROTECTION[z]}`).join('; ')}.`] : []),
          'Nothing tied tight until every end is on.',
        ].join('\n'),
        place: joined[0]?.place ?? null,
        reach: [...new Set(joined.flatMap((e) => e.place ?? []))],
        way: [...new Set(box.laid.legs.flatMap((l) => l.places))],
        cautions: ['Never across steering or brake parts'],
        minutes: Math.round(LAY_MINUTES + LAY_MINUTES_PER_M * lengthM + minutesOfEnds(loose)),
      }),
    ];
  });
}

/** What a kit takes off the unit, each piece by itself, bagged and recorded. */
const offSteps = (kit: Kit, unit: UnitModel): PlannedStep[] =>
  takenOff(kit, unit).map(({ equipment, by }) =>
    step({
      id: `take/${kit.id}/${equipment.id}`,
      stage: 'mount',
      kit: kit.id,
      title: `${equipment.name} off`,
      text: KEPT[by.keep],
      place: by.place ?? equipment.place ?? null,
      minutes: by.minutes,
      readings: [yes('kept', KEPT_ASKED[by.keep])],
    }),
  );
const KEPT = {
  bag: 'Bag it with its screws, labelled with order and side.',
  owner: 'Bag it with its screws and give it to the owner.',
  discard: 'It is not used again.',
} as const;
const KEPT_ASKED = { bag: 'Bagged and labelled', owner: 'Bagged for the owner', discard: 'Off' } as const;

/** Minutes to mount what no step of its kit mounts, by its hole. Common practice, no source. */
const MOUNT_MINUTES = { rect: 8, round: 6, none: 4, nothing: 3 } as const;

/** Whether a step of its sheet mounts a device: by name, or, in sheets that name none, at its place. */
function isMounted(kit: Kit, device: Kit['devices'][number]): boolean {
  const named = kit.steps.some((s) => s.mounts.length > 0);
  return kit.steps.some((s) =>
    named ? s.mounts.includes(device.id) : s.stage === 'mount' && (s.place === device.place || s.reach.includes(device.place)),
  );
}

/** A step for every device that its kit mounts by none: nothing is left on the bench. */
const mountSteps = (kit: Kit): PlannedStep[] =>
  kit.devices
    .filter((d) => !d.uses && !isMounted(kit, d))
    .map((d) => {
      const cut = d.mount?.cut;
      const hole =
        cut?.kind === 'rect'
          ? `Cut-out ${cut.w} by ${cut.h} mm: trace the template, cut inside the line, test-fit first.`
          : cut?.kind === 'round'
            ? `Hole ${cut.mm} mm, edge smoothed${d.mount?.grommet ? `, ${d.mount.grommet}` : ''}.`
            : d.mount?.bolts.length
              ? `${d.mount.bolts.length} bolts: start all before tightening any.`
              : 'Fixed so that it cannot turn or chafe.';
      return step({
        id: `mount/${kit.id}/${d.id}`,
        stage: 'mount',
        kit: kit.id,
        title: `Mount the ${d.name}`,
        text: [hole, ...(d.mount?.note ? [d.mount.note] : [])].join('\n'),
        place: d.place,
        minutes: MOUNT_MINUTES[cut?.kind ?? 'nothing'],
        cautions: cut && cut.kind !== 'none' ? ['Eyes covered; look behind the panel before drilling or cutting'] : [],
      });
    });

/** Leads of a circuit's devices that are too thin for the terminals of its wire. */
function thinLeads(c: PlannedCircuit): string[] {
  const { awg } = c;
  if (awg === null) return [];
  const devices = c.circuit.devices.map((d) => c.kit.devices.find((x) => x.id === d)!);
  const says = devices.flatMap((d) => d.terminals.flatMap((t) => (t.awg === undefined ? [] : (thinInThick([awg, t.awg]) ?? []))));
  return [...new Set(says)];
}

/** The reading by which it is said that the crimps of a circuit were pulled by hand. */
const TUGGED = 'tugged';
/** The reading by which a fuse's place is confirmed. */
export const FUSE_PLACE = 'fuse-place';

/** A keyed feed is proved dead, live, dead; a constant one live. */
function feedProofs(model: UnitModel, wiring: Wiring): PlannedStep[] {
  // what a kit hands on is proved where the kit itself is fed
  const given = new Set(wiring.circuits.flatMap((c) => c.kit.provides.map((p) => p.id)));
  const used = wiring.points.filter((p) => !given.has(p.id) && wiring.circuits.some((c) => c.feed?.id === p.id || c.trigger?.id === p.id));
  return used.map((p) => {
    const place = p.place;
    const live = liveExpected(model, p);
    if (p.switching === 'keyed')
      return step({
        id: `feed/${p.id}`,
        stage: 'prove',
        proof: true,
        place,
        tool: 'meter',
        minutes: 3,
        title: `Volts at ${p.name}: key off, on, off`,
        text: 'Meter from the feed to ground. A wire that flashes is a turn-signal wire: choose another.',
        readings: [
          { id: 'off-1', label: 'Key off', expected: deadExpected(wiring.harness, p) },
          { id: 'on', label: 'Key on', expected: live },
          { id: 'off-2', label: 'Key off again', expected: deadExpected(wiring.harness, p) },
        ],
      });
    return step({
      id: `feed/${p.id}`,
      stage: 'prove',
      proof: true,
      place,
      tool: 'meter',
      minutes: 1,
      title: `Volts at ${p.name}`,
      text: 'Meter from the feed to ground, key off.',
      readings: [{ id: 'on', label: 'Key off', expected: live }],
    });
  });
}

/**
 * All the work of an order but panels and power, by what it is: in no order yet beyond that of its stages. See
 * `planWork` for the order in which it is done.
 */
export function workSteps(
  order: Order,
  sheets: Sheets,
  wiring: Wiring,
  budget: Budget,
  lamps: OrderLamps,
  ends: readonly EndWork[],
  unmeasured = sheets.model,
  /** the unit as it came, with what its kits take off */
  unit = sheets.model,
): PlannedStep[] {
  const { model, kits } = sheets;
  const of = (stage: Stage) => kits.flatMap((k) => kitSteps(k, stage, model, budget, wiring));
  const at = model.electrical.battery.place;
  const engine = model.electrical.source.kind !== 'none';
  const draws = (c: PlannedCircuit) => c.circuit.devices.some((d) => c.kit.devices.find((x) => x.id === d)?.load);
  const loaded = wiring.circuits.filter((c) => c.load.peakA !== null && c.load.peakA > 0 && !c.circuit.makes && draws(c));
  return [
    restStep(model),
    ...of('bench-test'),
    ...lampSteps(order, sheets, lamps),
    ...changeSteps(order, sheets, wiring),
    ...kits.flatMap((k) => offSteps(k, unit)),
    ...of('mount'),
    ...kits.flatMap(mountSteps),
    ...kits.flatMap((k) => laySteps(k, wiring, model, ends)),
    ...of('wire'),
    ...wiring.circuits.filter((c) => isWork(c, wiring.harness, ends)).map((c) => wireStep(c, wiring, model, ends)),
    ...feedProofs(model, wiring),
    ...loaded.map((c) =>
      step({
        id: `volts/${c.id}`,
        stage: 'prove',
        proof: true,
        kit: c.kit.id,
        circuit: c.id,
        place: c.kit.devices.find((d) => d.id === c.circuit.devices.at(-1))!.place,
        tool: 'meter',
        minutes: 2,
        title: `Volts at ${c.circuit.name}`,
        text:
          engine && c.feed?.kind !== 'reducer-output'
            ? 'Engine at a fast idle, everything on this circuit on. Meter at the last device.'
            : 'Everything on this circuit on. Meter at the last device.',
        readings: [{ id: 'volts', label: 'At the device, on', expected: supplyExpected(model, c, wiring.harness, engine) }],
      }),
    ),
    ...of('prove'),
    ...(wiring.circuits.length
      ? [
          ...(engine
            ? [
                step({
                  id: CHARGING_STEP,
                  stage: 'prove',
                  proof: true,
                  place: at,
                  tool: 'meter',
                  minutes: 3,
                  title: 'Charging volts at idle, all on',
                  text: 'Engine at idle, everything on. Meter on the battery posts.',
                  // judged by the sheet, not by what this very reading makes of it
                  readings: [
                    { id: 'volts', label: 'At the battery', expected: chargingExpected(unmeasured, budget) },
                    { id: 'amps', label: 'From the source, by clamp meter', expected: sourceExpected(unmeasured, budget), optional: true },
                  ],
                  cautions: ['Engine running: exhaust led outside, hands and hair clear'],
                }),
              ]
            : []),
          step({
            id: 'prove/parked',
            stage: 'prove',
            proof: true,
            place: at,
            tool: 'meter, 10 A range',
            minutes: 3,
            title: 'Parked draw',
            text: 'Key out, lamps off, doors shut. Wait until its modules sleep, up to half an hour. Meter in series with the negative cable, on its 10 A input first.',
            readings: [{ id: 'amps', label: 'Key off', expected: parkedExpected(budget) }],
          }),
        ]
      : []),
    ...(model.kind === 'motorcycle'
      ? [
          step({
            id: 'prove/bars',
            stage: 'prove',
            proof: true,
            place: null,
            minutes: 1,
            title: 'Bars lock to lock',
            text: 'Slowly, both ways: nothing pulls, touches or opens a switch.',
            readings: [yes('free', 'Free lock to lock')],
          }),
        ]
      : []),
    ...of('close'),
  ];
}
