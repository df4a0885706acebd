import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { createPool, type Pool, type RowDataPacket } from 'mysql2/promise';
import { eventHash, FIRST_HASH } from '#server/store/chain';

export interface Size {
  shops: number;
  /** of each shop */
  orders: number;
  tablets: number;
  seconds: number;
}

/** A database on this machine, as root, whose writes need not be repeated anywhere. */
export function rootOf(folder: string): Pool {
  const read = (f: string) => JSON.parse(readFileSync(join(folder, f), 'utf8')) as { socket: string; password: string };
  return createPool({
    socketPath: read('database-run.json').socket,
    user: 'root',
    password: read('database.json').password,
    database: 'kadro',
    timezone: 'Z',
    connectionLimit: 1,
  });
}

type Row = Record<string, unknown>;
const DAY = 86_400_000;
const idOf = (n: number): string => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const earlier = (d: unknown, days: number): unknown => (d instanceof Date ? new Date(d.getTime() - days * DAY) : d);

async function insert(db: Pool, table: string, list: readonly Row[]): Promise<void> {
  // a packet is sixteen megabytes at most
  for (let i = 0; i < list.length; i += 100) {
    const some = list.slice(i, i + 100);
    const columns = Object.keys(some[0]!);
    await db.query(`INSERT INTO ${table} (${columns.map((c) => `\`${c}\``).join(',')}) VALUES ?`, [
      some.map((r) => columns.map((c) => r[c])),
    ]);
  }
}

/**
 * Grows the demo’s shop to as many orders as are asked for: each further one is a sealed order of the demo over again, some days
 * earlier, under a number and an id of its own, with its whole history and its chain of hashes made anew.
 */
async function grow(db: Pool, orders: number): Promise<void> {
  const all = async (sql: string, args: unknown[] = []) => (await db.query<RowDataPacket[]>(sql, args))[0] as Row[];
  const sealed = await all("SELECT * FROM orders WHERE status = 'sealed' ORDER BY number");
  const [{ n: had, most }] = (await all('SELECT COUNT(*) n, MAX(number) most FROM orders')) as [{ n: number; most: number }];
  const of = new Map<unknown, Record<string, Row[]>>();
  for (const o of sealed)
    of.set(o.id, {
      order_events: await all('SELECT * FROM order_events WHERE order_id = ? ORDER BY seq', [o.id]),
      told: await all('SELECT * FROM told WHERE order_id = ?', [o.id]),
      sealed_sheets: await all('SELECT * FROM sealed_sheets WHERE order_id = ?', [o.id]),
      worked: await all('SELECT * FROM worked WHERE number = ?', [o.number]),
      order_words: await all('SELECT * FROM order_words WHERE number = ?', [o.number]),
    });
  for (let k = 0; k < orders - had; k += sealed.length) {
    const made: Record<string, Row[]> = { orders: [], order_events: [], told: [], sealed_sheets: [], worked: [], order_words: [] };
    for (const [i, o] of sealed.slice(0, orders - had - k).entries()) {
      const number = most + 1 + k + i;
      const id = idOf(number);
      const days = 5 * (k / sealed.length + 1);
      const dated = (r: Row): Row => Object.fromEntries(Object.entries(r).map(([c, v]) => [c, earlier(v, days)]));
      const own = of.get(o.id)!;
      made.orders!.push({ ...dated(o), id, number, state: JSON.stringify({ ...(JSON.parse(String(o.state)) as Row), id, number }) });
      let prev = FIRST_HASH;
      for (const { id: _own, ...raw } of own.order_events!) {
        const e = dated(raw);
        const body = { ...(JSON.parse(String(e.body)) as { type: string }), ...(e.type === 'order.opened' && { number }) };
        const [at, doneAt] = [e.at as Date, (e.done_at ?? e.at) as Date];
        const hash = eventHash(id, {
          seq: Number(e.seq),
          version: Number(e.version),
          doneAt: doneAt.toISOString(),
          recordedAt: at.toISOString(),
          by: String(e.by_person),
          body,
          prevHash: prev,
        });
        made.order_events!.push({ ...e, order_id: id, body: JSON.stringify(body), prev_hash: prev, hash });
        prev = hash;
      }
      for (const t of ['told', 'sealed_sheets'] as const)
        for (const r of own[t]!) made[t]!.push({ ...dated(r), order_id: id, ...('number' in r && { number }) });
      for (const r of own.worked!) made.worked!.push({ ...dated(r), number });
      for (const r of own.order_words!) made.order_words!.push({ ...r, number });
      made.order_words!.push({ word: String(number), number });
    }
    for (const [table, list] of Object.entries(made)) if (list.length) await insert(db, table, list);
  }
  await db.query("UPDATE counters SET value = (SELECT MAX(number) FROM orders) WHERE name = 'order'");
  await db.query('INSERT IGNORE INTO words (word) SELECT DISTINCT word FROM order_words');
  await db.query('ANALYZE TABLE orders, order_events, told, worked, order_words');
}

/** Makes further shops that hold the same as the first one, each in a database of its own. @returns their ids */
async function cloneShops(db: Pool, shops: number): Promise<string[]> {
  const [tables] = await db.query<RowDataPacket[]>(
    "SELECT table_name t FROM information_schema.tables WHERE table_schema = 'kadro' AND table_type = 'BASE TABLE'",
  );
  const made: [string, string][] = [];
  for (const { t } of tables) {
    const [[r]] = await db.query<RowDataPacket[]>(`SHOW CREATE TABLE kadro.\`${t}\``);
    made.push([String(t), String(r!['Create Table'])]);
  }
  const ids: string[] = [];
  for (let n = 2; n <= shops; n++) {
    const id = `s${n}`;
    await db.query(`CREATE DATABASE kadro_${id} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
    await db.query(`USE kadro_${id}`);
    for (const [t, statement] of made) {
      await db.query(statement);
      // generated ones are generated again
      await db.query(`INSERT INTO \`${t}\` SELECT * FROM kadro.\`${t}\``);
    }
    await db.query(`INSERT INTO kadro_directory.shops (id, name, schema_name, at) VALUES (?, ?, ?, NOW(3))`, [
      id,
      `Shop ${n}`,
      `kadro_${id}`,
    ]);
    await db.query(
      "INSERT INTO kadro_directory.members (shop, account, name, role, version, ended_at, at) SELECT ?, account, name, role, version, ended_at, at FROM kadro_directory.members WHERE shop = 'shop'",
      [id],
    );
    ids.push(id);
  }
  await db.query('USE kadro');
  return ids;
}

const at = (list: number[], part: number) => [...list].sort((a, b) => a - b)[Math.floor((list.length - 1) * part)]!;
const WORDS = ['winch', 'drover', 'lamp', 'fuse', 'usb', 'grommet clip', 'volts', 'horn', 'parkway', 'relay winch', 'bracket'];

/** One tablet at work: it opens orders, records on the one that is in work, and looks for others, with pauses as people make them. */
async function tablet(
  n: number,
  base: string,
  shops: readonly string[],
  ids: readonly string[],
  until: number,
  took: Record<string, number[]>,
) {
  const timed = async (what: string, path: string, init: RequestInit = {}): Promise<Response> => {
    const t = performance.now();
    const res = await fetch(base + path, {
      ...init,
      headers: { Cookie, ...(init.headers as Record<string, string>) },
      signal: AbortSignal.timeout(30_000),
    });
    const text = await res.text();
    (took[what] ??= []).push(performance.now() - t);
    if (res.status >= 300) (took[`${what} refused: ${res.status} ${text.slice(0, 80)}`] ??= []).push(1);
    return new Response(text, { status: 200 });
  };
  let Cookie = '';
  // a shop that is not open yet is asked again
  while (!Cookie && Date.now() < until) {
    const res = await fetch(`${base}/at/${shops[0]}/api/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ name: ['tor', 'maud', 'ines'][n % 3], password: 'lantern' }),
    });
    Cookie = res.headers.get('set-cookie')?.split(';')[0] ?? '';
    if (!Cookie) await pause(500);
  }
  const roll = (k: number) => Math.floor(Math.random() * k);
  for (let i = 0; Date.now() < until; i++) {
    const shop = `/at/${shops[i % shops.length]}/api`;
    // somebody who works does something every few seconds
    const think = () => pause(2000 + roll(4000));
    await timed('an order opened', `${shop}/orders/${ids[roll(ids.length)]}`);
    await think();
    // the one in work, of which this tablet has the newest version
    const { orders = [] } = (await (await timed('the floor', `${shop}/floor`)).json()) as { orders?: { id: string; version: number }[] };
    const mine = orders[n % Math.max(1, orders.length)];
    if (mine)
      await timed('a command', `${shop}/orders/${mine.id}/events?merge=yes`, {
        method: 'POST',
        headers: {
          'Content-Type': 'application/json',
          'If-Match': `"${mine.version}"`,
          'Idempotency-Key': `bench-${n}-${i}-${randomUUID()}`,
        },
        body: JSON.stringify({ type: 'finding.added', text: `seen at tablet ${n}, ${i}` }),
      });
    await think();
    await timed('a search', `${shop}/orders?q=${encodeURIComponent(WORDS[roll(WORDS.length)]!)}`);
    await timed('a bare request', '/api/live');
    await think();
  }
}

/** What was seeded: shops by their ids, each with orders of these. */
export interface Seeded {
  shops: string[];
  ids: string[];
  says: string;
}

/** Waits until what was seeded is written out: no day begins with gigabytes of it in the disk’s way. */
async function settled(db: Pool): Promise<void> {
  await db.query('SET GLOBAL innodb_max_dirty_pages_pct = 0');
  for (let i = 0; i < 300; i++) {
    const [[r]] = await db.query<RowDataPacket[]>("SHOW GLOBAL STATUS LIKE 'Innodb_buffer_pool_pages_dirty'");
    if (Number(r!.Value) < 500) break;
    await pause(1000);
  }
  await db.query('SET GLOBAL innodb_max_dirty_pages_pct = DEFAULT');
}

/** Fills a database that holds the demo with many shops of many orders. */
export async function seedShops(db: Pool, size: Size): Promise<Seeded> {
  const began = performance.now();
  await db.query('SET SESSION sql_log_bin = 0');
  await db.query('SET SESSION foreign_key_checks = 0, unique_checks = 0');
  await grow(db, size.orders);
  const shops = await cloneShops(db, size.shops);
  const [[{ n: events }]] = (await db.query('SELECT COUNT(*) n FROM order_events')) as unknown as [[{ n: number }]];
  const [[{ gb }]] = (await db.query(
    "SELECT SUM(data_length + index_length) / 1e9 gb FROM information_schema.tables WHERE table_schema LIKE 'kadro%'",
  )) as unknown as [[{ gb: number }]];
  const [ids] = await db.query<RowDataPacket[]>('SELECT id FROM orders');
  await settled(db);
  await db.end();
  const seconds = (performance.now() - began) / 1000;
  return {
    shops,
    ids: ids.map((r) => String(r.id)),
    says: `${size.shops} shops of ${size.orders} orders, ${(events * size.shops).toLocaleString('en')} events, ${Number(gb).toFixed(1)} GB, seeded in ${seconds.toFixed(0)} s`,
  };
}

/** Tablets at work in all of these shops, each in its own. */
export async function benchShops(say: (line: string) => void, where: string, base: string, { shops, ids, says }: Seeded, size: Size) {
  const took: Record<string, number[]> = {};
  const work = async (seconds: number, into: Record<string, number[]>) => {
    const until = Date.now() + seconds * 1000;
    await Promise.all(
      Array.from({ length: size.tablets }, async (_x, n) => {
        // not all in the same moment
        await pause((n / size.tablets) * 3000);
        const own = shops.filter((_s, i) => i % size.tablets === n);
        await tablet(n, base, own.length ? own : [shops[n % shops.length]!], ids, until, into);
      }),
    );
  };
  // servers ask every few seconds which shops there are
  await pause(8000);
  // once before, as a day begins: what is remembered of each shop is read then
  await work(size.seconds / 2, {});
  await work(size.seconds, took);
  say(`${where}: ${says}; ${size.tablets} tablets for ${size.seconds} s:`);
  const bare = at(took['a bare request']!, 0.5);
  for (const [what, list] of Object.entries(took))
    say(
      `  ${what}: ${list.length} times, median ${at(list, 0.5).toFixed(1)} ms, 95th ${at(list, 0.95).toFixed(1)} ms, ${(at(list, 0.5) / bare).toFixed(1)} times a bare request`,
    );
}
