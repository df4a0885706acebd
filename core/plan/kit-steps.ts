import type { Kit, KitStep, Stage } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import type { Budget } from '../energy/budget';
import { takenOff } from '../wiring/chosen';
import type { Wiring } from '../wiring/planned';
import { kitExpected } from './expect';
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

function fromKit(kit: Kit, s: KitStep, model: UnitModel, budget: Budget, wiring: Wiring): PlannedStep {
  const uses = usesOf(kit, s);
  return step({
    id: `${kit.id}/${s.id}`,
    stage: s.stage,
    title: s.title,
    text: [s.text, ...uses.says].join('\n'),
    waitMinutes: uses.waitMinutes,
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
const MOUNT_MINUTES = { rect: 8, round: 6, none: 4, nothing: 3 } as const;

/** Whether one of some steps of its sheet mounts a device: by name, or, in sheets that name none, at its place. */
export function isMounted(kit: Kit, device: Kit['devices'][number], steps = kit.steps): boolean {
  const named = kit.steps.some((s) => s.mounts.length > 0);
  return steps.some((s) =>
    named ? s.mounts.includes(device.id) : s.stage === 'mount' && (s.place === device.place || s.reach.includes(device.place)),
  );
}

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
        minutes: MOUNT_MINUTES[cut?.kind ?? 'nothing'],
        cautions: cut && cut.kind !== 'none' ? ['Eyes covered; look behind the panel before drilling or cutting'] : [],
      });
    });
