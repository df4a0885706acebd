import type { Harness, HarnessElement } from '#model/harness';
import { fuseOhms } from '../wire/fuse-time';
import { wireOhms } from '../wire/wire-ohms';

/** One thing that draws, with the way of its current from a source and back, everything on at once. */
export interface Flow {
  /** the element that draws */
  id: string;
  of: string | null;
  circuit: string | null;
  amps: number;
  out: HarnessElement[];
  back: HarnessElement[];
}

export interface SupplyInput {
  id: string;
  of: string;
  circuit: string;
  from: string;
  to: string;
  amps: number;
}

/** Resistances above this are loads in disguise (a standing draw), not ways for current. */
const WAY_OHMS = 1;
const conducts = (e: HarnessElement): boolean =>
  e.kind === 'wire' || e.kind === 'fuse' || e.kind === 'contact' || e.kind === 'diode' || (e.kind === 'resistor' && e.ohms < WAY_OHMS);

/**
 * Ways of every load's current with all switches taken as closed: what the wires must carry at the worst.
 * @param inputs what supplies take at their full rating, from one point to another
 * @param made points that supplies make: as good as a source
 */
export function flowsOf(h: Harness, inputs: readonly SupplyInput[], made: readonly string[]): Flow[] {
  const touch = new Map<string, HarnessElement[]>();
  for (const e of h.elements)
    if (conducts(e))
      for (const n of [e.from, e.to]) {
        const list = touch.get(n);
        if (list) list.push(e);
        else touch.set(n, [e]);
      }
  const plus = new Set(['bat+', ...made]);
  const minus = new Set(['bat-', ...h.elements.flatMap((e) => (e.kind === 'supply' ? [e.to] : []))]);
  const way = (from: string, goal: ReadonlySet<string>): HarnessElement[] | null => {
    if (goal.has(from)) return [];
    const back = new Map<string, { e: HarnessElement; n: string } | null>([[from, null]]);
    const queue = [from];
    for (let i = 0; i < queue.length; i++) {
      const here = queue[i]!;
      for (const e of touch.get(here) ?? []) {
        const next = e.from === here ? e.to : e.from;
        if (back.has(next)) continue;
        back.set(next, { e, n: here });
        if (goal.has(next)) {
          const out: HarnessElement[] = [];
          for (let at = next; at !== from;) {
            const s = back.get(at)!;
            out.push(s.e);
            at = s.n;
          }
          return out;
        }
        queue.push(next);
      }
    }
    return null;
  };
  const out: Flow[] = [];
  for (const e of h.elements) {
    let amps = 0;
    if (e.kind === 'load') amps = e.watts === null ? 0 : e.watts / e.volts;
    else if (e.kind === 'coil') amps = e.pullInV / 0.65 / e.ohms;
    else continue;
    const there = way(e.from, plus);
    const home = way(e.to, minus);
    if (there && home) out.push({ id: e.id, of: e.of, circuit: e.circuit, amps, out: there, back: home });
  }
  for (const e of inputs) {
    const there = way(e.from, new Set(['bat+']));
    const home = way(e.to, new Set(['bat-']));
    if (there && home) out.push({ id: e.id, of: e.of, circuit: e.circuit, amps: e.amps, out: there, back: home });
  }
  return out;
}

/** Amperes in every element when all flow at once. */
export function totalAmps(flows: readonly Flow[]): Map<string, number> {
  const out = new Map<string, number>();
  for (const f of flows) for (const e of [...f.out, ...f.back]) out.set(e.id, (out.get(e.id) ?? 0) + f.amps);
  return out;
}

export interface FlowDrop {
  flow: Flow;
  /** volts lost in the circuit's own wires, there and back */
  ownV: number;
  /** volts lost in its own fuse, contacts and plugs */
  partsV: number;
  /** volts lost where others' current flows too: the unit's wire to the feed, its grounds, another circuit's wires */
  sharedV: number;
  outM: number | null;
  backM: number | null;
}

/** The fuse that a circuit brings with it. */
export const ownFuse = (circuit: string): string => `${circuit}#fuse`;
/** All that a flow loses on its way. */
export const lostV = (d: FlowDrop): number => d.ownV + d.partsV + d.sharedV;

/** What was settled for other circuits: gauges by wire, ratings by fuse. */
export interface Settled {
  gauges: ReadonlyMap<string, number>;
  ratings: ReadonlyMap<string, number>;
}
const NOTHING: Settled = { gauges: new Map(), ratings: new Map() };

/** Volts lost on the way of one flow, with `awg` for the circuit's wires that have no gauge yet and `fuseA` for its own fuse. */
export function dropOf(
  flow: Flow,
  total: ReadonlyMap<string, number>,
  circuit: string,
  awg: number,
  fuseA: number | null,
  settled: Settled = NOTHING,
): FlowDrop {
  let ownV = 0;
  let partsV = 0;
  let sharedV = 0;
  let outM: number | null = 0;
  let backM: number | null = 0;
  for (const [list, back] of [
    [flow.out, false],
    [flow.back, true],
  ] as const)
    for (const e of list) {
      const amps = total.get(e.id) ?? 0;
      if (e.kind === 'wire') {
        const own = e.circuit === circuit || !!e.shared?.includes(circuit);
        const v = e.lengthM === null ? 0 : amps * wireOhms(e, settled.gauges.get(e.id) ?? awg);
        if (own) ownV += v;
        else sharedV += v;
        if (own && back) backM = backM === null || e.lengthM === null ? null : backM + e.lengthM;
        if (own && !back) outM = outM === null || e.lengthM === null ? null : outM + e.lengthM;
      } else if (e.kind === 'resistor') sharedV += amps * e.ohms;
      else if (e.kind === 'contact' || e.kind === 'fuse') {
        const own = e.circuit === circuit;
        const rating = e.kind !== 'fuse' ? null : e.id === ownFuse(circuit) && !e.box ? fuseA : (settled.ratings.get(e.id) ?? e.ratingA);
        const v = e.kind === 'contact' ? amps * e.ohms : rating === null ? 0 : amps * fuseOhms(rating);
        if (own) partsV += v;
        else sharedV += v;
      }
    }
  return { flow, ownV, partsV, sharedV, outM, backM };
}
