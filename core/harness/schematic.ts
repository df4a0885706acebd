import type { Harness, HarnessElement, HarnessNode, HarnessWire } from '#model/harness';
import { awgName } from '../wire/resistance';

export type BlockKind = 'point' | 'fuse' | 'relay' | 'plug' | 'device' | 'switch' | 'supply' | 'splice' | 'ground' | 'flag';
/** A box of the schematic, or a dot, with the points on its edges where wires end. */
export interface Block {
  id: string;
  kind: BlockKind;
  title: string;
  note: string;
  place: string | null;
  circuit: string | null;
  /** elements of the harness that it stands for */
  elements: string[];
  /** `node`: the point of the network that a port is; none at a flag, which is midway on a wire */
  ports: { id: string; side: 'in' | 'out'; label: string; node: string | null }[];
  width: number;
  height: number;
}
/** A line between two blocks' ports. */
export interface Link {
  id: string;
  /** the line that this is a part of, where it was broken */
  of?: string;
  /** the element it stands for; null for a joint without a wire of its own */
  element: string | null;
  from: { block: string; port: string };
  to: { block: string; port: string };
  /** the point of the network where it begins: its volts are the line's */
  node: string;
  colour: string;
  label: string;
  circuit: string | null;
  /** it leads home to ground, past nothing but joints */
  home: boolean;
  /** ready out of a box, or cut from the shelf; null: a joint without a wire */
  origin: 'box' | 'shelf' | null;
}
export interface Schematic {
  blocks: Block[];
  links: Link[];
}

export const ROW = 17;
const CHAR = 6.6;
/** The name of a device or a relay as its points begin with it. */
export function ownerName(h: Harness, of: string): string {
  const labels = h.nodes.filter((n) => n.of === of && (n.kind === 'terminal' || n.kind === 'relay')).map((n) => n.label);
  const named = h.elements.find((e) => e.of === of && labels.every((l) => l.startsWith(`${e.name}, `)))?.name;
  return named ?? (labels[0] ?? of).slice(0, of.endsWith('#relay') ? labels[0]!.lastIndexOf(', relay') : labels[0]!.lastIndexOf(', '));
}

/** Signs of one size. */
const SMALL: Partial<Record<BlockKind, { width: number; height: number }>> = {
  splice: { width: 10, height: 10 },
  ground: { width: 30, height: 30 },
  fuse: { width: 64, height: 40 },
  plug: { width: 64, height: 40 },
};
/** A feed, or a thing with a plus and a minus only: its wires end at its middle, unnamed. */
export const plain = (b: Pick<Block, 'kind' | 'ports'>): boolean =>
  b.kind === 'point' || (b.kind === 'device' && b.ports.length === 2 && b.ports.every((p) => /\.(plus|minus)$/.test(p.id)));

const isPlus = (h: Harness, node: string): boolean => h.elements.some((e) => e.kind === 'wire' && e.to === node);

/**
 * What is drawn of a harness: each feed as it is found on the unit, its fuse, relay or plug, every device with its
 * terminals, splices, and a ground sign at each return, so that every circuit reads from source to ground.
 */
export function schematicOf(h: Harness): Schematic {
  const blocks = new Map<string, Block>();
  const links: Link[] = [];
  const nodes = new Map(h.nodes.map((n) => [n.id, n]));
  const wires = h.elements.filter((e): e is HarnessWire => e.kind === 'wire');
  /** which block, and which of its ports, a point is drawn at */
  const seat = new Map<string, { block: string; port: string }>();
  const put = (b: Omit<Block, 'width' | 'height'>): Block => {
    const rows = Math.max(b.ports.filter((p) => p.side === 'in').length, b.ports.filter((p) => p.side === 'out').length);
    const wide = (side: 'in' | 'out') => Math.max(0, ...b.ports.filter((p) => p.side === side).map((p) => p.label.length)) * CHAR;
    const small = SMALL[b.kind] ?? (plain(b) ? { width: 0, height: 38 } : null);
    const block: Block = {
      ...b,
      width:
        small?.width ||
        Math.ceil(
          Math.max(
            92,
            Math.min(
              250,
              Math.max(
                b.title.length * 7.3 + 20 + (b.kind === 'relay' ? 68 : 0),
                b.note.length * CHAR + 20,
                plain(b) && b.kind !== 'point' ? b.note.length * CHAR + 76 : 0,
              ),
            ),
            wide('in') + wide('out') + 34,
          ),
        ),
      height: small?.height || (b.note ? 36 : 22) + rows * ROW + 4,
    };
    blocks.set(block.id, block);
    return block;
  };
  const seatAll = (b: Block) => b.ports.forEach((p) => seat.set(p.id, { block: b.id, port: p.id }));
  const used = new Set<string>(wires.flatMap((w) => [w.from, w.to]));
  const added = h.elements.filter((e) => e.circuit !== null);
  added.forEach((e) => {
    if (e.kind === 'fuse') used.add(e.from).add(e.to);
  });

  for (const n of h.nodes) {
    if ((n.kind === 'point' || n.kind === 'unit-wire') && used.has(n.id)) {
      if (n.of !== 'unit') continue;
      seatAll(
        put({
          id: n.id,
          kind: 'point',
          title: n.label,
          note: feedNote(h, n),
          place: n.place,
          circuit: null,
          elements: [],
          ports: [{ id: n.id, side: 'out', label: '', node: n.id }],
        }),
      );
    } else if (n.kind === 'splice')
      seatAll(
        put({
          id: n.id,
          kind: 'splice',
          title: n.label,
          note: '',
          place: n.place,
          circuit: wires.find((w) => w.to === n.id)?.circuit ?? null,
          elements: [],
          ports: [{ id: n.id, side: 'in', label: '', node: n.id }],
        }),
      );
  }
  devices(h, nodes, put, seatAll, used);
  for (const e of added) {
    const plug = e.kind === 'contact' && e.id.endsWith('#plug:contact');
    if (e.of !== null || !(plug || e.kind === 'fuse')) continue;
    const [into, out] = [`${e.id}<`, `${e.id}>`];
    put({
      id: e.id,
      kind: plug ? 'plug' : 'fuse',
      title: e.kind === 'fuse' ? `${e.ratingA} A` : 'plug',
      note: '',
      place: nodes.get(e.from)?.place ?? null,
      circuit: e.circuit,
      elements: [e.id],
      ports: [
        { id: into, side: 'in', label: '', node: e.from },
        { id: out, side: 'out', label: '', node: e.to },
      ],
    });
    const joint = (id: string, node: string, from: Link['from'], to: Link['to']) =>
      links.push({ id, element: e.id, from, to, node, colour: 'RD', label: '', circuit: e.circuit, home: false, origin: null });
    const [before, after] = [seat.get(e.from), seat.get(e.to)];
    if (before) joint(`${e.id}~in`, e.from, before, { block: e.id, port: into });
    if (after) joint(`${e.id}~out`, e.to, { block: e.id, port: out }, after);
    else seat.set(e.to, { block: e.id, port: out });
  }
  // a circuit that nothing feeds yet still begins somewhere
  for (const n of h.nodes)
    if ((n.kind === 'fused' || n.id.endsWith('#30')) && used.has(n.id) && !seat.has(n.id))
      seatAll(
        put({
          id: n.id,
          kind: 'point',
          title: 'no feed yet',
          note: n.label,
          place: n.place,
          circuit: wires.find((w) => w.from === n.id)?.circuit ?? null,
          elements: [],
          ports: [{ id: n.id, side: 'out', label: '', node: n.id }],
        }),
      );
  const home = homeNodes(h, wires);
  let grounds = 0;
  for (const w of wires) {
    const to = nodes.get(w.to)!;
    let end = seat.get(w.to);
    if (to.kind === 'ground') {
      const id = `${w.to}~${++grounds}`;
      put({
        id,
        kind: 'ground',
        title: to.label,
        note: '',
        place: to.place,
        circuit: w.circuit,
        elements: [w.id],
        ports: [{ id, side: 'in', label: '', node: w.to }],
      });
      end = { block: id, port: id };
    }
    const from = seat.get(w.from);
    if (!from || !end) continue;
    links.push({
      id: w.id,
      element: w.id,
      from,
      to: end,
      node: w.from,
      colour: w.colour,
      label: w.awg === null ? w.colour : `${w.colour} ${awgName(w.awg)}`,
      circuit: w.circuit,
      home: home.has(w.from) && home.has(w.to),
      origin: w.box ? 'box' : 'shelf',
    });
  }
  return { blocks: [...blocks.values()], links };
}

/** Points that wires alone lead from to ground. */
function homeNodes(h: Harness, wires: readonly HarnessWire[]): Set<string> {
  const out = new Set(h.nodes.flatMap((n) => (n.kind === 'ground' ? [n.id] : [])));
  for (let more = true; more;) {
    more = false;
    for (const w of wires)
      if (out.has(w.from) !== out.has(w.to)) {
        out.add(w.from).add(w.to);
        more = true;
      }
  }
  return out;
}

function feedNote(h: Harness, n: HarnessNode): string {
  const fuse = h.elements.find((e) => e.kind === 'fuse' && e.id === `${n.id}:fuse`);
  const live = h.elements.find((e) => e.kind === 'contact' && e.id === `${n.id}:live`);
  const parts = [
    fuse?.kind === 'fuse' ? `unit’s fuse ${fuse.ratingA} A` : null,
    n.kind === 'unit-wire' ? 'there already' : live ? 'keyed' : 'constant',
  ];
  return parts.filter((x) => x !== null).join(', ');
}

function devices(
  h: Harness,
  nodes: ReadonlyMap<string, HarnessNode>,
  put: (b: Omit<Block, 'width' | 'height'>) => Block,
  seatAll: (b: Block) => void,
  used: ReadonlySet<string>,
): void {
  const owners = [...new Set(h.nodes.flatMap((n) => (n.of !== null && n.of !== 'unit' ? [n.of] : [])))];
  for (const of of owners) {
    const own = [...nodes.values()].filter((n) => n.of === of && n.kind !== 'inner');
    const inside = h.elements.filter((e) => e.of === of);
    const relay = of.endsWith('#relay');
    const supply = inside.some((e) => e.kind === 'supply' || e.id.includes(':channel-'));
    const works = h.controls.some((c) => c.of === of) && !inside.some((e) => e.kind === 'load');
    const name = ownerName(h, of);
    const watts = inside.reduce((s, e) => s + (e.kind === 'load' ? (e.watts ?? 0) : 0), 0);
    const words = (n: HarnessNode) =>
      relay ? n.id.split('#')[1]! : n.kind === 'point' ? (n.label.split(', ').at(-1) ?? '') : n.label.slice(name.length + 2);
    seatAll(
      put({
        id: of,
        kind: relay ? 'relay' : supply ? 'supply' : works ? 'switch' : 'device',
        title: relay ? 'relay' : name,
        note: relay ? name : works ? ' ' : watts ? `${Number(watts.toPrecision(3))} W` : '',
        place: own[0]!.place,
        circuit: inside.find((e) => e.circuit)?.circuit ?? circuitAt(h, own),
        elements: inside.map((e) => e.id),
        ports: own
          .filter((n) => used.has(n.id) || relay)
          .map((n) => ({
            id: n.id,
            node: n.id,
            side: relay ? (/#(30|86)$/.test(n.id) ? 'in' : 'out') : n.id.endsWith('.minus') ? 'out' : isPlus(h, n.id) ? 'in' : 'out',
            label: words(n),
          })),
      }),
    );
  }
}

const circuitAt = (h: Harness, own: readonly HarnessNode[]): string | null =>
  h.elements.find((e: HarnessElement) => e.circuit !== null && own.some((n) => n.id === e.from || n.id === e.to))?.circuit ?? null;
