import type { BoxHarness } from '#model/box';
import type { Hazard, UnitModel } from '#model/unit-model';
import { route } from '../circuit/route';

/** Left at each end of a ready lead so that it is not drawn tight, millimetres. Common practice, no source. */
export const EASE_MM = 40;
/** A place that no run leads to is as far as this. */
const NO_WAY_MM = 1e6;

/** Where an end may be joined: a place, and the lead that waits for it there, such as a device’s own. */
export interface Spot {
  place: string;
  extraMm: number;
}
/** The places at which each end of a harness may be joined; an end that goes nowhere is left out. */
export type Spots = ReadonlyMap<string, readonly Spot[]>;

/** A leg as it lies on the unit. */
export interface LaidLeg {
  id: string;
  from: string;
  to: string;
  /** along the unit’s runs */
  places: string[];
  hazards: Hazard[];
  /** what it has: its own length, and the leads that meet it */
  hasMm: number;
  /** what the way asks, with what turns and opens, and ease at its ends */
  needMm: number;
  /** by how much it is short; 0 where it reaches */
  shortMm: number;
  /** no run leads there */
  noWay: boolean;
}
/** A harness as it lies: the place of each point, and its legs. */
export interface LaidHarness {
  at: ReadonlyMap<string, string>;
  legs: readonly LaidLeg[];
  shortMm: number;
}

interface Way {
  needMm: number;
  detour: number;
  places: string[];
  hazards: Hazard[];
}

/** A hazard on the way weighs as much as so many millimetres of surplus. Common practice, no source. */
const HAZARD_MM = 200;
/** One millimetre short weighs more than any surplus. */
const SHORT_WEIGHT = 1000;

/**
 * Lays a harness along the unit’s runs: where each of its points lies, so that its legs are short of the way by as little as
 * can be, and then keep clear of hazards with the least surplus. Exact: a tree is settled from its ends inward.
 * @returns null where nothing of it is joined anywhere
 */
export function layHarness(model: UnitModel, h: Pick<BoxHarness, 'legs' | 'ends'>, spots: Spots): LaidHarness | null {
  if (![...spots.values()].some((s) => s.length)) return null;
  const all = model.places.map((p) => p.id);
  const ways = new Map<string, Way>();
  const way = (a: string, b: string): Way => {
    const key = `${a} ${b}`;
    let w = ways.get(key);
    if (!w) {
      const r = a === b ? { lengthMm: 0, slackMm: 0, places: [a], hazards: [] as Hazard[] } : route(model, a, b);
      w = r
        ? { needMm: r.lengthMm + r.slackMm, detour: r.hazards.length * HAZARD_MM, places: r.places, hazards: r.hazards }
        : { needMm: NO_WAY_MM, detour: 0, places: [a, b], hazards: [] };
      ways.set(key, w);
    }
    return w;
  };
  const isEnd = (p: string) => h.ends.some((e) => e.id === p);
  const ease = (p: string) => (isEnd(p) ? EASE_MM : 0);
  const joinedAt = (p: string): readonly Spot[] | null => (spots.get(p)?.length ? spots.get(p)! : null);
  const touch = (p: string) => h.legs.filter((l) => l.from === p || l.to === p);
  const isLeaf = (p: string) => touch(p).length === 1;
  const hasOf = (leg: BoxHarness['legs'][number], p: string, a: Spot, q: string, b: Spot) =>
    leg.lengthMm + (isLeaf(p) ? a.extraMm : 0) + (isLeaf(q) ? b.extraMm : 0);
  const costOf = (leg: BoxHarness['legs'][number], p: string, a: Spot, q: string, b: Spot) => {
    const w = way(a.place, b.place);
    const need = w.needMm + ease(p) + ease(q);
    const has = hasOf(leg, p, a, q, b);
    return Math.max(0, need - has) * SHORT_WEIGHT + w.detour + Math.max(0, has - need) * 0.01;
  };
  /** whether anything beyond a point, seen from its leg, is joined */
  const beyond = (p: string, by: string): boolean =>
    joinedAt(p) !== null || touch(p).some((l) => l.id !== by && beyond(l.from === p ? l.to : l.from, l.id));
  type Best = { cost: number; picks: Map<string, Spot> };
  const settled = new Map<string, Map<string, Best>>();
  /** the best of all that hangs on a point, by the place where it lies */
  const hang = (p: string, by: string | null): Map<string, Best> => {
    const key = `${p} ${by}`;
    const known = settled.get(key);
    if (known) return known;
    const mine = joinedAt(p) ?? all.map((place) => ({ place, extraMm: 0 }));
    const out = new Map<string, Best>();
    for (const spot of mine) out.set(spot.place, { cost: 0, picks: new Map() });
    for (const leg of touch(p)) {
      if (leg.id === by) continue;
      const q = leg.from === p ? leg.to : leg.from;
      if (!beyond(q, leg.id)) continue;
      const next = hang(q, leg.id);
      const options = joinedAt(q) ?? all.map((place) => ({ place, extraMm: 0 }));
      for (const spot of mine) {
        const here = out.get(spot.place)!;
        let best: { cost: number; b: Spot } | null = null;
        for (const b of options) {
          const cost = costOf(leg, p, spot, q, b) + next.get(b.place)!.cost;
          if (!best || cost < best.cost) best = { cost, b };
        }
        here.cost += best!.cost;
        here.picks.set(leg.id, best!.b);
      }
    }
    settled.set(key, out);
    return out;
  };
  // from an end that is joined, so that nothing hangs on what goes nowhere
  const root = h.ends.find((e) => joinedAt(e.id))!.id;
  const from = hang(root, null);
  const first = joinedAt(root)!
    .map((s) => ({ s, best: from.get(s.place)! }))
    .reduce((a, b) => (b.best.cost < a.best.cost ? b : a));
  const at = new Map<string, string>([[root, first.s.place]]);
  const spotOf = new Map<string, Spot>([[root, first.s]]);
  const legs: LaidLeg[] = [];
  const walk = (p: string, by: string | null) => {
    const here = hang(p, by).get(at.get(p)!)!;
    for (const leg of touch(p)) {
      if (leg.id === by) continue;
      const q = leg.from === p ? leg.to : leg.from;
      const pick = here.picks.get(leg.id);
      const far = pick?.place ?? at.get(p)!;
      at.set(q, far);
      spotOf.set(q, pick ?? { place: far, extraMm: 0 });
      if (pick) {
        const w = way(at.get(p)!, far);
        const needMm = w.needMm + ease(p) + ease(q);
        const hasMm = hasOf(leg, p, spotOf.get(p)!, q, pick);
        legs.push({
          id: leg.id,
          from: p,
          to: q,
          places: w.places,
          hazards: w.hazards,
          hasMm,
          needMm: Math.round(needMm),
          shortMm: Math.max(0, Math.round(needMm - hasMm)),
          noWay: w.needMm >= NO_WAY_MM,
        });
      } else
        legs.push({ id: leg.id, from: p, to: q, places: [far], hazards: [], hasMm: leg.lengthMm, needMm: 0, shortMm: 0, noWay: false });
      walk(q, leg.id);
    }
  };
  walk(root, null);
  return { at, legs, shortMm: legs.reduce((s, l) => s + l.shortMm, 0) };
}
