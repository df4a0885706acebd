import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { pdfPages } from '../pdf-text';
import { Client, openingLike, startShop, type Shop } from '../shop';

let shop: Shop;
let tor: Client;
beforeAll(async () => {
  shop = await startShop();
  tor = await new Client(shop.base).signIn('tor');
});
afterAll(() => shop.stop());

async function words(path: string): Promise<string> {
  const res = await tor.raw(path);
  expect([res.status, res.headers.get('content-type')]).toEqual([200, 'application/pdf']);
  return (await pdfPages(await res.arrayBuffer())).join(' ');
}

describe('the plan on paper', () => {
  it('has every step in its order, its minutes, and what to bring', async () => {
    const { id } = await tor.order('Drover 4');
    const text = await words(`/api/orders/${id}/plan.pdf`);
    expect(text).toMatch(/\d+ steps, \d+ minutes( and \d+ minutes of waiting \(its modules fall asleep\))?; no order takes less/);
    expect(text).toMatch(/Bring: .*meter/);
    const order = [
      'Key off and out',
      'Read the battery at rest',
      'Negative cable off',
      'Positive on, negative last',
      'Parked draw',
      'Hood back on',
    ];
    const at = order.map((t) => text.indexOf(t));
    expect(at.every((i) => i > 0)).toBe(true);
    expect([...at].sort((a, b) => a - b)).toEqual(at);
  });
  it('has a label for the bag of each panel with fasteners, with kinds and counts', async () => {
    const { id } = await tor.order('Drover 4');
    const text = await words(`/api/orders/${id}/bag-labels.pdf`);
    expect(text).toContain('Grille');
    expect(text).toMatch(/6 × push-pin \(pin lifter\), 4 × star-drive screw \(T40\)/);
    expect(text).toMatch(/order 1031, 10 altogether/);
    expect(text).not.toContain('Front seats');
  });
  it('an order with nothing to do has none, and says why', async () => {
    const wyn = await new Client(shop.base).signIn('wyn');
    const { id } = await tor.order('Drover 4');
    const { order } = (await tor.call<{ order: { unit: { model: unknown; build: string; year: number } } }>('GET', `/api/orders/${id}`))
      .body;
    const made = await wyn.call<{ id: string }>('POST', '/api/orders', openingLike(order.unit, null));
    const r = await wyn.call('GET', `/api/orders/${made.body.id}/plan.pdf`);
    expect(r.status).toBe(404);
    expect(r.text).toMatch(/No kit is chosen/);
  });
});
