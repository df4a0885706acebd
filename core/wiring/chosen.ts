import { isThere, type Kit } from '#model/kit';
import type { Order } from '#model/order';
import type { Sheets } from '#model/sheet';
import type { UnitModel } from '#model/unit-model';
import { slugOf } from '../slug';
import { fittedWires } from './fitted-wires';
import { layHarness } from './lay';
import { spotsOf, type OutsideTarget } from './spots';
import { joinedEnds } from './target';

/** What an order settles about its boxes: options of variants by kit, and places of devices by `kit/device`. */
export type BoxChoices = Pick<Order, 'variants' | 'places'> & { fitted?: Order['fitted'] };

/** A kit as its choices have it: what belongs to another option is not there. What it contains is kept whole, for counting. */
export function chosenKit(kit: Kit, chosen: Readonly<Record<string, string>>): Kit {
  if (!kit.variants.length) return kit;
  const here = <T extends { when?: string | undefined }>(list: T[]): T[] => list.filter((x) => isThere(x, kit.variants, chosen));
  return {
    ...kit,
    besides: here(kit.besides),
    harnesses: here(kit.harnesses),
    joins: here(kit.joins),
    provides: here(kit.provides),
    takesOff: here(kit.takesOff),
    cuts: here(kit.cuts),
    devices: here(kit.devices),
    circuits: here(kit.circuits),
    leads: here(kit.leads),
    steps: here(kit.steps),
  };
}

/** At most so many ways of placing a kit’s devices are tried. */
const MOST_WAYS = 64;

/** Millimetres by which a kit’s ready leads are short with its devices where they stand. */
function shortOf(kit: Kit, model: UnitModel): number {
  // whatever point of its volts will take it: the feed is chosen later
  const outside = (t: OutsideTarget): string[] => {
    if (t.to === 'wire') return [];
    const c = kit.circuits.find((x) => x.id === t.circuit);
    const kinds = t.to === 'feed' ? c?.only : undefined;
    return model.powerPoints
      .filter((p) => (!kinds || kinds.includes(p.kind)) && Math.abs(p.volts - (c?.volts ?? 12)) <= 2)
      .map((p) => p.place);
  };
  const ends = joinedEnds(kit);
  return kit.harnesses.reduce((sum, h) => {
    const spots = new Map(ends.filter((e) => e.harness === h).map((e) => [e.end.id, spotsOf(kit, model, e, outside)]));
    return sum + (layHarness(model, h, spots)?.shortMm ?? 0);
  }, 0);
}

/** Where a device may stand on a unit: its sheet’s own place first. */
export const placesFor = (d: Kit['devices'][number], model: UnitModel): string[] =>
  [d.place, ...d.places].filter((p) => model.places.some((x) => x.id === p));

/** A kit with its devices where they stand: as the order says, else where the leads of the box reach them best, the sheet’s own place first. */
function placedKit(kit: Kit, model: UnitModel, places: Readonly<Record<string, string>>): Kit {
  const free = kit.devices.filter((d) => d.places.length);
  if (!free.length) return kit;
  const options = free.map((d) => {
    const set = places[`${kit.id}/${d.id}`];
    const all = placesFor(d, model);
    return set && all.includes(set) ? [set] : all.length ? all : [d.place];
  });
  const at = (pick: readonly string[]): Kit => ({
    ...kit,
    devices: kit.devices.map((d) => {
      const i = free.indexOf(d);
      return i < 0 || d.place === pick[i] ? d : { ...d, place: pick[i]! };
    }),
  });
  let ways: string[][] = [[]];
  for (const o of options) {
    const more = ways.flatMap((w) => o.map((p) => [...w, p]));
    ways = more.length > MOST_WAYS ? ways.map((w) => [...w, o[0]!]) : more;
  }
  let best = { kit: at(ways[0]!), short: Infinity };
  for (const w of ways) {
    const k = at(w);
    const short = ways.length > 1 ? shortOf(k, model) : 0;
    if (short < best.short - 0.5) best = { kit: k, short };
  }
  return best.kit;
}

/** The choices that were made last on some sheets, and what came of them: what is laid on a unit is kept by that unit. */
const lately = new WeakMap<Sheets, { choices: string; out: Sheets }>();

/**
 * Sheets as an order’s choices have them: the option of each variant, every device where it stands, and the unit without what its
 * kits take off and with the wires of what was fitted before.
 */
export function boxSheets(order: BoxChoices, given: Sheets): Sheets {
  const choices = JSON.stringify([order.variants, order.places, order.fitted]);
  const known = lately.get(given);
  if (known?.choices === choices) return known.out;
  const out = chosenSheets(order, given);
  lately.set(given, { choices, out });
  return out;
}

function chosenSheets(order: BoxChoices, given: Sheets): Sheets {
  const kits = given.kits.map((k) => placedKit(chosenKit(k, order.variants?.[k.id] ?? {}), given.model, order.places ?? {}));
  const off = kits.flatMap((k) => k.takesOff);
  const { places, factoryWires } = given.model;
  // once only, however often this is asked
  const wires = fittedWires(order.fitted ?? []).filter(
    (w) => places.some((p) => p.id === w.place) && !factoryWires.some((x) => x.id === w.id),
  );
  if (!off.length && !wires.length && kits.every((k, i) => k === given.kits[i])) return given;
  const model =
    off.length || wires.length
      ? {
          ...given.model,
          factoryWires: [...given.model.factoryWires, ...wires],
          equipment: given.model.equipment.filter(
            (e) => !off.some((t) => t.item === undefined && t.function === e.function && (t.place === undefined || t.place === e.place)),
          ),
        }
      : given.model;
  return { ...given, kits, model };
}

/** What a kit takes off this unit, piece by piece; a piece by its name is there wherever its place is. */
export const takenOff = (kit: Kit, model: UnitModel): { id: string; name: string; place: string | null; by: Kit['takesOff'][number] }[] =>
  kit.takesOff.flatMap((by) =>
    by.item !== undefined
      ? by.place === undefined || model.places.some((p) => p.id === by.place)
        ? [{ id: slugOf(`${by.item} ${by.place ?? ''}`), name: by.item, place: by.place ?? null, by }]
        : []
      : model.equipment
          .filter((e) => e.function === by.function && (by.place === undefined || by.place === e.place))
          .map((e) => ({ id: e.id, name: e.name, place: by.place ?? e.place ?? null, by })),
  );
