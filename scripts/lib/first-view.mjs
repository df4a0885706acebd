// What a browser must load before the first view, from the build in dist.
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { root } from './ensure.mjs';

/** kB of JavaScript, gzipped, that the page itself names; how many files these are, and how many there are besides. */
export function firstView() {
  const html = readFileSync(join(root, 'dist/web/index.html'), 'utf8');
  const files = [...html.matchAll(/assets\/[\w.-]+\.js/g)].map((m) => m[0]);
  const bytes = files.reduce((s, f) => s + gzipSync(readFileSync(join(root, 'dist/web', f))).length, 0);
  const all = readdirSync(join(root, 'dist/web/assets')).filter((f) => f.endsWith('.js')).length;
  return { kB: bytes / 1000, files: files.length, besides: all - files.length };
}
