import { labels } from './labels';
import type { Layout, PlacedBlock, PlacedLink } from './layout';
import { plain } from './schematic';

/** What a drawn schematic is made of, in the layout's units. */
export type Stroke =
  | { kind: 'line'; points: { x: number; y: number }[]; colour: string; width: number; dash?: string }
  | { kind: 'box'; x: number; y: number; w: number; h: number; r: number; dash?: string }
  | { kind: 'dot'; x: number; y: number; r: number }
  | { kind: 'text'; x: number; y: number; text: string; size: number; bold: boolean; mono: boolean; anchor: 'start' | 'middle' | 'end' };

/** Drawn colours of the letters of IEC 60757, on white paper. */
export const WIRE_FILL: Readonly<Record<string, string>> = {
  BK: '#1c1c1c',
  BN: '#7a4a21',
  RD: '#c62f24',
  OG: '#e07b1a',
  YE: '#efcd2f',
  GN: '#2b8a48',
  BU: '#2a62b8',
  VT: '#7b46a5',
  GY: '#8c9196',
  WH: '#ffffff',
  PK: '#e69ab0',
  TQ: '#3db5b0',
  GNYE: '#2b8a48',
};
const fill = (letters: string): string => WIRE_FILL[letters] ?? '#888888';

/** A laid-out schematic as strokes, readable without its colours: every wire long enough carries its letters and gauge. */
export function drawSchematic(l: Layout): Stroke[] {
  const says = labels(l, (k) => (k.label ? [k.label] : []), { char: 5.1, height: 8, off: 5 });
  return [
    ...l.links.flatMap(wire),
    ...[...says.values()].map(({ x, y, text }): Stroke => ({
      kind: 'text',
      x,
      y,
      text,
      size: 8.5,
      bold: false,
      mono: true,
      anchor: 'middle',
    })),
    ...l.blocks.flatMap(block),
  ];
}

/** Where on a wire its cut is marked, from its ends. */
const CUT_AT = 12;

/** Short lines across a wire near its ends, each from point to point: it is cut off the shelf. */
export function cutMarks(points: PlacedLink['points']): [Point, Point][] {
  const one = (end: Point, next: Point): [Point, Point][] => {
    const length = Math.hypot(next.x - end.x, next.y - end.y);
    if (length < 2 * CUT_AT) return [];
    const [ux, uy] = [(next.x - end.x) / length, (next.y - end.y) / length];
    const [x, y] = [end.x + ux * CUT_AT, end.y + uy * CUT_AT];
    return [
      [
        { x: x - uy * 6, y: y + ux * 6 },
        { x: x + uy * 6, y: y - ux * 6 },
      ],
    ];
  };
  return points.length < 2 ? [] : [...one(points[0]!, points[1]!), ...one(points.at(-1)!, points.at(-2)!)];
}
type Point = PlacedLink['points'][number];

function wire(l: PlacedLink): Stroke[] {
  const [base, tracer] = l.colour.split('/') as [string, string | undefined];
  const out: Stroke[] = [
    // a ready wire is sheathed, one off the shelf ticked at its ends: told apart without their colours
    ...(l.origin === 'box'
      ? [
          { kind: 'line' as const, points: l.points, colour: '#52646a', width: 7 },
          { kind: 'line' as const, points: l.points, colour: '#ffffff', width: 5.8 },
        ]
      : []),
    ...(l.origin === 'shelf' ? cutMarks(l.points).map((points) => ({ kind: 'line' as const, points, colour: '#16262b', width: 1.4 })) : []),
    { kind: 'line', points: l.points, colour: '#16262b', width: 3.6 },
    { kind: 'line', points: l.points, colour: fill(base), width: 2.1 },
  ];
  if (tracer) out.push({ kind: 'line', points: l.points, colour: fill(tracer), width: 1.2, dash: '8 6' });
  return out;
}

function block(b: PlacedBlock): Stroke[] {
  const at = (x: number, y: number) => ({ x: b.x + x, y: b.y + y });
  const line = (...points: [number, number][]): Stroke => ({
    kind: 'line',
    points: points.map(([x, y]) => at(x, y)),
    colour: '#16262b',
    width: 1.6,
  });
  const text = (x: number, y: number, t: string, more: Partial<Extract<Stroke, { kind: 'text' }>> = {}): Stroke => ({
    kind: 'text',
    ...at(x, y),
    text: t,
    size: 12,
    bold: false,
    mono: false,
    anchor: 'start',
    ...more,
  });
  const dots = b.ports.map((p): Stroke => ({ kind: 'dot', ...at(b.at[p.id]!.x, b.at[p.id]!.y), r: 2.6 }));
  switch (b.kind) {
    case 'splice':
      return [{ kind: 'dot', ...at(5, 5), r: 4.5 }];
    case 'ground':
      return [line([0, 8], [15, 8], [15, 16]), line([5, 16], [25, 16]), line([9, 20.5], [21, 20.5]), line([13, 25], [17, 25])];
    case 'fuse':
      return [
        { kind: 'box', ...at(10, 12), w: 44, h: 16, r: 3 },
        line([0, 20], [64, 20]),
        text(32, 8, b.title, { bold: true, mono: true, anchor: 'middle' }),
      ];
    case 'flag': {
      const [back, tip] = b.ports[0]!.side === 'in' ? [0, b.width] : [b.width, 0];
      const slant = b.ports[0]!.side === 'in' ? b.width - 6 : 6;
      return [
        line([back, 0], [slant, 0], [tip, b.height / 2], [slant, b.height], [back, b.height], [back, 0]),
        text(b.width / 2, 13, b.title, { bold: true, mono: true, anchor: 'middle' }),
      ];
    }
    case 'plug':
      return [
        line([0, 20], [24, 20]),
        line([40, 20], [64, 20]),
        line([30, 28], [24, 28], [24, 12], [30, 12]),
        line([34, 12], [40, 12], [40, 28], [34, 28]),
        text(32, 8, 'plug', { anchor: 'middle' }),
      ];
  }
  const left = b.kind === 'point' ? 14 : 9;
  return [
    {
      kind: 'box',
      ...at(0, 0),
      w: b.width,
      h: b.height,
      r: b.kind === 'point' ? b.height / 2 : 5,
      dash: b.kind === 'relay' || b.kind === 'supply' ? '6 3' : undefined,
    },
    text(left, 16, b.title, { size: 13, bold: true }),
    ...(b.note.trim() ? [text(left, 30, b.note)] : []),
    ...(plain(b)
      ? []
      : b.ports
          .filter((p) => p.label)
          .map((p) => text(p.side === 'in' ? 9 : b.width - 9, b.at[p.id]!.y + 4, p.label, { anchor: p.side === 'in' ? 'start' : 'end' }))),
    ...dots,
  ];
}

const esc = (s: string): string => s.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');
const n = (x: number): string => String(Number(x.toFixed(2)));

/** The schematic as a file of scalable graphics on its own. */
export function schematicSvg(l: Layout, title: string): string {
  const parts = drawSchematic(l).map((s) => {
    switch (s.kind) {
      case 'line':
        return `<polyline points="${s.points.map((p) => `${n(p.x)},${n(p.y)}`).join(' ')}" fill="none" stroke="${s.colour}" stroke-width="${s.width}" stroke-linejoin="round"${s.dash ? ` stroke-dasharray="${s.dash}"` : ''}/>`;
      case 'box':
        return `<rect x="${n(s.x)}" y="${n(s.y)}" width="${n(s.w)}" height="${n(s.h)}" rx="${n(s.r)}" fill="#ffffff" stroke="#16262b" stroke-width="1.5"${s.dash ? ` stroke-dasharray="${s.dash}"` : ''}/>`;
      case 'dot':
        return `<circle cx="${n(s.x)}" cy="${n(s.y)}" r="${s.r}" fill="#16262b"/>`;
      case 'text':
        return `<text x="${n(s.x)}" y="${n(s.y)}" font-size="${s.size}" text-anchor="${s.anchor}"${s.bold ? ' font-weight="700"' : ''} font-family="${s.mono ? "'Spline Sans Mono', monospace" : "'Atkinson Hyperlegible Next', sans-serif"}" fill="#16262b">${esc(s.text)}</text>`;
    }
  });
  return `<?xml version="1.0" encoding="UTF-8"?>\n<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 -26 ${n(l.width)} ${n(l.height + 30)}" width="${n(l.width)}" height="${n(l.height + 30)}">\n<title>${esc(title)}</title>\n<rect x="0" y="-26" width="100%" height="100%" fill="#ffffff"/>\n<text x="8" y="-8" font-size="14" font-weight="700" font-family="'Atkinson Hyperlegible Next', sans-serif" fill="#16262b">${esc(title)}</text>\n${parts.join('\n')}\n</svg>\n`;
}
