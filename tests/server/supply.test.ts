import { createHash, randomUUID } from 'node:crypto';
import { createConnection, type Connection, type RowDataPacket } from 'mysql2/promise';
import Papa from 'papaparse';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Week } from '#core/shop/week';
import type { Supply } from '#core/supply/allocate';
import { timeOn } from '#core/shop/calendar';
import type { OwnerMessage } from '#model/message';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Purchase } from '#model/supply';
import { pdfPages } from '../pdf-text';
import { Client, openingLike, startShop, type Shop } from '../shop';

let shop: Shop;
let db: Connection;
let wyn: Client;
let tor: Client;
let ines: Client;
beforeAll(async () => {
  // the first answer of everybody outside is lost on its way back
  shop = await startShop({ env: { KADRO_DEMO: '1', KADRO_STAND_INS: '1', KADRO_STAND_INS_LOSE: '1' } });
  db = await createConnection(shop.url);
  [wyn, tor, ines] = (await Promise.all(['wyn', 'tor', 'ines'].map((n) => new Client(shop.base).signIn(n)))) as [Client, Client, Client];
});
afterAll(async () => {
  await db.end();
  await shop.stop();
});

const count = async (sql: string, ...params: string[]): Promise<number> =>
  ((await db.query<RowDataPacket[]>(sql, params))[0][0] as { n: number }).n;
async function until<T>(what: () => Promise<T | null | undefined | false>): Promise<T> {
  for (const end = Date.now() + 60_000; ;) {
    const got = await what();
    if (got) return got;
    if (Date.now() > end) throw new Error('it never came to that');
    await new Promise((r) => setTimeout(r, 300));
  }
}
const supply = async () => (await wyn.call<Supply>('GET', '/api/supply')).body;
const purchases = async () => (await wyn.call<Purchase[]>('GET', '/api/purchases')).body;
const purchase = async (id: string) => (await purchases()).find((p) => p.id === id)!;
const settings = async () => (await wyn.call('GET', '/api/settings')).body as { settings: Settings; versions: Record<string, number> };
const set = async (field: string, value: unknown) =>
  ines.call('PATCH', '/api/settings', { changes: [{ field, value, version: (await settings()).versions[field] ?? 0 }] });
const orderOf = async (id: string) => (await wyn.call('GET', `/api/orders/${id}`)).body.order as Order;
const record = async (id: string, command: unknown, who = wyn) => who.record(id, (await orderOf(id)).version, command);
const line = (more: object = {}) => ({ item: 'fuse-blade-15', kind: 'fuse', name: '15 A blade fuse', unit: 'pieces', amount: 9, ...more });

describe('the late part of the demo', () => {
  const item = 'cart-basic-lamps-push-pull-switch';
  it('holds its order until noon of the day that was told, and no longer once it is here', async () => {
    const { id } = await wyn.order('Greenway 36');
    const week = async () => (await wyn.call<Week>('GET', '/api/week')).body;
    const [p] = await purchases();
    expect(p).toMatchObject({ state: 'sent', lines: [{ item, amount: 1, order: id }] });
    expect((await supply()).waiting).toEqual([{ order: id, name: 'push-pull switch, Basic cart lamps', day: p!.toldDay }]);
    const w = await week();
    expect(w.parts).toEqual([{ order: id, name: 'push-pull switch, Basic cart lamps', day: p!.toldDay }]);
    const { timeZone } = (await settings()).settings;
    const begins = w.work.filter((x) => x.order === id).map((x) => x.from);
    expect(begins.length).toBeGreaterThan(0);
    expect(Math.min(...begins)).toBeGreaterThanOrEqual(timeOn(p!.toldDay!, '12:00', timeZone));

    // somebody else changed it meanwhile: nothing is overwritten
    const stale = await wyn.call('PATCH', `/api/purchases/${p!.id}`, { version: p!.version + 3, day: '2030-01-01' });
    expect([stale.status, stale.body.stale]).toEqual([409, true]);

    const receipt = { id: randomUUID(), lines: [{ item, amount: 1, lot: 'PPS-77' }] };
    const [first, again] = await Promise.all([1, 2].map(() => tor.call('POST', `/api/purchases/${p!.id}/receipts`, receipt)));
    expect([first!.status, again!.status]).toEqual([200, 200]);
    expect(await purchase(p!.id)).toMatchObject({ state: 'closed', receipts: [{ id: receipt.id, by: 'tor' }] });
    const { shelf, reserved } = (await settings()).settings;
    expect(shelf.find((s) => s.id === item)!.have).toBe(1);
    expect(reserved).toContainEqual({ item, order: id });
    expect((await supply()).waiting).toEqual([]);
    expect((await week()).parts).toEqual([]);

    // counted at Fit, it is off the shelf and in the box
    const box = (await wyn.call('GET', `/api/orders/${id}`)).body;
    const at = (box.sheets.kits[0].contents as { item: string }[]).findIndex((c) => c.item === 'push-pull switch');
    expect((await record(id, { type: 'box.counted', kit: 'cart-basic-lamps', item: at, count: 1 })).status).toBe(200);
    expect((await settings()).settings.shelf.find((s) => s.id === item)!.have).toBe(0);
    const moves = (await wyn.call('GET', `/api/stock-moves?item=${item}`)).body as { amount: number; why: string; by: string }[];
    expect(moves.map((m) => [m.amount, m.why, m.by])).toEqual([
      [-1, 'used', 'wyn'],
      [1, 'received', 'tor'],
    ]);
  });
});

describe('an order to the supplier', () => {
  it('whose answer is lost is asked for again and placed once, and comes onto the shelf as it is counted', async () => {
    const id = randomUUID();
    const body = { id, lines: [line(), { item: '18 RD', kind: 'wire', name: '18 AWG, RD', unit: 'm', amount: 25 }] };
    expect((await wyn.call('POST', '/api/purchases', body)).status).toBe(201);
    expect((await wyn.call('POST', '/api/purchases', body)).body.number).toBe((await purchase(id)).number);
    const p = await until(async () => {
      const now = await purchase(id);
      return now.state === 'sent' && now.answer && now;
    });
    expect(await count('SELECT COUNT(*) n FROM standin_supplier WHERE ref = ?', id)).toBe(1);
    expect(p.answer!.map((a) => a.item)).toEqual(['fuse-blade-15', '18 RD']);
    // wire is sold by ten metres
    expect(p.answer![1]!.comes.reduce((s, c) => s + c.amount, 0)).toBe(30);
    const row = (await supply()).rows.find((r) => r.item === 'fuse-blade-15')!;
    expect(row).toMatchObject({ onOrder: 9, suggest: 0 });

    const before = (await settings()).settings;
    const receive = (lines: unknown, rid = randomUUID()) => tor.call('POST', `/api/purchases/${id}/receipts`, { id: rid, lines });
    const refused = async (lines: unknown) => {
      const r = await receive(lines);
      return [r.status, r.body.fields?.[0].path];
    };
    expect(await refused([{ item: 'relay-12', amount: 1 }])).toEqual([422, 'lines.0.item']);
    expect(await refused([{ item: 'fuse-blade-15', amount: 1.5 }])).toEqual([422, 'lines.0.amount']);
    expect(await refused([{ item: '18 RD', amount: 4000 }])).toEqual([422, 'lines.0.amount']);
    expect((await receive([{ item: 'fuse-blade-15', amount: 0 }])).status).toBe(422);
    expect((await receive([{ item: 'fuse-blade-15', amount: 4 }])).body.state).toBe('sent');
    expect((await receive([{ item: '18 RD', amount: 30, lot: 'W-3' }])).body.state).toBe('sent');
    const after = (await settings()).settings;
    const fuses = (s: Settings) => s.shelf.find((x) => x.id === 'fuse-blade-15')!.have;
    expect(fuses(after) - fuses(before)).toBe(4);
    const metres = (s: Settings) => s.stock.filter((x) => x.awg === 18 && x.colour === 'RD').reduce((n, x) => n + x.lengthM, 0);
    expect(metres(after) - metres(before)).toBeCloseTo(30, 6);
    expect((await supply()).rows.find((r) => r.item === 'fuse-blade-15')).toMatchObject({ onOrder: 5 });

    const rows = Papa.parse<Record<string, string>>(await (await wyn.raw(`/api/purchases/${id}/order.csv`)).text(), { header: true }).data;
    expect(rows.filter((r) => r.item).map((r) => [r.item, r.amount, r.received, r.lots])).toEqual([
      ['fuse-blade-15', '9', '4', ''],
      ['18 RD', '25', '30', 'W-3'],
    ]);
    // the rest will not come: it is not counted on any more, and nothing more is taken of it
    expect((await wyn.call('PATCH', `/api/purchases/${id}`, { version: (await purchase(id)).version, closed: true })).body.state).toBe(
      'closed',
    );
    expect((await supply()).rows.find((r) => r.item === 'fuse-blade-15')).toMatchObject({ onOrder: 0 });
    expect((await wyn.call('PATCH', `/api/purchases/${id}`, { version: 99, day: '2030-01-01' })).status).toBe(409);
    expect((await receive([{ item: 'fuse-blade-15', amount: 1 }])).status).toBe(409);
  });
  it('that is late, or comes in parts, is heard of when the supplier is asked again', async () => {
    /** an id whose order the stand-in delivers like this: on time, late, short */
    const like = (turn: number): string => {
      for (;;) {
        const id = randomUUID();
        if (createHash('sha256').update(id).digest()[0]! % 4 === turn) return id;
      }
    };
    for (const [turn, deliveries] of [
      [1, 1],
      [2, 2],
    ] as const) {
      const id = like(turn);
      await wyn.call('POST', '/api/purchases', { id, lines: [line()] });
      const first = (await until(async () => (await purchase(id)).answer))[0]!;
      expect(first.comes).toHaveLength(1);
      // three weeks go by at the supplier
      const ago = new Date(Date.now() - 21 * 86_400_000).toISOString().slice(0, 10);
      await db.query("UPDATE standin_supplier SET json = JSON_SET(json, '$.today', ?) WHERE ref = ?", [ago, id]);
      await db.query('UPDATE purchases SET next_try = NOW(3) - INTERVAL 1 SECOND WHERE id = ?', [id]);
      const then = await until(async () => {
        const now = (await purchase(id)).answer![0]!;
        return JSON.stringify(now) !== JSON.stringify(first) && now;
      });
      expect(then.comes).toHaveLength(deliveries);
      expect(then.comes.reduce((s, c) => s + c.amount, 0)).toBe(9);
      await wyn.call('PATCH', `/api/purchases/${id}`, { version: (await purchase(id)).version, closed: true });
    }
  });
  it.each([
    [{ lines: [] }, 'lines'],
    [{ lines: [line({ amount: 1.5 })] }, 'lines.0.amount'],
    [{ lines: [line({ amount: 0 })] }, 'lines.0.amount'],
    [{ lines: [line({ item: 'Fuse; DROP TABLE' })] }, 'lines.0.item'],
    [{ day: '2026-02-30' }, 'day'],
    [{ id: 'x' }, 'id'],
  ])('%j is refused by its field', async (more, path) => {
    const r = await wyn.call('POST', '/api/purchases', { id: randomUUID(), lines: [line()], ...more });
    expect([r.status, r.body.fields?.[0].path]).toEqual([422, path]);
  });
  it('is for who buys, and a receipt of what is not there is not here', async () => {
    expect((await tor.call('POST', '/api/purchases', { id: randomUUID(), lines: [line()] })).status).toBe(403);
    const nowhere = await tor.call('POST', `/api/purchases/${randomUUID()}/receipts`, {
      id: randomUUID(),
      lines: [{ item: 'fuse-blade-15', amount: 1 }],
    });
    expect(nowhere.status).toBe(404);
  });
  it('levels and what is kept for an order are settings, with what is wrong by its line', async () => {
    expect((await set('levels', [{ item: 'relay-12', least: 5, upTo: 3 }])).status).toBe(422);
    expect((await set('levels', [{ item: 'relay-12', least: 5, upTo: 8 }])).status).toBe(200);
    expect((await supply()).rows.find((r) => r.item === 'relay-12')).toMatchObject({ least: 5, suggest: 4 });
    const rows = Papa.parse<Record<string, string>>(await (await wyn.raw('/api/supply.csv')).text(), { header: true }).data;
    expect(rows.find((r) => r.item === 'relay-12')).toMatchObject({ to_order: '4', kept_at_least: '5' });
  });
  it('what orders take is worked out anew once a rule of the shop is another, not at their next write', async () => {
    const rows = async () => (await supply()).rows.map((r) => `${r.need} × ${r.item}`).join();
    const before = await rows();
    // as if it had been worked out by other rules
    await db.query("UPDATE orders SET demands = '[]' WHERE status = 'open'");
    const old = await rows();
    expect(old).not.toBe(before);
    // a setting that nothing of an order follows from leaves it as it is
    expect((await set('shop', 'Skerry Point')).status).toBe(200);
    expect(await rows()).toBe(old);
    expect((await set('fuse150', true)).status).toBe(200);
    expect((await set('fuse150', false)).status).toBe(200);
    expect(await rows()).toBe(before);
  });
  it('labels name every item, and the cuts of all orders go out as rows', async () => {
    const res = await wyn.raw('/api/supply/labels.pdf');
    const [text] = await pdfPages(await res.arrayBuffer());
    expect(text).toContain('relay-12');
    const cuts = Papa.parse<Record<string, string>>(await (await wyn.raw('/api/supply/cuts.csv')).text(), { header: true }).data;
    expect(cuts.filter((c) => c.from).length).toBe((await supply()).cuts.rows.length);
  });
});

describe('messages', () => {
  const sent = async (order: string) => (await wyn.call<OwnerMessage[]>('GET', `/api/orders/${order}/messages`)).body;
  async function taken(phone: string): Promise<string> {
    const like = (await orderOf((await wyn.order('Tern 300')).id)).unit;
    return (await wyn.call('POST', '/api/orders', { ...openingLike(like), phone })).body.id as string;
  }
  const later = (hour: number) => ({ type: 'arrive.changed', patch: { promisedAt: `2031-01-01T${hour}:00:00.000Z` } });
  it('go out once each, though the answer is lost and the same is recorded again', async () => {
    const id = await taken('555-0177');
    expect((await record(id, later(10))).status).toBe(200);
    await until(async () => (await sent(id)).every((m) => m.state === 'sent') && (await sent(id)).length);
    // earlier, and later again to the same hour: that was told
    await record(id, { type: 'arrive.changed', patch: { promisedAt: '2030-06-01T10:00:00.000Z' } });
    await record(id, later(10));
    await record(id, later(12));
    const list = await until(async () => {
      const l = await sent(id);
      return l.length > 1 && l.every((m) => m.state === 'sent') && l;
    });
    expect(list.map((m) => [m.kind, m.address])).toEqual([
      ['late', '555-0177'],
      ['late', '555-0177'],
    ]);
    expect(list[1]!.text).toContain('Edda');
    expect((await wyn.call('GET', `/api/orders/${id}/history.json`)).body.messages).toEqual(list);
    expect(await count("SELECT COUNT(*) n FROM standin_messenger WHERE address = '555-0177'")).toBe(2);
  });
  it('without a way to reach the owner wait for one, and go there', async () => {
    const id = await taken('');
    await record(id, later(11));
    const [held] = await sent(id);
    expect(held).toMatchObject({ state: 'held', says: 'nobody wrote down how the owner is reached' });
    const release = (who: Client, address: string) => who.call('POST', `/api/orders/${id}/messages/${held!.id}/release`, { address });
    expect((await release(tor, '555-0178')).status).toBe(403);
    expect((await release(wyn, '')).status).toBe(422);
    expect((await release(wyn, '555-0178')).status).toBe(200);
    await until(async () => (await sent(id))[0]!.state === 'sent');
    expect((await release(wyn, '555-0179')).status).toBe(409);
    expect(await count("SELECT COUNT(*) n FROM standin_messenger WHERE address = '555-0178'")).toBe(1);
  });
  it('that name the owner’s page are held until its address is known; the secret is the owner’s alone', async () => {
    const { messages } = (await settings()).settings;
    expect((await set('messages', { ...messages, quote: { on: true, text: 'Agree here: {price}' } })).body.fields[0].path).toBe(
      'changes.0.messages.quote.text',
    );
    expect((await set('messages', { ...messages, quote: { ...messages.quote, on: true } })).status).toBe(200);
    const id = await taken('555-0180');
    await record(id, { type: 'kit.added', kit: 'aux-lamps' }, ines);
    const quoted = await record(id, {
      type: 'quote.made',
      basis: 'fixed',
      options: [{ name: 'As planned', changes: [] }],
      discount: null,
      note: '',
      prices: {},
    });
    expect(quoted.status).toBe(200);
    const held = await until(async () => (await sent(id)).find((m) => m.state === 'held'));
    expect(held.says).toContain('at which address');
    await set('publicAddress', 'https://fit.example/');
    await wyn.call('POST', `/api/orders/${id}/messages/${held.id}/release`, { address: held.address });
    const told = await until(async () => (await sent(id)).find((m) => m.state === 'sent'));
    expect(told.text).toContain('https://fit.example/u/…');
    const [[outside]] = (await db.query<RowDataPacket[]>("SELECT text FROM standin_messenger WHERE address = '555-0180'")) as unknown as [
      [{ text: string }],
    ];
    const secret = /\/u\/([\w-]{43})/.exec(outside.text)![1]!;
    expect((await new Client(shop.base).call('GET', `/api/owner/${secret}`)).status).toBe(200);
  });
});
