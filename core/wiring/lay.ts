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
  /** what joining it here costs beside its way, such as a ground that is far from the battery; left out, nothing */
  cost?: number;
}
/** The places at which each end of a harness may be joined; an end that goes nowhere is left out. */
export type Spots = ReadonlyMap<string, readonly Spot[]>;

/** An ohm between a ground and the battery weighs as much as so many millimetres of surplus. Common practice, no source. */
const GROUND_COST_PER_OHM = 1e4;
/** Where a ground ring may go: on any of the unit’s grounds, better near the battery. */
export const groundSpot = (g: { place: string; ohms: number }): Spot => ({
  place: g.place,
  extraMm: 0,
  cost: g.ohms * GROUND_COST_PER_OHM,
});

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

/** What the way between any two places of a unit asks, by their numbers. */
interface Ways {
  index: ReadonlyMap<string, number>;
  needMm: Float64Array;
  detour: Float64Array;
}

/** A hazard on the way weighs as much as so many millimetres of surplus. Common practice, no source. */
const HAZARD_MM = 200;
/** One millimetre short weighs more than any surplus. */
const SHORT_WEIGHT = 1000;
const SURPLUS_WEIGHT = 0.01;

/** Ways by the runs of a sheet, which no one changes; places that an order adds make their own. */
const known = new WeakMap<UnitModel['runs'], { places: UnitModel['places']; ways: Ways }>();

function waysOf(model: UnitModel): Ways {
  const kept = known.get(model.runs);
  if (kept && kept.places === model.places) return kept.ways;
  const n = model.places.length;
  const needMm = new Float64Array(n * n);
  const detour = new Float64Array(n * n);
  model.places.forEach((a, i) =>
    model.places.forEach((b, j) => {
      if (i === j) return;
      const r = route(model, a.id, b.id);
      needMm[i * n + j] = r ? r.lengthMm + r.slackMm : NO_WAY_MM;
      detour[i * n + j] = r ? r.hazards.length * HAZARD_MM : 0;
    }),
  );
  const ways = { index: new Map(model.places.map((p, i) => [p.id, i])), needMm, detour };
  known.set(model.runs, { places: model.places, ways });
  return ways;
}

/**
 * Where legs part need not be at a place of the unit: the point slides along the way of a leg that is short, as far as the others
 * have length to follow.
 */
function slide(laid: readonly LaidLeg[], points: readonly string[]): LaidLeg[] {
  const legs = laid.map((l) => ({ ...l }));
  for (const p of points) {
    const mine = legs.filter((l) => (l.from === p || l.to === p) && l.needMm > 0 && !l.noWay);
    for (const l of mine) {
      const others = mine.filter((x) => x !== l);
      const by = Math.min(l.shortMm, ...others.map((x) => x.hasMm - x.needMm));
      if (!(by > 0) || !others.length) continue;
      l.needMm -= by;
      l.shortMm -= by;
      for (const x of others) x.needMm += by;
    }
  }
  return legs;
}

/** A place for a point, by its number. */
interface Seat {
  at: number;
  extraMm: number;
  cost: number;
}

/**
 * Lays a harness along the unit’s runs: where each of its points lies, so that its legs are short of the way by as little as
 * can be, and then keep clear of hazards with the least surplus. Exact: a tree is settled from its ends inward.
 * @returns null where nothing of it is joined anywhere
 */
export function layHarness(model: UnitModel, h: Pick<BoxHarness, 'legs' | 'ends'>, spots: Spots): LaidHarness | null {
  const { index } = waysOf(model);
  const root = h.ends.find((e) => spots.get(e.id)?.some((s) => index.has(s.place)))?.id;
  if (root === undefined) return null;
  const { cost, lay } = settleTree(model, h, spots, root);
  let first = 0;
  for (let i = 1; i < cost.length; i++) if (cost[i]! < cost[first]!) first = i;
  return lay(first);
}

/**
 * By how much a harness is short with one of its ends at each of several places, and its others where they may be, millimetres:
 * what hangs on that end is settled once for all of them.
 */
export function shortsAt(
  model: UnitModel,
  h: Pick<BoxHarness, 'legs' | 'ends'>,
  spots: Spots,
  end: string,
  places: readonly string[],
): Map<string, number> {
  const here = places.filter((p) => model.places.some((x) => x.id === p));
  if (!here.length) return new Map();
  const { lay } = settleTree(model, h, new Map([...spots, [end, here.map((place) => ({ place, extraMm: 0 }))]]), end);
  return new Map(here.map((p, i) => [p, lay(i).shortMm]));
}

/** The best of all that hangs on an end, by where that end is; and the harness as it lies then. */
function settleTree(
  model: UnitModel,
  h: Pick<BoxHarness, 'legs' | 'ends'>,
  spots: Spots,
  root: string,
): { cost: Float64Array; lay: (seat: number) => LaidHarness } {
  const { index, needMm, detour } = waysOf(model);
  const n = model.places.length;
  const seats = (list: readonly Spot[]): Seat[] =>
    list.map((s) => ({ at: index.get(s.place) ?? -1, extraMm: s.extraMm, cost: s.cost ?? 0 })).filter((s) => s.at >= 0);
  const joined = new Map([...spots].map(([p, list]) => [p, seats(list)] as const).filter(([, list]) => list.length));
  const anywhere: Seat[] = model.places.map((_, at) => ({ at, extraMm: 0, cost: 0 }));
  const seatsOf = (p: string) => joined.get(p) ?? anywhere;
  const ends = new Set(h.ends.map((e) => e.id));
  const touch = new Map<string, BoxHarness['legs']>();
  for (const l of h.legs) for (const p of [l.from, l.to]) touch.set(p, [...(touch.get(p) ?? []), l]);
  const other = (l: BoxHarness['legs'][number], p: string) => (l.from === p ? l.to : l.from);
  const ease = (p: string) => (ends.has(p) ? EASE_MM : 0);
  const isLeaf = (p: string) => touch.get(p)!.length === 1;
  /** whether anything beyond a point, seen from its leg, is joined */
  const beyond = (p: string, by: string): boolean => joined.has(p) || touch.get(p)!.some((l) => l.id !== by && beyond(other(l, p), l.id));

  /** the best of all that hangs on a point, by its seat; and for each leg the seat at its far end */
  type Best = { cost: Float64Array; picks: { leg: BoxHarness['legs'][number]; to: string; seat: Int32Array }[] };
  const settled = new Map<string, Best>();
  const hang = (p: string, by: string | null): Best => {
    const mine = seatsOf(p);
    const cost = Float64Array.from(mine, (s) => s.cost);
    const picks: Best['picks'] = [];
    for (const leg of touch.get(p)!) {
      if (leg.id === by) continue;
      const q = other(leg, p);
      if (!beyond(q, leg.id)) continue;
      const next = hang(q, leg.id);
      const options = seatsOf(q);
      const add = ease(p) + ease(q);
      const [leafP, leafQ] = [isLeaf(p), isLeaf(q)];
      const seat = new Int32Array(mine.length);
      for (let i = 0; i < mine.length; i++) {
        const a = mine[i]!;
        const from = leg.lengthMm + (leafP ? a.extraMm : 0);
        let least = Infinity;
        for (let j = 0; j < options.length; j++) {
          const b = options[j]!;
          const k = a.at * n + b.at;
          const over = from + (leafQ ? b.extraMm : 0) - needMm[k]! - add;
          const c = (over < 0 ? -over * SHORT_WEIGHT : over * SURPLUS_WEIGHT) + detour[k]! + next.cost[j]!;
          if (c < least) {
            least = c;
            seat[i] = j;
          }
        }
        cost[i]! += least;
      }
      picks.push({ leg, to: q, seat });
    }
    const best = { cost, picks };
    settled.set(`${p} ${by}`, best);
    return best;
  };
  const { cost } = hang(root, null);
  return { cost, lay };

  function lay(first: number): LaidHarness {
    const at = new Map<string, string>();
    const legs: LaidLeg[] = [];
    const walk = (p: string, by: string | null, i: number) => {
      const here = seatsOf(p)[i]!;
      at.set(p, model.places[here.at]!.id);
      const { picks } = settled.get(`${p} ${by}`)!;
      for (const leg of touch.get(p)!) {
        if (leg.id === by) continue;
        const pick = picks.find((x) => x.leg === leg);
        const q = other(leg, p);
        if (!pick) {
          loose(q, leg.id, at.get(p)!);
          legs.push({
            id: leg.id,
            from: p,
            to: q,
            places: [at.get(p)!],
            hazards: [],
            hasMm: leg.lengthMm,
            needMm: 0,
            shortMm: 0,
            noWay: false,
          });
          continue;
        }
        const there = seatsOf(q)[pick.seat[i]!]!;
        const far = model.places[there.at]!.id;
        const way = here.at === there.at ? { places: [far], hazards: [] as Hazard[] } : route(model, at.get(p)!, far);
        const needs = needMm[here.at * n + there.at]! + ease(p) + ease(q);
        const hasMm = leg.lengthMm + (isLeaf(p) ? here.extraMm : 0) + (isLeaf(q) ? there.extraMm : 0);
        legs.push({
          id: leg.id,
          from: p,
          to: q,
          places: way?.places ?? [at.get(p)!, far],
          hazards: way?.hazards ?? [],
          hasMm,
          needMm: Math.round(needs),
          shortMm: Math.max(0, Math.round(needs - hasMm)),
          noWay: way === null,
        });
        walk(q, leg.id, pick.seat[i]!);
      }
    };
    /** what is joined nowhere is tied back where it parts from the rest */
    const loose = (p: string, by: string, place: string) => {
      at.set(p, place);
      for (const leg of touch.get(p)!) {
        if (leg.id === by) continue;
        const q = other(leg, p);
        legs.push({ id: leg.id, from: p, to: q, places: [place], hazards: [], hasMm: leg.lengthMm, needMm: 0, shortMm: 0, noWay: false });
        loose(q, leg.id, place);
      }
    };
    walk(root, null, first);
    const slid = slide(
      legs,
      [...touch.keys()].filter((p) => !joined.has(p)),
    );
    return { at, legs: slid, shortMm: slid.reduce((s, l) => s + l.shortMm, 0) };
  }
}
