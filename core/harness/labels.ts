import type { Layout, PlacedLink } from './layout';

/** Where a line's label stands: the middle of its foot. */
export interface Label {
  x: number;
  y: number;
  text: string;
}
/** What a label takes, in the layout's units: its height, a letter's width, and how far from its line it stands. */
export interface LabelType {
  char: number;
  height: number;
  off: number;
}
interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/**
 * Places the labels of lines, on their level stretches, longest first, above them or below: on no block, no other line
 * and no other label. A line without such a place has none.
 * @param l a laid-out schematic
 * @param texts what a line may say, the fullest first
 */
export function labels(l: Layout, texts: (link: PlacedLink) => readonly string[], type: LabelType): Map<string, Label> {
  const taken: Box[] = l.blocks.map((b) => ({
    left: b.x,
    right: b.x + b.width,
    // a fuse's and a plug's words stand above their sign
    top: b.y - (b.kind === 'fuse' || b.kind === 'plug' ? 4 : 0),
    bottom: b.y + b.height,
  }));
  const lines = l.links.flatMap((k) => stretches(k).map((s) => ({ ...s, link: k.id })));
  const out = new Map<string, Label>();
  // those with the least room choose first
  const order = l.links
    .map((link) => ({ link, level: stretches(link).filter((s) => s.level) }))
    .sort((a, b) => longest(a.level) - longest(b.level) || (a.link.id < b.link.id ? -1 : 1));
  for (const { link, level } of order) {
    const free = (box: Box) => !taken.some((t) => meet(t, box)) && !lines.some((x) => !(x.link === link.id && x.level) && meet(x, box));
    const spot = first(texts(link), (text) => {
      const wide = text.length * type.char;
      return first(
        level.toSorted((a, b) => b.right - b.left - (a.right - a.left)),
        (s) =>
          first(middles(s.left + HALF, s.right - HALF, wide), (x) =>
            first([s.top + HALF - type.off, s.bottom - HALF + type.off + type.height], (y) => {
              const box = { left: x - wide / 2, right: x + wide / 2, top: y - type.height, bottom: y };
              return free(box) ? { x, y, text, box } : null;
            }),
          ),
      );
    });
    if (!spot) continue;
    taken.push(spot.box);
    out.set(link.id, { x: spot.x, y: spot.y, text: spot.text });
  }
  return out;
}

/** half of a line as it is drawn */
const HALF = 3.5;
const meet = (a: Box, b: Box): boolean => a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;
const longest = (s: readonly Box[]): number => Math.max(0, ...s.map((x) => x.right - x.left));

function first<A, B>(of: readonly A[], find: (a: A) => B | null): B | null {
  for (const a of of) {
    const b = find(a);
    if (b) return b;
  }
  return null;
}

/** Middles for something so wide between two ends: the middle, then outwards to both. */
function middles(from: number, to: number, wide: number): number[] {
  const room = (to - from - wide) / 2;
  if (room < 0) return [];
  const mid = (from + to) / 2;
  const out = [mid];
  for (let d = 12; d < room; d += 12) out.push(mid - d, mid + d);
  return out;
}

/** A line's straight parts, as wide as they are drawn. */
const stretches = (l: PlacedLink): (Box & { level: boolean })[] =>
  l.points.slice(1).map((b, i) => {
    const a = l.points[i]!;
    return {
      left: Math.min(a.x, b.x) - HALF,
      right: Math.max(a.x, b.x) + HALF,
      top: Math.min(a.y, b.y) - HALF,
      bottom: Math.max(a.y, b.y) + HALF,
      level: Math.abs(a.y - b.y) < 1,
    };
  });
