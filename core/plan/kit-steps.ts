import type { Kit, KitStep, Stage } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import type { Budget } from '../energy/budget';
import { takenOff } from '../wiring/chosen';
import type { Wiring } from '../wiring/planned';
import { kitExpected } from './expect';
import { RIDE_STEP } from './last-steps';
import { step, yes, type PlannedStep } from './planned';

/** The steps of a kit’s sheet at a stage, with what the pieces that they use ask for. */
export function kitSteps(kit: Kit, stage: Stage, model: UnitModel, budget: Budget, wiring: Wiring): PlannedStep[] {
  return kit.steps.filter((s) => s.stage === stage).map((s) => fromKit(kit, s, model, budget, wiring));
}

/** Where a kit's step is done: at the device that it mounts, wherever that stands, else where its sheet says. */
function placeOf(kit: Kit, s: KitStep): string {
  const device = kit.devices.find((d) => d.id === s.mounts[0] && d.places.length);
  return device?.place ?? s.place;
}

/** A click-type wrench is off by so much (ISO 6789-1, from memory). */
const TORQUE_SHARE = 0.04;
/** The reading by which a second person says that they looked. */
export const SECOND_LOOK = 'second';

/** What the pieces that a step uses ask for: how tight, what cleans, how long it is pressed and left. */
function usesOf(kit: Kit, s: KitStep): Pick<PlannedStep, 'readings' | 'waitMinutes' | 'waitsFor' | 'holds'> & { says: string[] } {
  const pieces = s.uses.flatMap((id) => kit.contents.find((c) => c.id === id) ?? []);
  const tight = pieces.filter((c) => c.fastener?.torqueNm !== undefined);
  const pads = pieces.filter((c) => c.pad);
  return {
    says: pieces.flatMap((c) => {
      const out: string[] = [];
      if (c.fastener)
        out.push(
          `${c.item}, ${c.count}: ${c.count > 1 && !/\b(start|loose)\b/i.test(s.text) ? 'all started by hand, aligned, then ' : ''}${[
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
    readings: [
      ...(pads.length ? [yes('dry', 'Tried dry: it fits before anything sticks')] : []),
      ...pads.flatMap((c) =>
        c.pad!.leastC === undefined ? [] : [yes('warm', `Place and ${c.item} at ${c.pad!.leastC} °C or over, warmed where they were not`)],
      ),
      ...(tight.length
        ? [
            yes(
              'torque',
              `Tightened: ${tight.map((c) => `${c.item} at ${c.fastener!.torqueNm} N·m`).join(', ')}`,
              'the figure of its sheet',
            ),
          ]
        : []),
      ...tight
        .filter((c) => c.fastener!.holdsPerson)
        .flatMap((c): PlannedStep['readings'] => [
          {
            id: `torque-${c.id!}`,
            label: `${c.item}, as the wrench let go`,
            expected: {
              low: c.fastener!.torqueNm! * (1 - TORQUE_SHARE),
              high: c.fastener!.torqueNm! * (1 + TORQUE_SHARE),
              unit: 'Nm',
              why: 'it holds a person: the figure of its sheet',
            },
          },
          yes(SECOND_LOOK, `A second person has looked at ${c.item}`, 'it holds a person'),
        ]),
    ],
    waitMinutes: Math.max(0, ...pads.map((c) => c.pad!.cureH * 60)),
    waitsFor: pads
      .filter((c) => c.pad!.cureH > 0)
      .map((c) => `${c.item} cures ${c.pad!.cureH} h${c.pad!.leastC === undefined ? '' : `, not under ${c.pad!.leastC} °C`}`)
      .join('; '),
    // nobody rides on what has not cured, nor does what its sheet says is done after
    holds: pads.some((c) => c.pad!.cureH > 0) ? [RIDE_STEP, ...pads.flatMap((c) => c.pad!.before.map((b) => `${kit.id}/${b}`))] : [],
  };
}

function fromKit(kit: Kit, s: KitStep, model: UnitModel, budget: Budget, wiring: Wiring): PlannedStep {
  const uses = usesOf(kit, s);
  return step({
    id: `${kit.id}/${s.id}`,
    stage: s.stage,
    title: s.title,
    text: [s.text, ...uses.says].join('\n'),
    why: s.why ?? '',
    picture: s.picture ?? null,
    waitMinutes: uses.waitMinutes,
    waitsFor: uses.waitsFor,
    holds: uses.holds,
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
      ...uses.readings,
    ],
    proof: s.stage === 'prove' || s.stage === 'bench-test',
    kit: kit.id,
  });
}

/** What a kit takes off the unit, each piece by itself, bagged and recorded. */
export const offSteps = (kit: Kit, unit: UnitModel): PlannedStep[] =>
  takenOff(kit, unit).map(({ id, name, place, by }) =>
    step({
      id: `take/${kit.id}/${id}`,
      stage: 'mount',
      kit: kit.id,
      title: `${name.charAt(0).toUpperCase()}${name.slice(1)} off`,
      text: KEPT[by.keep],
      place,
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
const MOUNT_MINUTES = { rect: 8, round: 6, none: 3, nothing: 3 } as const;
const BOLT_MINUTES = 1;

/** Whether one of some steps of its sheet mounts a device: by name, or, in sheets that name none, at its place. */
export function isMounted(kit: Kit, device: Kit['devices'][number], steps = kit.steps): boolean {
  const named = kit.steps.some((s) => s.mounts.length > 0);
  return steps.some((s) =>
    named ? s.mounts.includes(device.id) : s.stage === 'mount' && (s.place === device.place || s.reach.includes(device.place)),
  );
}

/** The step that a device is mounted by: of its sheet, or its own. */
export function mountStepOf(kit: Kit, device: Kit['devices'][number]): string {
  const own = kit.steps.find((s) => isMounted(kit, device, [s]));
  return own ? `${kit.id}/${own.id}` : `mount/${kit.id}/${device.id}`;
}

/** The devices that a step mounts. */
export const mountedAt = (kit: Kit, step: string): Set<string> =>
  new Set(kit.devices.flatMap((d) => (mountStepOf(kit, d) === step || step === `lamp/${kit.id}/${d.id}` ? [d.id] : [])));

/** A step for every device that its kit mounts by none: nothing is left on the bench. */
export const mountSteps = (kit: Kit): PlannedStep[] =>
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
        minutes: MOUNT_MINUTES[cut?.kind ?? 'nothing'] + BOLT_MINUTES * (d.mount?.bolts.length ?? 0),
        cautions: cut && cut.kind !== 'none' ? ['Eyes covered; look behind the panel before drilling or cutting'] : [],
      });
    });
