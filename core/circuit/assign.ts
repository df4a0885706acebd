/** One way to feed a circuit: at a point, somehow, at a cost. */
export interface FeedOption {
  point: string;
  mode: string;
  cost: number;
}
/** A circuit that wants a feed: the amperes it takes there, and the ways that would do if it were alone. */
export interface Wanting {
  id: string;
  amps: number;
  options: readonly FeedOption[];
}
export interface Assignment {
  chosen: Map<string, FeedOption | null>;
  cost: number;
  /** proved best for the whole */
  optimal: boolean;
  /** no assignment costs less than this */
  bound: number;
}

/** What leaving a circuit without a feed costs: more than any feed. */
export const UNFED = 1000;
const MOST_STEPS = 100_000;

/**
 * Feeds for all circuits together at the least cost for the whole, within the amperes free at each point: generalised
 * assignment, by branch and bound. The bound drops the shared room: every circuit on its own best.
 * @param room amperes free at each point; left out, a point has no limit of its own
 * @param seats how many circuits each point takes, such as one for a plug; left out, as many as its amperes allow
 */
export function assignFeeds(
  circuits: readonly Wanting[],
  room: ReadonlyMap<string, number>,
  seats: ReadonlyMap<string, number> = new Map(),
): Assignment {
  // what has least choice and most amperes first
  const order = [...circuits].sort((a, b) => b.amps - a.amps || a.id.localeCompare(b.id));
  const options = order.map((c) => [...c.options].sort((a, b) => a.cost - b.cost));
  const least = new Float64Array(order.length + 1);
  for (let i = order.length - 1; i >= 0; i--) least[i] = least[i + 1]! + Math.min(UNFED, options[i]![0]?.cost ?? UNFED);
  const left = new Map(room);
  const places = new Map(seats);
  const at: (FeedOption | null)[] = order.map(() => null);
  let best: (FeedOption | null)[] | null = null;
  let bestCost = Infinity;
  let steps = 0;
  let stopped = false;
  const go = (i: number, cost: number): void => {
    if (stopped || cost + least[i]! >= bestCost - 1e-9) return;
    if (i === order.length) {
      best = [...at];
      bestCost = cost;
      return;
    }
    if (++steps > MOST_STEPS) {
      stopped = true;
      return;
    }
    const { amps } = order[i]!;
    for (const o of options[i]!) {
      const free = left.get(o.point);
      const seat = places.get(o.point);
      if ((free !== undefined && amps > free + 1e-9) || (seat !== undefined && seat < 1)) continue;
      if (free !== undefined) left.set(o.point, free - amps);
      if (seat !== undefined) places.set(o.point, seat - 1);
      at[i] = o;
      go(i + 1, cost + o.cost);
      if (free !== undefined) left.set(o.point, free);
      if (seat !== undefined) places.set(o.point, seat);
    }
    at[i] = null;
    go(i + 1, cost + UNFED);
  };
  go(0, 0);
  const found = best as (FeedOption | null)[] | null;
  return {
    chosen: new Map(order.map((c, i) => [c.id, found?.[i] ?? null])),
    cost: found ? bestCost : order.length * UNFED,
    optimal: !stopped,
    bound: stopped ? least[0]! : bestCost,
  };
}
