import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createConnection, type Connection, type RowDataPacket } from 'mysql2/promise';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { takesBack, toldOf } from '#core/order/told';
import { openShop, row, rows, run, type Shop as Record } from '#server/store/db';
import { readEvents } from '#server/store/events';
import { indexAgain } from '#server/store/orders';
import { Client, startShop, type Shop } from '../shop';

let shop: Shop;
let ines: Client;
let db: Record;
beforeAll(async () => {
  shop = await startShop();
  ines = await new Client(shop.base).signIn('ines');
  db = openShop('shop', shop.url);
}, 120_000);
afterAll(async () => {
  await db.close();
  await shop.stop();
});

const toldRows = async () =>
  (await rows(db, 'SELECT order_id, seq, kind, about, number, model, by_person, json FROM told ORDER BY order_id, seq')).map((r) =>
    JSON.stringify(r),
  );

describe('what orders tell the next unit of their model', () => {
  it('is what stands in their histories, each once, and nothing that was taken back', async () => {
    const { id, version } = await ines.order('Drover 4');
    const one = await ines.record(id, version, { type: 'finding.added', text: 'a bracket in the way' });
    const back = await ines.record(id, one.body.version as number, { type: 'action.undone', says: 'Finding: a bracket in the way' });
    expect(back.status).toBe(200);
    const orders = await rows<{ id: string }>(db, 'SELECT id FROM orders');
    const expected = new Set<string>();
    for (const o of orders) {
      const events = await readEvents(db, o.id);
      const back = new Set(events.map((e) => takesBack(e.body)));
      for (const e of events) if (toldOf(e.body) && !back.has(e.seq)) expected.add(`${o.id}:${e.seq}`);
    }
    const kept = await rows<{ order_id: string; seq: number }>(db, 'SELECT order_id, seq FROM told');
    expect(new Set(kept.map((t) => `${t.order_id}:${t.seq}`))).toEqual(expected);
    expect(kept.length).toBe(expected.size);
    expect(expected.size).toBeGreaterThan(20);
    expect(expected.has(`${id}:${version + 1}`)).toBe(false);
  });
  it('a record from before it was kept is gone over once, wherever that was interrupted', async () => {
    const whole = await toldRows();
    for (const stop of [3, 21, 30]) {
      await run(db, 'DELETE FROM told');
      await run(db, 'DELETE FROM progress WHERE name = ?', ['told']);
      let n = 0;
      await expect(
        indexAgain(db, () => {
          if (++n === stop) throw new Error('killed');
        }),
      ).rejects.toThrow('killed');
      await indexAgain(db);
      expect(await toldRows(), String(stop)).toEqual(whole);
    }
  });
});

/** Copies of the demo's orders, so that there is something to leave out. */
const COPIES = 60;
/** Rows that one statement may be expected to look at: those of the orders that are shown, and the newest of others. */
const MOST_ROWS = 4000;
/** Rows of a list, at most. */
const MOST_LISTED = 500;
/** Tables that grow with the work of years. */
const LARGE = ['orders', 'order_events', 'order_words', 'words', 'told', 'worked', 'sealed_sheets', 'answers', 'photos', 'messages'];

async function asRoot(): Promise<Connection> {
  const read = (f: string) => JSON.parse(readFileSync(join(shop.folder, f), 'utf8')) as { socket: string; password: string };
  return createConnection({
    socketPath: read('database-run.json').socket,
    user: 'root',
    password: read('database.json').password,
    database: 'kadro',
  });
}

/** Every column of a table but those that number themselves, with some said otherwise. */
async function copyRows(c: Connection, table: string, other: { [column: string]: string }): Promise<void> {
  const [columns] = await c.query<RowDataPacket[]>(
    "SELECT column_name n FROM information_schema.columns WHERE table_schema = 'kadro' AND table_name = ? AND extra NOT LIKE '%auto_increment%' ORDER BY ordinal_position",
    [table],
  );
  const names = columns.map((r) => String(r.n));
  const from = names.map((n) => other[n] ?? `t.${n}`);
  await c.query(
    `INSERT INTO ${table} (${names.join(',')}) SELECT ${from.join(',')} FROM ${table} t JOIN seq_1_to_${COPIES} s WHERE t.${names.includes('number') ? 'number' : 'order_id'} ${
      names.includes('number') ? '< 10000' : 'IN (SELECT id FROM orders WHERE number < 10000)'
    }`,
  );
}

/** Where a statement goes over a large table, as the database itself plans it. */
async function wideOf(c: Connection, statement: string): Promise<string[]> {
  const [plan] = await c.query<RowDataPacket[]>(`EXPLAIN ${statement}`);
  return plan.flatMap((step) => {
    // under another name in its statement
    const large = LARGE.some((t) => t === step.table || new RegExp(`\\b${t} ${step.table}\\b`).test(statement));
    // an index that is read in its order is left as soon as there is enough; the whole of it is the whole table
    const all = step.type === 'ALL' || Number(step.rows) > (step.type === 'index' ? MOST_LISTED : MOST_ROWS);
    return large && all ? [`${step.table} ${step.type} ${step.key} ${step.rows}: ${statement}`] : [];
  });
}

describe('with the orders of years', () => {
  it('no statement of an order opened, found, listed or worked on goes over a whole table', async () => {
    const c = await asRoot();
    await c.query('SET foreign_key_checks = 0');
    const id = (column: string) => `CONCAT(LPAD(s.seq, 8, '0'), SUBSTR(t.${column}, 9))`;
    const number = 't.number + 10000 * s.seq';
    await copyRows(c, 'order_events', { order_id: id('order_id') });
    await copyRows(c, 'sealed_sheets', { order_id: id('order_id') });
    await copyRows(c, 'told', { order_id: id('order_id'), number });
    await copyRows(c, 'worked', { number });
    await copyRows(c, 'order_words', { number });
    // what is in the shop now is not as many as in years
    await copyRows(c, 'orders', { id: id('id'), number, status: "'sealed'" });
    await c.query(`ANALYZE TABLE ${LARGE.join(',')}`);
    const [[{ n }]] = (await c.query('SELECT COUNT(*) n FROM order_events')) as unknown as [[{ n: number }]];
    expect(n).toBeGreaterThan(50_000);

    await c.query("SET GLOBAL log_output = 'TABLE'");
    await c.query('TRUNCATE mysql.general_log');
    await c.query('SET GLOBAL general_log = ON');
    const { id: order, version } = await ines.order('Drover 4');
    // the demo is dated from the day it was made
    const ago = (days: number) => new Date(Date.now() - days * 86_400_000).toISOString().slice(0, 10);
    const asks: [string, () => Promise<{ status: number }>][] = [
      ['an order', () => ines.call('GET', `/api/orders/${order}`)],
      ['its history', () => ines.call('GET', `/api/orders/${order}/events`)],
      ['the floor', () => ines.call('GET', '/api/floor')],
      ['a search by words', () => ines.call('GET', '/api/orders?q=winch%20drover')],
      ['a search by kit and mark', () => ines.call('GET', '/api/orders?kit=usb-socket&mark=finding')],
      ['a search by a period', () => ines.call('GET', `/api/orders?q=winch&from=${ago(300)}&to=${ago(0)}`)],
      ['a finding', () => ines.record(order, version, { type: 'finding.added', text: 'a clip that breaks' })],
      ['a step taken back', () => ines.record(order, version + 1, { type: 'action.undone', says: 'Finding: a clip that breaks' })],
      ['messages', () => ines.call('GET', `/api/orders/${order}/messages`)],
      ['needs', () => ines.call('GET', '/api/supply')],
      ['the week', () => ines.call('GET', '/api/week')],
      ['a month', () => ines.call('GET', `/api/month?from=${ago(29)}&to=${ago(0)}`)],
    ];
    for (const [what, ask] of asks) expect((await ask()).status, what).toBeLessThan(300);
    await c.query('SET GLOBAL general_log = OFF');
    const [said] = await c.query<RowDataPacket[]>(
      "SELECT DISTINCT CONVERT(argument USING utf8mb4) q FROM mysql.general_log WHERE command_type IN ('Execute', 'Query')",
    );
    const statements = said
      .map((r) => String(r.q))
      .filter((q) => /^(\/\*.*?\*\/ ?)?(SELECT|UPDATE|DELETE|\(SELECT)/i.test(q) && !q.includes('general_log') && !q.includes('= ?'));
    expect(statements.length).toBeGreaterThan(25);
    const wide = (await Promise.all(statements.map((q) => wideOf(c, q)))).flat();
    expect(wide).toEqual([]);
    // and one that does is seen
    expect(await wideOf(c, "SELECT o.id FROM orders o JOIN order_events e ON e.order_id = o.id WHERE e.says LIKE '%winch%'")).toHaveLength(
      1,
    );
    await c.end();
    expect((await row<{ n: number }>(db, 'SELECT COUNT(*) n FROM orders'))!.n).toBeGreaterThan(2000);
  }, 180_000);
});
