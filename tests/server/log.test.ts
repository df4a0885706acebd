import { createHash } from 'node:crypto';
import Papa from 'papaparse';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { SupplierAnswer } from '#model/supply';
import { openShop, run, rows } from '#server/store/db';
import { indexAgain } from '#server/store/orders';
import { Client, startShop, takeInLooseBar, type Shop } from '../shop';

let shop: Shop;
let ines: Client;
let wyn: Client;
beforeAll(async () => {
  shop = await startShop();
  ines = await new Client(shop.base).signIn('ines');
  wyn = await new Client(shop.base).signIn('wyn');
});
afterAll(() => shop.stop());

interface Found {
  number: number;
  summary: { unitName: string; kits: { id: string }[]; owner: string };
  matches: { by: string; says: string }[];
}
const search = async (query: Record<string, string>) => (await ines.call<Found[]>('GET', `/api/orders?${new URLSearchParams(query)}`)).body;

describe('search over orders', () => {
  it('words that all stand in one record, in any order, the newest first', async () => {
    const all = await search({ q: 'tern fuse box' });
    expect(all.map((o) => o.number)).toEqual([...all.map((o) => o.number)].sort((a, b) => b - a));
    expect(all.some((o) => o.matches.some((m) => /fuse box is behind/.test(m.says)))).toBe(true);
    expect((await search({ q: 'box fuse TERN' })).map((o) => o.number)).toEqual(all.map((o) => o.number));
    expect(await search({ q: 'tern zeppelin' })).toEqual([]);
  });
  it('the last word may be unfinished, the others not', async () => {
    expect((await search({ q: 'capped plu' })).length).toBeGreaterThan(0);
    expect(await search({ q: 'cappe plug' })).toEqual([]);
  });
  it('narrowed by what happened, kit, model, person and period', async () => {
    const findings = await search({ mark: 'finding', limit: '300' });
    expect(findings.length).toBeGreaterThan(1);
    // what was asked for comes first, before other lines with the words
    for (const o of [...findings, ...(await search({ mark: 'finding', q: 'fuse' }))]) expect(o.matches[0]!.says).toMatch(/^Finding: /);
    const bars = await search({ kit: 'roof-bar', limit: '300' });
    for (const o of bars) expect(o.summary.kits.map((k) => k.id)).toContain('roof-bar');
    const mauds = await search({ by: 'maud', model: 'tern-300', limit: '300' });
    expect(mauds.length).toBeGreaterThan(0);
    for (const o of mauds) expect(o.summary.unitName).toMatch(/Tern 300$/);
    const day = (ago: number) => new Date(Date.now() - ago * 86_400_000).toISOString().slice(0, 10);
    const early = await search({ to: day(30), limit: '300' });
    const late = await search({ from: day(29), limit: '300' });
    expect(early.length).toBeGreaterThan(5);
    expect(late.length).toBeGreaterThan(5);
    expect(Math.max(...early.map((o) => o.number))).toBeLessThan(Math.min(...late.map((o) => o.number)));
    expect(early.length + late.length).toBe((await search({ limit: '300' })).length);
    expect(await search({ from: '2031-01-01' })).toEqual([]);
  });
  it('a reading out of its band is found by itself, and stays so when it is read again', async () => {
    const before = await search({ mark: 'out-of-band' });
    const { id, version } = await ines.order('Greenway 36');
    await ines.record(id, version, { type: 'reading.taken', step: 'safe/rest', reading: 'rest', value: 21 });
    await ines.record(id, version + 1, { type: 'reading.taken', step: 'safe/rest', reading: 'rest', value: 37 });
    const after = await search({ mark: 'out-of-band' });
    expect(after.length).toBe(before.length + 1);
    const found = after.find((o) => o.summary.unitName.endsWith('Greenway 36'))!;
    expect(found.matches[0]!.says).toMatch(/21 V.*fails$/);
  });
  it('a kit that was taken off is not found under it any more', async () => {
    const { id, version } = await ines.order('Greenway 36');
    const has = async () => (await search({ kit: 'usb-socket', limit: '300' })).some((o) => o.summary.unitName.endsWith('Greenway 36'));
    await ines.record(id, version, { type: 'kit.added', kit: 'usb-socket' });
    expect(await has()).toBe(true);
    await ines.record(id, version + 1, { type: 'kit.removed', kit: 'usb-socket' });
    expect(await has()).toBe(false);
  });
  it.each([['%'], ['_'], ["'; DROP TABLE orders; --"], ['\\'], ['+-*"()~<>@'], ['a'.repeat(200)], ['   ']])('%j is answered', async (q) => {
    const r = await ines.call('GET', `/api/orders?${new URLSearchParams({ q })}`);
    expect(r.status).toBe(200);
  });
  it.each([
    ['mark=moon', /mark/],
    ['from=yesterday', /from/],
    ['limit=0', /limit/],
    ['limit=9000', /limit/],
  ])('%s is refused', async (query, says) => {
    const r = await ines.call('GET', `/api/orders?${query}`);
    expect(r.status).toBe(422);
    expect(r.text).toMatch(says);
  });
  it('goes into a file of rows, whose formulas are words', async () => {
    const { id, version } = await ines.order('Greenway 36');
    await ines.record(id, version, { type: 'finding.added', text: '=HYPERLINK("x") zanzibar' });
    const res = await ines.raw('/api/orders.csv?q=zanzibar');
    expect(res.headers.get('content-type')).toMatch(/text\/csv/);
    const rows = Papa.parse<Record<string, string>>(await res.text(), { header: true, skipEmptyLines: true }).data;
    expect(rows).toHaveLength(1);
    expect(rows[0]).toMatchObject({ unit: 'Quillon Greenway 36', owner: 'Jory' });
    expect(rows[0]!.found).toMatch(/zanzibar/);
  });
  it('a record from before there were words is given them once', async () => {
    const db = openShop('shop', shop.url);
    const before = (await search({ q: 'winch', limit: '300' })).map((o) => o.number);
    await run(db, 'DELETE FROM order_words');
    await run(db, 'DELETE FROM progress WHERE name = ?', ['words']);
    expect(await search({ q: 'winch' })).toEqual([]);
    await indexAgain(db);
    expect((await search({ q: 'winch', limit: '300' })).map((o) => o.number)).toEqual(before);
    // interrupted at any order, the next start goes on and leaves none out
    const words = () => rows<{ n: number }>(db, 'SELECT COUNT(*) n FROM order_words');
    const whole = await words();
    for (const stop of [1, 7, 20, 21, 33, 38]) {
      await run(db, 'DELETE FROM order_words');
      await run(db, 'DELETE FROM progress WHERE name = ?', ['words']);
      let n = 0;
      const killed = indexAgain(db, () => {
        if (++n === stop) throw new Error('killed');
      });
      await expect(killed, String(stop)).rejects.toThrow('killed');
      await indexAgain(db);
      expect(await words(), String(stop)).toEqual(whole);
    }
    await db.close();
  });
});

describe('an order’s history as data', () => {
  it('each event with who, when and what was expected, and hashes that anybody can work out again', async () => {
    const sealed = (await search({ q: '', limit: '300' })).at(-1) as unknown as { id: string };
    const h = (await ines.call('GET', `/api/orders/${sealed.id}/history.json`)).body;
    expect(h).toMatchObject({ kadro: 'history', format: 2 });
    let prev = '0'.repeat(64);
    const ordered = (v: unknown): unknown =>
      Array.isArray(v)
        ? v.map(ordered)
        : v && typeof v === 'object'
          ? Object.fromEntries(
              Object.entries(v)
                .sort(([a], [b]) => (a < b ? -1 : 1))
                .map(([k, x]) => [k, ordered(x)]),
            )
          : v;
    for (const e of h.events) {
      expect(e.prevHash).toBe(prev);
      const text = JSON.stringify(
        ordered({
          orderId: h.order.id,
          seq: e.seq,
          version: e.version,
          doneAt: e.doneAt,
          recordedAt: e.recordedAt,
          by: e.by,
          body: e.body,
          prevHash: e.prevHash,
        }),
      );
      expect(createHash('sha256').update(text).digest('hex')).toBe(e.hash);
      prev = e.hash;
    }
    const reading = h.events.find((e: { body: { type: string } }) => e.body.type === 'reading.taken');
    expect(reading.body.expected).toHaveProperty('why');
    expect(reading.by).toMatch(/tor|maud/);
  });
});

describe('times learned', () => {
  it('every sealed order of the demo taught its kits, and the floor shows a band', async () => {
    const { id } = await ines.order('Tern 300');
    const { paces } = (await ines.call('GET', `/api/orders/${id}`)).body;
    expect(paces['aux-lamps'].jobs).toBeGreaterThan(1);
    expect(paces['aux-lamps'].low).toBeLessThan(paces['aux-lamps'].factor);
    const worked = (await ines.call('GET', `/api/orders/${id}/worked`)).body;
    expect(worked.jobs.some((w: { kit: string }) => w.kit === 'aux-lamps')).toBe(true);
    expect(worked.slope).toBeLessThan(1);
    const floor = (await ines.call('GET', '/api/floor')).body.orders as {
      left: { minutes: number; low: number; high: number };
      summary: { station: string };
    }[];
    for (const o of floor) {
      expect(o.left.low).toBeLessThanOrEqual(o.left.minutes);
      expect(o.left.minutes).toBeLessThanOrEqual(o.left.high);
    }
    expect(floor.filter((o) => o.left.minutes > 10).length).toBeGreaterThan(4);
  });
  it('sealing another order teaches more', async () => {
    const { id, version } = await ines.order('Skarn 600');
    const before = (await ines.call('GET', `/api/orders/${id}`)).body.paces.navigator.jobs;
    await wyn.record(id, version, { type: 'handover.signed', name: 'Petra', strokes: 'M0 0L10 10L20 0' });
    expect((await wyn.record(id, version + 1, { type: 'order.sealed' })).status).toBe(200);
    expect((await ines.call('GET', `/api/orders/${id}`)).body.paces.navigator.jobs).toBe(before + 1);
  });
});

describe('the shelf and the supplier that stands in', () => {
  it('what is short is priced with days, the same each time; counted, it is short no more', async () => {
    await takeInLooseBar(ines);
    const { id, version } = await ines.order('Drover 4');
    expect((await ines.record(id, version, { type: 'kit.added', kit: 'loose-bar' })).status).toBe(200);
    const quote = async () => (await ines.call('GET', `/api/orders/${id}/quote`)).body as SupplierAnswer[];
    const count = async (have: number) => {
      const { shelf } = (await ines.call('GET', '/api/settings')).body.settings as { shelf: { id: string; version: number }[] };
      const version = shelf.find((x) => x.id === 'relay-12')?.version ?? 0;
      expect((await ines.call('PUT', '/api/shelf/relay-12', { have, version })).status).toBe(200);
    };
    await count(0);
    const first = await quote();
    expect(first.length).toBeGreaterThan(0);
    expect(await quote()).toEqual(first);
    for (const q of first) {
      expect(Number(q.price)).toBeGreaterThan(0);
      expect(q.comes[0]!.day > new Date().toISOString().slice(0, 10)).toBe(true);
    }
    expect((await quote()).find((q) => q.item === 'relay-12')!.comes[0]!.amount).toBe(1);
    await count(3);
    expect((await quote()).find((q) => q.item === 'relay-12')).toBeUndefined();
  });
  it.each([
    ['relay-12', { have: -1, version: 0 }, 422],
    ['relay-12', { have: 1.5, version: 0 }, 422],
    ['relay-12', {}, 422],
    ['No Such Item!', { have: 1, version: 0 }, 404],
  ])('%s with %j is refused', async (item, body, status) => {
    expect((await ines.call('PUT', `/api/shelf/${encodeURIComponent(item)}`, body)).status).toBe(status);
  });
});
