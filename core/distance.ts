/**
 * Distance of a point from the straight line between two others, in their unit and in as many dimensions as they have; beyond an end,
 * from that end.
 */
export function fromSegment(p: readonly number[], a: readonly number[], b: readonly number[]): number {
  const dot = (u: readonly number[], v: readonly number[]) => u.reduce((s, x, i) => s + x * v[i]!, 0);
  const [way, to] = [b.map((x, i) => x - a[i]!), p.map((x, i) => x - a[i]!)];
  const long = dot(way, way);
  const along = long ? Math.min(1, Math.max(0, dot(to, way) / long)) : 0;
  return Math.hypot(...to.map((x, i) => x - along * way[i]!));
}
