import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { EarlierFinding } from '#core/order/earlier-findings';
import { Client, openingLike, startShop, type Shop } from '../shop';

let shop: Shop;
let tor: Client;
beforeAll(async () => {
  shop = await startShop();
  tor = await new Client(shop.base).signIn('tor');
});
afterAll(() => shop.stop());

const dossier = async (id: string) =>
  (await tor.call<{ order: { version: number }; findings: EarlierFinding[] }>('GET', `/api/orders/${id}`)).body;

describe('findings of earlier units', () => {
  it('are made at a step, stand there on the next unit of the model, and are confirmed or outdated by whoever stands at it', async () => {
    const floor = await tor.call<{ orders: { id: string; summary: { unitName: string } }[] }>('GET', '/api/floor');
    const one = floor.body.orders.find((o) => o.summary.unitName.endsWith('Drover 4'))!.id;
    const opened = await dossier(one);
    const text = 'Two push-pins hide under the lip';
    const made = await tor.record(one, opened.order.version, { type: 'finding.added', text, step: 'open/grille' });
    expect(made.status).toBe(200);

    // another unit of the model comes in
    const { unit } = (await dossier(one)).order as unknown as { unit: { model: unknown; build: string; year: number } };
    const next = await tor.call<{ id: string; version: number }>('POST', '/api/orders', openingLike(unit));
    expect(next.status).toBe(201);
    const found = (await dossier(next.body.id)).findings.find((f) => f.text === text)!;
    expect(found).toMatchObject({ step: 'open/grille', by: 'tor', build: unit.build, confirmed: 0, outdated: null });
    expect(found.key.startsWith(`${one}:`)).toBe(true);

    let { version } = next.body;
    const say = async (still: boolean) => {
      const r = await tor.record(next.body.id, version, { type: 'finding.judged', finding: found.key, still, text });
      version = (r.body as { version: number }).version;
      return r.status;
    };
    expect(await say(true)).toBe(200);
    expect(await say(true)).toBe(200);
    expect((await dossier(next.body.id)).findings.find((f) => f.key === found.key)).toMatchObject({ confirmed: 1, outdated: null });
    expect(await say(false)).toBe(200);
    expect((await dossier(next.body.id)).findings.find((f) => f.key === found.key)).toMatchObject({
      confirmed: 0,
      outdated: { by: 'tor' },
    });
    // the order it was made on does not show it to itself
    expect((await dossier(one)).findings.some((f) => f.key === found.key)).toBe(false);
  });
  it('a word on something that is no finding is refused with its field', async () => {
    const { id, version } = await tor.order('Drover 2');
    const r = await tor.record(id, version, { type: 'finding.judged', finding: 'nonsense', still: true, text: 'x' });
    expect(r.status).toBeGreaterThanOrEqual(400);
    expect(r.status).toBeLessThan(500);
    expect(r.text).toMatch(/finding/);
    const wyn = await new Client(shop.base).signIn('wyn');
    expect((await wyn.record(id, version, { type: 'time.corrected', step: 'safe/off', seconds: 60, reason: 'x' })).status).toBe(403);
  });
});
