import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { OrderEvent } from '#core/events/record';
import { openShop, run } from '#server/store/db';
import { checkRecord } from '#server/store/check-record';
import { Client, startShop, type Shop } from '../shop';

let shop: Shop;
let tor: Client;
beforeAll(async () => {
  shop = await startShop();
  tor = await new Client(shop.base).signIn('tor');
});
afterAll(() => shop.stop());

const phase = (over: Record<string, unknown> = {}) => ({ id: 'p1', name: 'Ride', minutes: 30, rpm: 3000, ...over });
const day = (phases: unknown[], over: Record<string, unknown> = {}) => ({
  type: 'day.described',
  day: { id: 'town', name: 'Town', phases, ...over },
});

describe('owners’ days over the door', () => {
  it('names what is wrong at its field, keeps what is right, and the order is judged by it', async () => {
    const { id, version } = await tor.order('Lapwing 500');
    const bad = async (body: unknown) => {
      const r = await tor.record(id, version, body as never);
      expect(r.status).toBe(422);
      return (r.body as { fields: { path: string; message: string }[] }).fields[0];
    };
    expect(await bad(day([phase({ minutes: 0 })]))).toMatchObject({
      path: 'day.phases.0.minutes',
      message: 'a phase must last longer than nothing',
    });
    expect(await bad(day([phase({ duty: { 'heated-grips/grip-left': 1.5 } })]))).toMatchObject({
      message: 'a share of the time is at most 1',
    });
    expect(await bad(day([phase(), phase()]))).toMatchObject({ path: 'day.phases.1.id', message: 'phase “p1” is there twice' });
    expect(await bad(day([]))).toMatchObject({ path: 'day.phases' });
    const r = await tor.record(id, version, day([phase({ dark: true, tempC: 15 })]) as never);
    expect(r.status).toBe(200);
    const { body } = await tor.call('GET', `/api/orders/${id}`);
    expect(body.order.days).toMatchObject([{ id: 'town', phases: [{ minutes: 30, key: 'on', wall: false }] }]);
    const floor = (await tor.call('GET', '/api/floor')).body.orders as { id: string; summary: { powerSays: string } }[];
    expect(floor.find((o) => o.id === id)!.summary.powerSays).toMatch(/^Fails by 4.6 A|^Tight: short by 4.6 A/);
  });
  it('what is agreed changes the order, may be undone, and is checked against the unit', async () => {
    const { id, version } = await tor.order('Lapwing 500');
    const change = (c: unknown) => ({ type: 'power.changed', change: c, label: 'agreed' }) as never;
    const no = await tor.record(id, version, change({ kind: 'idle', rpm: 3000 }));
    expect([no.status, no.body.detail]).toEqual([422, 'The idle may stand from 1300 to 1450 rpm on this unit.']);
    expect((await tor.record(id, version, change({ kind: 'idle', rpm: 1400 }))).status).toBe(200);
    const history = (await tor.call('GET', `/api/orders/${id}/events`)).body as (OrderEvent & { says: string })[];
    expect(history.at(-1)!.says).toBe('Agreed so that it holds: agreed');
    expect((await tor.record(id, version + 1, { type: 'power.restored', key: 'idle', label: 'agreed' } as never)).status).toBe(200);
    const sheet = (await tor.call('GET', `/api/orders/${id}/hand-over.json`)).body;
    expect(sheet.power.agreed).toEqual([]);
    expect(sheet.power.days[0]).toMatchObject({ title: 'Town' });
  });
  it('the next unit of a model is told what was read on the others', async () => {
    const { id } = await tor.order('Drover 4');
    const { body } = await tor.call('GET', `/api/orders/${id}`);
    expect(body.measured.length).toBeGreaterThan(0);
    for (const m of body.measured)
      expect(m).toMatchObject({ what: expect.stringMatching(/volts|amps/), value: expect.any(Number), number: expect.any(Number) });
  });
  it('a state kept before days were thought of is read whole, and the record still checks', async () => {
    const db = openShop('shop', shop.url);
    try {
      await run(db, `UPDATE orders SET state = JSON_REMOVE(state, '$.days', '$.changes'), state_version = 1 WHERE number = 1033`);
      const { id } = await tor.order('Greenway 36');
      const { body } = await tor.call('GET', `/api/orders/${id}`);
      expect(body.order).toMatchObject({ days: [], changes: [] });
      expect((await checkRecord(db)).problems).toEqual([]);
    } finally {
      await db.close();
    }
  });
});
