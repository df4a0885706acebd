import { Matrix, SingularValueDecomposition, solve } from 'ml-matrix';
import { ImpossibleInput } from '../errors';

/** A point on a photograph, pixels, and where it is in a plane, in the plane’s own unit. */
export interface PlanePoint {
  u: number;
  v: number;
  x: number;
  y: number;
}

/**
 * How a plane lies on a photograph of it: nine numbers of a 3 × 3 matrix, rows first, with (x·w, y·w, w) = H·(u, v, 1). `rms` is how
 * far the points lie off it, in the plane’s unit.
 */
export interface Plane {
  h: number[];
  rms: number;
}

/** Under this share of the largest singular value a direction is not seen at all. */
const BLIND = 1e-8;
const ROUNDS = 30;

/** Moved to their middle, and scaled to a root of two away from it on average: so sums of unlike sizes lose nothing. */
function centred(list: readonly (readonly [number, number])[]): { at: [number, number][]; back: number[]; into: number[] } {
  const n = list.length;
  const cx = list.reduce((s, p) => s + p[0], 0) / n;
  const cy = list.reduce((s, p) => s + p[1], 0) / n;
  const far = list.reduce((s, p) => s + Math.hypot(p[0] - cx, p[1] - cy), 0) / n;
  if (!(far > 0)) throw new ImpossibleInput('the points are all the same', 'points');
  const k = Math.SQRT2 / far;
  return {
    at: list.map(([x, y]) => [(x - cx) * k, (y - cy) * k]),
    into: [k, 0, -k * cx, 0, k, -k * cy, 0, 0, 1],
    back: [1 / k, 0, cx, 0, 1 / k, cy, 0, 0, 1],
  };
}

const times = (a: readonly number[], b: readonly number[]): number[] =>
  [0, 1, 2].flatMap((r) => [0, 1, 2].map((c) => a[3 * r]! * b[c]! + a[3 * r + 1]! * b[3 + c]! + a[3 * r + 2]! * b[6 + c]!));

/** How far in front of the camera a point of the photograph is, in the matrix’s own measure: it changes sign at the horizon. */
export const depthAt = (h: readonly number[], u: number, v: number): number => h[6]! * u + h[7]! * v + h[8]!;

/** Where a point of the photograph lies in the plane. */
export function onPlane(h: readonly number[], u: number, v: number): { x: number; y: number } {
  const w = depthAt(h, u, v);
  return { x: (h[0]! * u + h[1]! * v + h[2]!) / w, y: (h[3]! * u + h[4]! * v + h[5]!) / w };
}

/** The way back: from the plane onto the photograph. @throws ImpossibleInput for a matrix that has none */
export function inverse(h: readonly number[]): number[] {
  const [a, b, c, d, e, f, g, i, j] = h as [number, number, number, number, number, number, number, number, number];
  const adj = [
    e * j - f * i,
    c * i - b * j,
    b * f - c * e,
    f * g - d * j,
    a * j - c * g,
    c * d - a * f,
    d * i - e * g,
    b * g - a * i,
    a * e - b * d,
  ];
  const det = a * adj[0]! + b * adj[3]! + c * adj[6]!;
  if (!Number.isFinite(1 / det)) throw new ImpossibleInput('the points lie on one line', 'points');
  return adj.map((x) => x / det);
}

const errorOf = (h: readonly number[], points: readonly PlanePoint[]): number =>
  Math.sqrt(
    points.reduce((s, p) => {
      const q = onPlane(h, p.u, p.v);
      return s + (q.x - p.x) ** 2 + (q.y - p.y) ** 2;
    }, 0) / points.length,
  );

/**
 * The plane that points on a photograph lie in, by four or more: with four it goes through all, with more it lies nearest in the
 * plane’s own unit. The direct linear transformation with normalised points, then Levenberg and Marquardt’s steps on the distances.
 * Source: R. Hartley, In defence of the eight-point algorithm, 1997, and R. Hartley and A. Zisserman, Multiple View Geometry,
 * section 4, both from memory.
 * @throws ImpossibleInput for fewer than four, three of four on one line, or points in front of and behind the camera
 */
export function planeBy(points: readonly PlanePoint[]): Plane {
  if (points.length < 4) throw new ImpossibleInput('a plane needs four points', 'points');
  const from = centred(points.map((p) => [p.u, p.v]));
  const to = centred(points.map((p) => [p.x, p.y]));
  const rows = points.flatMap((_, i) => {
    const [u, v] = from.at[i]!;
    const [x, y] = to.at[i]!;
    return [
      [u, v, 1, 0, 0, 0, -x * u, -x * v, -x],
      [0, 0, 0, u, v, 1, -y * u, -y * v, -y],
    ];
  });
  // a ninth row of nothing for four points: all nine directions are then given
  while (rows.length < 9) rows.push(Array<number>(9).fill(0));
  const svd = new SingularValueDecomposition(new Matrix(rows), { autoTranspose: true });
  const order = svd.diagonal.map((s, i) => [s, i] as const).sort((a, b) => a[0] - b[0]);
  if (order[1]![0] < BLIND * order.at(-1)![0])
    throw new ImpossibleInput('three of the points lie on one line: the plane may be turned about it', 'points');
  const h = svd.rightSingularVectors.getColumn(order[0]![1]);
  const near = points.map((_, i) => ({ u: from.at[i]![0], v: from.at[i]![1], x: to.at[i]![0], y: to.at[i]![1] }));
  const best = points.length > 4 ? refined(h, near) : h;
  const out = times(to.back, times(best, from.into));
  const signs = new Set(points.map((p) => Math.sign(depthAt(out, p.u, p.v))));
  if (!(Math.abs(unitDeterminant(best)) > BLIND))
    throw new ImpossibleInput('three of the points lie on one line: the plane may be turned about it', 'points');
  if (signs.size > 1 || signs.has(0)) throw new ImpossibleInput('no flat thing is seen so: look at the order of the points', 'points');
  // its last number is one, where that is not next to nothing
  const size = Math.hypot(...out);
  const scale = Math.abs(out[8]!) > 1e-9 * size ? out[8]! : size;
  const given = out.map((x) => x / scale);
  return { h: given, rms: errorOf(given, points) };
}

/** The determinant of a matrix made as long as one. */
function unitDeterminant(h: readonly number[]): number {
  const n = Math.hypot(...h);
  const [a, b, c, d, e, f, g, i, j] = h.map((x) => x / n) as [number, number, number, number, number, number, number, number, number];
  return a * (e * j - f * i) - b * (d * j - f * g) + c * (d * i - e * g);
}

/** Levenberg and Marquardt’s steps from a first answer, until none makes it better. */
function refined(first: readonly number[], points: readonly PlanePoint[]): number[] {
  const norm = (h: readonly number[]) => {
    const n = Math.hypot(...h);
    return h.map((x) => x / n);
  };
  let h = norm(first);
  let worst = errorOf(h, points);
  let damp = 1e-3;
  for (let round = 0; round < ROUNDS && damp < 1e12; round++) {
    const jacobian: number[][] = [];
    const off: number[][] = [];
    for (const p of points) {
      const w = depthAt(h, p.u, p.v);
      const { x, y } = onPlane(h, p.u, p.v);
      const [a, b, c] = [p.u / w, p.v / w, 1 / w];
      jacobian.push([a, b, c, 0, 0, 0, -x * a, -x * b, -x * c], [0, 0, 0, a, b, c, -y * a, -y * b, -y * c]);
      off.push([p.x - x], [p.y - y]);
    }
    const J = new Matrix(jacobian);
    const JtJ = J.transpose().mmul(J);
    // its length is free: damping keeps that direction still
    for (let i = 0; i < 9; i++) JtJ.set(i, i, JtJ.get(i, i) * (1 + damp) + 1e-12);
    const step = solve(JtJ, J.transpose().mmul(new Matrix(off)), true).to1DArray();
    const next = norm(h.map((x, i) => x + step[i]!));
    const error = errorOf(next, points);
    if (error < worst) {
      const done = worst - error < 1e-14 * (1 + worst);
      [h, worst] = [next, error];
      damp /= 8;
      if (done) break;
    } else damp *= 8;
  }
  return h;
}

/**
 * How a photograph lies by two or three points: turned and of another size, nothing else. Nearest by least squares.
 * @throws ImpossibleInput for fewer than two, or all the same
 */
export function turnedBy(points: readonly PlanePoint[]): Plane {
  if (points.length < 2) throw new ImpossibleInput('two points say how large it is and how it is turned', 'points');
  const n = points.length;
  const mean = (k: keyof PlanePoint) => points.reduce((s, p) => s + p[k], 0) / n;
  const [mu, mv, mx, my] = [mean('u'), mean('v'), mean('x'), mean('y')];
  let [a, b, size] = [0, 0, 0];
  for (const p of points) {
    const [u, v, x, y] = [p.u - mu, p.v - mv, p.x - mx, p.y - my];
    a += u * x + v * y;
    b += u * y - v * x;
    size += u * u + v * v;
  }
  if (!(size > 0) || !(Math.hypot(a, b) > 0)) throw new ImpossibleInput('the points are all the same', 'points');
  [a, b] = [a / size, b / size];
  const h = [a, -b, mx - a * mu + b * mv, b, a, my - b * mu - a * mv, 0, 0, 1];
  return { h, rms: errorOf(h, points) };
}
