import DxfParser from 'dxf-parser';
import { getDocument, OPS } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Client, startShop, type Shop } from '../shop';

let shop: Shop;
let lead: Client;
let cart: { id: string; version: number };
beforeAll(async () => {
  shop = await startShop();
  lead = await new Client(shop.base).signIn('ines');
  cart = await lead.order('Parkway 48');
}, 120_000);
afterAll(() => shop.stop());

const PT = 72 / 25.4;
type Box = { w: number; h: number };

/** Every stroked path of a PDF's first page with its own size, millimetres, and the words on it. */
async function strokes(path: string): Promise<{ boxes: Box[]; words: string; pages: number }> {
  const res = await lead.raw(path);
  expect(res.headers.get('content-type')).toBe('application/pdf');
  const doc = await getDocument({ data: new Uint8Array(await res.arrayBuffer()), useSystemFonts: false, verbosity: 0 }).promise;
  const page = await doc.getPage(1);
  const list = await page.getOperatorList();
  const boxes: Box[] = [];
  list.fnArray.forEach((fn, i) => {
    if (fn !== OPS.constructPath) return;
    // [how it is painted, its pieces, its bounds]
    const [, , bounds] = list.argsArray[i] as [number, unknown, ArrayLike<number> | null];
    if (bounds) boxes.push({ w: (bounds[2]! - bounds[0]!) / PT, h: (bounds[3]! - bounds[1]!) / PT });
  });
  const words = (await page.getTextContent()).items.map((t) => ('str' in t ? t.str : '')).join(' ');
  return { boxes, words, pages: doc.numPages };
}
const has = (boxes: Box[], w: number, h: number, off = 0.05) => boxes.some((b) => Math.abs(b.w - w) < off && Math.abs(b.h - h) < off);

describe('hole sheets as they print', () => {
  it('true to scale on paper: the ruler is 100 mm and 4 in, the cut-out is what its maker says, less what is left to file', async () => {
    const { boxes, words } = await strokes(`/api/orders/${cart.id}/holes/cart-road-lamps/head-left/sheet.pdf`);
    // the ruler's line is as long as its longer scale, 4 in
    expect(has(boxes, 101.6, 0)).toBe(true);
    expect(has(boxes, 150, 92)).toBe(true);
    expect(has(boxes, 148, 90)).toBe(true);
    expect(has(boxes, 176, 118)).toBe(true);
    expect(boxes.filter((b) => Math.abs(b.w - 5) < 0.05 && Math.abs(b.h - 5) < 0.05)).toHaveLength(4);
    expect(boxes.filter((b) => Math.abs(b.w - 3) < 0.05 && Math.abs(b.h - 3) < 0.05)).toHaveLength(4);
    for (const t of [
      'Left headlamp: hole and cut-out, 1:1',
      'cut inside it along the dashed one',
      'Look behind before drilling',
      'Front cowl',
      '100 mm above, 4 in below',
    ])
      expect(words).toContain(t);
  });
  it('mirrored for the other side, all of an order in one file, and refused where there is none', async () => {
    const left = await strokes(`/api/orders/${cart.id}/holes/signal-mirrors/left/sheet.pdf`);
    const flipped = await strokes(`/api/orders/${cart.id}/holes/signal-mirrors/left/sheet.pdf?mirror=yes`);
    expect(left.words).not.toContain('mirrored');
    expect(flipped.words).toContain('mirrored for the right side');
    expect((await strokes(`/api/orders/${cart.id}/holes.pdf`)).pages).toBeGreaterThanOrEqual(10);
    expect((await lead.call('GET', `/api/orders/${cart.id}/holes/cart-road-lamps/horn/sheet.pdf`)).status).toBe(404);
    const bare = await lead.order('Skarn 600');
    expect((await lead.call('GET', `/api/orders/${bare.id}/holes.pdf`)).body).toMatchObject({
      detail: expect.stringMatching(/No part of this order/),
    });
  });
  it('SVG in true millimetres, and DXF that another reader takes, in millimetres, layer by layer', async () => {
    const svg = await (await lead.raw(`/api/orders/${cart.id}/holes/usb-socket/usb/sheet.svg`)).text();
    const [, mm, units] = /width="([\d.]+)mm".*?viewBox="\S+ \S+ ([\d.]+)/.exec(svg)!;
    expect(mm).toBe(units);
    expect(svg).toContain('r="15"');
    const res = await lead.raw(`/api/orders/${cart.id}/holes/cart-road-lamps/head-left/sheet.dxf`);
    expect(res.headers.get('content-disposition')).toMatch(/attachment; filename="holes-\d+-head-left.dxf"/);
    const dxf = new DxfParser().parseSync(await res.text())!;
    expect(dxf.header.$INSUNITS).toBe(4);
    const on = (layer: string) => dxf.entities.filter((e) => e.layer === layer);
    expect(on('DRILL').map((e) => (e as unknown as { radius: number }).radius)).toEqual([2.5, 2.5, 2.5, 2.5]);
    const xs = (on('TRACE')[0] as unknown as { vertices: { x: number; bulge?: number }[] }).vertices;
    expect(Math.max(...xs.map((v) => v.x)) - Math.min(...xs.map((v) => v.x))).toBeCloseTo(150, 6);
    expect(xs.filter((v) => v.bulge).length).toBe(4);
    expect(on('CUT')).toHaveLength(1);
    expect(on('RULER').length).toBeGreaterThan(100);
  });
  it('the aim card: lines by trigonometry, and a strip at true scale', async () => {
    const drover = await lead.order('Drover 4');
    const res = await lead.raw(`/api/orders/${drover.id}/aim.pdf?distance=10`);
    const doc = await getDocument({ data: new Uint8Array(await res.arrayBuffer()), useSystemFonts: false, verbosity: 0 }).promise;
    expect(doc.numPages).toBeGreaterThan(1);
    const words = (await (await doc.getPage(2)).getTextContent()).items.map((t) =>
      'str' in t ? { s: t.str, y: t.transform[5] as number } : { s: '', y: 0 },
    );
    const y = (start: string) => words.find((w) => w.s.startsWith(start))!.y;
    // 860 mm up, 1.5 % over 10 m falls 150 mm; half a per cent 50 mm
    expect((y('height of the lamp') - y('beam')) / PT).toBeCloseTo(150, 1);
    expect((y('height of the lamp') - y('no higher')) / PT).toBeCloseTo(50, 1);
    expect((await lead.call('GET', `/api/orders/${drover.id}/aim.pdf?distance=0`)).status).toBe(422);
  });
});

describe('rule packs in and out', () => {
  const file = (items: unknown[], id = 'hallan-roads') =>
    JSON.stringify(
      {
        kadro: 'rules',
        format: 1,
        sheet: {
          id,
          name: 'Hallan roads',
          place: 'Isle of Hallan',
          edition: 'first',
          kinds: ['golf-cart'],
          caution: 'Ask the harbour office.',
          items,
        },
      },
      null,
      2,
    );
  const good = { id: 'head', kind: 'equipment', title: 'Headlamps', anyOf: ['headlamp'], count: 2, source: 'notice 4' };
  it('a pack with a bad item is taken in, the item named by its line, and goes out as it came', async () => {
    const text = file([good, { id: 'odd', kind: 'sparkle', title: 'Sparkle', source: 'notice 5' }]);
    const r = await lead.call('POST', '/api/sheets', text);
    expect(r.status).toBe(200);
    expect(r.body.problems[0]).toMatchObject({
      field: 'sheet.items.1.kind',
      line: text.split('\n').findIndex((l) => l.includes('sparkle')) + 1,
    });
    const out = JSON.parse(await (await lead.raw('/api/sheets/rules/hallan-roads')).text()) as {
      sheet: { items: { id: string }[]; bad?: unknown };
    };
    expect(out.sheet.items.map((i) => i.id)).toEqual(['head', 'odd']);
    expect(out.sheet.bad).toBeUndefined();
    const chosen = await lead.record(cart.id, cart.version, { type: 'packs.chosen', packs: ['hallan-roads'], label: 'Hallan roads' });
    expect(chosen.status).toBe(200);
    const sheet = await lead.call('GET', `/api/orders/${cart.id}/hand-over.json`);
    expect(sheet.body.lamps).toEqual([
      expect.objectContaining({
        pack: 'Hallan roads',
        items: [
          expect.objectContaining({ verdict: 'holds' }),
          expect.objectContaining({ verdict: 'unknown', says: expect.stringMatching(/item 2, “odd”: “sparkle” is no kind of rule/) }),
        ],
      }),
    ]);
  });
  it('a pack without a good item, or with a bad head, is refused', async () => {
    expect((await lead.call('POST', '/api/sheets', file([{ kind: 'sparkle' }]))).status).toBe(422);
    expect((await lead.call('POST', '/api/sheets', file([good], 'Not A Slug'))).status).toBe(422);
  });
  it('what cannot be is refused with its reason and changes nothing', async () => {
    const now = await lead.order('Parkway 48');
    const refuse = async (command: unknown) => (await lead.record(now.id, now.version, command)).body as { detail: string };
    expect((await refuse({ type: 'packs.chosen', packs: ['nowhere'], label: 'x' })).detail).toMatch(/no rule pack “nowhere”/);
    const at = { x: 2000, y: 0, z: 700 };
    expect((await refuse({ type: 'lamp.placed', lamp: 'cart-road-lamps/moon', at, label: 'x' })).detail).toMatch(/not on this order/);
    expect((await refuse({ type: 'lamp.placed', lamp: 'cart-road-lamps/head-left', at: { ...at, y: 2000 }, label: 'x' })).detail).toMatch(
      /beyond the unit’s left side/,
    );
    expect((await refuse({ type: 'lamp.added', lamp: { id: 'a', name: 'A', function: 'tail', at, like: null } })).detail).toMatch(
      /takes current/,
    );
    expect(
      (await refuse({ type: 'lamp.added', lamp: { id: 'a', name: 'A', function: 'tail', at, like: 'cart-road-lamps/horn' } })).detail,
    ).toMatch(/does something else/);
    expect((await refuse({ type: 'lamp.freed', lamp: 'cart-road-lamps/head-left', label: 'x' })).detail).toMatch(/where its sheet says/);
    expect((await lead.order('Parkway 48')).version).toBe(now.version);
  });
});
