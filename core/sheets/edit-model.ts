import type { Point } from '#model/lamp';
import type { Hazard, UnitModel } from '#model/unit-model';
import { UnitModel as Schema, ViewName } from '#model/unit-model';
import { isRun, runLength } from '../circuit/route';
import { ImpossibleInput } from '../errors';
import { otherSide } from '../known/values';
import { freeId } from '../slug';
import { allBefore } from '../plan/precedence';
import { fieldChanges, listChanges } from './say-changes';

export type Axis = keyof Point;
/** Who typed a figure, and when: then it is known as measured. */
export interface Typed {
  by: string;
  at: string;
}

const placeOf = (m: UnitModel, id: string) => m.places.find((p) => p.id === id);
/** The place on the other side while both still stand alike. */
function twin(m: UnitModel, id: string): string | null {
  const right = otherSide(m, id);
  const left = m.places.find((p) => otherSide(m, p.id) === id)?.id ?? null;
  const [a, b] = [placeOf(m, id), placeOf(m, right ?? left ?? '')];
  return a && b && a.x === b.x && a.y === -b.y && a.z === b.z ? b.id : null;
}

/**
 * A place put elsewhere, and its other side with it while both stand alike; millimetres, whole.
 * @param typed who typed it: its figures are known then; dragged by eye they stay as they were known
 */
export function movePlace(m: UnitModel, id: string, to: Partial<Point>, typed?: Typed): UnitModel {
  const other = twin(m, id);
  const moved = (y: 1 | -1, p: UnitModel['places'][number]) => ({
    ...p,
    ...Object.fromEntries((Object.keys(to) as Axis[]).map((a) => [a, Math.round(to[a]! * (a === 'y' ? y : 1)) + 0])),
  });
  const known = { ...m.known };
  if (typed)
    for (const p of [id, ...(other ? [other] : [])])
      for (const a of Object.keys(to)) known[`/places/${p}/${a}`] = { how: 'measured', by: typed.by, at: typed.at };
  return { ...m, known, places: m.places.map((p) => (p.id === id ? moved(1, p) : p.id === other ? moved(-1, p) : p)) };
}

/** Where a place that is dragged comes to lie: on the line of another one, or of the middle, that is near; and on whose. */
export function snapped(m: UnitModel, id: string, to: Partial<Point>, withinMm: number): { to: Partial<Point>; on: string[] } {
  const other = twin(m, id);
  const on: string[] = [];
  const out: Partial<Record<Axis, number>> = {};
  for (const axis of Object.keys(to) as Axis[]) {
    const lines = [
      ...(axis === 'y' ? [{ at: 0, name: 'the centre line' }] : []),
      ...m.places.filter((p) => p.id !== id && p.id !== other).map((p) => ({ at: p[axis], name: p.name })),
    ];
    const near = lines.reduce<(typeof lines)[number] | null>(
      (best, l) =>
        Math.abs(l.at - to[axis]!) <= withinMm && (!best || Math.abs(l.at - to[axis]!) < Math.abs(best.at - to[axis]!)) ? l : best,
      null,
    );
    out[axis] = near ? near.at : to[axis]!;
    if (near) on.push(near.name);
  }
  return { to: out, on };
}

/** A new place by its name. @throws ImpossibleInput for a name that is empty or taken */
export function addPlace(m: UnitModel, name: string, at: Point): { model: UnitModel; id: string } {
  const said = name.trim();
  if (!said) throw new ImpossibleInput('it needs a name', 'name');
  if (m.places.some((p) => p.name.toLowerCase() === said.toLowerCase())) throw new ImpossibleInput(`“${said}” is there already`, 'name');
  const id = freeId(
    said,
    m.places.map((p) => p.id),
  );
  return { id, model: { ...m, places: [...m.places, { id, name: said.slice(0, 80), wet: m.kind === 'boat', ...at }] } };
}

/** What stands at a place, by name: while anything does, it cannot go. */
export const whatStandsAt = (m: UnitModel, id: string): string[] => [
  ...m.powerPoints.filter((p) => p.place === id).map((p) => p.name),
  ...m.grounds.filter((p) => p.place === id).map((p) => p.name),
  ...m.factoryWires.filter((p) => p.place === id).map((p) => p.name),
  ...m.equipment.filter((p) => p.place === id).map((p) => p.name),
  ...(m.electrical.battery.place === id ? [m.electrical.battery.name] : []),
  ...(m.electrical.house?.battery.place === id ? [m.electrical.house.battery.name] : []),
];

/** A sheet without a place, its runs, and what was known of it. @throws ImpossibleInput while something stands there */
export function removePlace(m: UnitModel, id: string): UnitModel {
  const there = whatStandsAt(m, id);
  if (there.length) throw new ImpossibleInput(`${there.join(', ')} ${there.length === 1 ? 'stands' : 'stand'} there`, 'place');
  const gone = (pointer: string) =>
    pointer.startsWith(`/places/${id}/`) || new RegExp(`^/runs/(${id}\\.\\.|[^/]*\\.\\.${id}/)`).test(pointer);
  return {
    ...m,
    places: m.places.filter((p) => p.id !== id),
    runs: m.runs.filter((r) => r.from !== id && r.to !== id),
    panels: m.panels.map((p) => ({ ...p, hides: p.hides.filter((h) => h !== id) })),
    known: Object.fromEntries(Object.entries(m.known).filter(([p]) => !gone(p))),
  };
}

/** A way for wires between two places that has none yet. @throws ImpossibleInput where there is one, or both are the same */
export function addRun(m: UnitModel, from: string, to: string): UnitModel {
  if (from === to) throw new ImpossibleInput('a way leads from one place to another', 'to');
  if (m.runs.some((r) => isRun(r, from, to))) throw new ImpossibleInput('there is a way between these already', 'to');
  return { ...m, runs: [...m.runs, { from, to, hazards: [] }] };
}

export const removeRun = (m: UnitModel, from: string, to: string): UnitModel => {
  const { [`/runs/${from}..${to}/lengthMm`]: _, ...known } = m.known;
  return { ...m, known, runs: m.runs.filter((r) => !isRun(r, from, to)) };
};

/** A way's length as it was taped (null: as its places lie), or what it passes. */
export function changeRun(
  m: UnitModel,
  from: string,
  to: string,
  change: { lengthMm?: number | null; hazards?: Hazard[] },
  typed: Typed,
): UnitModel {
  const pointer = `/runs/${from}..${to}/lengthMm`;
  const { [pointer]: _, ...others } = m.known;
  const known =
    change.lengthMm === undefined
      ? m.known
      : change.lengthMm === null
        ? others
        : { ...others, [pointer]: { how: 'measured' as const, by: typed.by, at: typed.at } };
  return {
    ...m,
    known,
    runs: m.runs.map((r) => {
      if (!isRun(r, from, to)) return r;
      const { lengthMm: was, ...run } = r;
      const lengthMm = change.lengthMm === undefined ? was : (change.lengthMm ?? undefined);
      return { ...run, ...(lengthMm !== undefined && { lengthMm }), ...(change.hazards && { hazards: change.hazards }) };
    }),
  };
}

/** What is wrong with a sheet or lacks in it, and the place where it is; null where it is of the whole. */
export interface SheetProblem {
  place: string | null;
  says: string;
  /** it cannot be published so; otherwise it is worth a look */
  stops: boolean;
}

/** A way that is taped shorter than the straight line, by more than so much of it, cannot be. */
const SHORTER = 0.97;
/** So far outside its sizes nothing of a unit is. Common practice, no source. */
const OUTSIDE = 0.25;

/** All that is wrong or lacking, the worst first. */
export function sheetProblems(m: UnitModel): SheetProblem[] {
  const read = Schema.safeParse(m);
  const out: SheetProblem[] = read.success
    ? []
    : read.error.issues.map((i) => {
        const at = i.path[0] === 'places' ? m.places[i.path[1] as number] : undefined;
        return { place: at?.id ?? null, says: `${at ? `${at.name}: ` : `${i.path.join('.')}: `}${i.message}`, stops: true };
      });
  for (const p of m.panels)
    if (allBefore(m.panels, p.id).has(p.id))
      out.push({ place: null, says: `${p.name}: it would have to be off before itself`, stops: true });
  for (const f of [...m.powerPoints, ...m.factoryWires])
    if (f.fuseA !== undefined && f.usedA > f.fuseA)
      out.push({
        place: f.place,
        says: `${f.name}: its fuse of ${f.fuseA} A is under the ${f.usedA} A that it feeds already`,
        stops: true,
      });
  if (m.dims.wheelbaseMm > m.dims.lengthMm)
    out.push({ place: null, says: `a wheelbase of ${m.dims.wheelbaseMm} mm is longer than the unit, ${m.dims.lengthMm} mm`, stops: true });
  const at = new Map(m.places.map((p) => [p.id, p]));
  for (const r of m.runs) {
    const [a, b] = [at.get(r.from), at.get(r.to)];
    if (!a || !b || r.lengthMm === undefined) continue;
    const straight = Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z);
    if (r.lengthMm < straight * SHORTER)
      out.push({
        place: r.from,
        says: `${a.name} to ${b.name}: ${Math.round(r.lengthMm)} mm, and the straight line is ${Math.round(straight)} mm`,
        stops: false,
      });
  }
  for (const p of m.places) {
    // the unit's own lamps have their own wires; what a kit joins must be reached
    const joined = [...m.powerPoints, ...m.grounds, ...m.factoryWires].some((x) => x.place === p.id);
    if (joined && m.places.length > 1 && !m.runs.some((r) => r.from === p.id || r.to === p.id))
      out.push({ place: p.id, says: `${p.name}: no way leads there for a wire`, stops: false });
    const { lengthMm, widthMm, heightMm, rearOverhangMm } = m.dims;
    const off = (v: number, low: number, high: number) => v < low - OUTSIDE * (high - low) || v > high + OUTSIDE * (high - low);
    if (off(p.x, -rearOverhangMm, lengthMm - rearOverhangMm) || off(p.y, -widthMm / 2, widthMm / 2) || off(p.z, 0, heightMm))
      out.push({ place: p.id, says: `${p.name} lies far outside the unit`, stops: false });
  }
  return out.sort((a, b) => Number(b.stops) - Number(a.stops));
}

/** What is otherwise in an edited sheet, a line each, with lengths in millimetres. */
export function sheetChanges(before: UnitModel, after: UnitModel): string[] {
  const out: string[] = [];
  const mm = (p: Point) => `${Math.round(p.x)} mm ahead, ${Math.round(p.y)} mm left, ${Math.round(p.z)} mm up`;
  for (const p of after.places) {
    const was = placeOf(before, p.id);
    if (!was) out.push(`${p.name}: new, ${mm(p)}`);
    else if (was.x !== p.x || was.y !== p.y || was.z !== p.z) out.push(`${p.name}: ${mm(was)}; now ${mm(p)}`);
  }
  for (const p of before.places) if (!placeOf(after, p.id)) out.push(`${p.name}: gone`);
  const name = (m: UnitModel, r: UnitModel['runs'][number]) =>
    `Way from ${placeOf(m, r.from)?.name ?? r.from} to ${placeOf(m, r.to)?.name ?? r.to}`;
  for (const r of after.runs) {
    const was = before.runs.find((x) => isRun(x, r.from, r.to));
    if (!was) {
      out.push(`${name(after, r)}: new`);
      continue;
    }
    const [a, b] = [runLength(before, was), runLength(after, r)];
    if (Math.round(a) !== Math.round(b)) out.push(`${name(after, r)}: ${Math.round(a)} mm; now ${Math.round(b)} mm`);
    if (was.hazards.join() !== r.hazards.join()) out.push(`${name(after, r)}: past ${r.hazards.join(', ') || 'nothing'}`);
  }
  for (const r of before.runs) if (!after.runs.some((x) => isRun(x, r.from, r.to))) out.push(`${name(before, r)}: gone`);
  const behind = (m: UnitModel, v: ViewName) => JSON.stringify(m.pictures?.[v]);
  for (const v of ViewName.options)
    if (behind(before, v) !== behind(after, v)) out.push(`Photograph behind the ${v} view: ${after.pictures?.[v] ? 'another' : 'none'}`);
  for (const [list, word] of LISTS) out.push(...listChanges(word, before[list], after[list]));
  const { battery, source, ownLoads, ...electrical } = after.electrical;
  const { battery: oldBattery, source: oldSource, ownLoads: oldLoads, ...wasElectrical } = before.electrical;
  out.push(...listChanges('Own load', oldLoads, ownLoads));
  for (const [word, was, now] of [
    ['Battery', oldBattery, battery],
    ['Source', oldSource, source],
    ['Electrics', wasElectrical, electrical],
    ['Sizes', before.dims, after.dims],
  ] as const) {
    const fields = fieldChanges(was, now);
    if (fields) out.push(`${word}: ${fields}`);
  }
  return out;
}

/** Lists of a unit whose things are told one by one, and the words for them. */
const LISTS = [
  ['panels', 'Panel'],
  ['powerPoints', 'Feed'],
  ['grounds', 'Ground'],
  ['factoryWires', 'Wire of the unit'],
  ['equipment', 'Equipment'],
  ['builds', 'Build'],
  ['obstacles', 'What hides a light'],
] as const;
