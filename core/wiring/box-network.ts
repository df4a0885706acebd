import type { BoxHarness } from '#model/box';
import type { HarnessNode } from '#model/harness';
import type { Kit } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import { lengthAlong } from '../circuit/route';
import type { Builder } from '../harness/builder';
import { addRelay } from '../harness/relay';
import { EASE_MM, layHarness, type LaidHarness } from './lay';
import { meets, sayEnd } from './ends';
import { spotsOf, type OutsideTarget } from './spots';
import { joinedEnds, type JoinedEnd, type Target } from './target';

/** Where the network stands for what a box is joined to. */
export interface BoxSurroundings {
  model: UnitModel;
  /** the points that a circuit’s feed and trigger are, with where they are; null: none yet */
  feedOf: (circuit: string) => { node: string; place: string | null; ground: string | null } | null;
  triggerOf: (circuit: string) => { node: string; place: string | null } | null;
  /** `takes`: it leads to something that draws, so current runs into it */
  tapOf: (f: Extract<Target, { to: 'wire' }>['function']) => { node: string; place: string; takes: boolean } | null;
  grounds: readonly { node: string; place: string; ohms: number }[];
  /** the circuit whose own fuse a box’s fuse is; null: it has one before it already */
  fuseOf: (circuit: string) => boolean;
  circuitId: (circuit: string) => string;
}

/** A harness of a box as it lies on the unit, with what is joined where. */
export interface LaidBox {
  kit: string;
  harness: BoxHarness;
  laid: LaidHarness | null;
  ends: JoinedEnd[];
}

/** Where a feed, a trigger or a wire of the unit is, as it was chosen. */
function placesOf(t: OutsideTarget, s: BoxSurroundings): string[] {
  const at = t.to === 'wire' ? s.tapOf(t.function) : t.to === 'feed' ? s.feedOf(t.circuit) : s.triggerOf(t.circuit);
  return at?.place ? [at.place] : [];
}

/** Lays every harness of a kit. */
export function layKit(kit: Kit, s: BoxSurroundings): LaidBox[] {
  const ends = joinedEnds(kit);
  return kit.harnesses.map((harness) => {
    const mine = ends.filter((e) => e.harness === harness);
    const spots = new Map(mine.map((e) => [e.end.id, spotsOf(kit, s.model, e, (t) => placesOf(t, s))]));
    return { kit: kit.id, harness, laid: layHarness(s.model, harness, spots), ends: mine };
  });
}

/** The point of the network that a wire’s end is joined to; null: nowhere. */
function nodeOf(b: Builder, kit: Kit, e: JoinedEnd, t: Target, place: string | null, s: BoxSurroundings): string | null {
  switch (t.to) {
    case 'feed':
      return s.feedOf(t.circuit)?.node ?? null;
    case 'trigger':
      return s.triggerOf(t.circuit)?.node ?? null;
    case 'wire':
      return s.tapOf(t.function)?.node ?? null;
    case 'terminal': {
      const n = `${kit.id}/${t.device}.${t.terminal}`;
      return b.nodes.has(n) ? n : null;
    }
    case 'ground': {
      // a plug that takes its feed at a port with a ground pin grounds there
      const fed = e.wires.flatMap((w) => (w.target.to === 'feed' ? [s.feedOf(w.target.circuit)] : [])).find((f) => f?.ground);
      if (fed?.ground) return fed.ground;
      const near = s.grounds.filter((g) => g.place === place);
      return (near[0] ?? s.grounds[0])?.node ?? null;
    }
    default:
      return null;
  }
}

/** Wire between two things at one point of a harness, millimetres. */
const STUB_MM = 50;

interface Stop {
  node: string;
  target: Target | null;
}

/** Puts the harnesses of a box into the network: each wire leg by leg, with what its maker put in. */
export function addBox(b: Builder, kit: Kit, boxes: readonly LaidBox[], s: BoxSurroundings): void {
  for (const box of boxes) {
    const { harness: h, laid } = box;
    if (!laid) continue;
    for (const r of h.relays) addBoxRelay(b, kit, box, r, s);
    for (const w of h.wires) addWire(b, kit, box, laid, w, s);
    for (const l of laid.legs) {
      if (l.noWay)
        b.problem(`${h.name}: no run leads along its ${legName(h, l.id)}: type the measured length, or choose another place`, {
          place: l.places.at(-1)!,
          node: null,
        });
      else if (l.shortMm > 0 && !h.ends.some((e) => e.id === l.to || e.id === l.from))
        b.problem(`${h.name}: its ${legName(h, l.id)} is ${Math.round(l.shortMm)} mm short: lay it another way, or choose another place`, {
          place: l.places.at(-1)!,
        });
    }
  }
}

export const legName = (h: BoxHarness, leg: string): string => h.legs.find((l) => l.id === leg)?.name ?? `leg “${leg}”`;

/** A relay of a box and its terminals, named as those of any other: by its circuit where it switches one. */
const relayOf = (
  kit: string,
  h: BoxHarness,
  r: BoxHarness['relays'][number],
  circuit: string | null,
): { of: string; pin: (p: string) => string } => {
  const own = `${kit}/${h.id}-${r.id}`;
  return circuit === null ? { of: own, pin: (p) => `${own}.${p}` } : { of: `${circuit}#relay`, pin: (p) => `${circuit}#${p}` };
};

/** The circuit whose feed goes to a relay’s contact. */
function relayCircuit(box: LaidBox, r: BoxHarness['relays'][number], s: BoxSurroundings): string | null {
  for (const e of box.ends)
    for (const w of e.wires) if (w.target.to === 'feed' && w.wire === r.wires['30']) return s.circuitId(w.target.circuit);
  return null;
}

function addBoxRelay(b: Builder, kit: Kit, box: LaidBox, r: BoxHarness['relays'][number], s: BoxSurroundings): void {
  const circuit = relayCircuit(box, r, s);
  const { of, pin } = relayOf(kit.id, box.harness, r, circuit);
  const place = box.laid?.at.get(r.at) ?? null;
  const name = kit.circuits.find((c) => s.circuitId(c.id) === circuit)?.name ?? r.name;
  addRelay(b, of, { name, circuit, place, pin, coilOhms: r.coilOhms, coilV: r.coilV, rated: r.rated });
}

function addWire(b: Builder, kit: Kit, box: LaidBox, laid: LaidHarness, w: BoxHarness['wires'][number], s: BoxSurroundings): void {
  const { harness: h } = box;
  const touch = (p: string) => h.legs.filter((l) => l.from === p || l.to === p);
  const other = (l: BoxHarness['legs'][number], p: string) => (l.from === p ? l.to : l.from);
  const stops = new Map<string, Stop[]>();
  const put = (p: string, stop: Stop) => stops.set(p, [...(stops.get(p) ?? []), stop]);
  for (const e of box.ends)
    for (const x of e.wires) {
      if (x.wire !== w.id) continue;
      const node = nodeOf(b, kit, e, x.target, laid.at.get(e.end.id) ?? null, s);
      if (node) put(e.end.id, { node, target: x.target });
    }
  for (const r of h.relays)
    for (const [pin, wire] of Object.entries(r.wires))
      if (wire === w.id) put(r.at, { node: relayOf(kit.id, h, r, relayCircuit(box, r, s)).pin(pin), target: null });
  const all = [...stops.entries()].flatMap(([p, list]) => list.map((x) => ({ p, ...x })));
  if (all.length < 2) return;
  // from where power comes; a return is grown from its ground, and runs the other way
  const home = all.find((x) => x.target?.to === 'ground');
  const from =
    home ??
    all.find((x) => x.target && (x.target.to === 'feed' || x.target.to === 'trigger' || isSource(x.target, s))) ??
    all.find((x) => gives(b, x.node)) ??
    all[0]!;
  const back = home !== undefined;
  const circuit =
    all.flatMap((x) => (x.target?.to === 'feed' || x.target?.to === 'trigger' ? [s.circuitId(x.target.circuit)] : []))[0] ?? null;
  const reaches = (p: string, by: string): boolean => stops.has(p) || touch(p).some((l) => l.id !== by && reaches(other(l, p), l.id));
  const legOf = new Map(laid.legs.map((l) => [l.id, l]));

  /** Joins two points by a piece of wire that lies along these legs. */
  const piece = (a: string, z: string, legs: string[], places: string[], lengthMm: number) => {
    if (a === z) return;
    const [one, two] = back ? [z, a] : [a, z];
    b.ready({
      id: `${kit.id}/${h.id}:${w.id}:${legs.at(-1) ?? 'joint'}${legs.length ? '' : `-${z.split('/').at(-1)}`}`.slice(0, 160),
      from: one,
      to: two,
      places: back ? [...places].reverse() : places,
      lengthM: lengthMm / 1000,
      awg: w.awg,
      colour: w.colour,
      signal: w.signal,
      bothWays: w.bothWays,
      insulationC: w.insulationC,
      circuit,
      box: { kit: kit.id, harness: h.id, wire: w.id },
      ends: back ? [endWord(z), endWord(a)] : [endWord(a), endWord(z)],
    });
  };
  const endWord = (node: string): string => {
    for (const e of box.ends)
      for (const x of e.wires)
        if (x.wire === w.id && stops.get(e.end.id)?.some((t) => t.node === node))
          return x.cavity === undefined
            ? sayEnd(e.end.end)
            : `${e.end.end.kind === 'connector' ? `${e.end.end.family} plug` : sayEnd(e.end.end)}, ${x.cavity}`;
    return 'ready';
  };
  const inner = (p: string, kind: HarnessNode['kind'], suffix: string, label: string): string => {
    const id = `${kit.id}/${h.id}.${p}-${w.id}${suffix}`;
    b.node(id, label, kind, laid.at.get(p) ?? null, null);
    b.markReady(id);
    return id;
  };
  interface Rest {
    legs: string[];
    places: string[];
    mm: number;
  }
  const none = (p: string): Rest => ({ legs: [], places: [laid.at.get(p)!], mm: 0 });
  const walk = (p: string, by: string | null, node: string, pending: Rest) => {
    let at = node;
    let rest = pending;
    const flush = (to: string) => {
      piece(at, to, rest.legs, rest.places, rest.mm);
      at = to;
      rest = none(p);
    };
    const stub = (to: string) => piece(at, to, [], [laid.at.get(p)!], STUB_MM);
    const here = (stops.get(p) ?? []).filter((x) => by !== null || x.node !== from.node);
    const next = touch(p).filter((l) => l.id !== by && reaches(other(l, p), l.id));
    const leg = by === null ? undefined : legOf.get(by);
    if (leg && here.length && leg.shortMm > 0 && !leg.noWay) {
      // too short: led on from its end, by a joint and wire from the shelf
      const joint = `${kit.id}/${h.id}.${p}-${w.id}-end`;
      const along = leg.from === p ? [...leg.places].reverse() : leg.places;
      b.node(joint, `end of the ${legName(h, leg.id)} of the ${h.name}`, 'splice', lastWithin(s.model, along, leg.hasMm - EASE_MM));
      flush(joint);
      for (const x of here)
        b.join(back ? x.node : joint, [back ? joint : x.node], {
          colour: w.colour,
          circuit,
          awg: w.awg,
          signal: w.signal,
          bothWays: w.bothWays,
        });
    } else if (by !== null && here.length === 1) flush(here[0]!.node);
    else if (by !== null && here.length + next.length > 1) {
      // a joint that its maker made
      flush(inner(p, 'splice', '', `joint in the ${h.name}`));
      here.forEach((x) => stub(x.node));
    } else here.forEach((x) => stub(x.node));
    const [hub, gone] = [at, rest];
    for (const l of next) {
      at = hub;
      rest = gone;
      h.inline.forEach((x, i) => {
        if (x.leg !== l.id || x.wire !== w.id) return;
        if (rest.legs.length) flush(inner(p, 'splice', `-${i}`, `${h.name}, before its ${x.kind}`));
        const own = x.kind === 'fuse' && circuit !== null && s.fuseOf(circuit);
        const after = own ? `${circuit}#fused` : `${kit.id}/${h.id}.${p}-${w.id}-${i}-after`;
        b.node(
          after,
          own ? `${b.circuitName(circuit!)}, after its fuse` : `${h.name}, after its ${x.kind}`,
          'fused',
          laid.at.get(p) ?? null,
        );
        b.markReady(after);
        const e = { from: back ? after : at, to: back ? at : after, of: null, circuit };
        if (x.kind === 'fuse')
          b.add({
            ...e,
            kind: 'fuse',
            id: own ? `${circuit}#fuse` : `${kit.id}/${h.id}:fuse-${i}`,
            name: own ? `${b.circuitName(circuit!)}, fuse` : `${h.name}, fuse`,
            ratingA: x.ratingA,
            family: x.family,
            ratedV: x.ratedV,
            burstS: null,
            box: { kit: kit.id, harness: h.id },
          });
        else b.add({ ...e, kind: 'diode', id: `${kit.id}/${h.id}:diode-${i}`, name: `${h.name}, diode`, volts: x.volts });
        at = after;
        rest = none(p);
      });
      const lies = legOf.get(l.id)!;
      const places = lies.from === p ? lies.places : [...lies.places].reverse();
      const far = other(l, p);
      if (by === null && lies.shortMm > 0 && !lies.noWay && !h.ends.some((e) => e.id === far)) {
        // the end that it begins at is short: behind its fuse, if it has one there
        const joint = `${kit.id}/${h.id}.${p}-${w.id}-end`;
        b.node(
          joint,
          `end of the ${legName(h, l.id)} of the ${h.name}`,
          'splice',
          lastWithin(s.model, [...places].reverse(), lies.hasMm - EASE_MM),
        );
        b.join(back ? joint : at, [back ? at : joint], { colour: w.colour, circuit, awg: w.awg, signal: w.signal, bothWays: w.bothWays });
        at = joint;
        rest = none(p);
      }
      walk(other(l, p), l.id, at, { legs: [...rest.legs, l.id], places: [...rest.places, ...places.slice(1)], mm: rest.mm + l.lengthMm });
    }
  };
  walk(from.p, null, from.node, none(from.p));
}

/** Whether a wire of the unit gives current, and leads to nothing that takes it. */
const isSource = (t: Target, s: BoxSurroundings): boolean => t.to === 'wire' && !s.tapOf(t.function)?.takes;

/** Whether current comes out of a point: behind a contact, or what a supply makes. */
const gives = (b: Builder, node: string): boolean => b.elements.some((e) => e.kind === 'contact' && e.to === node);

/** The last place on a way that so much length reaches. */
function lastWithin(model: UnitModel, places: readonly string[], mm: number): string {
  let last = places[0]!;
  for (let i = 1; i < places.length; i++) {
    const { lengthMm, slackMm } = lengthAlong(model, places.slice(0, i + 1));
    if (lengthMm + slackMm > mm) break;
    last = places[i]!;
  }
  return last;
}

/** What an end of a box needs besides, where it does not go into what it is joined to. */
export function adapted(e: JoinedEnd, point: Parameters<typeof meets>[1]): { why: string; buy: string[] } | null {
  const m = meets(e.end.end, point, e.end.wires.length);
  return m.as === 'adapted' ? m : null;
}
