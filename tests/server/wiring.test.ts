import Papa from 'papaparse';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { HarnessFile } from '#model/harness';
import { pdfPages } from '../pdf-text';
import { Client, startShop, takeInLooseBar, type Shop } from '../shop';

let shop: Shop;
let tor: Client;
beforeAll(async () => {
  shop = await startShop();
  tor = await new Client(shop.base).signIn('tor');
  // one kit whose wire is cut, beside those that bring theirs
  await takeInLooseBar(await new Client(shop.base).signIn('ines'));
  const { id, version } = await tor.order('Drover 4');
  await tor.record(id, version, { type: 'kit.added', kit: 'loose-bar' });
}, 120_000);
afterAll(() => shop.stop());

const pdfWords = async (path: string): Promise<{ pages: number; text: string }> => {
  const res = await tor.raw(path);
  expect(res.headers.get('content-type')).toMatch(/^application\/pdf/);
  const pages = await pdfPages(await res.arrayBuffer());
  return { pages: pages.length, text: pages.join('') };
};

describe('the papers and files of a unit’s wiring', () => {
  it.each(['Drover 4', 'Sandbar 21'])('of %s: schematic, cut list, splices, labels', async (unit) => {
    const { id } = await tor.order(unit);
    const at = (f: string) => `/api/orders/${id}/wiring/${f}`;
    const svg = await tor.call('GET', at('schematic.svg'));
    expect(svg.headers.get('content-type')).toMatch(/^image\/svg\+xml/);
    expect(svg.text).toContain(unit);
    expect(svg.text.match(/<polyline/g)!.length).toBeGreaterThan(20);
    const schematic = await pdfWords(at('schematic.pdf'));
    expect(schematic.text).toContain('added wiring');
    expect(schematic.text).toMatch(/Local codes and licensed practice/);
    const list = await pdfWords(at('cut-list.pdf'));
    expect(list.text).toMatch(/pieces to cut/);
    expect(list.text).toContain('Splice sheet');
    expect(list.text).toContain('W01');
    const labels = await pdfWords(at('labels.pdf'));
    expect(labels.text).toMatch(/ A .*fuse/);
    const csv = Papa.parse<Record<string, string>>((await tor.call('GET', at('cut-list.csv'))).text, {
      header: true,
      skipEmptyLines: true,
    });
    expect(csv.errors).toEqual([]);
    expect(csv.data.length).toBeGreaterThan(1);
    expect(labels.text).toContain(csv.data.at(-1)!.label!);
    for (const r of csv.data) {
      expect(r.label).toMatch(/^W\d\d$/);
      expect(Number(r.length_m)).toBeGreaterThan(0);
      expect(r.colour).toMatch(/^[A-Z]{2}/);
    }
    const splices = Papa.parse<Record<string, string>>((await tor.call('GET', at('splices.csv'))).text, {
      header: true,
      skipEmptyLines: true,
    });
    expect(splices.data.length).toBeGreaterThan(2);
    expect(splices.data.some((r) => Number(r.tug_lbf) >= 10)).toBe(true);
  });
  it('the harness as JSON can be read back whole', async () => {
    const { id } = await tor.order('Drover 4');
    const res = await tor.call('GET', `/api/orders/${id}/wiring/harness.json`);
    const { harness } = HarnessFile.parse(JSON.parse(res.text));
    expect(harness.elements.filter((e) => e.kind === 'wire').length).toBeGreaterThan(20);
    expect(res.headers.get('content-disposition')).toMatch(/harness-\d+\.json/);
  });
  it('an override is in the papers at once, and the cuts come from the shop’s own spools', async () => {
    const { id, version } = await tor.order('Drover 4');
    const before = (await tor.call('GET', `/api/orders/${id}/wiring/cut-list.csv`)).text;
    expect(before).toMatch(/red, black tracer 12/);
    expect(
      (await tor.record(id, version, { type: 'wire.overridden', circuit: 'loose-bar/bar', field: 'awg', value: 10, reason: '' })).status,
    ).toBe(200);
    const after = Papa.parse<Record<string, string>>((await tor.call('GET', `/api/orders/${id}/wiring/cut-list.csv`)).text, {
      header: true,
      skipEmptyLines: true,
    });
    expect(after.data.find((r) => r.colour === 'RD/BK')!.awg).toBe('10');
  });
  it('refuses what cannot be: a run, a joint, a way that is not there; a piercing tap in a wet place needs a lead and a reason', async () => {
    const boat = await tor.order('Sandbar 21');
    const ines = await new Client(shop.base).signIn('ines');
    const over = (field: string, value: string, reason = '') => ({
      type: 'wire.overridden',
      circuit: 'nav-lights/nav',
      field,
      value,
      reason,
    });
    for (const [field, value] of [
      ['route', 'helm>moon'],
      ['joint', 'chewing-gum'],
      ['mode', 'magic'],
    ])
      expect((await tor.record(boat.id, boat.version, over(field!, value!))).status).toBe(422);
    expect((await tor.record(boat.id, boat.version, over('joint', 'piercing-tap'))).status).toBe(403);
    expect((await ines.record(boat.id, boat.version, over('joint', 'piercing-tap'))).status).toBe(422);
    expect((await ines.record(boat.id, boat.version, over('joint', 'piercing-tap', 'until the shrink arrives'))).status).toBe(200);
    // a ready harness lies where it reaches; wire that is cut is led by hand
    expect((await tor.record(boat.id, boat.version + 1, over('route', 'under-deck>helm'))).status).toBe(422);
    const cut = { ...over('route', 'under-deck>helm'), circuit: 'deck-audio/amp' };
    expect((await tor.record(boat.id, boat.version + 1, cut)).status).toBe(200);
  });
  it('an order that is not there, and a person who is not signed in', async () => {
    expect((await tor.call('GET', '/api/orders/nothing/wiring/schematic.svg')).status).toBe(404);
    const { id } = await tor.order('Drover 4');
    expect((await new Client(shop.base).call('GET', `/api/orders/${id}/wiring/schematic.svg`)).status).toBe(401);
  });
  it('spools and offcuts are kept with the settings, and two of one name are refused', async () => {
    const oda = await new Client(shop.base).signIn('oda');
    const { settings, versions } = (await oda.call('GET', '/api/settings')).body;
    expect(settings.stock.length).toBeGreaterThan(10);
    const change = (value: unknown, version = versions.stock) =>
      oda.call('PATCH', '/api/settings', { changes: [{ field: 'stock', value, version }] });
    const stock = [...settings.stock, { id: 'spare green', awg: 14, colour: 'GN', lengthM: 4.5 }];
    expect((await change(stock)).status).toBe(200);
    const now = (await oda.call('GET', '/api/settings')).body;
    expect(now.settings.stock.at(-1)).toMatchObject({ id: 'spare green', lengthM: 4.5 });
    expect((await change([...stock, stock.at(-1)], now.versions.stock)).status).toBe(422);
    expect((await change([{ id: 'x', awg: 14, colour: 'purple', lengthM: 1 }], now.versions.stock)).status).toBe(422);
  });
});
