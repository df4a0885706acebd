import { DxfWriter, LWPolylineFlags, point2d, point3d, Units } from '@tarikjabiri/dxf';
import { aimCard } from '#core/lighting/aim';
import { LOCAL_CODE } from '#core/lighting/check';
import {
  extent,
  holeSheet,
  LINE,
  rulerStrokes,
  RULER_MM,
  templateStrokes,
  type HoleSheet,
  type Layer,
  type TemplateStroke,
} from '#core/lighting/hole-sheet';
import type { Lamp } from '#core/lighting/lamp';
import { sayInUnits, showQuantity, type UnitSystem } from '#core/quantity/quantity';
import type { UnitModel } from '#model/unit-model';
import { MARGIN, openPaper } from './paper';
import type { Heading } from './wiring-pdf';

/** What printers leave white at the edge, points. */
const EDGE = 26;
/** How much of a wall strip a page holds, millimetres. */
const STRIP_MM = 195;
/** Points of paper in a millimetre. */
const PT = 72 / 25.4;
const foot = (h: Heading) => `Order ${h.order} · ${h.unit} · ${h.identity || 'no number'}`;

type Doc = Awaited<ReturnType<typeof openPaper>>['doc'];

/** Draws strokes at true scale with their origin at a point of the page. */
function draw(doc: Doc, strokes: readonly TemplateStroke[], x: number, y: number): void {
  for (const s of strokes) {
    if (s.kind === 'text') {
      doc
        .font('text')
        .fontSize(s.size * PT)
        .fillColor('black');
      const w = doc.widthOfString(s.text);
      doc.text(s.text, x + s.x * PT - (s.anchor === 'middle' ? w / 2 : 0), y - s.y * PT - s.size * PT * 0.8, { lineBreak: false });
      continue;
    }
    if (s.kind === 'line') doc.moveTo(x + s.x1 * PT, y - s.y1 * PT).lineTo(x + s.x2 * PT, y - s.y2 * PT);
    else if (s.kind === 'circle') doc.circle(x + s.x * PT, y - s.y * PT, s.r * PT);
    else if (s.r > 0) doc.roundedRect(x - (s.w / 2) * PT, y - (s.h / 2) * PT, s.w * PT, s.h * PT, s.r * PT);
    else doc.rect(x - (s.w / 2) * PT, y - (s.h / 2) * PT, s.w * PT, s.h * PT);
    const { dash, mm } = LINE[s.layer];
    if (dash) doc.dash(dash[0] * PT, { space: dash[1] * PT });
    doc.lineWidth(mm * PT).stroke('black');
    if (dash) doc.undash();
  }
}

const spot = (x: number, more: string, less: string) => (x === 0 ? `0 ${more}` : `${Math.abs(x)} ${x > 0 ? more : less}`);

/** The sheet's own mirror image, for the other side of the unit. */
export const mirrorOf = (model: UnitModel, s: HoleSheet, place: { id: string; name: string }): HoleSheet =>
  holeSheet(model, s.kit, s.device, s.name, s.mount, { id: place.id, x: s.at.x, y: -s.at.y, z: s.at.z }, 'the other side', !s.mirrored);

/** Hole sheets at 1:1, a page each; one wider than a page goes over several with an overlap. */
export async function holeSheetPdf(list: readonly HoleSheet[], h: Heading, units: UnitSystem): Promise<Buffer> {
  const said = (text: string) => sayInUnits(text, units);
  const { doc, width, finish } = await openPaper(`Hole sheets, order ${h.order}`, h.trial);
  list.forEach((s, i) => {
    const { w, h: high } = extent(s);
    // the template may use the paper almost to its edge
    const wide = doc.page.width - 2 * EDGE;
    const top = MARGIN + 96;
    const room = doc.page.height - top - MARGIN - 170;
    const across = Math.max(1, Math.ceil((w * PT) / wide));
    const down = Math.max(1, Math.ceil((high * PT) / room));
    for (let row = 0; row < down; row++)
      for (let col = 0; col < across; col++) {
        if (i || row || col) doc.addPage();
        doc
          .font('bold')
          .fontSize(15)
          .fillColor('black')
          .text(
            `${s.name}: ${s.trace ? 'hole and cut-out' : 'holes'}, 1:1${s.mirrored ? ', mirrored for the right side' : ''}`,
            MARGIN,
            MARGIN,
            { width },
          );
        doc
          .font('text')
          .fontSize(9)
          .text(
            `${h.unit}, order ${h.order}, ${h.owner}. ${said(s.where)}.${across * down > 1 ? ` Part ${row * across + col + 1} of ${across * down}: lay the pages edge to edge on the centre lines.` : ''}`,
            MARGIN,
            doc.y + 2,
            { width },
          );
        s.notes.forEach((t) => doc.text(`· ${said(t)}.`, MARGIN, doc.y, { width }));
        doc.save();
        doc.rect(EDGE, top, wide, room).clip();
        draw(
          doc,
          templateStrokes(s),
          EDGE + (across === 1 ? wide / 2 : (w / 2) * PT - col * wide),
          top + (down === 1 ? room / 2 : (high / 2) * PT - row * room),
        );
        doc.restore();
        draw(doc, rulerStrokes(0, 0), MARGIN + 4, top + room + 30);
        doc.font('mono').fontSize(8).fillColor('black');
        const lines = s.holes.map(
          (hole) =>
            `${hole.what}: ${hole.mm} mm${hole.pilotMm < hole.mm ? `, pilot ${hole.pilotMm} mm` : ''}, ${spot(hole.right, 'right', 'left')}, ${spot(hole.up, 'up', 'down')}`,
        );
        doc.text(said(lines.join('\n')) || 'no holes but the cut-out', MARGIN + RULER_MM * PT + 30, top + room + 12, {
          width: width - RULER_MM * PT - 30,
        });
        const y = top + room + 78;
        doc.font('bold').fontSize(9).text('Look behind before drilling', MARGIN, y);
        doc
          .font('text')
          .fontSize(8.5)
          .text(
            s.behind.length ? s.behind.map((b) => `· ${said(b)}`).join('\n') : '· nothing is known to be there: look all the same',
            MARGIN,
            doc.y,
            { width },
          );
      }
  });
  return finish(foot(h));
}

/** A template for a cutter or a drawing program, in millimetres, one layer for each kind of line. */
export function holeSheetDxf(s: HoleSheet): string {
  const dxf = new DxfWriter();
  dxf.setUnits(Units.Millimeters);
  const layers: Layer[] = ['part', 'trace', 'cut', 'drill', 'pilot', 'centre', 'ruler', 'text'];
  layers.forEach((l, i) => dxf.addLayer(l.toUpperCase(), i + 1, 'Continuous'));
  const { h } = extent(s);
  for (const k of [...templateStrokes(s), ...rulerStrokes(-RULER_MM / 2, -h / 2 - 14)]) {
    dxf.setCurrentLayerName(k.layer.toUpperCase());
    if (k.kind === 'line') dxf.addLine(point3d(k.x1, k.y1), point3d(k.x2, k.y2));
    else if (k.kind === 'circle') dxf.addCircle(point3d(k.x, k.y), k.r);
    else if (k.kind === 'text') dxf.addText(point3d(k.x, k.y), k.size, k.text);
    else {
      const [x, y, r] = [k.w / 2, k.h / 2, Math.min(k.r, k.w / 2, k.h / 2)];
      // a quarter turn's bulge is the tangent of a sixteenth of a circle
      const bulge = r > 0 ? Math.tan(Math.PI / 8) : 0;
      const corner = (px: number, py: number, b: number) => ({ point: point2d(px, py), bulge: b });
      const vertices =
        r > 0
          ? [
              corner(-x + r, -y, 0),
              corner(x - r, -y, bulge),
              corner(x, -y + r, 0),
              corner(x, y - r, bulge),
              corner(x - r, y, 0),
              corner(-x + r, y, bulge),
              corner(-x, y - r, 0),
              corner(-x, -y + r, bulge),
            ]
          : [corner(-x, -y, 0), corner(x, -y, 0), corner(x, y, 0), corner(-x, y, 0)];
      dxf.addLWPolyline(vertices, { flags: LWPolylineFlags.Closed });
    }
  }
  return dxf.stringify();
}

/** The aim card: a table of lines for the wall, and for each height of lamp a strip at 1:1 to tape to it. */
export async function aimPdf(lamps: readonly Lamp[], distanceM: number, h: Heading, units: UnitSystem): Promise<Buffer> {
  const { doc, width, heading, para, table, finish } = await openPaper(`Aim card, order ${h.order}`, h.trial);
  const card = aimCard(lamps, distanceM);
  const len = (m: number) => showQuantity(m, 'length', units);
  const small = (m: number) => showQuantity(m * 1000, 'smallLength', units);
  doc.font('bold').fontSize(15).text(`${h.unit}: aim card`, MARGIN, MARGIN, { width });
  para(`Order ${h.order}, ${h.owner}. Level ground, tyres right, usual load aboard, lamps ${len(distanceM)} from the wall. ${LOCAL_CODE}`);
  heading('Lines on the wall, from the ground');
  table(
    [
      { head: 'Lamp', width: 26 },
      { head: 'Lamp is up', width: 13, mono: true },
      { head: 'From centre line', width: 15, mono: true },
      { head: 'Beam’s middle', width: 14, mono: true },
      { head: 'Between', width: 22, mono: true },
      { head: 'Falls', width: 10, mono: true },
      { head: 'Meets the ground', width: 14, mono: true },
      { head: 'Outward', width: 12, mono: true },
      { head: 'Source', width: 22 },
    ],
    card.map((c) => [
      c.lamp.name,
      small(c.mountM),
      `${small(Math.abs(c.sideM))} ${c.sideM > 0.001 ? 'left' : c.sideM < -0.001 ? 'right' : ''}`,
      c.wallM > 0 ? small(c.wallM) : 'ground',
      `${small(Math.max(0, c.lowM))} to ${small(c.highM)}`,
      `${c.band.setPct} %`,
      c.reachM === null ? '–' : len(c.reachM),
      c.outM > 0 ? small(c.outM) : '–',
      c.band.source,
    ]),
  );
  if (!card.length) para('No lamp that is aimed has a known place.');
  // one strip for each height of lamp; a long one goes over several pages
  const strips = card.filter((c, i) => card.findIndex((o) => o.mountM === c.mountM && o.band.setPct === c.band.setPct) === i);
  const alike = (c: (typeof card)[0]) =>
    card
      .filter((o) => o.mountM === c.mountM && o.band.setPct === c.band.setPct)
      .map((o) => o.lamp.name)
      .join(', ');
  for (const c of strips) {
    const long = (c.mountM - c.lowM) * 1000;
    const pages = Math.max(1, Math.ceil((long - 1e-6) / STRIP_MM));
    for (let n = 0; n < pages; n++) {
      doc.addPage();
      doc
        .font('bold')
        .fontSize(13)
        .text(`Wall strip, 1:1: ${alike(c)}${pages > 1 ? `, part ${n + 1} of ${pages}` : ''}`, MARGIN, MARGIN, { width });
      doc.font('text').fontSize(9);
      doc.text(
        n
          ? `The line at the top lies on the line at the foot of part ${n}.`
          : `Tape it to the wall ${len(distanceM)} away, the thick line ${small(c.mountM)} from the ground, the arrow straight ahead of the lamp.`,
        MARGIN,
        doc.y + 2,
        { width },
      );
      const top = MARGIN + 60;
      const line = (mm: number, text: string, w: number) => {
        const at = mm - n * STRIP_MM;
        if (at < -1e-6 || at > STRIP_MM + 1e-6) return;
        const y = top + at * PT;
        doc
          .moveTo(MARGIN, y)
          .lineTo(MARGIN + width, y)
          .lineWidth(w)
          .stroke('black');
        doc
          .font('text')
          .fontSize(9)
          .fillColor('black')
          .text(text, MARGIN + 4, y + 2, { lineBreak: false });
      };
      const mark = (m: number, text: string, w: number) => line((c.mountM - m) * 1000, text, w);
      mark(c.mountM, `height of the lamp, ${small(c.mountM)}`, 2);
      mark(c.highM, `no higher: ${c.band.lowPct} %`, 0.6);
      mark(c.wallM, `beam’s middle here: ${c.band.setPct} %`, 1.4);
      mark(c.lowM, `no lower: ${c.band.highPct} %`, 0.6);
      if (n) line(n * STRIP_MM, `join to part ${n}`, 0.4);
      if (n < pages - 1) line((n + 1) * STRIP_MM, `join to part ${n + 2}`, 0.4);
      doc
        .moveTo(MARGIN + width / 2, top - 8)
        .lineTo(MARGIN + width / 2, top + Math.min(STRIP_MM, long - n * STRIP_MM + 5) * PT)
        .lineWidth(0.5)
        .stroke('black');
      draw(doc, rulerStrokes(0, 0), MARGIN + 4, doc.page.height - MARGIN - 34);
    }
  }
  return finish(foot(h));
}
