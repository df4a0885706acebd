import type { Obstacle, Point } from '#model/lamp';

/** Degrees between two rays. */
export const STEP_DEG = 0.5;
export const RAYS = 360 / STEP_DEG;

/** What a light shows around it: for every half degree clockwise from dead ahead, lit, or hidden by an obstacle, or not shone at. */
export interface Sight {
  /** per ray: −1 open, else the index of the nearest obstacle that hides it */
  hiddenBy: Int16Array;
  /** per ray: within the arc that the lamp shines over */
  shines: Uint8Array;
}

const rad = (deg: number) => (deg * Math.PI) / 180;

/** Distance along a ray to a circle, or null when it misses or starts inside. */
function circleHit(dx: number, dy: number, r: number, ux: number, uy: number): number | null {
  const along = dx * ux + dy * uy;
  const d2 = dx * dx + dy * dy - along * along;
  if (along <= 0 || d2 > r * r || dx * dx + dy * dy <= r * r) return null;
  return along - Math.sqrt(r * r - d2);
}

/** Distance along a ray to a box seen from above, or null. */
function boxHit(p: Point, b: { x0: number; x1: number; y0: number; y1: number }, ux: number, uy: number): number | null {
  let [near, far] = [0, Infinity];
  for (const [o, u, lo, hi] of [
    [p.x, ux, b.x0, b.x1],
    [p.y, uy, b.y0, b.y1],
  ] as const) {
    if (Math.abs(u) < 1e-12) {
      if (o < lo || o > hi) return null;
      continue;
    }
    const [a, c] = [(lo - o) / u, (hi - o) / u];
    near = Math.max(near, Math.min(a, c));
    far = Math.min(far, Math.max(a, c));
  }
  return near <= far && near > 0 ? near : null;
}

type Cut =
  | { index: number; circle: { x: number; y: number; r: number } }
  | { index: number; box: { x0: number; x1: number; y0: number; y1: number } };

/** What of the obstacles is met at a height: boxes as rectangles, bars as the circles they are cut in. A lamp's own mount, which it stands in or on, hides nothing. */
function cutAt(obstacles: readonly Obstacle[], p: Point): Cut[] {
  const out: Cut[] = [];
  obstacles.forEach((o, index) => {
    const [lo, hi] = [Math.min(o.from.z, o.to.z), Math.max(o.from.z, o.to.z)];
    if (p.z < lo || p.z > hi) return;
    if (o.kind === 'box') {
      const box = {
        x0: Math.min(o.from.x, o.to.x),
        x1: Math.max(o.from.x, o.to.x),
        y0: Math.min(o.from.y, o.to.y),
        y1: Math.max(o.from.y, o.to.y),
      };
      if (p.x >= box.x0 && p.x <= box.x1 && p.y >= box.y0 && p.y <= box.y1) return;
      out.push({ index, box });
      return;
    }
    const r = o.mm / 2;
    if (hi - lo < 1e-9) {
      // a level bar at the lamp's own height: a row of circles along it
      const long = Math.hypot(o.to.x - o.from.x, o.to.y - o.from.y);
      const n = Math.max(1, Math.ceil(long / r));
      for (let i = 0; i <= n; i++) {
        const c = { x: o.from.x + ((o.to.x - o.from.x) * i) / n, y: o.from.y + ((o.to.y - o.from.y) * i) / n, r };
        if (Math.hypot(c.x - p.x, c.y - p.y) > r) out.push({ index, circle: c });
      }
      return;
    }
    const t = (p.z - o.from.z) / (o.to.z - o.from.z);
    const c = { x: o.from.x + t * (o.to.x - o.from.x), y: o.from.y + t * (o.to.y - o.from.y), r };
    if (Math.hypot(c.x - p.x, c.y - p.y) > r) out.push({ index, circle: c });
  });
  return out;
}

/** The bearing of a ray's middle, degrees clockwise from dead ahead, 0 to 360. */
export const bearing = (ray: number): number => (ray + 0.5) * STEP_DEG;

/** Whether a bearing lies in an arc given clockwise, both in degrees. */
export function inArc(deg: number, [from, to]: readonly [number, number]): boolean {
  if (to - from >= 360) return true;
  const d = (((deg - from) % 360) + 360) % 360;
  return d <= to - from;
}

/**
 * Rays at half-degree steps from a light, level at its own height: what they meet first.
 * @param at the light, millimetres in the unit's frame
 * @param arcDeg what it shines over, degrees clockwise from dead ahead; null for all round
 */
export function sightOf(at: Point, obstacles: readonly Obstacle[], arcDeg: readonly [number, number] | null): Sight {
  const hiddenBy = new Int16Array(RAYS).fill(-1);
  const shines = new Uint8Array(RAYS);
  const cuts = cutAt(obstacles, at);
  for (let i = 0; i < RAYS; i++) {
    const deg = bearing(i);
    if (!arcDeg || inArc(deg, arcDeg)) shines[i] = 1;
    // clockwise seen from above, with y to the left
    const [ux, uy] = [Math.cos(rad(deg)), -Math.sin(rad(deg))];
    let nearest = Infinity;
    for (const c of cuts) {
      const hit = 'circle' in c ? circleHit(c.circle.x - at.x, c.circle.y - at.y, c.circle.r, ux, uy) : boxHit(at, c.box, ux, uy);
      if (hit !== null && hit < nearest) {
        nearest = hit;
        hiddenBy[i] = c.index;
      }
    }
  }
  return { hiddenBy, shines };
}

/** A piece of an arc, degrees clockwise from dead ahead; `to` may pass 360. */
export interface ArcPiece {
  from: number;
  to: number;
  /** what hides it; null where no lamp shines */
  by: string | null;
}

/** Runs of neighbouring rays of an arc that answer the same. */
function runs(arcDeg: readonly [number, number], name: (ray: number) => string | null | undefined): ArcPiece[] {
  const first = Math.round(arcDeg[0] / STEP_DEG);
  const count = Math.round((arcDeg[1] - arcDeg[0]) / STEP_DEG);
  const out: ArcPiece[] = [];
  for (let k = 0; k < count; k++) {
    const by = name((((first + k) % RAYS) + RAYS) % RAYS);
    if (by === undefined) continue;
    const from = (first + k) * STEP_DEG;
    const last = out.at(-1);
    if (last && last.to === from && last.by === by) last.to = from + STEP_DEG;
    else out.push({ from, to: from + STEP_DEG, by });
  }
  return out;
}

/** What of a required arc none of these sights covers, piece by piece, with what hides it. */
export function gapsIn(arcDeg: readonly [number, number], sights: readonly Sight[], obstacles: readonly Obstacle[]): ArcPiece[] {
  return runs(arcDeg, (ray) => {
    let by: string | null = null;
    for (const s of sights) {
      if (!s.shines[ray]) continue;
      const o = s.hiddenBy[ray]!;
      if (o < 0) return undefined;
      by ??= obstacles[o]!.name;
    }
    return by;
  });
}

/** What of a sight is hidden within what it shines over, for drawing. */
export const hiddenPieces = (s: Sight, arcDeg: readonly [number, number], obstacles: readonly Obstacle[]): ArcPiece[] =>
  runs(arcDeg, (ray) => (s.shines[ray] && s.hiddenBy[ray]! >= 0 ? obstacles[s.hiddenBy[ray]!]!.name : undefined));

/** Pieces that touch, whatever hides them: an observer there sees nothing over the whole of it. A full circle's end meets its start. */
export function wholeGaps(arcDeg: readonly [number, number], pieces: readonly ArcPiece[]): { from: number; to: number; by: string[] }[] {
  const out: { from: number; to: number; by: string[] }[] = [];
  const names = (p: ArcPiece) => [p.by ?? 'no lamp shines there'];
  for (const p of pieces) {
    const last = out.at(-1);
    if (last && Math.abs(last.to - p.from) < 1e-9) {
      last.to = p.to;
      last.by = [...new Set([...last.by, ...names(p)])];
    } else out.push({ from: p.from, to: p.to, by: names(p) });
  }
  const [first, last] = [out[0], out.at(-1)];
  if (arcDeg[1] - arcDeg[0] >= 360 && first && last && first !== last && first.from === arcDeg[0] && last.to === arcDeg[1]) {
    out.shift();
    last.to += first.to - first.from;
    last.by = [...new Set([...last.by, ...first.by])];
  }
  return out;
}
