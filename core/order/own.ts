import type { Kit } from '#model/kit';
import { Mount } from '#model/lamp';
import { OWN_KIT, type OwnWork, type Swapped } from '#model/own';
import type { Sheets } from '#model/sheet';
import { isRun } from '../circuit/route';
import { pairsOf } from '#model/box';
import { SHELF, type ShelfPart } from '../shelf/parts';
import { removeHarness } from '../shelf/ready-harness';
import { newKit, removeDevice } from '../sheets/edit-kit';

/** Parts of one order before there are any: a box of nobody’s, that goes on this unit. */
export const emptyOwn = (): Kit => ({
  ...newKit('This order', 'Parts of this order', [], null),
  id: OWN_KIT,
  summary: 'What is fitted on this order alone.',
  fits: [{ fits: true }],
});

const MOST_NAME = 80;
/** Parts of one order, called by what they are. */
export function namedOwn(own: Kit): Kit {
  const loose = own.contents.filter((c) => !c.of.length).map((c) => c.item);
  const said = [...own.devices.map((d) => d.name), ...own.steps.map((s) => s.title), ...loose].join(', ');
  return { ...own, name: said.length > MOST_NAME ? `${said.slice(0, MOST_NAME - 1)}…` : said || own.name };
}

/**
 * A kit without a device that is left out: what only mounts or proves it is not done, and a lead that goes to nothing else stays in
 * the box.
 */
function without(kit: Kit, device: string): Kit {
  const left = removeDevice(kit, device);
  const steps = left.steps.flatMap((s) => {
    const was = kit.steps.find((x) => x === s || (x.id === s.id && x.when === s.when))!;
    if (was.mounts.length && !s.mounts.length) return [];
    const readings = s.readings.filter((r, i) => {
      const saw = was.readings[i]!.sees;
      return !saw?.lit.length || !!r.sees?.lit.length;
    });
    return was.readings.length && !readings.length ? [] : [{ ...s, readings }];
  });
  const served = (k: Kit, harness: string) => k.joins.some((j) => j.harness === harness && pairsOf(j).some(([, t]) => t.includes('.')));
  const idle = left.harnesses.filter((h) => served(kit, h.id) && !served(left, h.id)).map((h) => h.id);
  return idle.reduce<Kit>((k, h) => removeHarness(k, h), { ...left, steps });
}

/** Whether a part of the shelf does what a switch of a kit does: as many positions, held or sprung alike. */
export function doesLike(part: ShelfPart, device: Kit['devices'][number]): boolean {
  const [own, ...more] = device.controls;
  const theirs = part.device.controls ?? [];
  return (
    !!own &&
    !more.length &&
    theirs.length === 1 &&
    theirs[0]!.positions.length === own.positions.length &&
    (theirs[0]!.momentary ?? false) === own.momentary
  );
}

/**
 * A kit in which another switch stands in the place of one: the same contacts and ends, in its own hole. The box's stays in the
 * box, and the new one is to be had besides.
 */
function withSwitch(kit: Kit, s: Swapped): Kit {
  const hole = SHELF.find((p) => p.id === s.part)?.device.mount;
  return {
    ...kit,
    devices: kit.devices.map((d) => {
      if (d.id !== s.device) return d;
      const { mount: _, ...rest } = d;
      return { ...rest, name: s.name, ...(hole && { mount: Mount.parse(hole) }) };
    }),
    contents: kit.contents.map((c) => (c.of.includes(s.device) ? { ...c, of: c.of.filter((x) => x !== s.device) } : c)),
    besides: [...kit.besides, { item: s.name, count: 1 }],
  };
}

/** Sheets with what one order has that no sheet says. Putting it in again changes nothing. */
export function ownSheets(order: OwnWork, given: Sheets): Sheets {
  const { own, leftOut = [], swapped = [], ways = [], spots = [] } = order;
  const newSpots = spots.filter((p) => !given.model.places.some((x) => x.id === p.id));
  const missing = ways.filter((w) => !given.model.runs.some((r) => isRun(r, w.from, w.to)));
  const there = (k: Kit, s: Swapped) => s.kit === k.id && k.devices.some((d) => d.id === s.device && d.name !== s.name);
  const fitted = given.kits.map((k) => swapped.reduce((x, s) => (there(x, s) ? withSwitch(x, s) : x), k));
  const kits = fitted.map((k) =>
    leftOut.reduce((x, l) => (l.kit === x.id && x.devices.some((d) => d.id === l.device) ? without(x, l.device) : x), k),
  );
  const more = own && !kits.some((k) => k.id === OWN_KIT) ? [own] : [];
  if (!missing.length && !newSpots.length && !more.length && kits.every((k, i) => k === given.kits[i])) return given;
  return {
    ...given,
    model:
      missing.length || newSpots.length
        ? { ...given.model, places: [...given.model.places, ...newSpots], runs: [...given.model.runs, ...missing] }
        : given.model,
    kits: [...kits, ...more],
  };
}
