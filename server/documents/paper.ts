import type { Trial } from '#model/opening';
import { fonts } from './fonts';

export const MARGIN = 42;
/** Where a page says that it is no customer’s, points from the top. */
const MARK_Y = 18;

export interface Column {
  head: string;
  width: number;
  mono?: boolean;
  /** the first line of a cell leads: it is bold */
  leads?: boolean;
}

/** What stands at the top of every page that is no customer’s. */
const NOT_REAL: Record<Trial, string> = {
  demo: 'DEMONSTRATION: no customer’s unit, readings invented',
  practice: 'PRACTICE: no customer’s unit, readings may be simulated',
};

/**
 * A paper of the shop: US Letter, black on white, readable when photocopied. `finish` numbers the pages.
 * @param textSize of running text, points
 * @param trial marks each page of an order that is no customer’s work
 */
export async function openPaper(title: string, trial: Trial | null, layout: 'portrait' | 'landscape' = 'portrait', textSize = 9) {
  // loaded with the first paper: a server that begins has people waiting who want none
  const { default: PDFDocument } = await import('pdfkit');
  const doc = new PDFDocument({ size: 'LETTER', layout, margin: MARGIN, bufferPages: true, info: { Title: title, Creator: 'Kadro' } });
  const { text, bold, mono } = fonts();
  doc.registerFont('text', text).registerFont('bold', bold).registerFont('mono', mono);
  const chunks: Buffer[] = [];
  doc.on('data', (c: Buffer) => chunks.push(c));
  const width = doc.page.width - 2 * MARGIN;
  const bottom = () => doc.page.height - MARGIN - 14;
  const room = (h: number) => {
    if (doc.y + h > bottom()) doc.addPage();
  };
  const heading = (t: string) => {
    room(72);
    doc.moveDown(0.7).font('bold').fontSize(11).fillColor('black').text(t, MARGIN);
    doc
      .moveTo(MARGIN, doc.y + 1)
      .lineTo(MARGIN + width, doc.y + 1)
      .lineWidth(0.7)
      .stroke();
    doc.moveDown(0.35);
  };
  const para = (t: string) => {
    room(14);
    doc.font('text').fontSize(textSize).text(t, MARGIN, doc.y, { width });
  };
  const table = (cols: Column[], rows: (string | number | null)[][]) => {
    const scale = width / cols.reduce((a, c) => a + c.width, 0);
    const draw = (cells: string[], bold: boolean) => {
      const face = (i: number) => (bold ? 'bold' : cols[i]!.mono ? 'mono' : 'text');
      const parts = cells.map((c, i): { font: string; text: string }[] => {
        const [first, ...rest] = cols[i]!.leads && !bold ? c.split('\n') : [c];
        return [
          { font: cols[i]!.leads ? 'bold' : face(i), text: first! },
          ...(rest.length ? [{ font: face(i), text: rest.join('\n') }] : []),
        ];
      });
      const heightOf = (part: { font: string; text: string }, i: number) =>
        doc
          .font(part.font)
          .fontSize(8)
          .heightOfString(part.text, { width: cols[i]!.width * scale - 6 });
      const h = Math.max(...parts.map((cell, i) => cell.reduce((s, part) => s + heightOf(part, i), 0))) + 4;
      room(h);
      const y = doc.y;
      let x = MARGIN;
      parts.forEach((cell, i) => {
        let at = y + 2;
        for (const part of cell) {
          const height = heightOf(part, i);
          doc.text(part.text, x, at, { width: cols[i]!.width * scale - 6 });
          at += height;
        }
        x += cols[i]!.width * scale;
      });
      doc.y = y + h;
      doc
        .moveTo(MARGIN, doc.y)
        .lineTo(MARGIN + width, doc.y)
        .lineWidth(bold ? 0.7 : 0.25)
        .stroke();
      doc.x = MARGIN;
    };
    draw(
      cols.map((c) => c.head),
      true,
    );
    rows.forEach((r) =>
      draw(
        r.map((c) => (c === null ? '–' : String(c))),
        false,
      ),
    );
  };
  const finish = (foot: string, footY = doc.page.height - MARGIN + 4): Promise<Buffer> => {
    const pages = doc.bufferedPageRange();
    for (let i = 0; i < pages.count; i++) {
      doc.switchToPage(i);
      doc.page.margins.bottom = 0;
      doc
        .font('text')
        .fontSize(7.5)
        .fillColor('black')
        .text(`${foot} · page ${i + 1} of ${pages.count}`, MARGIN, footY, {
          width,
          align: 'center',
          lineBreak: false,
        });
      if (trial) doc.font('bold').fontSize(8.5).text(NOT_REAL[trial], MARGIN, MARK_Y, { width, align: 'center', lineBreak: false });
    }
    return new Promise((resolve, reject) => {
      doc.on('end', () => resolve(Buffer.concat(chunks)));
      doc.on('error', reject);
      doc.end();
    });
  };
  return { doc, width, room, heading, para, table, finish };
}
