import { pairsOf, targetsOf } from '#model/box';
import { madeIds, type Circuit, type Kit } from '#model/kit';
import type { Order, WireOverride } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import type { PowerPoint, UnitModel } from '#model/unit-model';
import { assignFeeds, type Wanting } from '../circuit/assign';
import { freeAmps, judgePoint, type Candidate, type Mode } from '../circuit/feed';
import { circuitLoad, type CircuitLoad } from '../circuit/load';
import { route, type Route } from '../circuit/route';
import { burstsOf, holdsBurst } from '../circuit/size';
import { findTap, functionWord, type TapTarget } from '../harness/tap';
import { END_M, SLACK } from '../harness/builder';
import { allowable } from '../wire-rules/allowable';
import { FUSE_FACTOR } from '../wire/fuse';
import { adapted } from './box-network';
import { shortsAt } from './lay';
import { circuitId } from './planned';
import { spotsOf } from './spots';
import { boxFeedOf, joinedEnds, readTarget, type BoxFeed } from './target';

/** A circuit with the feed that was chosen for it, all circuits together. */
export interface AssignedCircuit {
  id: string;
  kit: Kit;
  circuit: Circuit;
  load: CircuitLoad;
  overrides: WireOverride[];
  missingPlace: Kit['devices'][number] | null;
  taps: TapTarget[] | null;
  lostTap: string | null;
  feed: PowerPoint | null;
  trigger: PowerPoint | null;
  mode: Mode;
  candidates: Candidate[];
  picked: Candidate | null;
  box: BoxFeed | null;
  /** its feed's own fuse guards every wire after it */
  guarded: boolean;
  /** circuits of other kits whose current runs through its wires */
  joined: { name: string; load: CircuitLoad }[];
}

/** What the first stage comes to. */
export interface Assigned {
  model: UnitModel;
  points: PowerPoint[];
  circuits: AssignedCircuit[];
  taken: Map<string, number>;
  proof: { optimal: boolean; cost: number; bound: number };
}

type Item = Pick<AssignedCircuit, 'id' | 'kit' | 'circuit' | 'load' | 'overrides' | 'missingPlace' | 'taps' | 'lostTap' | 'box' | 'joined'>;

/** Points that the kits' own supplies add: a reducer's output, a power manager's channels. */
function madePoints(sheets: Sheets): PowerPoint[] {
  return sheets.kits.flatMap((k) =>
    k.circuits.flatMap((c) => {
      const m = c.makes;
      if (!m || !sheets.model.places.some((p) => p.id === m.place)) return [];
      const base = { place: m.place, volts: m.volts, usedA: 0, pins: [], ohms: 0 };
      return m.channels
        ? madeIds(m).map((id, i): PowerPoint => ({
            ...base,
            id,
            name: `${m.name} ${i + 1}`,
            kind: 'manager-channel',
            switching: 'keyed',
            limitA: m.channels!.amps,
          }))
        : [
            {
              ...base,
              id: m.id,
              name: m.name,
              kind: 'reducer-output' as const,
              switching: c.switching === 'constant' ? ('constant' as const) : ('keyed' as const),
              limitA: m.ratedA,
            },
          ];
    }),
  );
}

/** A point that a kit provides, with the circuit of that kit which its current runs through. */
interface GivenPoint {
  point: PowerPoint;
  kit: Kit;
  through: string | null;
}

/** Points that kits provide to others: plugs of a harness, positions of a panel, outputs. */
function givenPoints(sheets: Sheets): GivenPoint[] {
  return sheets.kits.flatMap((kit) =>
    kit.provides.flatMap((p): GivenPoint[] => {
      const device = kit.devices.find((d) => d.id === p.at.split('.')[0])!;
      if (!sheets.model.places.some((x) => x.id === device.place)) return [];
      const through = kit.circuits.find((c) => c.devices.includes(device.id));
      const { id, name, kind, switching, volts, fuseA, limitA, connector, groundPin } = p;
      const pins: PowerPoint['pins'] = groundPin ? [{ pin: 'ground', use: 'ground', carries: 'ground' }] : [];
      return [
        {
          kit,
          through: through ? circuitId(kit.id, through.id) : null,
          point: { id, name, kind, switching, volts, fuseA, limitA, connector, place: device.place, usedA: 0, pins, ohms: 0.002 },
        },
      ];
    }),
  );
}

export const overrideOf = (it: Pick<Item, 'overrides'>, field: WireOverride['field']) => it.overrides.find((o) => o.field === field)?.value;

const addLoads = (a: CircuitLoad, b: CircuitLoad): CircuitLoad => ({
  peakA: a.peakA === null || b.peakA === null ? null : a.peakA + b.peakA,
  continuousA: a.continuousA === null || b.continuousA === null ? null : a.continuousA + b.continuousA,
  heatsA: a.heatsA === null || b.heatsA === null ? null : a.heatsA + b.heatsA,
  missing: [...a.missing, ...b.missing],
  hasBurst: a.hasBurst || b.hasBurst,
});

function itemsOf(order: Order, { model, kits }: Sheets): Item[] {
  const items = kits.flatMap((kit) =>
    kit.circuits.map((circuit): Item => {
      const id = circuitId(kit.id, circuit.id);
      const others = kits.filter((k) => k.id !== kit.id);
      const found = circuit.taps?.map((f) => ({ f, tap: findTap(model, others, f) }));
      const lost = found?.find((x) => !x.tap);
      return {
        id,
        kit,
        circuit,
        load: circuitLoad(order, kit, circuit, circuit.volts),
        overrides: order.overrides.filter((o) => o.circuit === id),
        missingPlace:
          circuit.devices.map((d) => kit.devices.find((x) => x.id === d)!).find((d) => !model.places.some((p) => p.id === d.place)) ?? null,
        taps: found ? found.flatMap((x) => x.tap ?? []) : null,
        lostTap: lost ? functionWord(lost.f) : null,
        box: boxFeedOf(kit, circuit.id),
        joined: [],
      };
    }),
  );
  // what another kit's circuit is joined to carries that circuit's load too
  return items.map((it) => {
    const joined = items.filter((x) => x.taps && giverOf(items, x.taps) === it).map((x) => ({ name: x.circuit.name, load: x.load }));
    return { ...it, joined, load: joined.reduce((sum, j) => addLoads(sum, j.load), it.load) };
  });
}

/** Devices that a terminal’s wire leads to, by a kit’s loose leads and its ready harnesses. */
function devicesOn(kit: Kit, device: string, terminal: string): Set<string> {
  const at = `${device}.${terminal}`;
  const out = new Set<string>();
  const add = (text: string) => {
    const t = text.includes('.') ? readTarget(text) : null;
    if (t?.to === 'terminal' && t.device !== device) out.add(t.device);
  };
  for (const l of kit.leads) if (l.from === at) add(l.to);
  for (const j of kit.joins)
    for (const [wire, to] of pairsOf(j))
      if (to === at) for (const k of kit.joins) if (k.harness === j.harness) for (const x of targetsOf(k, wire)) add(x);
  return out;
}

/** The circuit whose terminal a tap is joined to, found by whose devices that terminal feeds, or who feeds its device. */
function giverOf(items: readonly Item[], taps: readonly TapTarget[]): Item | undefined {
  for (const t of taps) {
    if (!t.of) continue;
    const { kit: kitId, device } = t.of;
    const mine = items.filter((x) => x.kit.id === kitId);
    const [first] = mine;
    if (!first) continue;
    const fed = devicesOn(first.kit, device, t.of.terminal);
    const giver = mine.find((x) => x.circuit.devices.some((d) => fed.has(d))) ?? mine.find((x) => x.circuit.devices.includes(device));
    if (giver) return giver;
  }
  return undefined;
}

export function tapPoint(taps: readonly TapTarget[]): PowerPoint {
  const names = taps.map((t) => t.name);
  return {
    id: taps.map((t) => t.node.replace(/^wire:/, 'wire-')).join('+'),
    name: names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)}` : names[0]!,
    place: taps[0]!.place,
    kind: 'factory-wire',
    switching: 'keyed',
    volts: taps[0]!.wire?.volts ?? 12,
    usedA: taps[0]!.wire?.usedA ?? 0,
    fuseA: taps[0]!.wire?.fuseA,
    pins: [],
    ohms: 0,
  };
}

function farthest(model: UnitModel, from: string, kit: Kit, circuit: Circuit, via?: string): Route | null {
  let far: Route | null = null;
  for (const id of circuit.devices) {
    const r = route(model, from, kit.devices.find((d) => d.id === id)!.place, via);
    if (!r) return null;
    if (!far || r.lengthMm > far.lengthMm) far = r;
  }
  return far;
}

/** One way with slack and its ends, metres. */
const withSlack = (r: Route): number => (r.lengthMm * SLACK + r.slackMm) / 1000 + 2 * END_M;

/** The way from a point to a circuit’s farthest device; null where no run leads there, or a device has no place. */
export const wayOf = (model: UnitModel, it: Pick<Item, 'missingPlace' | 'kit' | 'circuit' | 'overrides'>, p: PowerPoint): Route | null =>
  it.missingPlace ? null : farthest(model, p.place, it.kit, it.circuit, overrideOf(it, 'route') as string | undefined);

/** What a plug that does not mate weighs, a lead that is led on, and every metre it is led on. Common practice, no source. */
const ADAPTED_COST = 12;
const EXTENDED_COST = 4;
const EXTENDED_COST_PER_M = 6;
/** A ready lead costs no wire: of two points that it reaches, the nearer. */
const READY_COST_PER_M = 0.05;

/** By how much a box’s harness is short, millimetres, with one of its ends at each of some places and the others at what is known of theirs. */
function shortsWith(model: UnitModel, kit: Kit, { harness, end }: BoxFeed['end'], places: readonly string[]): Map<string, number> {
  const others = joinedEnds(kit).filter((e) => e.harness === harness && e.end.id !== end.id);
  const spots = new Map(others.map((e) => [e.end.id, spotsOf(kit, model, e, () => [])]));
  return shortsAt(model, harness, spots, end.id, places);
}

/** What a feed costs a circuit whose box brings its lead: what the lead is short, and what its end wants besides. */
const boxCost = (box: BoxFeed, p: PowerPoint, shortM: number, distanceM: number): number =>
  (adapted(box.end, p) ? ADAPTED_COST : 0) + (shortM > 0 ? EXTENDED_COST + shortM * EXTENDED_COST_PER_M : 0) + distanceM * READY_COST_PER_M;

/** What guards a point: its fuse, or the limit that a channel keeps by itself. */
export const guardAmps = (p: PowerPoint): number | null => p.fuseA ?? (p.kind === 'manager-channel' ? (p.limitA ?? null) : null);

/**
 * Whether the fuse of a feed already guards every wire after it, so that no second one is put in: it stands the load, and is
 * above neither what the kit's maker allows nor what the thinnest wire may carry.
 */
function isGuarded(it: Item, feed: PowerPoint | null, mode: Mode, settings: Settings): boolean {
  const { circuit, load, box } = it;
  const amps = feed && guardAmps(feed);
  if (amps === null || amps === undefined || mode !== 'direct' || circuit.makes || it.taps || box?.fuse) return false;
  if (overrideOf(it, 'fuseA') !== undefined) return false;
  if (circuit.fuseMaxA !== undefined && amps > circuit.fuseMaxA) return false;
  if (load.continuousA === null || load.continuousA * FUSE_FACTOR > amps + 1e-9) return false;
  if (!burstsOf(it.kit, circuit, load).every((b) => holdsBurst(amps, b))) return false;
  return (box?.wires ?? []).every((w) => allowable({ awg: w.awg, insulationC: w.insulationC, standard: settings.wireStandard }) >= amps);
}

/**
 * The first stage: a feed for every circuit of the kits, all together at the least cost for the whole, over the unit's own
 * points and those that kits make or provide. What is set by hand is kept to.
 */
export function assign(order: Order, sheets: Sheets, settings: Settings): Assigned {
  const { model } = sheets;
  const given = givenPoints(sheets);
  const points = [...model.powerPoints, ...madePoints(sheets), ...given.map((g) => g.point)];
  const reaches = reachesOn(model, points);
  const first = settle(order, model, points, given, itemsOf(order, sheets), settings, reaches);
  // what others take from a kit's outputs runs through that kit's own feed too
  const through = (id: string) =>
    first.circuits.filter((c) => given.some((g) => g.through === id && g.point.id === c.feed?.id && c.id !== id));
  if (!first.circuits.some((c) => through(c.id).length)) return first;
  const items = itemsOf(order, sheets).map((it) => {
    const more = through(it.id).map((c) => ({ name: c.circuit.name, load: c.load }));
    return { ...it, joined: [...it.joined, ...more], load: more.reduce((sum, j) => addLoads(sum, j.load), it.load) };
  });
  return settle(order, model, points, given, items, settings, reaches);
}

/** How far it is from a point to a circuit, and by how much a ready lead is short of a place: worked out once for an order. */
interface Reaches {
  way: (it: Item, p: PowerPoint) => Route | null;
  /** metres */
  shortOf: (kit: Kit, end: BoxFeed['end'], place: string) => number;
}
function reachesOn(model: UnitModel, points: readonly PowerPoint[]): Reaches {
  const ways = new Map<string, Route | null>();
  const shorts = new Map<string, Map<string, number>>();
  const places = [...new Set(points.map((p) => p.place))];
  return {
    way: (it, p) => {
      const key = `${it.id} ${p.place}`;
      if (!ways.has(key)) ways.set(key, wayOf(model, it, p));
      return ways.get(key)!;
    },
    shortOf: (kit, end, place) => {
      const key = `${kit.id} ${end.harness.id} ${end.end.id}`;
      if (!shorts.has(key)) shorts.set(key, shortsWith(model, kit, end, places));
      return (shorts.get(key)!.get(place) ?? 0) / 1000;
    },
  };
}

function settle(
  order: Order,
  model: UnitModel,
  points: PowerPoint[],
  given: readonly GivenPoint[],
  items: readonly Item[],
  settings: Settings,
  { way, shortOf }: Reaches,
): Assigned {
  const trigger =
    points.find((p) => p.switching === 'keyed' && p.kind === 'key-wire') ??
    points.find((p) => p.switching === 'keyed' && !['reducer-output', 'manager-channel', 'switch-position'].includes(p.kind)) ??
    null;
  const own = (it: Item, p: PowerPoint) =>
    (it.circuit.makes && madeIds(it.circuit.makes).includes(p.id)) || given.some((g) => g.point.id === p.id && g.kit.id === it.kit.id);
  const judge = (it: Item, takenBy: (p: PowerPoint) => number): Candidate[] => {
    if (it.taps) return [];
    const measured = overrideOf(it, 'lengthM');
    return points
      .filter((p) => !own(it, p))
      .map((p) => {
        const r = way(it, p);
        const distance = r ? withSlack(r) : typeof measured === 'number' ? measured : null;
        const c = judgePoint(model, it.circuit, p, it.load.continuousA ?? 0, takenBy(p), distance, trigger !== null);
        // a plug of many cavities is there for a harness
        if (!it.box) return c.accepted && (p.connector?.cavities ?? 0) > 2 ? { ...c, cost: c.cost + ADAPTED_COST } : c;
        if (!c.accepted) return c;
        const adds = boxCost(it.box, p, shortOf(it.kit, it.box.end, p.place), distance ?? 0);
        return { ...c, cost: c.cost - (distance ?? 0) + adds };
      })
      .sort((a, b) => Number(b.accepted) - Number(a.accepted) || a.cost - b.cost);
  };

  const room = new Map<string, number>();
  for (const p of points) {
    const free = freeAmps(p, 0);
    if (free !== null) room.set(p.id, free);
  }
  // what a kit provides, and a plug, is taken once
  const seats = new Map(points.flatMap((p) => (p.connector || given.some((g) => g.point.id === p.id) ? [[p.id, 1]] : [])));
  const alone = new Map(items.map((it) => [it.id, judge(it, () => 0)]));
  const wanting: Wanting[] = [];
  const fixed = new Map<string, string>();
  for (const it of items) {
    if (it.taps) continue;
    const feed = overrideOf(it, 'feed') as string | undefined;
    if (feed !== undefined && points.some((p) => p.id === feed)) {
      fixed.set(it.id, feed);
      if (room.has(feed)) room.set(feed, room.get(feed)! - (it.load.continuousA ?? 0));
      if (seats.has(feed)) seats.set(feed, seats.get(feed)! - 1);
    } else
      wanting.push({
        id: it.id,
        amps: it.load.continuousA ?? 0,
        options: alone.get(it.id)!.flatMap((c) => (c.accepted ? [{ point: c.point.id, mode: c.mode, cost: c.cost }] : [])),
      });
  }
  const assigned = assignFeeds(wanting, room, seats);
  const feedOf = (it: Item): PowerPoint | null => {
    if (it.taps) return it.taps.length && !it.lostTap ? tapPoint(it.taps) : null;
    const id = fixed.get(it.id) ?? assigned.chosen.get(it.id)?.point;
    return points.find((p) => p.id === id) ?? null;
  };
  const taken = new Map<string, number>();
  for (const it of items) {
    const f = feedOf(it);
    if (f && !it.taps) taken.set(f.id, (taken.get(f.id) ?? 0) + (it.load.continuousA ?? 0));
  }
  return {
    model,
    points,
    taken,
    proof: { optimal: assigned.optimal, cost: assigned.cost, bound: assigned.bound },
    circuits: items.map((it): AssignedCircuit => {
      const feed = feedOf(it);
      const candidates = judge(it, (p) => (taken.get(p.id) ?? 0) - (feed?.id === p.id ? (it.load.continuousA ?? 0) : 0));
      const picked = candidates.find((c) => c.point.id === feed?.id) ?? null;
      const mode = (overrideOf(it, 'mode') as Mode | undefined) ?? picked?.mode ?? 'direct';
      return {
        ...it,
        feed,
        trigger: mode === 'relay' ? trigger : null,
        mode,
        candidates,
        picked,
        guarded: isGuarded(it, feed, mode, settings),
      };
    }),
  };
}
