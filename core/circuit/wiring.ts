import type { SumLine, Verdict } from '#model/common';
import type { Harness, HarnessWire } from '#model/harness';
import type { Circuit, Joint, Kit } from '#model/kit';
import type { Order, WireOverride } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import type { PowerPoint, UnitModel } from '#model/unit-model';
import { buildHarness, findTap, functionWord, type CircuitChoice, type TapTarget } from '../harness/build';
import { END_M, SLACK } from '../harness/builder';
import { round } from '../sum';
import { judgeUse, worst } from '../verdict';
import { crimpPull } from '../wire/choose';
import { counts, lieTogether } from '../harness/together';
import { allowable, type Surroundings } from '../wire-rules/allowable';
import { contactorFor, contactProblem, type Contactor } from '../wire-rules/contacts';
import { fuseFamilyFor, type FuseFamily } from '../wire-rules/fuse-volts';
import { ISOLATION_FACT, PACK_WORK_V } from '../wire-rules/high-volts';
import { highestSystemVolts, highestVolts } from '../wire-rules/highest-volts';
import { leastGauge } from '../wire-rules/least-gauge';
import { guards, largestFuse } from '../wire-rules/guards';
import { FUSE_FACTOR, fuseColour } from '../wire/fuse';
import { fuseFamily, fuseOpens } from '../wire/fuse-time';
import { assignFeeds, type Wanting } from './assign';
import { circuitSum } from './circuit-sum';
import { freeAmps, judgePoint, type Candidate, type Mode } from './feed';
import { dropOf, flowsOf, lostV, ownFuse, totalAmps, type Flow, type FlowDrop } from './flows';
import { circuitLoad, deviceWatts, type CircuitLoad } from './load';
import { jointProblem } from './joint';
import { route, type Route } from './route';
import { burstsOf, holdsBurst, noFuse, size, type Burst, type Sized } from './size';

export interface Choice {
  feed: string | null;
  mode: Mode;
  awg: number | null;
  fuseA: number | null;
  lengthM: number | null;
}

/** One added circuit, sized: what Kadro chose, what stands after overrides, and the arithmetic. */
export interface PlannedCircuit {
  id: string;
  kit: Kit;
  circuit: Circuit;
  load: CircuitLoad;
  candidates: Candidate[];
  feed: PowerPoint | null;
  trigger: PowerPoint | null;
  mode: Mode;
  /** what lies round its wires: hot parts or an engine space, and how many current-carrying wires lie together at the most */
  around: Required<Surroundings>;
  /** the highest volts that stand on it: charging, not nominal */
  highestV: number;
  /** what its relay is; null where it has none */
  contactor: Contactor | null;
  /** to the farthest device */
  route: Route | null;
  /** the run that it was made to take by hand, as `from>to` */
  via: string | null;
  /** one way to the farthest device, with slack */
  lengthM: number | null;
  awg: number | null;
  dropV: number | null;
  dropPct: number | null;
  ampacityA: number | null;
  limitedBy: string;
  /** null where it is not known, or where another fuse guards the circuit */
  fuseA: number | null;
  fuseColour: string | null;
  /** the kind of fuse, by the volts of the circuit; null where none is made, or it has none of its own */
  fuseKind: FuseFamily | null;
  /** the fuse that guards it, when it has none of its own */
  guardedBy: string | null;
  joint: Joint;
  crimp: { newtons: number; lbf: number } | null;
  verdict: Verdict;
  problems: string[];
  /** which of them could hurt somebody; null: none */
  unsafe: string | null;
  sum: SumLine[];
  /** what Kadro chose; where something is set by hand, also what that would have given */
  chosen: Choice & { dropPct: number | null; verdict: Verdict };
  overrides: WireOverride[];
}

export interface Wiring {
  circuits: PlannedCircuit[];
  /** the unit's power points and those the kits make */
  points: PowerPoint[];
  /** amperes newly taken at each point */
  taken: Map<string, number>;
  /** all feeds were chosen together: whether that is proved best, at what cost, and the least that any could cost */
  assignment: { optimal: boolean; cost: number; bound: number };
  /** the most that each element of the harness carries, everything on at once, amperes */
  amps: ReadonlyMap<string, number>;
  /** everything joined, as a network that can be switched on */
  harness: Harness;
  verdict: Verdict;
}

export const circuitId = (kit: string, circuit: string): string => `${kit}/${circuit}`;

/** Points that the kits' own supplies add: a reducer's output, a power manager's channels. */
function madePoints(sheets: Sheets): PowerPoint[] {
  return sheets.kits.flatMap((k) =>
    k.circuits.flatMap((c) => {
      const m = c.makes;
      if (!m || !sheets.model.places.some((p) => p.id === m.place)) return [];
      const base = { place: m.place, volts: m.volts, usedA: 0, pins: [], ohms: 0 };
      return m.channels
        ? Array.from({ length: m.channels.count }, (_, i): PowerPoint => ({
            ...base,
            id: `${m.id}-${i + 1}`,
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

interface Item {
  id: string;
  kit: Kit;
  circuit: Circuit;
  load: CircuitLoad;
  overrides: WireOverride[];
  missingPlace: Kit['devices'][number] | null;
  taps: TapTarget[] | null;
  lostTap: string | null;
}

/**
 * Plans every circuit of the order's kits on this unit. Feeds are chosen for all circuits together, the least costly for the
 * whole; then everything is laid along the runs, and every circuit gets the gauge and the fuse that its worst state asks for,
 * with what it shares with others counted. What is set by hand is kept to, and its effect is told.
 */
export function planWiring(order: Order, sheets: Sheets, settings: Settings): Wiring {
  const plain = order.overrides.length ? plan({ ...order, overrides: [] }, sheets, settings, null) : null;
  return plan(order, sheets, settings, plain);
}

function plan(order: Order, sheets: Sheets, settings: Settings, plain: Wiring | null): Wiring {
  const { model } = sheets;
  const points = [...model.powerPoints, ...madePoints(sheets)];
  const items: Item[] = sheets.kits.flatMap((kit) =>
    kit.circuits.map((circuit) => {
      const id = circuitId(kit.id, circuit.id);
      const missingPlace =
        circuit.devices.map((d) => kit.devices.find((x) => x.id === d)!).find((d) => !model.places.some((p) => p.id === d.place)) ?? null;
      const found = circuit.taps?.map((f) => ({
        f,
        tap: findTap(
          model,
          sheets.kits.filter((k) => k.id !== kit.id),
          f,
        ),
      }));
      const lost = found?.find((x) => !x.tap);
      return {
        id,
        kit,
        circuit,
        load: circuitLoad(order, kit, circuit, circuit.volts),
        overrides: order.overrides.filter((o) => o.circuit === id),
        missingPlace,
        taps: found ? found.flatMap((x) => x.tap ?? []) : null,
        lostTap: lost ? functionWord(lost.f) : null,
      };
    }),
  );
  // what another kit's circuit is joined to carries that circuit's load too
  const joined = new Map<string, { name: string; load: CircuitLoad }[]>();
  for (const it of items) {
    const giver = it.taps && giverOf(items, it.taps);
    if (!giver) continue;
    joined.set(giver.id, [...(joined.get(giver.id) ?? []), { name: it.circuit.name, load: it.load }]);
    giver.load = addLoads(giver.load, it.load);
  }
  const keyedTrigger = (volts?: number): PowerPoint | null =>
    points.find((p) => p.switching === 'keyed' && p.kind === 'key-wire' && (volts === undefined || p.volts === volts)) ??
    points.find((p) => p.switching === 'keyed' && p.kind !== 'reducer-output' && p.kind !== 'manager-channel') ??
    null;
  const trigger = keyedTrigger();
  const far = new Map<string, Route | null>();
  const wayOf = (it: Item, point: PowerPoint): Route | null => {
    const key = `${it.id} ${point.place}`;
    if (!far.has(key))
      far.set(key, it.missingPlace ? null : farthest(model, point.place, it.kit, it.circuit, overOf(it, 'route') as string | undefined));
    return far.get(key)!;
  };
  const judge = (it: Item, takenBy: (p: PowerPoint) => number): Candidate[] => {
    if (it.taps) return [];
    const measured = overOf(it, 'lengthM');
    return points
      .filter((p) => !it.circuit.makes || !p.id.startsWith(it.circuit.makes.id))
      .map((p) => {
        const r = wayOf(it, p);
        const distance = r ? withSlack(r) : typeof measured === 'number' ? measured : null;
        return judgePoint(model, it.circuit, p, it.load.continuousA ?? 0, takenBy(p), distance, trigger !== null);
      })
      .sort((a, b) => Number(b.accepted) - Number(a.accepted) || a.cost - b.cost);
  };

  const room = new Map<string, number>();
  for (const p of points) {
    const free = freeAmps(p, 0);
    if (free !== null) room.set(p.id, free);
  }
  const alone = new Map(items.map((it) => [it.id, judge(it, () => 0)]));
  const wanting: Wanting[] = [];
  const fixed = new Map<string, string>();
  for (const it of items) {
    if (it.taps) continue;
    const feed = overOf(it, 'feed') as string | undefined;
    if (feed !== undefined && points.some((p) => p.id === feed)) {
      fixed.set(it.id, feed);
      if (room.has(feed)) room.set(feed, room.get(feed)! - (it.load.continuousA ?? 0));
    } else
      wanting.push({
        id: it.id,
        amps: it.load.continuousA ?? 0,
        options: alone.get(it.id)!.flatMap((c) => (c.accepted ? [{ point: c.point.id, mode: c.mode, cost: c.cost }] : [])),
      });
  }
  const assigned = assignFeeds(wanting, room);
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

  const set = items.map((it) => {
    const feed = feedOf(it);
    const candidates = judge(it, (p) => (taken.get(p.id) ?? 0) - (feed?.id === p.id ? (it.load.continuousA ?? 0) : 0));
    const picked = candidates.find((c) => c.point.id === feed?.id) ?? null;
    const mode = (overOf(it, 'mode') as Mode | undefined) ?? picked?.mode ?? 'direct';
    return { it, feed, candidates, picked, mode };
  });
  const choices: CircuitChoice[] = set.map(({ it, feed, mode }) => ({
    id: it.id,
    kit: it.kit,
    circuit: it.circuit,
    feed: it.taps ? null : feed,
    trigger: mode === 'relay' ? trigger : null,
    mode,
    via: overOf(it, 'route') as string | undefined,
    taps: it.taps,
    contactor: contactorOf(it, feed, mode, trigger, model),
  }));
  const harness = buildHarness(model, points, sheets.kits, choices, (k, d) => deviceWatts(order, k, d));
  const wiresOf = (id: string) => harness.elements.filter((e): e is HarnessWire => e.kind === 'wire' && e.circuit === id);

  const makers = items.filter((it) => it.circuit.makes);
  const flows = flowsOf(
    harness,
    makers.map((it) => {
      const of = `${it.kit.id}/${it.circuit.devices[0]}`;
      return { id: `${of}:input`, of, circuit: it.id, from: `${of}.in`, to: `${of}.minus`, amps: it.load.peakA ?? 0 };
    }),
    // what a supply makes, and a tap of the pack, is as good as a source
    points.flatMap((p) => (p.kind === 'pack-tap' || makers.some((it) => p.id.startsWith(it.circuit.makes!.id)) ? [`pp:${p.id}`] : [])),
  );
  const byCircuit = (id: string) => flows.filter((f) => f.circuit === id);
  for (const it of items) {
    const measured = overOf(it, 'lengthM');
    if (typeof measured === 'number') stretch(wiresOf(it.id), byCircuit(it.id), it.id, measured);
  }
  const total = totalAmps(flows);
  const stocked = stockedWire(settings);
  for (const e of harness.elements)
    if (e.kind === 'wire') {
      e.insulationC = stocked.insulationC;
      e.standard = stocked.standard;
    }
  const sizing = set.map((s) => {
    const wires = wiresOf(s.it.id).filter((w) => !w.signal);
    return {
      ...s,
      flows: byCircuit(s.it.id),
      wires,
      hot: wires.some((w) => w.hot),
      highestV: s.feed ? highestVolts(model, s.feed) : highestSystemVolts(model),
      bursts: burstsOf(s.it.kit, s.it.circuit, s.it.load),
      isolated: order.facts[ISOLATION_FACT] === true,
      kind: model.kind,
    };
  });
  // what is led on its own is settled first, with nothing bundled: then what lies together, and that sizes the rest
  const unbundled = new Map(sizing.map((s) => [s.it.id, awgOf(s, sizeOf(s, total, { hot: s.hot, bundled: 1 }, settings))]));
  const bundled = lieTogether(
    harness.elements.filter((e): e is HarnessWire => e.kind === 'wire'),
    (w) => counts(w, total.get(w.id) ?? 0, w.awg ?? (w.circuit === null ? 18 : (unbundled.get(w.circuit) ?? 18))),
  );
  for (const e of harness.elements) if (e.kind === 'wire') e.bundled = bundled.get(e.id) ?? 1;
  const circuits = sizing
    .map((s, i) => ({ s, i }))
    // what is joined to another circuit's wires comes after them, so that their gauge is known
    .sort((a, b) => Number(!!a.s.it.taps) - Number(!!b.s.it.taps))
    .map(({ s, i }) => {
      const chosen = plain?.circuits.find((c) => c.id === s.it.id)?.chosen ?? null;
      const around = { hot: s.hot, bundled: Math.max(1, ...s.wires.map((w) => w.bundled)) };
      const c = finish(s, around, total, harness, model, trigger, settings, wayOf, chosen, joined.get(s.it.id) ?? []);
      for (const e of harness.elements) {
        if (e.circuit !== c.id) continue;
        if (e.kind === 'wire') e.awg ??= c.awg;
        if (e.kind === 'fuse' && e.id === ownFuse(c.id) && c.fuseA !== null) {
          e.ratingA = c.fuseA;
          e.family = fuseFamily(c.fuseA);
          e.ratedV = c.fuseKind?.ratedV ?? e.ratedV;
        }
      }
      return { c, i };
    })
    .sort((a, b) => a.i - b.i)
    .map(({ c }) => c);
  return {
    circuits,
    points,
    taken,
    amps: total,
    assignment: { optimal: assigned.optimal, cost: assigned.cost, bound: assigned.bound },
    harness,
    verdict: worst(circuits.map((c) => c.verdict)),
  };
}

/** The circuit whose terminal a tap is joined to, found by whose devices that terminal feeds. */
function giverOf(items: readonly Item[], taps: readonly TapTarget[]): Item | undefined {
  for (const t of taps) {
    const [kitId, at] = t.node.split('/') as [string, string | undefined];
    const kit = items.find((x) => x.kit.id === kitId)?.kit;
    const fed = kit?.leads.find((l) => l.from === at)?.to.split('.')[0];
    const giver = items.find((x) => x.kit === kit && fed !== undefined && x.circuit.devices.includes(fed));
    if (kit && giver) return giver;
  }
  return undefined;
}

const addLoads = (a: CircuitLoad, b: CircuitLoad): CircuitLoad => ({
  peakA: a.peakA === null || b.peakA === null ? null : a.peakA + b.peakA,
  continuousA: a.continuousA === null || b.continuousA === null ? null : a.continuousA + b.continuousA,
  heatsA: a.heatsA === null || b.heatsA === null ? null : a.heatsA + b.heatsA,
  missing: [...a.missing, ...b.missing],
  hasBurst: a.hasBurst || b.hasBurst,
});

const overOf = (it: Item, field: WireOverride['field']) => it.overrides.find((o) => o.field === field)?.value;

function tapPoint(taps: readonly TapTarget[]): PowerPoint {
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

const withSlack = (r: Route): number => (r.lengthMm * SLACK + r.slackMm) / 1000 + 2 * END_M;

/** A measured length takes the place of the reckoned one: the circuit's wires are stretched to it alike. */
function stretch(wires: HarnessWire[], flows: readonly Flow[], circuit: string, measuredM: number): void {
  const drops = flows.map((f) => dropOf(f, new Map(), circuit, 18, null));
  if (drops.some((d) => d.outM === null) || !drops.length) {
    for (const w of wires) if (!w.signal) w.lengthM ??= measuredM;
    return;
  }
  const own = Math.max(...drops.map((d) => d.outM!));
  if (own > 0) for (const w of wires) if (!w.signal && w.lengthM !== null) w.lengthM = Number(((w.lengthM * measuredM) / own).toFixed(3));
}

/** A circuit with what sizes it. */
interface Sizing {
  it: Item;
  feed: PowerPoint | null;
  candidates: Candidate[];
  picked: Candidate | null;
  mode: Mode;
  flows: readonly Flow[];
  /** its own, but for signals */
  wires: readonly HarnessWire[];
  hot: boolean;
  highestV: number;
  bursts: Burst[];
  /** a qualified person has acknowledged the maker's isolation procedure */
  isolated: boolean;
  kind: UnitModel['kind'];
}

/** The wire that a shop cuts from. */
const stockedWire = (s: Settings): Pick<HarnessWire, 'insulationC' | 'standard'> => ({
  insulationC: s.wireInsulationC,
  standard: s.wireStandard,
});

/** The worst of a circuit's devices, with a gauge for its wires and a fuse. */
function worstAt(s: Sizing, total: ReadonlyMap<string, number>, awg: number, fuseA: number | null): FlowDrop | null {
  const { circuit, id } = s.it;
  const all = s.flows.filter((f) => !circuit.makes || f.id.endsWith(':input')).map((f) => dropOf(f, total, id, awg, fuseA));
  if (!all.length || all.some((d) => d.outM === null || d.backM === null)) return null;
  return all.reduce((a, b) => (lostV(b) > lostV(a) ? b : a));
}

function sizeOf(s: Sizing, total: ReadonlyMap<string, number>, around: Surroundings, settings: Settings): Sized {
  const { it, bursts } = s;
  if (!s.feed) return { awg: null, limitedBy: '', fuseA: null, problem: null };
  const pct = (d: FlowDrop | null) => (d === null ? null : (lostV(d) / it.circuit.volts) * 100);
  const where = { ...stockedWire(settings), ...around };
  const lengths = s.flows.map((f) => dropOf(f, new Map(), it.id, 18, null).outM);
  const lengthM = lengths.length && lengths.every((m) => m !== null) ? Math.max(...lengths) : null;
  const awgMin = Math.min(it.circuit.awgMin, leastGauge(s.kind, lengthM) ?? Infinity);
  return size(it.circuit, it.load, (g, f) => pct(worstAt(s, total, g, f)), where, !!it.taps, bursts, s.highestV, awgMin);
}
const awgOf = (s: Sizing, own: Sized): number | null => (overOf(s.it, 'awg') as number | undefined) ?? own.awg;

/** What switches a circuit from a trigger; null where nothing does, or nothing here can. */
function contactorOf(
  it: Item,
  feed: PowerPoint | null,
  mode: Mode,
  trigger: PowerPoint | null,
  model: UnitModel,
): CircuitChoice['contactor'] {
  if (mode !== 'relay' || it.circuit.makes) return null;
  const part = contactorFor(it.load.peakA ?? 0, feed ? highestVolts(model, feed) : highestSystemVolts(model));
  return part && { part, coilV: trigger?.volts ?? it.circuit.volts };
}

function finish(
  s: Sizing,
  around: Required<Surroundings>,
  total: ReadonlyMap<string, number>,
  harness: Harness,
  model: UnitModel,
  trigger: PowerPoint | null,
  settings: Settings,
  wayOf: (it: Item, p: PowerPoint) => Route | null,
  plain: PlannedCircuit['chosen'] | null,
  joined: readonly { name: string; load: CircuitLoad }[],
): PlannedCircuit {
  const { it, feed, candidates, picked, mode, flows, highestV, bursts } = s;
  const { kit, circuit, load } = it;
  const over = (field: WireOverride['field']) => overOf(it, field);
  const problems: string[] = [];
  let unsafe: string | null = null;
  const verdicts: Verdict[] = [];
  const bad = (text: string, verdict: Verdict = 'fails') => {
    problems.push(text);
    verdicts.push(verdict);
  };
  if (it.missingPlace) bad(`this unit has no place “${it.missingPlace.place}” for the ${it.missingPlace.name}`);
  if (it.lostTap) bad(`nothing here has a ${it.lostTap} wire to join: neither the unit nor another kit`);
  else if (!feed && !it.taps)
    bad(candidates.length ? 'no feed on this unit will do: see why each was refused' : 'this unit lists no power points');
  else if (picked && !picked.accepted) bad(`${feed!.name}: ${picked.reason}`);
  const liveParked = feed !== null && circuit.switching === 'keyed' && mode === 'direct' && feed.switching === 'constant';
  if (liveParked) bad('a keyed circuit on a constant feed without a relay stays live with the key off', 'tight');
  if (mode === 'plug' && circuit.switching === 'keyed' && feed?.switching === 'constant')
    bad('live with the key off until its plug is pulled', 'tight');
  if (feed && feed.kind !== 'reducer-output' && highestV > PACK_WORK_V && !s.isolated)
    bad(
      `${round(highestV)} V while charging: over ${PACK_WORK_V} V nothing is planned on the pack until a qualified person acknowledges its maker’s isolation procedure`,
    );
  if (over('mode') === 'relay' && !trigger) bad('no keyed wire is listed to trigger a relay');
  const relayed = mode === 'relay' && !circuit.makes && !it.taps;
  const contactor = relayed && feed ? (contactorOf(it, feed, mode, trigger, model)?.part ?? null) : null;
  if (relayed && feed && !contactor)
    bad(`no relay or contactor here switches ${round(load.peakA ?? 0)} A at ${round(highestV)} V: split the circuit, or ask its maker`);
  for (const e of harness.elements)
    if (e.kind === 'contact' && e.circuit === it.id && e.rated) {
      const says = contactProblem(e.name, e.rated, total.get(e.id) ?? null, highestV);
      if (says) {
        bad(says);
        unsafe ??= says;
      }
    }

  const way = feed && !it.missingPlace ? wayOf(it, feed) : null;
  const own = sizeOf(s, total, around, settings);
  if (own.problem) bad(own.problem);
  const awg = awgOf(s, own);
  const fuseA = it.taps ? null : ((over('fuseA') as number | undefined) ?? own.fuseA);
  const noKind = fuseA === null ? null : noFuse(fuseA, highestV);
  if (noKind) {
    bad(noKind);
    unsafe ??= noKind;
  }
  const fuseKind = fuseA === null || noKind ? null : fuseFamilyFor(fuseA, highestV);
  const ampacityA = awg === null ? null : allowable({ ...stockedWire(settings), awg }, around);
  const worstDrop = awg === null ? null : worstAt(s, total, awg, fuseA);
  const dropV = worstDrop === null || load.peakA === null ? null : lostV(worstDrop);
  const dropPct = dropV === null ? null : (dropV / circuit.volts) * 100;
  const outs = flows.map((f) => dropOf(f, total, it.id, 18, null).outM);
  const lengthM =
    !feed || !outs.length || outs.some((m) => m === null)
      ? typeof over('lengthM') === 'number'
        ? (over('lengthM') as number)
        : null
      : Math.max(...(outs as number[]));

  if (load.missing.length) verdicts.push('unknown');
  if (lengthM === null && feed && !it.missingPlace)
    bad(
      outs.length ? 'no run leads there: type the measured length' : 'its leads do not make a way from feed to ground',
      outs.length ? 'unknown' : 'fails',
    );
  if (dropPct !== null) {
    verdicts.push(judgeUse(dropPct, circuit.dropPct, 1));
    if (dropPct > circuit.dropPct) problems.push(`drops ${round(dropPct)} %, ${circuit.dropPct} % allowed`);
  }
  for (const g of guards({ continuousA: load.continuousA, heatsA: load.heatsA, fuseA, makerMaxA: circuit.fuseMaxA }, ampacityA, settings)) {
    bad(g.says, g.verdict);
    if (g.unsafe) unsafe ??= g.says;
  }
  for (const b of bursts)
    if (fuseA !== null && !holdsBurst(fuseA, b))
      bad(
        `${round(b.amps)} A (${b.what}) may open the ${fuseA} A fuse after ${round(fuseOpens(fuseFamily(fuseA), fuseA, b.amps).soonestS, 2)} s, ${b.seconds} s are asked`,
      );
  const fuseLimit = ampacityA === null ? null : largestFuse(ampacityA, settings);
  const guard = it.taps?.length ? guardOf(it.taps, harness) : null;
  if (guard && guard.ratingA !== null && fuseLimit !== null && guard.ratingA > fuseLimit) {
    const says = `the ${guard.ratingA} A fuse of ${guard.name} is above what this wire may carry (${round(fuseLimit)} A): put a fuse of its own in it`;
    bad(says);
    unsafe ??= says;
  }
  const tapped = it.taps?.find((t) => t.wire?.fuseA !== undefined)?.wire;
  if (tapped && load.continuousA !== null && load.continuousA > tapped.fuseA! / FUSE_FACTOR - tapped.usedA)
    bad(
      `${tapped.name}: needs ${round(load.continuousA, 2)} A, ${round(Math.max(0, tapped.fuseA! / FUSE_FACTOR - tapped.usedA), 2)} A free of its ${tapped.fuseA} A fuse`,
    );
  const joint = (over('joint') as Joint | undefined) ?? circuit.joint;
  const jointSays = jointProblem(model, it.taps ? it.taps[0]?.place : feed?.place, joint, load.continuousA);
  if (jointSays) bad(jointSays);

  const verdict = worst(verdicts);
  return {
    id: it.id,
    kit,
    circuit,
    load,
    candidates,
    feed,
    trigger: mode === 'relay' ? trigger : null,
    mode,
    route: way,
    via: (over('route') as string | undefined) ?? null,
    lengthM,
    awg,
    dropV,
    dropPct,
    ampacityA,
    limitedBy: over('awg') === undefined ? own.limitedBy : 'override',
    fuseA,
    fuseColour: fuseA === null ? null : fuseColour(fuseA),
    guardedBy: guard ? guard.name : null,
    joint,
    crimp: awg === null ? null : crimpPull(awg),
    verdict,
    problems,
    unsafe,
    sum: circuitSum({
      circuit,
      load,
      way,
      lengthM,
      measured: typeof over('lengthM') === 'number',
      awg,
      worstDrop,
      dropV,
      dropPct,
      ampacityA,
      fuseA,
      bursts,
      around,
      highestV,
      fuseKind,
      joined,
    }),
    around,
    highestV,
    contactor,
    fuseKind,
    chosen: plain ?? { feed: feed?.id ?? null, mode, awg: own.awg, fuseA: own.fuseA, lengthM, dropPct, verdict },
    overrides: it.overrides,
  };
}

/** The fuse that stands before the wires a circuit is joined to. */
function guardOf(taps: readonly TapTarget[], h: Harness): { name: string; ratingA: number | null } | null {
  const tap = taps[0]!;
  if (tap.wire) return { name: tap.wire.name, ratingA: tap.wire.fuseA ?? null };
  const node = h.nodes.find((n) => n.id === tap.node);
  const circuit = h.elements.find((e) => (e.from === tap.node || e.to === tap.node) && e.circuit)?.circuit;
  const fuse = h.elements.find((e) => e.id === `${circuit}#fuse`);
  return node ? { name: tap.name, ratingA: fuse?.kind === 'fuse' && fuse.ratingA > 1 ? fuse.ratingA : null } : null;
}
