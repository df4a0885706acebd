import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { MOST_UNPACKED, readBundle, standing, writeBundle, type Bundled } from './bundle';

const sheets: Bundled[] = [
  { kind: 'model', id: 'drover-2', history: ['a', 'b'], text: '{"kadro":"model"}' },
  { kind: 'kit', id: 'roof-bar', history: ['c'], text: '{"é":"ß"}\n' },
];
const zip = (files: Record<string, string>) => zipSync(Object.fromEntries(Object.entries(files).map(([k, v]) => [k, strToU8(v)])));
const manifest = (more: object = {}) => JSON.stringify({ kadro: 'sheets', format: 1, from: 'A', at: 'then', sheets: [], ...more });

describe('a bundle of sheets', () => {
  it('comes back as it went out, and the same sheets make the same bytes', () => {
    const pictures = [{ id: 'a'.repeat(64), bytes: new Uint8Array([137, 80, 78, 71]) }];
    const bytes = writeBundle(sheets, 'Skerry Point', '2026-03-02', pictures);
    expect(readBundle(bytes)).toEqual({ from: 'Skerry Point', at: '2026-03-02', sheets, pictures });
    expect(writeBundle(sheets, 'Skerry Point', '2026-03-02', pictures)).toEqual(bytes);
  });
  it('is refused where it is none, broken, climbs out, is a bomb, or names what is not there', () => {
    const says = (bytes: Uint8Array) => {
      try {
        readBundle(bytes);
        return 'taken';
      } catch (e) {
        return (e as Error).message;
      }
    };
    expect(says(strToU8('hello'))).toBe('that is no zip, or it is broken');
    expect(says(new Uint8Array())).toBe('that is no zip, or it is broken');
    expect(says(writeBundle(sheets, 'a', 'b').slice(0, 200))).toBe('that is no zip, or it is broken');
    for (const path of ['../x.json', 'kit/../../x.json', '/etc/x.json', 'C:\\x.json', '..\\x.json'])
      expect(says(zip({ [path]: '{}' }))).toMatch(/would be put outside of the folder/);
    // a file named with dots is no way up
    expect(says(zip({ 'manifest.json': manifest(), 'kit/a..b.json': '{}' }))).toBe('taken');
    const bomb = zipSync({ 'x.json': new Uint8Array(MOST_UNPACKED + 1) });
    expect(bomb.length).toBeLessThan(MOST_UNPACKED / 500);
    expect(says(bomb)).toMatch(/larger than the sheets of any shop/);
    expect(says(zip({ 'x.json': '{}' }))).toMatch(/no manifest.json/);
    expect(says(zip({ 'manifest.json': '{' }))).toBe('its manifest.json is no JSON');
    expect(says(zip({ 'manifest.json': '{}' }))).toMatch(/^its manifest.json: kadro /);
    expect(says(zip({ 'manifest.json': manifest({ sheets: [{ kind: 'kit', id: '../x', file: 'f', history: ['a'] }] }) }))).toMatch(
      /sheets.0.id/,
    );
    expect(says(zip({ 'manifest.json': manifest({ sheets: [{ kind: 'kit', id: 'x', file: 'f.json', history: ['a'] }] }) }))).toBe(
      'its manifest names f.json, which is not in it',
    );
  });
  it('stands to what is here by what both were before', () => {
    expect(standing(['a'], [])).toBe('new');
    expect(standing(['a', 'b'], ['b'])).toBe('same');
    expect(standing(['a', 'b', 'c'], ['a', 'b'])).toBe('theirs newer');
    expect(standing(['a'], ['a', 'b'])).toBe('ours newer');
    expect(standing(['a', 'b'], ['a', 'x'])).toBe('both changed');
    expect(standing(['a'], ['x'])).toBe('both changed');
  });
});
