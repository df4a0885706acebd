import type { Trial } from '#model/opening';
import { openPaper } from './paper';

/** A label: what is read from a step away, two small lines, and a mark at its right. */
export interface Label {
  big: string;
  first: string;
  second: string;
  mark: string;
}

/** Labels, thirty to a sheet of 1 by 2 5/8 in. */
export function labelSheet(title: string, trial: Trial | null, labels: readonly Label[], foot: string): Promise<Buffer> {
  const { doc, finish } = openPaper(title, trial);
  const [w, hgt, gap, left, top] = [189, 72, 9, 13.5, 36];
  labels.forEach((c, i) => {
    const k = i % 30;
    if (i && k === 0) doc.addPage();
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
      .text(c.big, x + 9, y + 8, { width: w - 18, height: 20, ellipsis: true });
    doc
      .font('mono')
      .fontSize(12)
      .text(c.mark, x + w - 70, y + 11, { width: 62, align: 'right', lineBreak: false });
    doc
      .font('text')
      .fontSize(8)
      .text(c.first, x + 9, y + 30, { width: w - 18, height: 23, ellipsis: true });
    doc
      .font('mono')
      .fontSize(8)
      .text(c.second, x + 9, y + 54, { lineBreak: false });
  });
  // below the last row of labels
  return finish(foot, 764);
}
