import { encode } from 'uqr';
import type { Trial } from '#model/opening';
import { openPaper } from './paper';

/** A label: what is read from a step away, two small lines, and a mark at its right. */
export interface Label {
  big: string;
  first: string;
  second: string;
  mark: string;
  /** for a scanner, drawn in the corner */
  code?: string;
}

/** Side of a code, points: 17 mm, which a telephone reads at arm’s length. */
const CODE = 48;

/** A QR code (ISO/IEC 18004) of a text, dark squares on the paper. */
function drawCode(doc: PDFKit.PDFDocument, text: string, x: number, y: number): void {
  const { data, size } = encode(text, { ecc: 'M', border: 0 });
  const side = CODE / size;
  data.forEach((line, j) => line.forEach((dark, i) => dark && doc.rect(x + i * side, y + j * side, side, side)));
  doc.fill('black');
}

/** Labels, thirty to a sheet of 1 by 2 5/8 in. */
export async function labelSheet(title: string, trial: Trial | null, labels: readonly Label[], foot: string): Promise<Buffer> {
  const { doc, finish } = await openPaper(title, trial);
  const [w, hgt, gap, left, top] = [189, 72, 9, 13.5, 36];
  labels.forEach((c, i) => {
    const k = i % 30;
    if (i && k === 0) doc.addPage();
    const room = w - 18 - (c.code === undefined ? 0 : CODE + 6);
    const x = left + (k % 3) * (w + gap);
    const y = top + Math.floor(k / 3) * hgt;
    doc
      .roundedRect(x + 2, y + 2, w - 4, hgt - 4, 4)
      .lineWidth(0.4)
      .dash(2, { space: 2 })
      .stroke('black')
      .undash();
    doc
      .fillColor('black')
      .font('bold')
      .fontSize(17)
      .text(c.big, x + 9, y + 8, { width: room, height: 20, ellipsis: true });
    doc
      .font('mono')
      .fontSize(12)
      .text(c.mark, x + w - 70, y + 11, { width: 62, align: 'right', lineBreak: false });
    doc
      .font('text')
      .fontSize(8)
      .text(c.first, x + 9, y + 30, { width: room, height: 23, ellipsis: true });
    doc
      .font('mono')
      .fontSize(8)
      .text(c.second, x + 9, y + 54, { lineBreak: false });
    if (c.code !== undefined) drawCode(doc, c.code, x + w - CODE - 8, y + (hgt - CODE) / 2);
  });
  // below the last row of labels
  return finish(foot, 764);
}
