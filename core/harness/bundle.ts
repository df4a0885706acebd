import { packEnclose } from 'd3-hierarchy';
import { ImpossibleInput } from '../errors';

/** Outside diameters of thin-wall automotive wire by gauge, mm. From memory of makers' tables: common practice, no source. */
export const WIRE_OD_MM: Readonly<Record<number, number>> = {
  18: 2.2,
  16: 2.5,
  14: 2.9,
  12: 3.5,
  10: 4.3,
  8: 5.6,
  6: 7.2,
  4: 8.8,
  2: 10.8,
  1: 12,
  0: 13.2,
  [-1]: 14.6,
};

/** Inside diameters of split loom by its trade size, inches turned to mm: 1/4, 3/8, 1/2, 5/8, 3/4, 1, 1 1/4, 1 1/2, 2. Common practice, no source. */
export const LOOM_MM: readonly number[] = [6.4, 9.5, 12.7, 15.9, 19.1, 25.4, 31.8, 38.1, 50.8];

/** Smallest known circles round a few equal ones, in diameters (geometry; from memory): where a hexagonal lattice is not the best. */
const FEW: Readonly<Record<number, number>> = { 4: 1 + Math.SQRT2, 5: 2.7013 };
const MAX_WIRES = 400;
/** Twice as many as there are gauges: places are sought anew for each. */
const MAX_THICKNESSES = 24;

interface Round {
  x: number;
  y: number;
  r: number;
}

/** A wire thicker than this is none. */
export const THICKEST_MM = 100;

/** The two places where a circle of radius r touches both others; none where they are too far apart. */
function between(a: Round, b: Round, r: number): Round[] {
  const d = Math.hypot(a.x - b.x, a.y - b.y);
  const [ra, rb] = [a.r + r, b.r + r];
  if (d > ra + rb || d === 0) return [];
  const along = (ra * ra - rb * rb + d * d) / (2 * d);
  const aside = Math.sqrt(Math.max(0, ra * ra - along * along));
  const [ux, uy] = [(b.x - a.x) / d, (b.y - a.y) / d];
  return [1, -1].map((side) => ({ x: a.x + ux * along - uy * aside * side, y: a.y + uy * along + ux * aside * side, r }));
}
const apart = (a: Round, b: Round) => Math.hypot(a.x - b.x, a.y - b.y) >= a.r + b.r - 1e-7;

/**
 * Lays each wire, thick first, against two others as near the middle as it will go: for equal wires this grows a hexagonal
 * lattice. Places for one thickness are kept from wire to wire: a new wire only takes some away and brings those beside it.
 */
function lay(radii: readonly number[], centre: { x: number; y: number }): Round[] {
  const out: Round[] = [];
  const far = (p: { x: number; y: number }) => Math.hypot(p.x - centre.x, p.y - centre.y);
  let places: Round[] = [];
  let thick = NaN;
  /** Free places for a wire of radius r that touch `n` and one of the first `upTo`. What is not near `n` neither bounds nor takes any. */
  const beside = (n: Round, r: number, upTo: number) => {
    const near = (o: Round) => o !== n && Math.hypot(o.x - n.x, o.y - n.y) <= o.r + n.r + 2 * r;
    const around = out.filter(near);
    return out
      .slice(0, upTo)
      .filter(near)
      .flatMap((o) => between(o, n, r))
      .filter((p) => around.every((o) => apart(o, p)));
  };
  for (const [i, r] of radii.entries()) {
    let at: Round;
    if (i === 0) at = { x: 0, y: 0, r };
    else if (i === 1) at = { x: radii[0]! + r, y: 0, r };
    else {
      if (r !== thick) places = out.flatMap((n, k) => beside(n, r, k));
      thick = r;
      let best: Round | null = null;
      for (const p of places) if (!best || far(p) < far(best) - 1e-9) best = p;
      // where rounding leaves no place between two, it lies outside of all
      at = best ?? { x: Math.max(...out.map((o) => o.x + o.r)) + r, y: 0, r };
    }
    out.push(at);
    places = [...places.filter((p) => apart(p, at)), ...(r === thick ? beside(at, r, i) : [])];
  }
  return out;
}

/**
 * Diameter of the round bundle that wires make, mm: laid as hexagonal packing lays equal ones (7 wires 3 d, 19 wires 5 d,
 * 37 wires 7 d), unequal ones thick first, then the smallest circle round them all. Source: geometry.
 * @returns `loomMm` the next standard loom's inside diameter; null when none is wide enough
 * @throws ImpossibleInput for no wires, or a diameter of zero or less or beyond any wire's
 */
export function bundle(wireDiametersMm: readonly number[]): { bundleMm: number; loomMm: number | null } {
  if (!wireDiametersMm.length) throw new ImpossibleInput('a bundle needs at least one wire', 'wireDiametersMm');
  if (wireDiametersMm.length > MAX_WIRES) throw new ImpossibleInput(`at most ${MAX_WIRES} wires in a bundle`, 'wireDiametersMm');
  if (wireDiametersMm.some((d) => d > THICKEST_MM))
    throw new ImpossibleInput(`a wire is at most ${THICKEST_MM} mm thick`, 'wireDiametersMm');
  if (wireDiametersMm.some((d) => !(d > 0))) throw new ImpossibleInput('every wire has a diameter above zero', 'wireDiametersMm');
  if (new Set(wireDiametersMm).size > MAX_THICKNESSES)
    throw new ImpossibleInput(`too many thicknesses: at most ${MAX_THICKNESSES} in a bundle`, 'wireDiametersMm');
  const radii = wireDiametersMm.map((d) => d / 2).sort((a, b) => b - a);
  const [r0, r1] = [radii[0]!, radii[1] ?? radii[0]!];
  const centres = [
    { x: 0, y: 0 },
    { x: (r0 + r1) / 2, y: 0 },
    { x: (r0 + r1) / 2, y: (r0 + r1) / (2 * Math.sqrt(3)) },
  ];
  let radius = Math.min(...centres.map((c) => packEnclose(lay(radii, c)).r));
  const few = FEW[radii.length];
  if (few && radii[0] === radii.at(-1)) radius = Math.min(radius, few * radii[0]!);
  const bundleMm = Number((2 * radius).toFixed(6));
  return { bundleMm, loomMm: LOOM_MM.find((l) => l >= bundleMm - 1e-9) ?? null };
}
