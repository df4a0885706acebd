import type { BoxHarness } from '#model/box';

type At = readonly [number, number];
/** A point where a harness parts, or where a relay sits in it, on the drawing of a box. */
export interface Branch {
  id: string;
  /** the middle of it */
  x: number;
  y: number;
}
/** A leg on the drawing, from what is left of it. */
export interface DrawnLeg {
  id: string;
  lengthMm: number;
  from: At;
  to: At;
  /** where its length stands, and to which side of that it is written */
  label: { x: number; y: number; anchor: 'start' | 'middle' | 'end' };
}

/** What a written length takes of room. */
const WORDS = { wide: 48, tall: 13 };
/** Lengths that would lie on each other are written one beneath the other. */
function apart(legs: readonly DrawnLeg[]): void {
  const middle = ({ label: { x, anchor } }: DrawnLeg) => x + (anchor === 'start' ? 1 : anchor === 'end' ? -1 : 0) * (WORDS.wide / 2);
  const set: DrawnLeg[] = [];
  for (const l of [...legs].sort((a, b) => a.label.y - b.label.y)) {
    for (const s of set)
      if (Math.abs(middle(s) - middle(l)) < WORDS.wide && l.label.y < s.label.y + WORDS.tall) l.label.y = s.label.y + WORDS.tall;
    set.push(l);
    set.sort((a, b) => a.label.y - b.label.y);
  }
}

/** How far apart branches lie at the least, one beneath the other. */
const APART = 40;

/**
 * The inside of a ready harness as a drawing: its branches in columns between the ends on its two sides, each as high as what hangs on it.
 * @param ends where each end is met by its leg, with the side on which it lies
 * @param columns the middles of the leftmost and the rightmost branch
 * @param wide how wide a branch is drawn
 */
export function drawBranches(
  h: Pick<BoxHarness, 'legs'>,
  ends: ReadonlyMap<string, { at: At; side: 'near' | 'far' }>,
  columns: readonly [number, number],
  wide: number,
): { branches: Branch[]; legs: DrawnLeg[] } {
  const ids = [...new Set(h.legs.flatMap((l) => [l.from, l.to]))].filter((p) => !ends.has(p));
  const beside = (p: string) => h.legs.flatMap((l) => (l.from === p ? [l.to] : l.to === p ? [l.from] : []));
  // columns by how many legs lie between a branch and the first that ends on the near side hang on
  const nearEnds = (p: string) => beside(p).filter((q) => ends.get(q)?.side === 'near').length;
  const depth = new Map<string, number>();
  for (const root of [...ids].sort((a, b) => nearEnds(b) - nearEnds(a))) {
    if (depth.has(root)) continue;
    const row = [root];
    depth.set(root, 0);
    for (const p of row)
      for (const q of beside(p))
        if (!ends.has(q) && !depth.has(q)) {
          depth.set(q, depth.get(p)! + 1);
          row.push(q);
        }
  }
  const deepest = Math.max(0, ...depth.values());
  const [left, right] = columns;
  const x = (p: string) => (deepest ? left + ((right - left) * depth.get(p)!) / deepest : (left + right) / 2);
  const mean = (list: readonly number[]) => list.reduce((s, v) => s + v, 0) / list.length;
  const y = new Map<string, number>();
  for (const p of ids) {
    const own = beside(p).flatMap((q) => ends.get(q)?.at[1] ?? []);
    if (own.length) y.set(p, mean(own));
  }
  // what only branches hang on lies between them
  for (let left = ids.filter((p) => !y.has(p)); left.length; left = left.filter((p) => !y.has(p))) {
    const sure = left.filter((p) => beside(p).some((q) => y.has(q)));
    if (!sure.length) for (const p of left) y.set(p, mean([...ends.values()].map((e) => e.at[1])));
    for (const p of sure) y.set(p, mean(beside(p).flatMap((q) => y.get(q) ?? [])));
  }
  const sorted = [...ids].sort((a, b) => y.get(a)! - y.get(b)!);
  let pushed = 0;
  sorted.forEach((p, i) => {
    const least = i ? y.get(sorted[i - 1]!)! + APART : -Infinity;
    if (y.get(p)! >= least) return;
    pushed = Math.max(pushed, least - y.get(p)!);
    y.set(p, least);
  });
  for (const p of sorted) y.set(p, y.get(p)! - pushed / 2);
  const branches = ids.map((id) => ({ id, x: x(id), y: y.get(id)! }));
  const legs = h.legs.map((l): DrawnLeg => {
    const spot = (p: string) => {
      const end = ends.get(p);
      return end ? { id: p, x: end.at[0], y: end.at[1], end } : { id: p, x: x(p), y: y.get(p)!, end: null };
    };
    const [a, b] = [spot(l.from), spot(l.to)].sort((p, q) => p.x - q.x) as [ReturnType<typeof spot>, ReturnType<typeof spot>];
    const from: At = [a.end ? a.x : a.x + wide / 2, a.y];
    const to: At = [b.end ? b.x : b.x - wide / 2, b.y];
    const alone = (p: typeof a) => p.end !== null && beside(p.id).length === 1;
    // beside the end that it alone leads to; else in its middle
    const label = alone(b)
      ? { x: to[0] - 5, y: to[1] - 6, anchor: 'end' as const }
      : alone(a)
        ? { x: from[0] + 5, y: from[1] - 6, anchor: 'start' as const }
        : {
            x: (from[0] + to[0]) / 2 + (a.end || b.end ? 5 : 0),
            y: (from[1] + to[1]) / 2 - 6,
            anchor: a.end || b.end ? ('start' as const) : ('middle' as const),
          };
    return { id: l.id, lengthMm: l.lengthMm, from, to, label };
  });
  apart(legs);
  return { branches, legs };
}
