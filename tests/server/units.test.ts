import { afterAll, beforeAll, expect, it } from 'vitest';
import { inOtherUnits } from '../other-units';
import { pdfPages } from '../pdf-text';
import { Client, startShop, type Shop } from '../shop';

let shop: Shop;
let ines: Client;
beforeAll(async () => {
  shop = await startShop();
  ines = await new Client(shop.base).signIn('ines');
});
afterAll(() => shop.stop());

const PAPERS = [
  'hand-over.pdf',
  'plan.pdf',
  'bag-labels.pdf',
  'wiring/schematic.pdf',
  'wiring/cut-list.pdf',
  'wiring/labels.pdf',
  'holes.pdf',
  'aim.pdf?distance=7.62',
];

const wordsOf = async (bytes: ArrayBuffer): Promise<string> => (await pdfPages(bytes, ' | ')).join(' | ');

it.each(['imperial', 'metric'] as const)(
  'every paper of every order of the demo is in the units of an %s shop',
  async (units) => {
    const { versions } = (await ines.call('GET', '/api/settings')).body;
    const set = await ines.call('PATCH', '/api/settings', { changes: [{ field: 'units', value: units, version: versions.units ?? 0 }] });
    expect(set.status, set.text).toBe(200);
    const { orders } = (await ines.call('GET', '/api/floor')).body as { orders: { id: string; summary: { unitName: string } }[] };
    expect(orders.length).toBeGreaterThan(7);
    const found: string[] = [];
    let read = 0;
    for (const o of orders)
      for (const paper of PAPERS) {
        const r = await ines.raw(`/api/orders/${o.id}/${paper}`);
        if (r.status !== 200) continue;
        read++;
        found.push(...inOtherUnits(await wordsOf(await r.arrayBuffer()), units).map((f) => `${o.summary.unitName}, ${paper}: ${f}`));
      }
    expect(read).toBeGreaterThan(45);
    expect([...new Set(found)]).toEqual([]);
  },
  120_000,
);
