import type { Layout } from './layout';
import type { Block, Link, Schematic } from './schematic';

/** Room that a row's flags take at one of its sides. */
const FLAG_ROOM = 50;
/** Room that ground signs take at the end of a row. */
const GROUND_ROOM = 60;
const FLAG = { width: 24, height: 18 };

/**
 * A schematic that is wider than there is room for, broken into rows where the fewest lines cross: a broken line ends
 * at a flag and goes on at the flag of the same number (an interrupted connecting line, after IEC 61082-1).
 * @param s what is drawn
 * @param l the same, laid out in one row
 * @param width what a row may take, in the layout's units
 * @returns `s` itself where it has room, or nothing can be broken
 */
export function fold(s: Schematic, l: Layout, width: number): Schematic {
  const row = new Map<string, number>();
  const cut: Link[] = [];
  for (const part of parts(s)) {
    const all = s.links.filter((x) => part.has(x.from.block));
    // a ground sign stands beside whatever it is the ground of
    const grounds = new Map(l.blocks.flatMap((b) => (b.kind === 'ground' && part.has(b.id) ? [[b.id, b] as const] : [])));
    const placed = l.blocks.filter((b) => part.has(b.id) && !grounds.has(b.id));
    const links = all.filter((x) => !grounds.has(x.to.block) && !grounds.has(x.from.block));
    const breaks = breaksOf(placed, links, width - (grounds.size ? GROUND_ROOM : 0));
    if (!breaks.length) continue;
    for (const b of placed) row.set(b.id, breaks.filter((x) => b.x >= x).length);
    for (const x of all) if (grounds.has(x.to.block)) row.set(x.to.block, row.get(x.from.block)!);
    cut.push(...links.filter((x) => row.get(x.from.block) !== row.get(x.to.block)));
  }
  if (!cut.length) return s;
  const broken = new Set(cut);
  // what comes first is drawn first
  const blocks: Block[] = [...s.blocks].sort((a, b) => (row.get(a.id) ?? 0) - (row.get(b.id) ?? 0));
  const links: Link[] = s.links.filter((x) => !broken.has(x));
  const title = (end: Link['from']) => {
    const b = s.blocks.find((x) => x.id === end.block)!;
    return [b.title, b.ports.find((p) => p.id === end.port)?.label].filter(Boolean).join(', ');
  };
  for (const x of cut) {
    const flag = (side: 'in' | 'out', far: Link['from']): { block: string; port: string } => {
      const id = `${x.id}${side === 'in' ? '<' : '>'}`;
      blocks.push({
        id,
        kind: 'flag',
        title: '',
        note: title(far),
        place: null,
        circuit: x.circuit,
        elements: x.element ? [x.element] : [],
        ports: [{ id, side, label: '', node: null }],
        ...FLAG,
      });
      return { block: id, port: id };
    };
    links.push({ ...x, id: `${x.id}<`, of: x.id, to: flag('in', x.to) });
    links.push({ ...x, id: `${x.id}>`, of: x.id, from: flag('out', x.from) });
  }
  return { blocks, links };
}

/** A laid-out schematic whose broken lines have their numbers, in the order in which they are read. */
export function numbered(l: Layout): Layout {
  const flags = new Map(l.blocks.filter((b) => b.kind === 'flag').map((b) => [b.id, b]));
  const numbers = new Map<string, string>();
  l.links
    .flatMap((k) => (k.of && flags.has(k.to.block) ? [{ of: k.of, at: flags.get(k.to.block)! }] : []))
    .sort((a, b) => a.at.y - b.at.y || a.at.x - b.at.x)
    .forEach(({ of }, i) => numbers.set(of, String(i + 1)));
  const ofBlock = new Map(
    l.links.flatMap((k) => (k.of ? [[flags.has(k.to.block) ? k.to.block : k.from.block, numbers.get(k.of)!] as const] : [])),
  );
  return { ...l, blocks: l.blocks.map((b) => ({ ...b, title: ofBlock.get(b.id) ?? b.title })) };
}

/** Which blocks hang together by lines, in the order of their first blocks. */
export function parts(s: Schematic): Set<string>[] {
  const of = new Map(s.blocks.map((b) => [b.id, new Set([b.id])]));
  for (const x of s.links) {
    const [a, b] = [of.get(x.from.block)!, of.get(x.to.block)!];
    if (a === b) continue;
    for (const id of b) of.set(id, a.add(id));
  }
  return [...new Set(of.values())];
}

/** Where one part is broken: no row wider than there is room for if that can be, then the fewest lines broken, then the evenest rows. */
function breaksOf(blocks: Layout['blocks'], links: readonly Link[], width: number): number[] {
  const [from, to] = [Math.min(...blocks.map((b) => b.x)), Math.max(...blocks.map((b) => b.x + b.width))];
  if (to - from <= width) return [];
  const at = new Map(blocks.map((b) => [b.id, b]));
  // between two layers there is a stretch that no block stands in
  const edges = [...new Set(blocks.map((b) => b.x))].sort((a, b) => a - b).slice(1);
  const free = edges.filter((x) => blocks.every((b) => b.x >= x || b.x + b.width <= x));
  const crossing = (x: number) => links.filter((k) => at.get(k.from.block)!.x < x !== at.get(k.to.block)!.x < x).length;
  const stops = [from, ...free, to];
  const best: { cost: number; breaks: number[] }[] = [{ cost: 0, breaks: [] }];
  for (let j = 1; j < stops.length; j++)
    for (let i = 0; i < j; i++) {
      const wide = stops[j]! - stops[i]! + (i ? FLAG_ROOM : 0) + (j < stops.length - 1 ? FLAG_ROOM : 0);
      const over = Math.max(0, wide - width);
      const cost = best[i]!.cost + over * 1000 + (i ? 1 + crossing(stops[i]!) : 0) + (wide / width) ** 2 / 4;
      if (cost < (best[j]?.cost ?? Infinity)) best[j] = { cost, breaks: i ? [...best[i]!.breaks, stops[i]!] : [] };
    }
  return best.at(-1)!.breaks;
}
