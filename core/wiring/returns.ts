/** A negative end that must come home to a ground. */
export interface ReturnEnd {
  id: string;
  place: string;
}
/** What returns are planned over. */
export interface ReturnPlan {
  places: readonly string[];
  /** metres of wire from one place to another; Infinity where no way leads */
  wayM: (from: string, to: string) => number;
  /** places where a ring goes to ground */
  grounds: readonly string[];
  /** mm² of the one wire that brings several ends home together; Infinity where they may not share */
  areaMm2: (ends: readonly number[]) => number;
  /** what a joint must save to be worth making, mm² · m of copper */
  jointWorth: number;
}
/** Where ends are joined to go on as one: `ends` by their numbers. */
export interface ReturnJoint {
  place: string;
  from: (ReturnJoint | number)[];
  ends: number[];
}
/** One wire to ground, with all that it gathers on its way. */
export interface ReturnTree {
  ground: string;
  root: ReturnJoint | number;
}

/** More ends than this are not planned together: three times the work for each. */
export const MOST_ENDS = 8;
/** What a joint must save: half a metre of 18 AWG. Common practice, no source. */
export const JOINT_WORTH = 0.5 * 0.823;

/**
 * Which returns share a wire, where they are joined and which ground each takes, so that copper and joints together are
 * least. Exact: what is gathered at a place is settled for every set of ends, smaller sets first (Dreyfus and Wagner’s
 * method for trees in networks, with a wire’s cost by what it carries).
 * @throws RangeError for more than `MOST_ENDS` ends
 * @returns one tree for each wire that reaches a ground; ends that no way leads home for are left out
 */
export function planReturns(ends: readonly ReturnEnd[], q: ReturnPlan): { trees: ReturnTree[]; cost: number } {
  const k = ends.length;
  if (k > MOST_ENDS) throw new RangeError(`returns of at most ${MOST_ENDS} ends are planned together`);
  const n = q.places.length;
  const at = new Map(q.places.map((p, i) => [p, i]));
  const way = q.places.map((a) => Float64Array.from(q.places, (b) => (a === b ? 0 : q.wayM(a, b))));
  const all = (1 << k) - 1;
  const membersOf = (set: number) => ends.flatMap((_, i) => (set & (1 << i) ? [i] : []));
  const area = Float64Array.from({ length: all + 1 }, (_, set) => (set ? q.areaMm2(membersOf(set)) : 0));
  /** cost of a set gathered at a place and gone on to another, and how */
  const reach: Float64Array[] = [];
  const cameFrom: Int32Array[] = [];
  const split: Int32Array[] = [];
  for (let set = 0; set <= all; set++) {
    const gathered = new Float64Array(n).fill(Infinity);
    const parts = new Int32Array(n);
    if (set && (set & (set - 1)) === 0) {
      const i = at.get(ends[31 - Math.clz32(set)]!.place);
      if (i !== undefined) gathered[i] = 0;
    } else if (set && Number.isFinite(area[set]))
      // each split once: the lowest end stays with the first part
      for (let a = (set - 1) & set; a; a = (a - 1) & set) {
        if (!(a & set & -set)) continue;
        const [one, two] = [reach[a]!, reach[set ^ a]!];
        for (let v = 0; v < n; v++) {
          const c = one[v]! + two[v]! + q.jointWorth;
          if (c < gathered[v]!) {
            gathered[v] = c;
            parts[v] = a;
          }
        }
      }
    const gone = new Float64Array(n).fill(Infinity);
    const from = new Int32Array(n);
    for (let u = 0; u < n; u++) {
      if (!Number.isFinite(gathered[u])) continue;
      for (let v = 0; v < n; v++) {
        const c = gathered[u]! + (u === v ? 0 : way[u]![v]! * area[set]!);
        if (c < gone[v]!) {
          gone[v] = c;
          from[v] = u;
        }
      }
    }
    reach.push(gone);
    cameFrom.push(from);
    split.push(parts);
  }
  const grounds = q.grounds.flatMap((g) => at.get(g) ?? []);
  const home = reach.map((c) => grounds.reduce((best, g) => (c[g]! < (best === -1 ? Infinity : c[best]!) ? g : best), -1));
  // which sets reach a ground each on a wire of its own
  const cost = new Float64Array(all + 1).fill(Infinity);
  const last = new Int32Array(all + 1);
  cost[0] = 0;
  for (let set = 1; set <= all; set++)
    for (let a = set; a; a = (a - 1) & set) {
      if (!(a & set & -set)) continue;
      const g = home[a]!;
      // one that no way leads home for is left out, rather than all with it
      const c = (g === -1 ? LOST : reach[a]![g]!) + cost[set ^ a]!;
      if ((g !== -1 || (a & (a - 1)) === 0) && c < cost[set]!) {
        cost[set] = c;
        last[set] = a;
      }
    }
  const gather = (set: number, v: number): ReturnJoint | number => {
    if ((set & (set - 1)) === 0) return 31 - Math.clz32(set);
    const u = cameFrom[set]![v]!;
    const a = split[set]![u]!;
    // what is joined at one place is one joint
    const from = [a, set ^ a].flatMap((part) => {
      const x = gather(part, u);
      return typeof x !== 'number' && x.place === q.places[u] ? x.from : [x];
    });
    return { place: q.places[u]!, from, ends: membersOf(set) };
  };
  const trees: ReturnTree[] = [];
  for (let set = all; set; set ^= last[set]!) {
    const a = last[set]!;
    if (home[a] !== -1) trees.push({ ground: q.places[home[a]!]!, root: gather(a, home[a]!) });
  }
  return { trees, cost: trees.length ? cost[all]! % LOST : 0 };
}
/** far above what any wire costs */
const LOST = 1e9;
