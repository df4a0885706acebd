import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { inflateSync } from 'node:zlib';

const require = createRequire(import.meta.url);
const HEADER = 44;
const ENTRY = 20;

/**
 * The font in a WOFF file, unpacked: done once here, because whoever reads the packed one unpacks it again for every paper,
 * and slowly. Source: W3C, WOFF File Format 1.0, sections 3 to 5.
 */
export function unpackWoff(woff: Buffer): Buffer {
  const count = woff.readUInt16BE(12);
  const tables = Array.from({ length: count }, (_, i) => {
    const at = HEADER + i * ENTRY;
    const [offset, packed, length] = [woff.readUInt32BE(at + 4), woff.readUInt32BE(at + 8), woff.readUInt32BE(at + 12)];
    const data = woff.subarray(offset, offset + packed);
    return { tag: woff.subarray(at, at + 4), sum: woff.readUInt32BE(at + 16), data: packed < length ? inflateSync(data) : data };
  });
  const log = Math.floor(Math.log2(count));
  const head = Buffer.alloc(12 + 16 * count);
  woff.copy(head, 0, 4, 8);
  head.writeUInt16BE(count, 4);
  head.writeUInt16BE(16 * 2 ** log, 6);
  head.writeUInt16BE(log, 8);
  head.writeUInt16BE(16 * count - 16 * 2 ** log, 10);
  const parts: Buffer[] = [head];
  let at = head.length;
  for (const [i, t] of tables.entries()) {
    const entry = 12 + 16 * i;
    t.tag.copy(head, entry);
    head.writeUInt32BE(t.sum, entry + 4);
    head.writeUInt32BE(at, entry + 8);
    head.writeUInt32BE(t.data.length, entry + 12);
    const pad = Buffer.alloc(-t.data.length & 3);
    parts.push(t.data, pad);
    at += t.data.length + pad.length;
  }
  return Buffer.concat(parts);
}

const font = (pkg: string, file: string): Buffer => unpackWoff(readFileSync(require.resolve(`@fontsource/${pkg}/files/${file}.woff`)));

let read: { text: Buffer; bold: Buffer; mono: Buffer } | null = null;
/** The fonts that paper is set in, read once a thread. */
export const fonts = () =>
  (read ??= {
    text: font('atkinson-hyperlegible-next', 'atkinson-hyperlegible-next-latin-400-normal'),
    bold: font('atkinson-hyperlegible-next', 'atkinson-hyperlegible-next-latin-700-normal'),
    mono: font('spline-sans-mono', 'spline-sans-mono-latin-400-normal'),
  });
