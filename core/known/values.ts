import type { BuildValue, ValueRead } from '#model/known';
import type { UnitModel } from '#model/unit-model';
import { runLength } from '../circuit/route';
import { sourceAmps } from '../energy/source';
import { at, howKnown, withAt } from './pointer';

export type ValueUnit = 'A' | 'Ah' | 'W' | 'mA' | 'mm' | 'kg';

/** A value of a sheet that may be otherwise on this unit, and how it is taken. */
export interface OpenValue {
  pointer: string;
  name: string;
  unit: ValueUnit;
  value: number;
  /** the band that holds it 8 times in 10 */
  spread: readonly [number, number];
  /** what it is once taken */
  how: ValueRead['how'];
  /** where the meter, tape or eye goes, and the place that must be got at; null: nowhere in particular */
  says: string;
  place: string | null;
  /** with that place open. Common practice, no source. */
  minutes: number;
  /** how near it is known once taken, as a share of it */
  within: number;
}

/** A place on the left as its other side is called. */
export const rightOf = (place: string): string => place.replace(/(^|-)left(?=$|-)/, '$1right');

/** The same place on the other side; null where it stands by itself. */
export function otherSide(model: Pick<UnitModel, 'places'>, place: string): string | null {
  const id = rightOf(place);
  return id !== place && model.places.some((p) => p.id === id) ? id : null;
}

/** What the unit itself draws at idle, watts. */
export const ownIdleW = (model: UnitModel): number => model.electrical.ownLoads.reduce((s, l) => s + l.idleW, 0);

/** Where the output of a unit’s source stands. */
export const SOURCE_CURVE = '/electrical/source/curve';
const OWN = '/electrical/ownLoads';
const RUN = /^\/runs\/([a-z0-9-]+)\.\.([a-z0-9-]+)\/lengthMm$/;
const SPOT = /^\/places\/([a-z0-9-]+)\/([xyz])$/;
const SIZE = /^\/dims\/(lengthMm|widthMm|heightMm|wheelbaseMm)$/;

/** The figure that a pointer stands for; of a curve its amperes at idle, of the unit's own loads their sum. Undefined: there is none. */
export function valueAt(model: UnitModel, pointer: string): number | undefined {
  const { source } = model.electrical;
  if (pointer === SOURCE_CURVE) return source.kind === 'none' ? undefined : sourceAmps(source, source.idleRpm);
  if (pointer === OWN) return ownIdleW(model);
  const run = RUN.exec(pointer);
  if (run) {
    const r = model.runs.find((x) => x.from === run[1] && x.to === run[2]);
    return r && runLength(model, r);
  }
  const v = at(model, pointer);
  return typeof v === 'number' ? v : undefined;
}

/** Places that nobody measured, moved with a size of the unit. */
function stretched(model: UnitModel, axis: 'x' | 'y' | 'z', factor: number): UnitModel {
  const kept = (id: string) => {
    const { how } = howKnown(model, `/places/${id}/${axis}`);
    return how !== 'assumed';
  };
  return { ...model, places: model.places.map((p) => (kept(p.id) ? p : { ...p, [axis]: Math.round(p[axis] * factor) })) };
}

/** A sheet with another figure at a pointer, and what goes with it: a curve keeps its shape, places follow the unit's sizes. */
export function withValue(model: UnitModel, pointer: string, value: number): UnitModel {
  const was = valueAt(model, pointer);
  if (was === undefined || was === value) return model;
  const factor = was ? value / was : 1;
  const { source, ownLoads } = model.electrical;
  if (pointer === SOURCE_CURVE && source.kind !== 'none')
    return withAt(
      model,
      SOURCE_CURVE,
      source.curve.map(([rpm, a]) => [rpm, a * factor]),
    );
  if (pointer === OWN)
    return withAt(
      model,
      OWN,
      ownLoads.map((l) => ({ ...l, idleW: l.idleW * factor, workingW: l.workingW * factor, keyW: l.keyW * factor })),
    );
  const size = SIZE.exec(pointer);
  const sized = size ? stretched(model, size[1] === 'widthMm' ? 'y' : size[1] === 'heightMm' ? 'z' : 'x', factor) : model;
  // what stands on both sides stands alike, until somebody measured the other
  const spot = SPOT.exec(pointer);
  const other = spot && otherSide(model, spot[1]!);
  const beside = other && howKnown(model, `/places/${other}/${spot[2]!}`).how === 'assumed' ? other : null;
  const paired = beside ? withAt(sized, `/places/${beside}/${spot![2]!}`, spot![2] === 'y' ? -value : value) : sized;
  return withAt(paired, pointer, value);
}

const putIn = (model: UnitModel, values: Readonly<Record<string, BuildValue>>): UnitModel => {
  // the whole before its parts: what was measured of a place stands, whatever size is put in
  const pointers = Object.keys(values).sort((a, b) => Number(SIZE.test(b)) - Number(SIZE.test(a)) || a.localeCompare(b));
  return pointers.reduce((m, p) => {
    // of something that is no longer there nothing is said
    if (valueAt(m, p) === undefined) return m;
    const changed = withValue(m, p, values[p]!.value);
    return { ...changed, known: { ...changed.known, [p]: values[p]!.known } };
  }, model);
};

/**
 * A sheet with what was read or measured on one unit: those values count, and say how they are known. Before them counts what its
 * build has otherwise than its model.
 */
export function valued(model: UnitModel, build: string, values: Readonly<Record<string, ValueRead>> = {}): UnitModel {
  const read = Object.entries(values).map(([p, { value, how, by, at }]) => [p, { value, known: { how, by, at } }] as const);
  const own = model.builds.find((b) => b.id === build)?.values;
  const all = { ...own, ...Object.fromEntries(read) };
  if (!Object.keys(all).length) return model;
  const put = putIn(model, all);
  // what stands in the sheet by now is not put in again over what comes after
  return own ? { ...put, builds: put.builds.map((b) => (b.id === build ? bare(b) : b)) } : put;
}

const bare = ({ values: _, ...b }: UnitModel['builds'][number]): UnitModel['builds'][number] => b;

/** What one build has otherwise, put into its sheet or, with null, taken out again. */
export const withBuildValue = (model: UnitModel, build: string, pointer: string, value: BuildValue | null): UnitModel => ({
  ...model,
  builds: model.builds.map((b) => {
    if (b.id !== build) return b;
    const { [pointer]: _, ...others } = b.values ?? {};
    const values = value ? { ...others, [pointer]: value } : others;
    return Object.keys(values).length ? { ...b, values } : bare(b);
  }),
});

const sentence = (text: string): string => text.replace(/^./, (c) => c.toUpperCase());

/** What a pointer is called, and how its figure is taken; null where it is no figure that anybody takes. */
function howTaken(model: UnitModel, pointer: string): Omit<OpenValue, 'pointer' | 'value' | 'spread'> | null {
  const place = (id: string) => model.places.find((p) => p.id === id)?.name ?? id;
  /** a place without where it is */
  const short = (id: string) => place(id).split(',')[0]!;
  const battery = model.electrical.battery;
  const label = { how: 'read', place: battery.place, minutes: 1, within: 0 } as const;
  switch (pointer) {
    case SOURCE_CURVE:
      return {
        name: 'What the source gives at idle',
        unit: 'A',
        how: 'measured',
        says: 'Clamp meter on the cable from the regulator to the battery, engine at idle, everything on until the volts begin to fall',
        place: battery.place,
        minutes: 6,
        within: 0.05,
      };
    case OWN:
      return {
        name: 'What the unit itself draws at idle',
        unit: 'W',
        how: 'measured',
        says: 'Clamp meter around the battery’s plus cable, engine at idle, nothing added on: amperes times volts, with what charges taken off',
        place: battery.place,
        minutes: 5,
        within: 0.08,
      };
    case '/electrical/battery/capacityAh':
      return { ...label, name: `${battery.name}: capacity`, unit: 'Ah', says: 'On the battery’s label' };
    case '/electrical/battery/cca':
      return { ...label, name: `${battery.name}: cold cranking amperes`, unit: 'A', says: 'On the battery’s label, as CCA' };
    case '/electrical/parkedMa':
      return {
        name: 'Parked draw',
        unit: 'mA',
        how: 'measured',
        says: 'Meter in series with the negative cable, key out, once its modules sleep',
        place: battery.place,
        minutes: 4,
        within: 0.05,
      };
    case '/massKg':
      return {
        name: 'Weight, dry',
        unit: 'kg',
        how: 'read',
        says: 'On the maker’s plate or in the owner’s book',
        place: null,
        minutes: 2,
        within: 0.03,
      };
  }
  const size = SIZE.exec(pointer);
  if (size) {
    const what = { lengthMm: 'Length', widthMm: 'Width', heightMm: 'Height', wheelbaseMm: 'Wheelbase' }[size[1]!]!;
    return {
      name: `${what} of the unit`,
      unit: 'mm',
      how: 'measured',
      says: 'With a tape, level ground',
      place: null,
      minutes: 2,
      within: 0.01,
    };
  }
  const run = RUN.exec(pointer);
  if (run) {
    const [from, to] = [run[1]!, run[2]!].map(place) as [string, string];
    return {
      name: `Way from ${short(run[1]!)} to ${short(run[2]!)}`,
      unit: 'mm',
      how: 'measured',
      says: `Tape along the way that the wire will take, from ${from} to ${to}`,
      place: run[1]!,
      minutes: 3,
      within: 0.03,
    };
  }
  const fuse = /^\/powerPoints\/([a-z0-9-]+)\/fuseA$/.exec(pointer);
  const point = fuse && model.powerPoints.find((p) => p.id === fuse[1]);
  if (point)
    return {
      name: `Fuse of the ${point.name}`,
      unit: 'A',
      how: 'read',
      says: 'On the fuse itself, and on the fuse box’s lid',
      place: point.place,
      minutes: 2,
      within: 0,
    };
  const spot = SPOT.exec(pointer);
  if (spot) {
    const axis = { x: 'how far ahead of the rear axle', y: 'how far left of the middle', z: 'height above the ground' }[spot[2]!]!;
    return {
      name: `${sentence(place(spot[1]!))}${otherSide(model, spot[1]!) ? ', and the other side alike' : ''}: ${axis}`,
      unit: 'mm',
      how: 'measured',
      says: `Tape to the middle of it, on level ground`,
      place: null,
      minutes: 1.5,
      within: 0.01,
    };
  }
  return null;
}

/** How one value is taken; null where it is no figure that anybody takes, or is not on this unit. */
export function openValue(model: UnitModel, pointer: string): OpenValue | null {
  const value = valueAt(model, pointer);
  const { spread } = howKnown(model, pointer);
  const taken = value === undefined ? null : howTaken(model, pointer);
  return taken && { ...taken, pointer, value: value!, spread: spread ?? [value!, value!] };
}

/** All that is assumed of a unit with a spread, and can be taken. */
export const openValues = (model: UnitModel): OpenValue[] =>
  Object.keys(model.known).flatMap((pointer) => {
    const { how, spread } = model.known[pointer]!;
    const v = how === 'assumed' && spread && spread[0] < spread[1] ? openValue(model, pointer) : null;
    return v ? [v] : [];
  });

/** A figure further than so many times from its sheet's is a slip of the finger, or of another unit. Common practice, no source. */
const FURTHEST = 6;

/** Why a figure cannot be of this value; null where it can. */
export const tooFar = (v: OpenValue, value: number): string | null =>
  value > v.value * FURTHEST || value < v.value / FURTHEST
    ? `${value} ${v.unit}, and ${Number(v.value.toPrecision(3))} ${v.unit} were to be expected: is it the same thing, in the same unit?`
    : null;
