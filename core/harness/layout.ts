import type { ELK, ElkNode } from 'elkjs/lib/elk-api';
import { fold, numbered, parts } from './fold';
import { plain, ROW, type Block, type Link, type Schematic } from './schematic';

export interface PlacedBlock extends Block {
  x: number;
  y: number;
  /** where each port is, from the block's corner */
  at: Record<string, { x: number; y: number }>;
}
export interface PlacedLink extends Link {
  points: { x: number; y: number }[];
}
export interface Layout {
  width: number;
  height: number;
  blocks: PlacedBlock[];
  links: PlacedLink[];
}

const OPTIONS: Record<string, string> = {
  'elk.algorithm': 'layered',
  'elk.direction': 'RIGHT',
  'elk.edgeRouting': 'ORTHOGONAL',
  'elk.layered.spacing.nodeNodeBetweenLayers': '40',
  'elk.layered.spacing.edgeNodeBetweenLayers': '14',
  'elk.layered.spacing.edgeEdgeBetweenLayers': '10',
  'elk.spacing.nodeNode': '13',
  'elk.spacing.edgeNode': '15',
  'elk.spacing.edgeEdge': '14',
  'elk.layered.nodePlacement.strategy': 'NETWORK_SIMPLEX',
  'elk.layered.crossingMinimization.strategy': 'LAYER_SWEEP',
  'elk.layered.thoroughness': '12',
  'elk.separateConnectedComponents': 'false',
  'elk.padding': '[top=0,left=0,bottom=0,right=0]',
};
const MARGIN = 14;
/** between two parts that no line joins */
const GAP = 26;

/** What a drawing may be wide, at a size that is read on a desk's screen and on a page laid across. */
export const WIDE = 1120;

/**
 * Lays a schematic out from left to right with right-angled lines, by ELK's layered layout, in rows of at most
 * `width` (in the units of its blocks) where it can be broken into such. Deterministic.
 */
export async function layOut(s: Schematic, elk: ELK, width = WIDE): Promise<Layout> {
  const whole = await packed(s, elk, width);
  let best: Layout | null = null;
  // a row’s flags may push it apart: broken once more for a little less
  for (let room = width - 2 * MARGIN; room > width * 0.7; room -= width / 12) {
    const folded = fold(s, whole, room);
    if (folded === s) return whole;
    const l = numbered(await packed(folded, elk, width));
    if (!best || l.width < best.width) best = l;
    if (best.width <= width) break;
  }
  return best!;
}

async function packed(s: Schematic, elk: ELK, width: number): Promise<Layout> {
  const kindOf = new Map(s.blocks.map((b) => [b.id, b.kind]));
  // a return past a device on its way would lead back to where it began: it is laid out from there
  const back = new Set(s.links.flatMap((l) => (l.home && /^(device|switch)$/.test(kindOf.get(l.to.block)!) ? [l.id] : [])));
  const graph = (part: ReadonlySet<string>): ElkNode => ({
    id: 'part',
    layoutOptions: OPTIONS,
    children: s.blocks.filter((b) => part.has(b.id)).map(nodeOf),
    edges: s.links
      .filter((l) => part.has(l.from.block))
      .map((l) => {
        const [from, to] = back.has(l.id) ? [l.to, l.from] : [l.from, l.to];
        return { id: l.id, sources: [endOf(s, from)], targets: [endOf(s, to)] };
      }),
  });
  const laid = await Promise.all(parts(s).map((part) => elk.layout(graph(part))));
  const rects = pack(
    laid.map((part) => ({ width: part.width ?? 0, height: part.height ?? 0 })),
    width - 2 * MARGIN,
  );
  const places = new Map<string, { x: number; y: number }>();
  const lines = new Map<string, { x: number; y: number }[]>();
  laid.forEach((part, i) => {
    const moved = (p: { x?: number; y?: number }) => ({ x: (p.x ?? 0) + rects[i]!.x + MARGIN, y: (p.y ?? 0) + rects[i]!.y + MARGIN });
    for (const c of part.children ?? []) places.set(c.id, moved(c));
    for (const e of part.edges ?? [])
      lines.set(
        e.id,
        (e.sections ?? []).flatMap((x) => [x.startPoint, ...(x.bendPoints ?? []), x.endPoint].map(moved)),
      );
  });
  return {
    width: Math.max(0, ...rects.map((r) => r.x + r.width)) + 2 * MARGIN,
    height: Math.max(0, ...rects.map((r) => r.y + r.height)) + 2 * MARGIN,
    blocks: s.blocks.map((b) => ({
      ...b,
      ...places.get(b.id)!,
      at: Object.fromEntries(
        b.kind === 'splice' ? b.ports.map((p) => [p.id, { x: 5, y: 5 }]) : ports(b).map((p) => [p.id, { x: p.x, y: p.y }]),
      ),
    })),
    links: s.links.map((l) => ({ ...l, points: back.has(l.id) ? lines.get(l.id)!.reverse() : (lines.get(l.id) ?? []) })),
  };
}

type Rect = { x: number; y: number; width: number; height: number };

/** Each part, in its order, as high as it comes to lie, and as far to the left, below and beside those before it. */
function pack(sizes: readonly { width: number; height: number }[], width: number): Rect[] {
  const done: Rect[] = [];
  for (const size of sizes) {
    const at = [0, ...done.map((r) => r.x + r.width + GAP)]
      .filter((x) => x === 0 || x + size.width <= width)
      .map((x) => ({
        x,
        y: Math.max(0, ...done.filter((r) => r.x < x + size.width + GAP && x < r.x + r.width + GAP).map((r) => r.y + r.height + GAP)),
      }))
      .sort((a, b) => a.y - b.y || a.x - b.x)[0]!;
    done.push({ ...at, ...size });
  }
  return done;
}

const nodeOf = (b: Block): ElkNode => ({
  id: b.id,
  width: b.width,
  height: b.height,
  layoutOptions:
    b.kind === 'splice'
      ? { 'elk.portConstraints': 'FREE' }
      : {
          'elk.portConstraints': 'FIXED_POS',
          ...(b.kind === 'flag' && { 'elk.layered.layering.layerConstraint': b.ports[0]!.side === 'in' ? 'LAST' : 'FIRST' }),
        },
  ports:
    b.kind === 'splice'
      ? []
      : ports(b).map((p) => ({
          ...p,
          id: `port ${p.id}`,
          width: 0,
          height: 0,
          layoutOptions: { 'elk.port.side': p.x === 0 ? 'WEST' : 'EAST' },
        })),
});

const endOf = (s: Schematic, end: Link['from']): string =>
  s.blocks.find((b) => b.id === end.block)!.kind === 'splice' ? end.block : `port ${end.port}`;

function ports(b: Block): { id: string; x: number; y: number }[] {
  const top =
    b.kind === 'fuse' || b.kind === 'plug'
      ? 20
      : b.kind === 'ground'
        ? 8
        : plain(b) || b.kind === 'flag'
          ? b.height / 2
          : (b.note ? 36 : 22) + ROW / 2;
  return (['in', 'out'] as const).flatMap((side) =>
    b.ports.filter((p) => p.side === side).map((p, i) => ({ id: p.id, x: side === 'in' ? 0 : b.width, y: top + i * ROW })),
  );
}
