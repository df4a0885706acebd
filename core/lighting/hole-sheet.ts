import type { Mount, Point } from '#model/lamp';
import type { Order } from '#model/order';
import type { Sheets } from '#model/sheet';
import type { UnitModel } from '#model/unit-model';
import { fromSegment } from '../distance';
import { round } from '../sum';

/** How far inside the traced line is cut, millimetres: the rest is filed to fit. Common practice, no source. */
export const CUT_INSIDE_MM = 1;
/** Holes up to this are drilled, bigger ones cut or sawn, millimetres. */
const DRILLED_MM = 32;
/** First hole of a drilled one, millimetres (1/8 in). Common practice, no source. */
const PILOT_MM = 3;
/** How near behind a panel something must be to be looked for, millimetres. */
const NEAR_MM = 220;
const NEAR_RUN_MM = 120;

/** A hole sheet: the part's outline, the line to trace, the line to cut, and every hole, from the centre, right and up, millimetres. */
export interface HoleSheet {
  kit: string;
  device: string;
  name: string;
  /** flipped over for the other side */
  mirrored: boolean;
  mount: Mount;
  trace: { kind: 'round'; mm: number } | { kind: 'rect'; w: number; h: number; r: number } | null;
  /** inside the trace */
  cut: HoleSheet['trace'];
  bezel: { w: number; h: number } | null;
  holes: { right: number; up: number; mm: number; pilotMm: number; what: string }[];
  at: Point;
  where: string;
  notes: string[];
  behind: string[];
}

const inset = (t: HoleSheet['trace'], by: number): HoleSheet['trace'] =>
  t === null
    ? null
    : t.kind === 'round'
      ? { kind: 'round', mm: t.mm - 2 * by }
      : { kind: 'rect', w: t.w - 2 * by, h: t.h - 2 * by, r: Math.max(0, t.r - by) };

const xyz = (p: Point): number[] => [p.x, p.y, p.z];

/** What a drill may meet behind a place: things, wires' ways with their hazards, and the panels to take off to look. */
export function whatIsBehind(model: UnitModel, at: Point, own: string): string[] {
  const place = new Map(model.places.map((p) => [p.id, p]));
  const out: string[] = [];
  const panels = model.panels.filter((p) => p.hides.includes(own));
  if (panels.length) out.push(`take off first to look: ${panels.map((p) => p.name).join(', ')}`);
  for (const p of [...model.powerPoints, ...model.grounds]) {
    const spot = place.get(p.place);
    const d = spot ? Math.hypot(spot.x - at.x, spot.y - at.y, spot.z - at.z) : Infinity;
    if (d <= NEAR_MM) out.push(`${p.name}, ${Math.round(d)} mm away`);
  }
  for (const r of model.runs) {
    const [a, b] = [place.get(r.from), place.get(r.to)];
    // its own lead is no surprise
    if (!a || !b || r.from === own || r.to === own) continue;
    const d = fromSegment(xyz(at), xyz(a), xyz(b));
    if (d <= NEAR_RUN_MM)
      out.push(`wires from ${a.name} to ${b.name}${r.hazards.length ? ` (${r.hazards.join(', ')})` : ''}, ${Math.round(d)} mm away`);
  }
  const battery = place.get(model.electrical.battery.place);
  if (battery && Math.hypot(battery.x - at.x, battery.y - at.y, battery.z - at.z) <= NEAR_MM * 2)
    out.push(`${model.electrical.battery.name}: a drill through a live cable burns`);
  return [...new Set(out)].slice(0, 8);
}

const side = (y: number) =>
  Math.abs(y) < 1 ? 'on the centre line' : `${Math.round(Math.abs(y))} mm ${y > 0 ? 'left' : 'right'} of the centre line`;

/** The hole sheets of an order: one for every part with a cut-out or bolts, where the order puts it. A handed part on the right is the left one's mirrored; any other is the same on both sides. */
export function holeSheets(order: Order, sheets: Sheets): HoleSheet[] {
  const places = new Map(sheets.model.places.map((p) => [p.id, p]));
  return sheets.kits.flatMap((k) =>
    k.devices.flatMap((d): HoleSheet[] => {
      const p = places.get(d.place);
      if (!d.mount || !p) return [];
      return [holeSheet(sheets.model, k.id, d.id, d.name, d.mount, p, p.name, !!d.mount.handed && p.y < -1)];
    }),
  );
}

/** One hole sheet, or its mirror for the other side. */
export function holeSheet(
  model: UnitModel,
  kit: string,
  device: string,
  name: string,
  mount: Mount,
  place: Point & { id: string },
  placeName: string,
  mirrored: boolean,
): HoleSheet {
  const m = mirrored ? -1 : 1;
  const trace = mount.cut.kind === 'none' ? null : mount.cut;
  const drilled = trace?.kind === 'round' && trace.mm <= DRILLED_MM;
  const pilot = (mm: number) => (mm > PILOT_MM + 1 ? PILOT_MM : mm);
  const holes = [
    ...(drilled
      ? [{ right: 0, up: 0, mm: trace.mm, pilotMm: pilot(trace.mm), what: mount.grommet ? `lead-through, ${mount.grommet}` : 'through' }]
      : []),
    ...mount.bolts.map((b) => ({ right: m * b.right + 0, up: b.up, mm: b.mm, pilotMm: pilot(b.mm), what: 'bolt' })),
  ];
  return {
    kit,
    device,
    name,
    mirrored,
    mount,
    trace: drilled ? null : trace,
    cut: drilled ? null : inset(trace, CUT_INSIDE_MM),
    bezel: mount.bezel ?? null,
    holes,
    at: { x: place.x, y: place.y, z: place.z },
    where: `centre ${side(place.y)}, ${Math.round(place.z)} mm up (${placeName})`,
    notes: [
      ...(trace && !drilled ? ['Trace the outer line, cut inside it along the dashed one, file to fit, test-fit before glue'] : []),
      ...(mount.grommet ? [`${mount.grommet[0]!.toUpperCase()}${mount.grommet.slice(1)} in the edge where the lead passes`] : []),
      ...(mount.note ? [mount.note] : []),
      'Eyes covered. Measure the ruler before you trust the page',
    ],
    behind: whatIsBehind(model, place, place.id),
  };
}

/** Room that a sheet's drawing takes from its centre, millimetres. */
export function extent(s: HoleSheet): { w: number; h: number } {
  const size = (t: HoleSheet['trace']) => (t === null ? { w: 0, h: 0 } : t.kind === 'round' ? { w: t.mm, h: t.mm } : t);
  const all = [
    size(s.trace),
    s.bezel ?? { w: 0, h: 0 },
    ...s.holes.map((h) => ({ w: 2 * Math.abs(h.right) + h.mm, h: 2 * Math.abs(h.up) + h.mm })),
  ];
  return { w: Math.max(40, ...all.map((a) => a.w)) + 16, h: Math.max(40, ...all.map((a) => a.h)) + 16 };
}

export type Layer = 'part' | 'trace' | 'cut' | 'drill' | 'pilot' | 'centre' | 'ruler' | 'text';
/** Width and dash of each kind of line, millimetres of paper. */
export const LINE: Readonly<Record<Layer, { mm: number; dash?: readonly [number, number] }>> = {
  part: { mm: 0.2, dash: [1, 1] },
  trace: { mm: 0.35 },
  cut: { mm: 0.25, dash: [2.5, 1.2] },
  drill: { mm: 0.35 },
  pilot: { mm: 0.2 },
  centre: { mm: 0.15, dash: [6, 2] },
  ruler: { mm: 0.2 },
  text: { mm: 0 },
};

/** A stroke of a template, millimetres, y up, from the hole's centre. */
export type TemplateStroke =
  | { kind: 'line'; layer: Layer; x1: number; y1: number; x2: number; y2: number }
  | { kind: 'circle'; layer: Layer; x: number; y: number; r: number }
  | { kind: 'rect'; layer: Layer; w: number; h: number; r: number }
  | { kind: 'text'; layer: Layer; x: number; y: number; size: number; text: string; anchor: 'start' | 'middle' };

export const RULER_MM = 100;
export const RULER_IN = 4;

/** A ruler with millimetres on one side and inches on the other, its left end at (x, y). */
export function rulerStrokes(x: number, y: number): TemplateStroke[] {
  const line = (x1: number, y1: number, x2: number, y2: number): TemplateStroke => ({ kind: 'line', layer: 'ruler', x1, y1, x2, y2 });
  const out: TemplateStroke[] = [line(x, y, x + Math.max(RULER_MM, RULER_IN * 25.4), y)];
  for (let i = 0; i <= RULER_MM; i++) out.push(line(x + i, y, x + i, y + (i % 10 === 0 ? 5 : i % 5 === 0 ? 3.5 : 2)));
  for (let i = 0; i <= RULER_IN * 8; i++)
    out.push(line(x + (i * 25.4) / 8, y, x + (i * 25.4) / 8, y - (i % 8 === 0 ? 5 : i % 4 === 0 ? 3.5 : 2)));
  out.push({
    kind: 'text',
    layer: 'text',
    x,
    y: y + 6.5,
    size: 3,
    text: `${RULER_MM} mm above, ${RULER_IN} in below: measure before use`,
    anchor: 'start',
  });
  return out;
}

/** Everything that a template prints at 1:1, as strokes for paper, screen and cutter alike. */
export function templateStrokes(s: HoleSheet): TemplateStroke[] {
  const { w, h } = extent(s);
  const shape = (t: NonNullable<HoleSheet['trace']>, layer: Layer): TemplateStroke =>
    t.kind === 'round' ? { kind: 'circle', layer, x: 0, y: 0, r: t.mm / 2 } : { kind: 'rect', layer, w: t.w, h: t.h, r: t.r };
  const out: TemplateStroke[] = [
    { kind: 'line', layer: 'centre', x1: -w / 2, y1: 0, x2: w / 2, y2: 0 },
    { kind: 'line', layer: 'centre', x1: 0, y1: -h / 2, x2: 0, y2: h / 2 },
  ];
  if (s.bezel) out.push({ kind: 'rect', layer: 'part', w: s.bezel.w, h: s.bezel.h, r: 4 });
  if (s.trace) out.push(shape(s.trace, 'trace'));
  if (s.cut) out.push(shape(s.cut, 'cut'));
  for (const hole of s.holes) {
    out.push({ kind: 'circle', layer: 'drill', x: hole.right, y: hole.up, r: hole.mm / 2 });
    if (hole.pilotMm < hole.mm) out.push({ kind: 'circle', layer: 'pilot', x: hole.right, y: hole.up, r: hole.pilotMm / 2 });
    out.push({
      kind: 'text',
      layer: 'text',
      x: hole.right + hole.mm / 2 + 1.5,
      y: hole.up + 1.2,
      size: 2.6,
      text: `${round(hole.mm)}`,
      anchor: 'start',
    });
  }
  out.push({ kind: 'text', layer: 'text', x: 0, y: h / 2 - 4, size: 3, text: 'UP', anchor: 'middle' });
  return out;
}

/** A template as scalable graphics in true millimetres, with its ruler beneath. */
export function templateSvg(s: HoleSheet, title: string): string {
  const { w, h } = extent(s);
  const wide = Math.max(w, RULER_IN * 25.4 + 12);
  const high = h + 30;
  const strokes = [...templateStrokes(s), ...rulerStrokes(-RULER_MM / 2, -h / 2 - 14)];
  const esc = (t: string) => t.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');
  const look = (l: Layer) => `stroke-width="${LINE[l].mm}"${LINE[l].dash ? ` stroke-dasharray="${LINE[l].dash!.join(' ')}"` : ''}`;
  const n = (x: number) => Number(x.toFixed(3));
  const body = strokes.map((k) => {
    const at = `class="${k.layer}" ${look(k.layer)}`;
    if (k.kind === 'line') return `<line ${at} x1="${n(k.x1)}" y1="${n(-k.y1)}" x2="${n(k.x2)}" y2="${n(-k.y2)}"/>`;
    if (k.kind === 'circle') return `<circle ${at} cx="${n(k.x)}" cy="${n(-k.y)}" r="${n(k.r)}"/>`;
    if (k.kind === 'rect') return `<rect ${at} x="${n(-k.w / 2)}" y="${n(-k.h / 2)}" width="${n(k.w)}" height="${n(k.h)}" rx="${n(k.r)}"/>`;
    return `<text x="${n(k.x)}" y="${n(-k.y)}" font-size="${k.size}" text-anchor="${k.anchor}" fill="#000" stroke="none" font-family="sans-serif">${esc(k.text)}</text>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${n(wide)}mm" height="${n(high)}mm" viewBox="${n(-wide / 2)} ${n(-h / 2)} ${n(wide)} ${n(high)}" fill="none" stroke="#000"><title>${esc(title)}</title>${body.join('')}</svg>`;
}
