import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createConnection, type Connection, type RowDataPacket } from 'mysql2/promise';
import { Client, startShop, type Shop } from '../shop';

let shop: Shop;
let sql: Connection;
beforeAll(async () => {
  shop = await startShop();
  sql = await createConnection(shop.url);
}, 120_000);
afterAll(async () => {
  await sql.end();
  await shop.stop();
});

const revisions = async () =>
  Object.fromEntries(
    (await sql.query<RowDataPacket[]>("SELECT id, MAX(revision) revision FROM sheets WHERE kind = 'rules' GROUP BY id"))[0].map((r) => [
      r.id as string,
      Number(r.revision),
    ]),
  );
const restart = async () => {
  shop.killServer();
  await new Promise((r) => setTimeout(r, 300));
  await shop.startServer();
};
const packOf = async (c: Client, id: string) =>
  JSON.parse(await (await c.raw(`/api/sheets/rules/${id}`)).text()) as { sheet: { name: string; edition: string; items: unknown[] } };

describe('rule packs as the server starts', () => {
  it('starting again changes nothing', async () => {
    const before = await revisions();
    expect(Object.keys(before).length).toBeGreaterThanOrEqual(6);
    await restart();
    expect(await revisions()).toEqual(before);
  });
  it('a pack that a shop lacks comes in, an old one that nobody edited is brought up to date, an edited one stays', async () => {
    const lead = await new Client(shop.base).signIn('ines');
    // as a shop from before: one pack unknown, one in an older text, one edited by a lead
    await sql.query("DELETE FROM sheets WHERE kind = 'rules' AND id = 'motorcycle-r53'");
    const [[old]] = await sql.query<RowDataPacket[]>(
      "SELECT json FROM sheets WHERE kind = 'rules' AND id = 'road-general' ORDER BY revision DESC LIMIT 1",
    );
    const older = { ...(JSON.parse(old!.json as string) as object), edition: 'an older text' };
    await sql.query("UPDATE sheets SET json = ? WHERE kind = 'rules' AND id = 'road-general'", [JSON.stringify(older)]);
    const mine = await packOf(lead, 'low-speed-vehicle');
    mine.sheet.edition = 'our own text';
    expect((await lead.call('POST', '/api/sheets', JSON.stringify(mine))).status).toBe(200);
    const before = await revisions();

    await restart();
    const again = await new Client(shop.base).signIn('ines');
    const now = await revisions();
    expect(now['motorcycle-r53']).toBe(1);
    expect(now['road-general']).toBe(before['road-general']! + 1);
    expect(now['low-speed-vehicle']).toBe(before['low-speed-vehicle']);
    expect((await packOf(again, 'road-general')).sheet.edition).toMatch(/Uniform Vehicle Code/);
    expect((await packOf(again, 'low-speed-vehicle')).sheet.edition).toBe('our own text');
  });
  it('every order comes with every pack, and is judged by those that are proposed or chosen', async () => {
    const c = await new Client(shop.base).signIn('tor');
    const { id } = await c.order('Lapwing 500');
    const dossier = await c.call<{ sheets: { packs: { id: string }[] } }>('GET', `/api/orders/${id}`);
    expect(dossier.body.sheets.packs.map((p) => p.id).sort()).toEqual(Object.keys(await revisions()).sort());
    const judged = async () =>
      ((await c.call('GET', `/api/orders/${id}/hand-over.json`)).body.lamps as { pack: string }[]).map((l) => l.pack);
    expect(await judged()).toEqual(['Motorcycle lamps, federal']);
    const order = await c.order('Lapwing 500');
    await c.record(id, order.version, { type: 'fact.told', key: 'fact:un-regulations', value: true, label: 'Abroad' });
    expect((await judged()).sort()).toEqual(['Motorcycle lamps, UN Regulation 53', 'Motorcycle lamps, federal']);
  });
  it('the interface describes its new papers', async () => {
    const c = await new Client(shop.base).signIn('tor');
    const api = (await c.call('GET', '/api/openapi.json')).body as { paths: Record<string, { get?: { parameters?: { name: string }[] } }> };
    for (const path of ['/api/orders/{id}/holes.pdf', '/api/orders/{id}/holes/{kit}/{device}/sheet.dxf', '/api/orders/{id}/aim.pdf'])
      expect(Object.keys(api.paths)).toContain(path);
    expect(api.paths['/api/orders/{id}/aim.pdf']!.get!.parameters!.map((p) => p.name)).toContain('distance');
  });
});
