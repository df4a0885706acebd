import type { Obstacle } from '#model/lamp';
import { Equipment, FactoryWire, GroundPoint, Panel, PowerPoint, type UnitModel } from '#model/unit-model';
import { ImpossibleInput } from '../errors';
import { allBefore } from '../plan/precedence';
import { freeId } from '../slug';
import type { Typed } from './edit-model';

/** What may stand at a place of a unit, and the words for it. */
export const THINGS = {
  powerPoints: 'feed',
  grounds: 'ground',
  factoryWires: 'wire of the unit',
  equipment: 'lamp or other equipment',
} as const;
export type ThingList = keyof typeof THINGS;
type ThingOf<L extends ThingList> = UnitModel[L][number];

/** Fields of what the sheet says of something, known as read off by who typed them; what stood beneath is known by that too. */
function read(m: UnitModel, pointers: readonly string[], typed: Typed): UnitModel['known'] {
  const known = Object.fromEntries(Object.entries(m.known).filter(([p]) => !pointers.some((q) => p === q || p.startsWith(`${q}/`))));
  for (const p of pointers) known[p] = { how: 'read', by: typed.by, at: typed.at };
  return known;
}

/** A new thing at a place, by its name. @throws ImpossibleInput for a name that is empty or taken */
export function addThing(m: UnitModel, list: ThingList, name: string, place: string, typed: Typed): { model: UnitModel; id: string } {
  const said = name.trim().slice(0, 80);
  if (!said) throw new ImpossibleInput('it needs a name', 'name');
  if ((m[list] as { name: string }[]).some((x) => x.name.toLowerCase() === said.toLowerCase()))
    throw new ImpossibleInput(`“${said}” is there already`, 'name');
  const id = freeId(
    said,
    // a feed and a wire of the unit are told apart by their ids too
    [...m.powerPoints, ...m.grounds, ...m.factoryWires, ...m.equipment].map((x) => x.id),
  );
  const base = { id, name: said, place };
  const volts = m.electrical.systemV;
  const made = {
    powerPoints: () => PowerPoint.parse({ ...base, kind: 'accessory-port', switching: 'keyed', volts }),
    grounds: () => GroundPoint.parse(base),
    factoryWires: () => FactoryWire.parse({ ...base, function: 'tail', colour: 'BN', volts, live: ['lights:on', 'key:run'] }),
    equipment: () => Equipment.parse({ ...base, function: 'work-lamp' }),
  }[list]();
  return { id, model: { ...m, known: read(m, [`/${list}/${id}`], typed), [list]: [...m[list], made] } };
}

/** A thing that is otherwise: what was typed of it is known as read off. */
export function changeThing<L extends ThingList>(m: UnitModel, list: L, id: string, change: Partial<ThingOf<L>>, typed: Typed): UnitModel {
  return {
    ...m,
    known: read(
      m,
      Object.keys(change).map((k) => `/${list}/${id}/${k}`),
      typed,
    ),
    [list]: (m[list] as ThingOf<L>[]).map((x) => (x.id === id ? withoutEmpty({ ...x, ...change }) : x)),
  };
}
/** A record without fields that are undefined: such a field is left out, not empty. */
const withoutEmpty = <T extends object>(x: T): T => Object.fromEntries(Object.entries(x).filter(([, v]) => v !== undefined)) as T;

const forgotten = (m: UnitModel, pointer: string): UnitModel['known'] =>
  Object.fromEntries(Object.entries(m.known).filter(([p]) => p !== pointer && !p.startsWith(`${pointer}/`)));

/** A sheet without a thing. @throws ImpossibleInput for its last feed: nothing could be joined to a unit without one */
export function removeThing(m: UnitModel, list: ThingList, id: string): UnitModel {
  if (list === 'powerPoints' && m.powerPoints.length === 1) throw new ImpossibleInput('a unit has one feed at the least', 'feed');
  const { house } = m.electrical;
  return {
    ...m,
    known: forgotten(m, `/${list}/${id}`),
    [list]: (m[list] as { id: string }[]).filter((x) => x.id !== id),
    ...(list === 'powerPoints' &&
      house && { electrical: { ...m.electrical, house: { ...house, feeds: house.feeds.filter((f) => f !== id) } } }),
  };
}

/** Minutes that a new panel is begun with, off and on. Common practice, no source. */
const PANEL_MINUTES = { off: 3, on: 4 };

/** A new panel by its name. @throws ImpossibleInput for a name that is empty or taken */
export function addPanel(m: UnitModel, name: string, typed: Typed): { model: UnitModel; id: string } {
  const said = name.trim().slice(0, 60);
  if (!said) throw new ImpossibleInput('it needs a name', 'name');
  if (m.panels.some((p) => p.name.toLowerCase() === said.toLowerCase())) throw new ImpossibleInput(`“${said}” is there already`, 'name');
  const id = freeId(
    said,
    m.panels.map((p) => p.id),
  );
  const made = Panel.parse({ id, name: said, offMinutes: PANEL_MINUTES.off, onMinutes: PANEL_MINUTES.on });
  return { id, model: { ...m, known: read(m, [`/panels/${id}`], typed), panels: [...m.panels, made] } };
}

/** A panel that is otherwise. @throws ImpossibleInput for one that would need itself off first */
export function changePanel(m: UnitModel, id: string, change: Partial<Panel>, typed: Typed): UnitModel {
  const panels = m.panels.map((p) => (p.id === id ? { ...p, ...change } : p));
  if (allBefore(panels, id).has(id)) throw new ImpossibleInput('it would have to be off before itself', 'after');
  return {
    ...m,
    known: read(
      m,
      Object.keys(change).map((k) => `/panels/${id}/${k}`),
      typed,
    ),
    panels,
  };
}

/** A sheet without a panel: nothing waits for it any more. */
export const removePanel = (m: UnitModel, id: string): UnitModel => ({
  ...m,
  known: forgotten(m, `/panels/${id}`),
  panels: m.panels.filter((p) => p.id !== id).map((p) => ({ ...p, after: p.after.filter((a) => a !== id) })),
});

/** How thick a bar is that is begun, and how far a new thing reaches. Common practice, no source. */
const NEW_BAR_MM = 50;
const NEW_REACH_MM = 400;

/** Something that may hide a light, at first over the middle of the unit. @throws ImpossibleInput for a name that is empty or taken */
export function addObstacle(m: UnitModel, name: string, kind: Obstacle['kind'], typed: Typed): { model: UnitModel; id: string } {
  const said = name.trim().slice(0, 60);
  if (!said) throw new ImpossibleInput('it needs a name', 'name');
  if (m.obstacles.some((o) => o.name.toLowerCase() === said.toLowerCase())) throw new ImpossibleInput(`“${said}” is there already`, 'name');
  const id = freeId(
    said,
    m.obstacles.map((o) => o.id),
  );
  const { wheelbaseMm, lengthMm, heightMm } = m.dims;
  const x = Math.round(wheelbaseMm / 2 || lengthMm / 2);
  const from = { x, y: -NEW_REACH_MM, z: Math.round(heightMm / 2) };
  const to = { x: kind === 'bar' ? x : x + NEW_REACH_MM, y: NEW_REACH_MM, z: kind === 'bar' ? from.z : from.z + NEW_REACH_MM };
  const made =
    kind === 'bar' ? ({ kind, id, name: said, from, to, mm: NEW_BAR_MM } as const) : ({ kind, id, name: said, from, to } as const);
  return { id, model: { ...m, known: read(m, [`/obstacles/${id}`], typed), obstacles: [...m.obstacles, made] } };
}

/** One that is otherwise: its name, an end of it, or how thick a bar is. */
export const changeObstacle = (
  m: UnitModel,
  id: string,
  change: Partial<{ name: string; from: Obstacle['from']; to: Obstacle['to']; mm: number }>,
  typed: Typed,
): UnitModel => ({
  ...m,
  known: read(
    m,
    Object.keys(change).map((k) => `/obstacles/${id}/${k}`),
    typed,
  ),
  obstacles: m.obstacles.map((o) => (o.id === id ? { ...o, ...change } : o)),
});

export const removeObstacle = (m: UnitModel, id: string): UnitModel => ({
  ...m,
  known: forgotten(m, `/obstacles/${id}`),
  obstacles: m.obstacles.filter((o) => o.id !== id),
});

type Electrical = UnitModel['electrical'];

/** Battery, source or own loads that are otherwise; what was typed of them is known as read off. */
export function changeElectrical<K extends 'battery' | 'source'>(
  m: UnitModel,
  part: K,
  change: Partial<Electrical[K]>,
  typed: Typed,
): UnitModel {
  const keys = Object.keys(change);
  return {
    ...m,
    known: read(
      m,
      keys.map((k) => `/electrical/${part}/${k}`),
      typed,
    ),
    electrical: { ...m.electrical, [part]: withoutEmpty({ ...m.electrical[part], ...change }) },
  };
}

/** The unit’s own draw while parked, amperes. */
export const changeParked = (m: UnitModel, amps: number, typed: Typed): UnitModel => ({
  ...m,
  known: read(m, ['/electrical/parkedMa'], typed),
  electrical: { ...m.electrical, parkedMa: Math.max(0, amps * 1000) },
});

/** A load of the unit’s own that is otherwise. */
export const changeOwnLoad = (m: UnitModel, id: string, change: Partial<Electrical['ownLoads'][number]>, typed: Typed): UnitModel => ({
  ...m,
  known: read(m, ['/electrical/ownLoads'], typed),
  electrical: { ...m.electrical, ownLoads: m.electrical.ownLoads.map((l) => (l.id === id ? { ...l, ...change } : l)) },
});

/** Sizes of the unit that are otherwise, millimetres. */
export const changeDims = (m: UnitModel, change: Partial<UnitModel['dims']>, typed: Typed): UnitModel => ({
  ...m,
  known: read(
    m,
    Object.keys(change).map((k) => `/dims/${k}`),
    typed,
  ),
  dims: { ...m.dims, ...change },
});

/** A point of the source’s curve put elsewhere, between its neighbours: engine speed in rpm, output in amperes. */
export function moveCurvePoint(m: UnitModel, at: number, to: readonly [number, number], typed: Typed): UnitModel {
  const { source } = m.electrical;
  if (source.kind === 'none') return m;
  const [low, high] = [source.curve[at - 1], source.curve[at + 1]];
  const rpm = Math.round(Math.min(Math.max(to[0], (low?.[0] ?? -10) + 10), (high?.[0] ?? Infinity) - 10));
  const amps = Number(Math.min(Math.max(to[1], low?.[1] ?? 0), high?.[1] ?? Infinity).toFixed(1));
  const curve = source.curve.map((p, i): [number, number] => (i === at ? [Math.max(0, rpm), amps] : p));
  return changeElectrical(m, 'source', { curve }, typed);
}

/** One point more in the middle of the widest gap of the source’s curve, or one less. */
export function curvePoints(m: UnitModel, by: 1 | -1, typed: Typed): UnitModel {
  const { source } = m.electrical;
  if (source.kind === 'none') return m;
  const { curve } = source;
  if (by < 0) return curve.length <= 2 ? m : changeElectrical(m, 'source', { curve: curve.slice(0, -1) }, typed);
  const gap = curve.slice(1).reduce((best, p, i) => (p[0] - curve[i]![0] > curve[best + 1]![0] - curve[best]![0] ? i : best), 0);
  const [a, b] = [curve[gap]!, curve[gap + 1]!];
  const middle: [number, number] = [Math.round((a[0] + b[0]) / 2), Number(((a[1] + b[1]) / 2).toFixed(1))];
  return changeElectrical(m, 'source', { curve: [...curve.slice(0, gap + 1), middle, ...curve.slice(gap + 1)] }, typed);
}
