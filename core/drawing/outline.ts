/** A point of a view, millimetres: right and up. */
export type Pt = readonly [number, number];

/** Points from their coordinates in turn: right, up, right, up. */
export const pts = (...xy: number[]): Pt[] => Array.from({ length: xy.length / 2 }, (_, i): Pt => [xy[2 * i]!, xy[2 * i + 1]!]);

const n = (x: number) => Math.round(x * 10) / 10;

/** SVG path of a polygon with rounded corners; y is turned so that up is up. A point may carry its own radius. */
export function rounded(points: readonly (Pt | readonly [number, number, number])[], radius: number, closed = true): string {
  const count = points.length;
  const at = (i: number) => points[(i + count) % count]!;
  const parts: string[] = [];
  for (let i = 0; i < count; i++) {
    const p = at(i);
    const end = !closed && (i === 0 || i === count - 1);
    const [a, b] = [at(i - 1), at(i + 1)];
    const la = Math.hypot(a[0] - p[0], a[1] - p[1]);
    const lb = Math.hypot(b[0] - p[0], b[1] - p[1]);
    const r = end ? 0 : Math.min(p[2] ?? radius, la / 2, lb / 2);
    const from = r && la ? [p[0] + ((a[0] - p[0]) / la) * r, p[1] + ((a[1] - p[1]) / la) * r] : p;
    const to = r && lb ? [p[0] + ((b[0] - p[0]) / lb) * r, p[1] + ((b[1] - p[1]) / lb) * r] : p;
    parts.push(`${i ? 'L' : 'M'}${n(from[0]!)} ${n(-from[1]!)}`);
    if (r) parts.push(`Q${n(p[0])} ${n(-p[1])} ${n(to[0]!)} ${n(-to[1]!)}`);
  }
  return parts.join('') + (closed ? 'Z' : '');
}

export const circle = (x: number, y: number, r: number): string =>
  `M${n(x - r)} ${n(-y)}a${n(r)} ${n(r)} 0 1 0 ${n(2 * r)} 0a${n(r)} ${n(r)} 0 1 0 ${n(-2 * r)} 0Z`;

/** A shape that is the same on both sides of the centre line, from its right half: top to bottom. */
export const mirrored = (half: readonly Pt[]): Pt[] => [
  ...half,
  ...[...half].reverse().flatMap(([x, z]): Pt[] => (x === 0 ? [] : [[-x, z]])),
];
export const both = (half: readonly Pt[], radius: number): string => rounded(mirrored(half), radius);

export const rect = (x0: number, y0: number, x1: number, y1: number, r = 0): string =>
  rounded(
    [
      [x0, y0],
      [x1, y0],
      [x1, y1],
      [x0, y1],
    ],
    r,
  );

export const line = (...points: Pt[]): string => points.map((p, i) => `${i ? 'L' : 'M'}${n(p[0])} ${n(-p[1])}`).join('');

/** Half circle over a wheel, from behind to ahead. */
export const arch = (x: number, y: number, r: number): string => `M${n(x - r)} ${n(-y)}A${n(r)} ${n(r)} 0 0 1 ${n(x + r)} ${n(-y)}`;
