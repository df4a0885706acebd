import type { Kit } from '#model/kit';
import type { Place, Run, UnitModel } from '#model/unit-model';
import { isRun } from '../circuit/route';

/** What one order on a model has that its sheet does not say. */
export interface OwnOfOrder {
  order: string;
  number: number;
  ways: Run[];
  spots: Place[];
  own: Kit | null;
}

/** A place or a way that an order has and the sheet of its model does not. */
export interface OwnFound {
  /** where it would stand in the sheet */
  pointer: string;
  name: string;
  /** a way as it was taped, mm; null for a place */
  lengthMm: number | null;
  order: string;
  number: number;
}

/** What orders on a model have of their own: for its sheet, and parts that might be a box. */
export interface OwnOffered {
  found: OwnFound[];
  boxes: { order: string; number: number; own: Kit }[];
}

const has = (m: UnitModel, p: Place): boolean => m.places.some((x) => x.id === p.id || x.name.toLowerCase() === p.name.toLowerCase());
const wayPointer = (r: Run): string => `/runs/${r.from}..${r.to}`;

/** What orders on a model have of their own that its sheet might take: places, and ways between places that it has. */
export function ownFound(model: UnitModel, orders: readonly OwnOfOrder[]): OwnFound[] {
  const name = (id: string) => model.places.find((p) => p.id === id)?.name;
  return orders.flatMap(({ order, number, ways, spots }) => [
    ...spots.filter((p) => !has(model, p)).map((p) => ({ pointer: `/places/${p.id}`, name: p.name, lengthMm: null, order, number })),
    ...ways.flatMap((r) => {
      const [a, b] = [name(r.from), name(r.to)];
      if (!a || !b || model.runs.some((x) => isRun(x, r.from, r.to))) return [];
      return [{ pointer: wayPointer(r), name: `${a} to ${b}`, lengthMm: r.lengthMm ?? null, order, number }];
    }),
  ]);
}

/** A sheet with what an order has of its own at a pointer: a place with the ways that lead there, or a way. */
export function withOwnFound(model: UnitModel, of: OwnOfOrder, pointer: string, by: { at: string; by: string }): UnitModel {
  const place = of.spots.find((p) => `/places/${p.id}` === pointer && !has(model, p));
  const places = place ? [...model.places, place] : model.places;
  const there = (id: string) => places.some((p) => p.id === id);
  const ways = of.ways.filter(
    (r) =>
      (place ? r.from === place.id || r.to === place.id : wayPointer(r) === pointer) &&
      there(r.from) &&
      there(r.to) &&
      !model.runs.some((x) => isRun(x, r.from, r.to)),
  );
  if (!place && !ways.length) return model;
  const known = { ...model.known };
  const measured = { how: 'measured' as const, ...by, note: `order ${of.number}` };
  if (place) known[pointer] = measured;
  for (const r of ways) known[`${wayPointer(r)}/lengthMm`] = measured;
  return { ...model, places, runs: [...model.runs, ...ways], known };
}
