import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';

/** The words of a PDF as another package reads them, page by page. @param between what stands between two pieces of text */
export async function pdfPages(bytes: ArrayBuffer | Uint8Array, between = ' '): Promise<string[]> {
  const doc = await getDocument({ data: new Uint8Array(bytes), useSystemFonts: false, verbosity: 0 }).promise;
  const pages: string[] = [];
  for (let i = 1; i <= doc.numPages; i++) {
    const { items } = await (await doc.getPage(i)).getTextContent();
    pages.push(
      items
        .map((t) => ('str' in t ? t.str : ''))
        .join(between)
        .replace(/\s+/g, ' '),
    );
  }
  return pages;
}
