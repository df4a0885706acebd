import type { ELK, ElkNode } from 'elkjs/lib/elk-api';
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
  'elk.layered.spacing.nodeNodeBetweenLayers': '30',
  'elk.layered.spacing.edgeNodeBetweenLayers': '14',
  'elk.layered.spacing.edgeEdgeBetweenLayers': '9',
  'elk.spacing.nodeNode': '13',
  'elk.spacing.edgeNode': '12',
  'elk.spacing.edgeEdge': '9',
  'elk.spacing.componentComponent': '26',
  'elk.layered.nodePlacement.strategy': 'NETWORK_SIMPLEX',
  'elk.layered.crossingMinimization.strategy': 'LAYER_SWEEP',
  'elk.layered.thoroughness': '12',
  'elk.separateConnectedComponents': 'true',
  'elk.aspectRatio': '1.5',
  'elk.padding': '[top=8,left=8,bottom=8,right=8]',
};

/** Lays a schematic out from left to right with right-angled lines, by ELK's layered layout. Deterministic. */
export async function layOut(s: Schematic, elk: ELK): Promise<Layout> {
  const graph: ElkNode = {
    id: 'root',
    layoutOptions: OPTIONS,
    children: s.blocks.map((b) => ({
      id: b.id,
      width: b.width,
      height: b.height,
      layoutOptions: b.kind === 'splice' ? { 'elk.portConstraints': 'FREE' } : { 'elk.portConstraints': 'FIXED_POS' },
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
    })),
    edges: s.links.map((l) => ({ id: l.id, sources: [endOf(s, l.from)], targets: [endOf(s, l.to)] })),
  };
  const done = await elk.layout(graph);
  const byId = new Map((done.children ?? []).map((c) => [c.id, c]));
  const links = new Map((done.edges ?? []).map((e) => [e.id, e]));
  return {
    width: done.width ?? 0,
    height: done.height ?? 0,
    blocks: s.blocks.map((b) => {
      const c = byId.get(b.id)!;
      return {
        ...b,
        x: c.x ?? 0,
        y: c.y ?? 0,
        at: Object.fromEntries(
          b.kind === 'splice' ? b.ports.map((p) => [p.id, { x: 5, y: 5 }]) : ports(b).map((p) => [p.id, { x: p.x, y: p.y }]),
        ),
      };
    }),
    links: s.links.map((l) => ({
      ...l,
      points: (links.get(l.id)?.sections ?? []).flatMap((x) => [x.startPoint, ...(x.bendPoints ?? []), x.endPoint]),
    })),
  };
}

const endOf = (s: Schematic, end: Link['from']): string =>
  s.blocks.find((b) => b.id === end.block)!.kind === 'splice' ? end.block : `port ${end.port}`;

function ports(b: Block): { id: string; x: number; y: number }[] {
  const top =
    b.kind === 'fuse' || b.kind === 'plug' ? 20 : b.kind === 'ground' ? 8 : plain(b) ? b.height / 2 : (b.note ? 36 : 22) + ROW / 2;
  return (['in', 'out'] as const).flatMap((side) =>
    b.ports.filter((p) => p.side === side).map((p, i) => ({ id: p.id, x: side === 'in' ? 0 : b.width, y: top + i * ROW })),
  );
}
