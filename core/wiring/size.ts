import type { Verdict } from '#model/common';
import type { Harness, HarnessElement, HarnessFuse, HarnessWire } from '#model/harness';
import type { Joint } from '#model/kit';
import type { Order, WireOverride } from '#model/order';
import type { Settings } from '#model/settings';
import type { UnitModel } from '#model/unit-model';
import { circuitSum } from '../circuit/circuit-sum';
import { dropOf, lostV, ownFuse, type Flow, type FlowDrop, type Settled } from '../circuit/flows';
import { jointProblem } from '../circuit/joint';
import { burstsOf, chooseFuse, holdsBurst, noFuse, size, type Burst, type Guard, type Sized } from '../circuit/size';
import { counts, lieTogether } from '../harness/together';
import { round } from '../sum';
import { judgeUse, worst } from '../verdict';
import { allowable, type Surroundings } from '../wire-rules/allowable';
import { contactProblem } from '../wire-rules/contacts';
import { fuseFamilyFor } from '../wire-rules/fuse-volts';
import { guards, largestFuse } from '../wire-rules/guards';
import { ISOLATION_FACT, PACK_WORK_V } from '../wire-rules/high-volts';
import { highestSystemVolts, highestVolts } from '../wire-rules/highest-volts';
import { leastGauge } from '../wire-rules/least-gauge';
import { crimpPull } from '../wire/choose';
import { GAUGES } from '../wire/tables';
import { FUSE_FACTOR, fuseColour } from '../wire/fuse';
import { fuseFamily, fuseOpens } from '../wire/fuse-time';
import { awgName } from '../wire/resistance';
import { guardAmps, overrideOf, wayOf, type AssignedCircuit } from './assign';
import { adapted } from './box-network';
import { contactorOf, stockedWire, type LoadedWiring } from './load';
import type { PlannedCircuit, Wiring } from './planned';

/** A circuit with what sizes it. */
interface Sizing {
  c: AssignedCircuit;
  flows: readonly Flow[];
  /** its own that carry its load: out of the box, and off the shelf */
  box: readonly HarnessWire[];
  shelf: readonly HarnessWire[];
  /** the fuse of its own that came in the box */
  boxFuse: HarnessFuse | null;
  hot: boolean;
  highestV: number;
  bursts: Burst[];
  /** a qualified person has acknowledged the maker's isolation procedure */
  isolated: boolean;
  kind: UnitModel['kind'];
}

const isWire = (e: HarnessElement): e is HarnessWire => e.kind === 'wire';

/** A circuit's own flows; of one that draws nothing itself, those of others that run through its wires. */
function flowsThrough(flows: readonly Flow[], circuit: string): readonly Flow[] {
  const own = flows.filter((f) => f.circuit === circuit);
  return own.length ? own : flows.filter((f) => f.out.some((e) => e.kind === 'wire' && e.circuit === circuit));
}

/** Circuits whose wires and fuses others' current runs through come before those others, so that theirs are known. */
function inTurn(list: readonly Sizing[]): Sizing[] {
  const needs = new Map(
    list.map((s) => [
      s.c.id,
      new Set(s.flows.flatMap((f) => [...f.out, ...f.back].flatMap((e) => (e.circuit && e.circuit !== s.c.id ? [e.circuit] : [])))),
    ]),
  );
  const out: Sizing[] = [];
  const done = new Set<string>();
  let left = [...list];
  while (left.length) {
    const ready = left.filter((s) => [...needs.get(s.c.id)!].every((n) => done.has(n) || !needs.has(n)));
    // two that run through each other's wires are settled as they come
    const now = ready.length ? ready : [left[0]!];
    for (const s of now) {
      out.push(s);
      done.add(s.c.id);
    }
    left = left.filter((s) => !done.has(s.c.id));
  }
  return out;
}

/** The worst of a circuit's devices, with a gauge for its wires and a fuse. */
function worstAt(s: Sizing, total: ReadonlyMap<string, number>, awg: number, fuseA: number | null, settled: Settled): FlowDrop | null {
  const { circuit, id } = s.c;
  const all = s.flows.filter((f) => !circuit.makes || f.id.endsWith(':input')).map((f) => dropOf(f, total, id, awg, fuseA, settled));
  if (!all.length || all.some((d) => d.outM === null || d.backM === null)) return null;
  return all.reduce((a, b) => (lostV(b) > lostV(a) ? b : a));
}

const guardOf = (s: Sizing): Guard => {
  const { c } = s;
  if (c.taps) return { by: 'others' };
  if (s.boxFuse) return { by: 'given', ratingA: s.boxFuse.ratingA };
  if (c.guarded) return { by: 'given', ratingA: guardAmps(c.feed!)! };
  return { by: 'own' };
};

/** Gauge and fuse: the box's where they are given, else the thinnest and the smallest that do. */
function sizeOf(s: Sizing, total: ReadonlyMap<string, number>, around: Surroundings, settings: Settings, settled: Settled): Sized {
  const { c, bursts } = s;
  if (!c.feed) return { awg: null, limitedBy: '', fuseA: null, problem: null };
  const guard = guardOf(s);
  const given = [...s.box, ...s.shelf].flatMap((w) => w.awg ?? []);
  if (s.box.length && given.length === s.box.length + s.shelf.length) {
    const awg = Math.max(...given);
    if (guard.by !== 'own' || c.load.continuousA === null)
      return { awg, limitedBy: 'box', fuseA: guard.by === 'given' ? guard.ratingA : null, problem: null };
    return { awg, limitedBy: 'box', ...chooseFuse(c.load.continuousA, bursts, s.highestV) };
  }
  const pct = (d: FlowDrop | null) => (d === null ? null : (lostV(d) / c.circuit.volts) * 100);
  const where = { ...stockedWire(settings), ...around };
  const lengths = s.flows.map((f) => dropOf(f, new Map(), c.id, 18, null).outM);
  const lengthM = lengths.length && lengths.every((m) => m !== null) ? Math.max(...lengths) : null;
  const awgMin = Math.min(c.circuit.awgMin, leastGauge(s.kind, lengthM) ?? Infinity);
  return size(c.circuit, c.load, (g, f) => pct(worstAt(s, total, g, f, settled)), where, guard, bursts, s.highestV, awgMin);
}

/** For each wire the rating of the smallest fuse between it and its source, on whichever way of its current that is largest. */
function guardedBy(flows: readonly Flow[], coils: ReadonlySet<string>, ratingOf: (e: HarnessFuse) => number | null): Map<string, number> {
  const out = new Map<string, number>();
  for (const f of flows) {
    // a coil's milliamperes say nothing of a wire that carries a load beside them
    if (coils.has(f.id)) continue;
    let least = Infinity;
    for (const e of f.out) {
      const rating = e.kind === 'fuse' ? ratingOf(e) : null;
      if (rating !== null) least = Math.min(least, rating);
      if (e.kind === 'wire') out.set(e.id, Math.max(out.get(e.id) ?? 0, least));
    }
    for (const e of f.back) if (e.kind === 'wire') out.set(e.id, Math.max(out.get(e.id) ?? 0, least));
  }
  return out;
}

/**
 * The fourth stage: gauge, fuse and judgement of every circuit, and the network with all of it. What its maker put in stands, and
 * is judged; what is not given is chosen.
 * @param plain the wiring without what was set by hand; null where nothing was
 */
export function sizeWiring(loaded: LoadedWiring, order: Order, settings: Settings, plain: Wiring | null): Wiring {
  const { assigned, draft, boxes, flows, total } = loaded;
  const { model } = assigned;
  const wires = draft.elements.filter(isWire);
  const sizing = assigned.circuits.map((c): Sizing => {
    const mine = wires.filter((w) => (w.circuit === c.id || w.shared?.includes(c.id)) && !w.signal);
    const fuse = draft.elements.find((e) => e.id === ownFuse(c.id));
    return {
      c,
      flows: flowsThrough(flows, c.id),
      box: mine.filter((w) => w.box),
      shelf: mine.filter((w) => !w.box),
      boxFuse: fuse?.kind === 'fuse' && fuse.box ? fuse : null,
      hot: mine.some((w) => w.hot),
      highestV: c.feed ? highestVolts(model, c.feed) : highestSystemVolts(model),
      bursts: burstsOf(c.kit, c.circuit, c.load),
      isolated: order.facts[ISOLATION_FACT] === true,
      kind: model.kind,
    };
  });
  const turn = inTurn(sizing);
  const awgOf = (s: Sizing, own: Sized): number | null => (overrideOf(s.c, 'awg') as number | undefined) ?? own.awg;
  // what is led on its own is settled first, with nothing bundled: then what lies together, and that sizes the rest
  const alone = settle(turn, (s, settled) => sizeOf(s, total, { hot: s.hot, bundled: 1 }, settings, settled), awgOf);
  const together = lieTogether(wires, (w) =>
    counts(w, total.get(w.id) ?? 0, w.awg ?? (w.circuit === null ? 18 : (alone.awg.get(w.circuit) ?? 18))),
  );
  const bundled = (w: HarnessWire) => together.get(w.id) ?? 1;
  const settled: { gauges: Map<string, number>; ratings: Map<string, number> } = { gauges: new Map(), ratings: new Map() };
  const planned = new Map<string, PlannedCircuit>();
  for (const s of turn) {
    const around = { hot: s.hot, bundled: Math.max(1, ...[...s.box, ...s.shelf].map(bundled)) };
    const chosen = plain?.circuits.find((c) => c.id === s.c.id)?.chosen ?? null;
    const p = judge(s, around, bundled, loaded, settings, settled, chosen);
    planned.set(s.c.id, p);
    if (p.awg !== null) for (const w of wires) if (w.circuit === p.id && w.awg === null && !w.shared) settled.gauges.set(w.id, p.awg);
    if (p.fuseA !== null && p.fuseFrom === 'shelf') settled.ratings.set(ownFuse(p.id), p.fuseA);
  }
  const circuits = assigned.circuits.map((c) => planned.get(c.id)!);
  for (const w of wires) {
    const awg = w.shared && sharedGauge(w, (c) => planned.get(c)?.awg ?? null, total.get(w.id) ?? 0, bundled(w));
    if (awg) settled.gauges.set(w.id, awg);
  }
  return {
    circuits,
    points: assigned.points,
    taken: assigned.taken,
    amps: total,
    assignment: assigned.proof,
    harness: whole(draft, bundled, settled, planned),
    boxes,
    verdict: worst(circuits.map((c) => c.verdict)),
  };
}

/** Every circuit's gauge with what comes before it known. */
function settle(
  turn: readonly Sizing[],
  own: (s: Sizing, settled: Settled) => Sized,
  awgOf: (s: Sizing, own: Sized) => number | null,
): { awg: Map<string, number> } {
  const gauges = new Map<string, number>();
  const ratings = new Map<string, number>();
  const awg = new Map<string, number>();
  for (const s of turn) {
    const sized = own(s, { gauges, ratings });
    const g = awgOf(s, sized);
    if (g === null) continue;
    awg.set(s.c.id, g);
    for (const w of s.shelf) if (w.awg === null && !w.shared) gauges.set(w.id, g);
    if (sized.fuseA !== null && !s.boxFuse) ratings.set(ownFuse(s.c.id), sized.fuseA);
  }
  return { awg };
}

/** The gauge of a wire that several circuits come home by: as thick as the thickest of theirs, and enough for all of them. */
function sharedGauge(w: HarnessWire, gaugeOf: (circuit: string) => number | null, amps: number, bundled: number): number | null {
  const gauges = [w.circuit!, ...w.shared!].flatMap((c) => gaugeOf(c) ?? []);
  if (!gauges.length) return null;
  const least = Math.min(...gauges);
  return GAUGES.find((g) => g <= least && allowable({ ...w, awg: g }, { hot: w.hot, bundled }) >= amps) ?? least;
}

/** The network with everything settled, for good. */
function whole(
  draft: Harness,
  bundled: (w: HarnessWire) => number,
  settled: Settled,
  planned: ReadonlyMap<string, PlannedCircuit>,
): Harness {
  const elements = draft.elements.map((e): HarnessElement => {
    if (e.kind === 'wire') return Object.freeze({ ...e, awg: e.awg ?? settled.gauges.get(e.id) ?? null, bundled: bundled(e) });
    const rating = e.kind === 'fuse' ? settled.ratings.get(e.id) : undefined;
    if (e.kind !== 'fuse' || rating === undefined) return Object.freeze({ ...e });
    // one off the shelf stands where the box’s own was
    const { box: _replaced, ...fuse } = e;
    return Object.freeze({
      ...fuse,
      ratingA: rating,
      family: fuseFamily(rating),
      ratedV: planned.get(e.circuit ?? '')?.fuseKind?.ratedV ?? e.ratedV,
    });
  });
  return Object.freeze({ ...draft, elements: Object.freeze(elements) as HarnessElement[] });
}

/** One circuit, judged with everything that is known of the rest. */
function judge(
  s: Sizing,
  around: Required<Surroundings>,
  bundled: (w: HarnessWire) => number,
  { assigned, draft, total }: LoadedWiring,
  settings: Settings,
  settled: Settled,
  plain: PlannedCircuit['chosen'] | null,
): PlannedCircuit {
  const { model } = assigned;
  const { c, flows, highestV, bursts } = s;
  const { kit, circuit, load, feed, candidates, picked, mode, trigger, id } = c;
  const over = (field: WireOverride['field']) => overrideOf(c, field);
  const problems: string[] = [];
  let unsafe: string | null = null;
  const verdicts: Verdict[] = [];
  const bad = (text: string, verdict: Verdict = 'fails') => {
    problems.push(text);
    verdicts.push(verdict);
  };
  const danger = (text: string) => {
    bad(text);
    unsafe ??= text;
  };
  if (c.missingPlace) bad(`this unit has no place “${c.missingPlace.place}” for the ${c.missingPlace.name}`);
  if (c.lostTap)
    bad(
      `nothing here has a ${c.lostTap} wire to join: neither the unit nor another kit; if something fitted before has one, tell its wires at Arrive`,
    );
  else if (!feed && !c.taps)
    bad(candidates.length ? 'no feed on this unit will do: see why each was refused' : 'this unit lists no power points');
  else if (picked && !picked.accepted) bad(`${feed!.name}: ${picked.reason}`, picked.costly ? 'tight' : 'fails');
  const liveParked =
    feed !== null && circuit.switching === 'keyed' && mode === 'direct' && feed.switching === 'constant' && feed.kind !== 'switch-position';
  if (liveParked) bad('a keyed circuit on a constant feed without a relay stays live with the key off', 'tight');
  if (mode === 'plug' && circuit.switching === 'keyed' && feed?.switching === 'constant')
    bad('live with the key off until its plug is pulled', 'tight');
  if (feed && feed.kind !== 'reducer-output' && highestV > PACK_WORK_V && !s.isolated)
    bad(
      `${round(highestV)} V while charging: over ${PACK_WORK_V} V nothing is planned on the pack until a qualified person acknowledges its maker’s isolation procedure`,
    );
  if (over('mode') === 'relay' && !trigger) bad('no keyed wire is listed to trigger a relay');
  const relayed = mode === 'relay' && !circuit.makes && !c.taps && !c.box?.relay;
  const contactor = relayed && feed ? (contactorOf(c, model)?.part ?? null) : null;
  if (relayed && feed && !contactor)
    bad(`no relay or contactor here switches ${round(load.peakA ?? 0)} A at ${round(highestV)} V: split the circuit, or ask its maker`);
  for (const e of draft.elements)
    if (e.kind === 'contact' && e.circuit === id && e.rated) {
      const says = contactProblem(e.name, e.rated, total.get(e.id) ?? null, highestV);
      if (says) danger(says);
    }

  const adapts = feed && c.box && !c.taps ? adapted(c.box.end, feed) : null;
  if (adapts) bad(`${adapts.why}: ${adapts.buy.join(', ')}`, 'tight');
  const own = sizeOf(s, total, around, settings, settled);
  if (own.problem) bad(own.problem);
  const awg = (over('awg') as number | undefined) ?? own.awg;
  const given = s.boxFuse?.ratingA ?? null;
  const fuseA = c.taps || c.guarded ? null : ((over('fuseA') as number | undefined) ?? own.fuseA);
  const fuseFrom =
    fuseA === null ? (c.taps || c.guarded ? ('unit' as const) : null) : given === fuseA ? ('box' as const) : ('shelf' as const);
  const noKind = fuseA === null ? null : noFuse(fuseA, highestV);
  if (noKind) danger(noKind);
  const fuseKind = fuseA === null || noKind ? null : fuseFamilyFor(fuseA, highestV);
  if (s.boxFuse && s.boxFuse.ratedV < highestV - 1e-9)
    danger(
      `the box’s ${s.boxFuse.ratingA} A fuse is made for ${s.boxFuse.ratedV} V, ${round(highestV)} V stand here while charging: put one for ${round(highestV)} V in its place`,
    );
  const shelfA = awg === null ? null : allowable({ ...stockedWire(settings), awg }, around);
  const mayOf = (w: HarnessWire) => allowable({ ...w, awg: w.awg ?? awg ?? 18 }, { hot: w.hot, bundled: bundled(w) });
  const ampacityA = s.box.length ? Math.min(...s.box.map(mayOf), ...(s.shelf.length && shelfA !== null ? [shelfA] : [])) : shelfA;
  const worstDrop = awg === null ? null : worstAt(s, total, awg, fuseA, settled);
  // what only hands on is judged by what is lost in it
  const passes = flows.every((f) => f.circuit !== id);
  const dropV = worstDrop === null || load.peakA === null ? null : passes ? worstDrop.ownV + worstDrop.partsV : lostV(worstDrop);
  const dropPct = dropV === null ? null : (dropV / circuit.volts) * 100;
  const outs = flows.map((f) => dropOf(f, total, id, awg ?? 18, null, settled).outM);
  const lengthM =
    !feed || !outs.length || outs.some((m) => m === null)
      ? typeof over('lengthM') === 'number'
        ? (over('lengthM') as number)
        : null
      : Math.max(...(outs as number[]));

  if (load.missing.length) verdicts.push('unknown');
  if (lengthM === null && feed && !c.missingPlace && (outs.length || load.peakA !== 0))
    bad(
      outs.length ? 'no run leads there: type the measured length' : 'its leads do not make a way from feed to ground',
      outs.length ? 'unknown' : 'fails',
    );
  if (dropPct !== null) {
    verdicts.push(judgeUse(dropPct, circuit.dropPct, 1));
    if (dropPct > circuit.dropPct) problems.push(`drops ${round(dropPct)} %, ${circuit.dropPct} % allowed`);
  }
  // off the shelf all wires are of one gauge; in a box each is judged by what it carries and what guards it
  const loads = { continuousA: load.continuousA, heatsA: load.heatsA, fuseA, makerMaxA: circuit.fuseMaxA };
  const ratingOf = (e: HarnessFuse) => (e.id === ownFuse(id) ? (fuseA ?? e.ratingA) : (settled.ratings.get(e.id) ?? e.ratingA));
  const coils = new Set(draft.elements.flatMap((e) => (e.kind === 'coil' ? [e.id] : [])));
  const guardAt = guardedBy(flows, coils, ratingOf);
  for (const g of guards(loads, s.shelf.length || !s.box.length ? shelfA : null, settings)) {
    bad(g.says, g.verdict);
    if (g.unsafe) unsafe ??= g.says;
  }
  const heats = load.peakA ? (load.heatsA ?? 0) / load.peakA : 1;
  for (const w of s.box) {
    const amps = load.hasBurst ? (total.get(w.id) ?? 0) * heats : (total.get(w.id) ?? 0);
    const may = mayOf(w);
    const name = `the box’s ${awgName(w.awg!)} AWG ${w.colour}`;
    if (amps > may + 1e-9) danger(`${name} carries ${round(amps)} A and may carry ${round(may)} A`);
    const rating = guardAt.get(w.id) ?? null;
    if (rating !== null && Number.isFinite(rating) && rating > largestFuse(may, settings) && !load.hasBurst)
      danger(
        `the ${rating} A fuse is above what ${name} may carry (${round(largestFuse(may, settings))} A): put in one of ${chooseSmaller(load.continuousA, bursts, highestV, may)}`,
      );
  }
  for (const b of bursts)
    if (fuseA !== null && !holdsBurst(fuseA, b))
      bad(
        `${round(b.amps)} A (${b.what}) may open the ${fuseA} A fuse after ${round(fuseOpens(fuseFamily(fuseA), fuseA, b.amps).soonestS, 2)} s, ${b.seconds} s are asked`,
      );
  const fuseLimit = ampacityA === null ? null : largestFuse(ampacityA, settings);
  const guard = c.taps?.length ? guardOfTaps(c, draft, settled) : null;
  if (guard && s.shelf.length && guard.ratingA !== null && fuseLimit !== null && guard.ratingA > fuseLimit)
    danger(
      `the ${guard.ratingA} A fuse of ${guard.name} is above what this wire may carry (${round(fuseLimit)} A): put a fuse of its own in it`,
    );
  const tapped = c.taps?.find((t) => t.wire?.fuseA !== undefined)?.wire;
  if (tapped && load.continuousA !== null && load.continuousA > tapped.fuseA! / FUSE_FACTOR - tapped.usedA)
    bad(
      `${tapped.name}: needs ${round(load.continuousA, 2)} A, ${round(Math.max(0, tapped.fuseA! / FUSE_FACTOR - tapped.usedA), 2)} A free of its ${tapped.fuseA} A fuse`,
    );
  const joint = (over('joint') as Joint | undefined) ?? circuit.joint;
  const jointSays = jointProblem(model, c.taps ? c.taps[0]?.place : feed?.place, joint, load.continuousA);
  if (jointSays) bad(jointSays);

  const verdict = worst(verdicts);
  const way = feed && !c.missingPlace ? wayOf(model, c, feed) : null;
  return {
    id,
    kit,
    circuit,
    load,
    candidates,
    feed,
    trigger,
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
    fuseFrom,
    wireFrom: s.box.length ? (s.shelf.length ? 'both' : 'box') : 'shelf',
    adapted: adapts,
    fuseColour: fuseA === null ? null : fuseColour(fuseA),
    guardedBy: guard ? guard.name : c.guarded ? feed!.name : null,
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
      joined: c.joined,
      ready: s.box.length > 0,
      fuseFrom,
      homeWith: s.shelf.flatMap((w) => {
        if (!w.shared) return [];
        const others = assigned.circuits.filter((x) => x.id !== id && (x.id === w.circuit || w.shared!.includes(x.id)));
        return { names: others.map((x) => x.circuit.name).join(', '), amps: total.get(w.id) ?? 0 };
      }),
    }),
    around,
    highestV,
    contactor,
    fuseKind,
    chosen: plain ?? { feed: feed?.id ?? null, mode, awg: own.awg, fuseA: own.fuseA, lengthM, dropPct, verdict },
    overrides: c.overrides,
  };
}

/** A fuse that a wire stands, in words. */
function chooseSmaller(continuousA: number | null, bursts: readonly Burst[], highestV: number, mayA: number): string {
  const smaller = continuousA === null ? null : chooseFuse(continuousA, bursts, highestV).fuseA;
  return smaller !== null && smaller <= mayA ? `${smaller} A` : `at most ${round(mayA)} A, and less on it`;
}

/** The fuse that stands before the wires a circuit is joined to. */
function guardOfTaps(c: AssignedCircuit, h: Harness, settled: Settled): { name: string; ratingA: number | null } | null {
  const tap = c.taps![0]!;
  if (tap.wire) return { name: tap.wire.name, ratingA: tap.wire.fuseA ?? null };
  const node = h.nodes.find((n) => n.id === tap.node);
  const circuit = h.elements.find((e) => (e.from === tap.node || e.to === tap.node) && e.circuit && e.circuit !== c.id)?.circuit;
  const fuse = h.elements.find((e) => circuit && e.id === ownFuse(circuit));
  const rating = fuse?.kind === 'fuse' ? (fuse.box ? fuse.ratingA : (settled.ratings.get(fuse.id) ?? null)) : null;
  return node ? { name: tap.name, ratingA: rating } : null;
}
