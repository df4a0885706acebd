import type { SpliceRow, CutRow } from '#core/harness/cut-list';
import { drawSchematic } from '#core/harness/draw';
import type { Layout } from '#core/harness/layout';
import { showQuantity, type UnitSystem } from '#core/quantity/quantity';
import { awgName } from '#core/wire/resistance';
import type { HarnessFuse } from '#model/harness';
import type { Trial } from '#model/opening';
import { labelSheet } from './label-sheet';
import { MARGIN, openPaper } from './paper';

/** What stands at the head and foot of a paper. */
export interface Heading {
  order: number;
  unit: string;
  identity: string;
  owner: string;
  /** it is no customer’s: every page says so */
  trial: Trial | null;
}
export const foot = (h: Heading) => `Order ${h.order} · ${h.unit} · ${h.identity || 'no number'}`;
const CAUTION = 'Power off and proved dead before any joint. Local codes and licensed practice have the last word.';
/** Type below this cannot be read at the bench, points; a schematic that would fall below goes over several pages. */
const LEAST_TYPE = 6;

/** The schematic on paper, landscape; cut into pages with an overlap when one would be too small to read. */
export async function schematicPdf(l: Layout, h: Heading): Promise<Buffer> {
  const { doc, width, finish } = await openPaper(`Schematic, order ${h.order}`, h.trial, 'landscape');
  const top = MARGIN + 22;
  const high = doc.page.height - top - MARGIN - 10;
  const fit = Math.min(width / l.width, high / l.height, 1);
  const scale = Math.max(fit, LEAST_TYPE / 12);
  const overlap = 40;
  const across = Math.max(1, Math.ceil((l.width * scale - overlap) / (width - overlap)));
  const down = Math.max(1, Math.ceil((l.height * scale - overlap) / (high - overlap)));
  const strokes = drawSchematic(l);
  for (let row = 0; row < down; row++)
    for (let col = 0; col < across; col++) {
      if (row || col) doc.addPage();
      doc
        .font('bold')
        .fontSize(12)
        .fillColor('black')
        .text(`${h.unit}, added wiring`, MARGIN, MARGIN - 8, { lineBreak: false });
      doc
        .font('text')
        .fontSize(8)
        .text(
          `${across * down > 1 ? `part ${row * across + col + 1} of ${across * down}; ` : ''}order ${h.order}, ${h.owner}. ${CAUTION}`,
          MARGIN,
          MARGIN + 8,
          { lineBreak: false },
        );
      doc.save();
      doc.rect(MARGIN, top, width, high).clip();
      doc.translate(MARGIN - col * (width - overlap), top - row * (high - overlap)).scale(scale);
      for (const s of strokes) {
        if (s.kind === 'line') {
          s.points.forEach((p, i) => (i ? doc.lineTo(p.x, p.y) : doc.moveTo(p.x, p.y)));
          doc.lineWidth(s.width).lineJoin('round');
          if (s.dash) doc.dash(8, { space: 6 });
          doc.stroke(s.colour);
          if (s.dash) doc.undash();
        } else if (s.kind === 'box') {
          doc.roundedRect(s.x, s.y, s.w, s.h, Math.min(s.r, s.h / 2)).lineWidth(1.5);
          if (s.dash) doc.dash(6, { space: 3 });
          doc.fillAndStroke('white', 'black');
          if (s.dash) doc.undash();
        } else if (s.kind === 'dot') doc.circle(s.x, s.y, s.r).fill('black');
        else {
          doc
            .font(s.bold ? 'bold' : s.mono ? 'mono' : 'text')
            .fontSize(s.size)
            .fillColor('black');
          const w = doc.widthOfString(s.text);
          doc.text(s.text, s.x - (s.anchor === 'middle' ? w / 2 : s.anchor === 'end' ? w : 0), s.y - s.size * 0.85, { lineBreak: false });
        }
      }
      doc.restore();
    }
  return finish(foot(h));
}

/** Cut list, splice sheet and leads to cap on paper. */
export async function cutListPdf(
  rows: readonly (CutRow & { stock: string })[],
  splices: readonly (SpliceRow & { placeName: string })[],
  caps: readonly string[],
  h: Heading,
  units: UnitSystem,
): Promise<Buffer> {
  const { doc, width, heading, para, table, finish } = await openPaper(`Cut list, order ${h.order}`, h.trial);
  doc.font('bold').fontSize(15).text(`${h.unit}: cut list and splices`, MARGIN, MARGIN, { width });
  para(`Order ${h.order}, ${h.owner}, ${h.identity || 'no number'}. ${CAUTION}`);
  if (!rows.length) {
    heading('Nothing is cut');
    para('Every wire comes ready out of a box.');
  } else {
    heading(rows.length === 1 ? 'One piece to cut' : `${rows.length} pieces to cut`);
    table(
      [
        { head: '', width: 7, mono: true },
        { head: 'Colour', width: 10, mono: true },
        { head: 'AWG', width: 7, mono: true },
        { head: 'Length', width: 13, mono: true },
        { head: 'From', width: 26 },
        { head: 'To', width: 26 },
        { head: 'Slide on first', width: 16 },
        { head: 'Strip', width: 9, mono: true },
        { head: 'Cut from', width: 14 },
      ],
      rows.map((r) => [
        r.label,
        r.colour,
        r.awg === null ? '?' : awgName(r.awg),
        r.lengthM === null ? 'to measure' : showQuantity(r.lengthM, 'length', units),
        `${r.from} (${r.ends[0]})`,
        `${r.to} (${r.ends[1]})`,
        r.slideOn.join(', '),
        r.stripMm === null ? '–' : showQuantity(r.stripMm, 'smallLength', units),
        r.stock,
      ]),
    );
  }
  if (splices.length) {
    heading('Splice sheet');
    table(
      [
        { head: 'Where', width: 34 },
        { head: 'Place', width: 22 },
        { head: 'Unit side', width: 14, mono: true },
        { head: 'Kit side', width: 20, mono: true },
        { head: 'Joint', width: 20 },
        { head: 'Tug', width: 11, mono: true },
      ],
      splices.map((s) => [
        s.at,
        s.placeName,
        s.from.join(' '),
        s.to.join(' '),
        s.joint,
        s.pull ? showQuantity(s.pull.newtons, 'force', units) : '–',
      ]),
    );
  }
  if (caps.length) {
    heading('Cap and tie back');
    caps.forEach((c) => para(`· ${c}`));
  }
  para('Lengths with slack, strip lengths and what slides on: common practice, no source. Tug test: ABYC E-11.');
  return finish(foot(h));
}

/** Labels of wires and fuses, thirty to a sheet of 1 by 2 5/8 in. */
export function labelsPdf(rows: readonly CutRow[], fuses: readonly HarnessFuse[], h: Heading, units: UnitSystem): Promise<Buffer> {
  const labels = [
    ...fuses.map((f) => ({
      big: `${f.ratingA} A`,
      first: f.name,
      second: `${f.family === 'blade' ? 'blade fuse' : 'bolt-in fuse'}, order ${h.order}`,
      mark: '',
    })),
    ...rows.map((r) => ({
      big: r.label,
      first: `${r.from} to ${r.to}`,
      second: `${r.awg === null ? '?' : `${awgName(r.awg)} AWG`}, ${r.lengthM === null ? 'to measure' : showQuantity(r.lengthM, 'length', units)}`,
      mark: r.colour,
    })),
  ];
  return labelSheet(`Labels, order ${h.order}`, h.trial, labels, foot(h));
}
