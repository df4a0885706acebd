import type { HarnessNode } from '#model/harness';
import type { Kit } from '#model/kit';
import { route } from '../circuit/route';
import { ImpossibleInput } from '../errors';
import { leastGauge } from '../wire-rules/least-gauge';
import { allowable } from '../wire-rules/allowable';
import { chooseWire } from '../wire/choose';
import { GAUGES } from '../wire/tables';
import { wireResistance } from '../wire/resistance';
import { JOINT_WORTH, MOST_ENDS, planReturns, type ReturnJoint } from '../wiring/returns';
import type { CircuitChoice } from './build';
import { SLACK, type Builder } from './builder';

/** Shelf wire that must come home to a ground. */
export interface GroundLead {
  node: string;
  colour: string;
  circuit: string | null;
  awg?: number | undefined;
  signal?: boolean | undefined;
}

/** More than this goes home on a wire of its own, amperes. Common practice, no source. */
const SHARES_UP_TO_A = 15;

/**
 * Leads every return off the shelf to ground: neighbours on one wire, sized for all of them, where that takes less copper; the
 * rest each to its nearest ground.
 */
export function joinGrounds(b: Builder, leads: readonly GroundLead[], choices: readonly CircuitChoice[]): void {
  const alone: GroundLead[] = [];
  const groups = new Map<string, Sharing[]>();
  for (const lead of leads) {
    const s = sharing(b, lead, choices);
    if (!s) {
      alone.push(lead);
      continue;
    }
    const key = `${lead.colour} ${s.spots.map((n) => n.id).join()}`;
    groups.set(key, [...(groups.get(key) ?? []), s]);
  }
  for (const group of groups.values()) {
    const near = group.toSorted((x, y) => (x.ground.id + x.lead.node < y.ground.id + y.lead.node ? -1 : 1));
    for (let i = 0; i < near.length; i += MOST_ENDS) alone.push(...joinShared(b, near.slice(i, i + MOST_ENDS)));
  }
  for (const lead of leads) if (alone.includes(lead)) joinAlone(b, lead, choices);
}

/** Where a return may go: any plain ground, and the negative of the supply that feeds its circuit. */
function spotsFor(b: Builder, lead: GroundLead, choices: readonly CircuitChoice[]): HarnessNode[] {
  const made = choices.find((c) => c.id === lead.circuit)?.feed;
  const supply = made && choices.find((c) => c.circuit.makes?.id === made.id);
  return [...b.nodes.values()].filter(
    (n) => (n.kind === 'ground' && !n.ready) || (supply && n.id === `${supply.kit.id}/${supply.circuit.devices[0]}.minus`),
  );
}

const nearest = (b: Builder, place: string | null, spots: readonly HarnessNode[]): HarnessNode | undefined => {
  const far = (n: HarnessNode) => (place && n.place ? (route(b.model, n.place, place)?.lengthMm ?? Infinity) : Infinity);
  return spots.map((n) => ({ n, far: far(n) })).sort((a, c) => a.far - c.far)[0]?.n;
};

function joinAlone(b: Builder, lead: GroundLead, choices: readonly CircuitChoice[]): void {
  // what a supply gives comes back to its negative
  const bothWays = choices.some((c) => c.circuit.makes && lead.node === `${c.kit.id}/${c.circuit.devices[0]}.minus`);
  const best = nearest(b, b.nodes.get(lead.node)!.place, spotsFor(b, lead, choices));
  if (best) b.join(lead.node, [best.id], { colour: lead.colour, circuit: lead.circuit, awg: lead.awg, signal: lead.signal, bothWays });
}

/** A return that may share its wire, with what that wire must do for it. */
interface Sharing {
  lead: GroundLead;
  circuit: string;
  place: string;
  amps: number;
  /** the gauge that it would need by itself */
  awg: number;
  /** what may be lost on its way home, volts, over so many metres */
  lostV: number;
  wayM: number;
  spots: HarnessNode[];
  ground: HarnessNode;
}

/** What is asked of a return's wire; null where it goes home by itself: a given gauge, a burst, much current, or nobody knows how much. */
function sharing(b: Builder, lead: GroundLead, choices: readonly CircuitChoice[]): Sharing | null {
  const c = choices.find((x) => x.id === lead.circuit);
  const node = b.nodes.get(lead.node)!;
  if (!c?.feed || c.circuit.makes || lead.awg !== undefined || lead.signal || !node.place) return null;
  if (c.circuit.devices.some((id) => c.kit.devices.some((d) => d.id === id && (d.winch || d.load?.kind === 'burst')))) return null;
  const inside = b.elements.filter((e) => e.from === node.id || e.to === node.id);
  // what comes out of it is what its own loads draw, and nothing that others hand on
  let amps = 0;
  for (const e of inside) {
    if (e.kind === 'resistor') continue;
    if (e.kind !== 'load' || e.to !== node.id || e.watts === null) return null;
    amps += e.watts / e.volts;
  }
  if (!(amps > 0) || amps > SHARES_UP_TO_A) return null;
  const spots = spotsFor(b, lead, choices);
  const ground = nearest(b, node.place, spots);
  const [there, home] = [c.feed.place, ground?.place].map((p) => (p ? route(b.model, p, node.place!) : null));
  if (!ground || !there || !home) return null;
  const [thereM, homeM] = [there, home].map((r) => (r.lengthMm * SLACK + r.slackMm) / 1000) as [number, number];
  const least = Math.min(c.circuit.awgMin, leastGauge(b.model.kind, homeM) ?? Infinity);
  try {
    const own = chooseWire({
      amps,
      oneWayM: (thereM + homeM) / 2,
      systemV: c.circuit.volts,
      maxDropPct: c.circuit.dropPct,
      awgMin: least,
    });
    const lostV = ((c.circuit.dropPct / 100) * c.circuit.volts * homeM) / Math.max(1e-6, thereM + homeM);
    return { lead, circuit: c.id, place: node.place, amps, awg: own.awg, lostV, wayM: homeM, spots, ground };
  } catch (e) {
    // no stocked wire brings it home, or its volts are not for the table
    if (e instanceof ImpossibleInput) return null;
    throw e;
  }
}

/** mm² of the thinnest stocked wire that brings these home together; Infinity where none does. */
function areaFor(list: readonly Sharing[]): number {
  const amps = list.reduce((s, x) => s + x.amps, 0);
  if (list.length > 1 && amps > SHARES_UP_TO_A) return Infinity;
  const least = Math.min(...list.map((x) => x.awg));
  const [wayM, lostV] = [Math.max(...list.map((x) => x.wayM)), Math.min(...list.map((x) => x.lostV))];
  for (const awg of GAUGES) {
    if (awg > least) continue;
    const { areaMm2, ohms } = wireResistance(awg, wayM);
    if (list.length === 1 || (allowable({ awg }) >= amps && amps * ohms <= lostV)) return areaMm2;
  }
  return Infinity;
}

/** Joins what is better joined; gives back what goes home by itself. */
function joinShared(b: Builder, group: readonly Sharing[]): GroundLead[] {
  const { spots } = group[0]!;
  const { trees } = planReturns(
    group.map((s) => ({ id: s.lead.node, place: s.place })),
    {
      places: b.model.places.map((p) => p.id),
      wayM: (from, to) => {
        const r = route(b.model, from, to);
        return r ? (r.lengthMm * SLACK + r.slackMm) / 1000 : Infinity;
      },
      grounds: spots.flatMap((n) => n.place ?? []),
      areaMm2: (ends) => areaFor(ends.map((i) => group[i]!)),
      jointWorth: JOINT_WORTH,
    },
  );
  const alone: GroundLead[] = [];
  for (const t of trees) {
    if (typeof t.root === 'number') {
      alone.push(group[t.root]!.lead);
      continue;
    }
    const ground = spots.find((n) => n.place === t.ground)!;
    const lay = (x: ReturnJoint | number, to: string, toPlace: string): void => {
      const members = typeof x === 'number' ? [group[x]!] : x.ends.map((i) => group[i]!);
      // the wire is of the circuit that sends the most through it
      const amps = new Map<string, number>();
      for (const m of members) amps.set(m.circuit, (amps.get(m.circuit) ?? 0) + m.amps);
      const [circuit, ...others] = [...amps].sort((p, q) => q[1] - p[1]).map(([id]) => id) as [string, ...string[]];
      const place = typeof x === 'number' ? group[x]!.place : x.place;
      const from = typeof x === 'number' ? group[x]!.lead.node : b.splice(circuit, place);
      const places = place === toPlace ? [place] : route(b.model, place, toPlace)!.places;
      b.piece(from, to, places, { colour: group[0]!.lead.colour, circuit, ...(others.length && { shared: others }) });
      if (typeof x !== 'number') for (const y of x.from) lay(y, from, place);
    };
    lay(t.root, ground.id, t.ground);
  }
  const home = new Set(trees.flatMap((t) => (typeof t.root === 'number' ? [t.root] : t.root.ends)));
  return [...alone, ...group.filter((_, i) => !home.has(i)).map((s) => s.lead)];
}

/** Returns of terminals that no sheet leads anywhere: every negative of what is fed, and the coil of each relay off the shelf. */
export function looseGrounds(
  b: Builder,
  kits: readonly Kit[],
  choices: readonly CircuitChoice[],
  led: readonly GroundLead[],
  coils: readonly { node: string; circuit: string }[],
): GroundLead[] {
  const joined = new Set([...b.wires().flatMap((w) => [w.from, w.to]), ...led.map((g) => g.node)]);
  const out: GroundLead[] = [];
  for (const kit of kits)
    for (const d of kit.devices) {
      const of = `${kit.id}/${d.id}`;
      const own = [...b.nodes.values()].filter((n) => n.of === of);
      const minus = own.find((n) => n.id === `${of}.minus` && n.kind === 'terminal');
      if (!minus || joined.has(minus.id) || !own.some((n) => joined.has(n.id))) continue;
      const c =
        choices.find((x) => x.kit.id === kit.id && x.circuit.devices.includes(d.id)) ?? choices.find((x) => x.kit.id === kit.id) ?? null;
      out.push({ node: minus.id, colour: 'BK', circuit: c?.id ?? null });
    }
  for (const c of coils) if (!joined.has(c.node)) out.push({ node: c.node, colour: 'BK', circuit: c.circuit, signal: true });
  return out;
}
