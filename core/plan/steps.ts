import type { Stage } from '#model/kit';
import type { Order } from '#model/order';
import type { Sheets } from '#model/sheet';
import type { Panel, UnitModel } from '#model/unit-model';
import type { PlannedCircuit, Wiring } from '../wiring/planned';
import type { Budget } from '../energy/budget';
import type { OrderLamps } from '../lighting/check';
import { isHighVoltage, isTraction, PACK_WORK_V } from '../wire-rules/high-volts';
import type { EndWork } from '../wiring/box-work';
import { cutSteps, feedSteps, feedStepOf, findSteps, soughtBefore } from './find-steps';
import { circuitSight } from '../fault/sight';
import { lampSteps } from './lamp-steps';
import { changeSteps } from './change-steps';
import { jobSteps } from './job-steps';
import { kitSteps, mountSteps, offSteps } from './kit-steps';
import { handShare } from './hand-load';
import { lastSteps, steeringSteps, tieSteps } from './last-steps';
import { switchProofs } from './switch-proofs';
import { isWork, laidBefore, metBefore, laySteps, wireStep } from './wire-steps';
import { BATTERY_CAUTION, step, yes, type PlannedStep } from './planned';
import { sourceExpected, chargingExpected, parkedExpected, restBand, supplyExpected } from './expect';

/** Read while everything is still as it came. */
export const REST_STEP = 'safe/rest';
export const CHARGING_STEP = 'prove/charging';
const PARKED_STEP = 'prove/parked';
/** What is left to fall asleep, before the draw with the key off is read. */
export const ASLEEP_STEP = 'prove/asleep';
/** How long modules take to sleep, minutes; and the draw, mA, up to which there are none. Common practice, no source. */
const [SLEEP_MINUTES, NO_MODULES_MA] = [20, 2];
/** Whether the unit has modules that stay awake for a while with the key off; a boat’s hang on its battery switch. */
const hasModules = (model: UnitModel) => model.kind !== 'boat' && model.electrical.parkedMa > NO_MODULES_MA;

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
  const after = [yes('tight', 'Posts tight by hand on the clamp, covered again'), yes('quiet', 'No smoke, nothing warm')];
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
        readings: after,
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
      readings: after,
      cautions: ['A small spark at the last post is possible: eyes covered', 'Nobody touches the wiring while power goes on'],
    }),
  ];
}

/** Whether a panel is opened by hand, as hoods, lids and doors are: it is shut and opened once. */
const swings = (p: Panel): boolean => p.fasteners.every((f) => f.tool === 'hand');
const SWUNG = 'Shut and opened once: nothing pinched under it';
const LAID = 'Pressed home by hand before it is fastened: nothing pinched under it';

/** A panel off, or back on: where something was laid under it, it is looked at before it is fastened. */
export const panelStep = (p: Panel, off: boolean, wired: ReadonlySet<string> = new Set()): PlannedStep =>
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
    readings: !off && p.hides.some((h) => wired.has(h)) ? [yes('pinched', swings(p) ? SWUNG : LAID)] : [],
  });

/** How a circuit is on while its volts are read: by its own switches, as the wiring is planned. */
function voltsText(c: PlannedCircuit, { harness }: Wiring, engine: boolean): string {
  const state = circuitSight(harness, c, engine)?.state.controls ?? {};
  const on = harness.controls.flatMap((x) => {
    const at = x.positions.findIndex((p) => p.id === state[x.id]);
    return at > 0 && x.id !== 'unit#key' && x.id !== 'unit#engine' ? [`${x.name} ${x.positions[at]!.name}`] : [];
  });
  const first = engine && c.feed?.kind !== 'reducer-output' ? 'Engine at a fast idle' : 'Key on';
  const load = handShare(c) === null ? '' : ' A few turns out and in by the hand-saver strap, hands a metre from the fairlead.';
  return on.length
    ? `${first}; ${on.join(', ')}.${load} Meter at the last device. Then off, by the same switch: dead.`
    : `${first}, everything on this circuit on. Meter at the last device.`;
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
  const feeds = feedSteps(model, wiring);
  const found = feeds.filter((s) => s.stage === 'find').map((s) => s.id);
  const mounts = of('mount');
  const lays = kits.flatMap((k) => laySteps(k, wiring, model, ends));
  const ties = tieSteps(wiring, model);
  const draws = (c: PlannedCircuit) => c.circuit.devices.some((d) => c.kit.devices.find((x) => x.id === d)?.load);
  const loaded = wiring.circuits.filter((c) => c.load.peakA !== null && c.load.peakA > 0 && !c.circuit.makes && draws(c));
  return [
    restStep(model),
    ...of('bench-test'),
    ...lampSteps(order, sheets, lamps),
    ...changeSteps(order, sheets, wiring),
    ...findSteps(kits, model),
    ...feeds.filter((s) => s.stage === 'find'),
    ...kits.flatMap((k) => offSteps(k, unit)),
    ...mounts,
    ...jobSteps(order.jobs ?? []),
    ...kits.flatMap(mountSteps),
    ...lays,
    ...kits.flatMap((k) => cutSteps(k, kits, model)),
    ...of('wire'),
    ...wiring.circuits
      .filter((c) => isWork(c, wiring.harness, ends))
      .map((c) => ({
        ...wireStep(c, wiring, model, ends),
        // what it is joined to is found first, and cut where it is cut; its harness is laid, and what others bring for it is there
        after: [
          ...found.filter((f) => [c.feed, c.trigger].some((p) => p && feedStepOf(p.id) === f)),
          ...soughtBefore(c.kit, kits, model),
          ...metBefore(c, wiring, kits),
          ...laidBefore(c, ends).filter((l) => lays.some((s) => s.id === l)),
        ],
      })),
    ...feeds.filter((s) => s.stage === 'prove'),
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
        text: voltsText(c, wiring, engine),
        readings: [{ id: 'volts', label: 'At the device, on', expected: supplyExpected(model, c, wiring.harness, engine) }],
      }),
    ),
    ...of('prove'),
    ...switchProofs(kits, wiring),
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
          ...(hasModules(model)
            ? [
                step({
                  id: ASLEEP_STEP,
                  stage: 'prove',
                  place: at,
                  minutes: 1,
                  title: 'Leave it to fall asleep',
                  text: 'Key out and away from it, lamps off, doors shut. Nothing is switched on until the parked draw is read.',
                  waitMinutes: SLEEP_MINUTES,
                  waitsFor: 'its modules fall asleep',
                  holds: [PARKED_STEP],
                }),
              ]
            : []),
          step({
            id: PARKED_STEP,
            stage: 'prove',
            proof: true,
            place: at,
            tool: 'meter, 10 A range',
            minutes: 3,
            title: 'Parked draw',
            text: `${model.kind === 'boat' ? 'Key out, every switch off' : 'Key out, lamps off, doors shut'}. Meter in series with the negative cable, on its 10 A input first; where it still falls, wait until it stands.`,
            readings: [{ id: 'amps', label: 'Key off', expected: parkedExpected(budget) }],
          }),
        ]
      : []),
    ...ties,
    ...steeringSteps(wiring, model, ties.length > 0),
    ...of('close'),
    ...lastSteps(
      kits,
      wiring,
      model,
      loaded,
      mounts.flatMap((s) => (s.waitsFor ? [s.waitsFor] : [])),
    ),
  ];
}
