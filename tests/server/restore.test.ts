import { execFile } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sha256 } from '#server/store/chain';
import { openPools, rows, run, Shop as Record, Directory } from '#server/store/db';
import { png } from '../picture';
import { Client, shopsCommand, startShop, type Shop } from '../shop';
// @ts-expect-error plain JavaScript shared with the start command
import { startMariadb } from '../../scripts/lib/mariadb.mjs';

const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));
let folder: string;
let shop: Shop;
let tor: Client;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'kadro-restore-'));
  shop = await startShop({ fast: false });
  tor = await new Client(shop.base).signIn('tor');
}, 180_000);
afterAll(async () => {
  await shop.stop();
  rmSync(folder, { recursive: true, force: true });
});

/** What a command of the package says, over a folder of shops. */
const npm = (script: string, home: string, ...args: string[]): Promise<{ code: number; said: string }> =>
  new Promise((resolve) =>
    execFile(process.execPath, [`scripts/${script}.mjs`, ...args], { env: { ...process.env, KADRO_HOME: home } }, (e, out, err) =>
      resolve({ code: e ? Number(e.code) : 0, said: out + err }),
    ),
  );

/** Every row of every table of a database, but for what is no record: leases, what servers say of themselves, and archives that were written. */
async function everyRow(url: string, schema: string): Promise<{ [table: string]: string[] }> {
  const pools = openPools(url);
  try {
    const db = new Record('any', pools, schema, Directory.of(pools), null);
    const tables = await rows<{ t: string }>(
      db,
      "SELECT table_name t FROM information_schema.tables WHERE table_schema = ? AND table_type = 'BASE TABLE'",
      [schema],
    );
    const out: { [table: string]: string[] } = {};
    for (const { t } of tables.filter((x) => !['leases', 'watch', 'backups', 'servers', 'hits', 'week_plan'].includes(x.t)))
      out[t] = (await rows<object>(db, `SELECT * FROM \`${t}\``)).map((r) => JSON.stringify(r)).sort();
    return out;
  } finally {
    await pools.close();
  }
}
/** The same of a folder that nothing runs over. */
async function rowsIn(home: string, schema: string) {
  const database = (await startMariadb(home, { fast: true })) as { url: string; stop(): Promise<void> };
  try {
    return await everyRow(database.url, schema);
  } finally {
    await database.stop();
  }
}
async function inDirectory<T>(url: string, work: (d: Directory) => Promise<T>): Promise<T> {
  const pools = openPools(url);
  try {
    return await work(Directory.of(pools));
  } finally {
    await pools.close();
  }
}
/** How an account gets in, and its passkeys, as the directory has them. */
const waysIn = (url: string, account: string) =>
  inDirectory(url, async (d) => [
    await rows(d, `SELECT password_hash, bench_code, passkey_handle FROM ${d.at}.accounts WHERE id = ?`, [account]),
    await rows(d, `SELECT * FROM ${d.at}.passkeys WHERE account = ?`, [account]),
  ]);
/** Gives an account a passkey that no device has. */
const givePasskey = (url: string, account: string) =>
  inDirectory(url, async (d) => {
    const key = Buffer.from([0, 39, 92, 255, 63, 10, 26]);
    await run(d, `UPDATE ${d.at}.accounts SET passkey_handle = 'h-7' WHERE id = ?`, [account]);
    await run(
      d,
      `INSERT INTO ${d.at}.passkeys (id_hash, account, host, credential, public_key, counter, transports, name, at, used_at) VALUES (?, ?, 'localhost', ?, ?, 7, '', ?, ?, NULL)`,
      [sha256('one'), account, '{"id":"one"}', key, "Sol's \\ key?", new Date()],
    );
  });
const findingsIn = (all: { [table: string]: string[] }): string[] =>
  all
    .order_events!.map((r) => JSON.parse(r) as { type: string; body: string })
    .filter((e) => e.type === 'finding.added')
    .map((e) => (JSON.parse(e.body) as { text: string }).text)
    .filter((t) => /^(before|between|after)/.test(t))
    .sort();

describe('to a moment', () => {
  it('what was acknowledged since a backup comes back by the log: all of it, or up to a moment', async () => {
    const archive = join(folder, 'early.tar.gz');
    const log = join(shop.folder, 'binlog');
    const { id } = await tor.order('Greenway 36');
    const find = async (text: string) => {
      const { version } = (await tor.call('GET', `/api/orders/${id}`)).body.order as { version: number };
      const r = await tor.record(id, version, { type: 'finding.added', text });
      expect(r.status, r.text).toBe(200);
    };
    await find('before the backup');
    const made = await npm('backup', shop.folder, archive);
    expect(made.code, made.said).toBe(0);
    await find('between 1');
    await find('between 2');
    // a log's times are whole seconds
    await wait(1100);
    const moment = new Date(Math.ceil(Date.now() / 1000) * 1000);
    await wait(moment.getTime() - Date.now() + 100);
    await find('after the moment');
    // a sheet and a setting, so that not only orders are told by it
    const oda = await new Client(shop.base).signIn('oda');
    await oda.call('PATCH', '/api/settings', { changes: [{ field: 'moveMinutes', value: 3, version: 0 }] });
    await wait(700);
    const live = await everyRow(shop.url, 'kadro');

    const [all, early] = [join(folder, 'all'), join(folder, 'early')];
    const whole = await npm('restore', all, archive, '--log', log);
    expect(whole.code, whole.said).toBe(0);
    expect(whole.said).toMatch(/every hash agrees/);
    const back = await rowsIn(all, 'kadro');
    expect(Object.keys(back).sort()).toEqual(Object.keys(live).sort());
    for (const table of Object.keys(live)) expect(back[table], table).toEqual(live[table]);
    expect(findingsIn(back)).toEqual(['after the moment', 'before the backup', 'between 1', 'between 2']);

    const some = await npm('restore', early, archive, '--log', log, '--to', moment.toISOString().slice(0, 19).replace('T', ' '));
    expect(some.code, some.said).toBe(0);
    expect(findingsIn(await rowsIn(early, 'kadro'))).toEqual(['before the backup', 'between 1', 'between 2']);

    // a log of elsewhere, none, or a moment that is none
    const never = join(folder, 'never');
    for (const [args, says] of [
      [['--log', folder], /does not go on from this backup/],
      [['--log', join(folder, 'nowhere')], /is not there/],
      [['--to', '2026-01-01 12:00'], /say where it is/],
      [['--log', log, '--to', 'yesterday'], /is no moment/],
      [['--lag', log], /npm run restore/],
    ] as const) {
      const r = await npm('restore', never, archive, ...args);
      expect([r.code, r.said], args.join(' ')).toEqual([1, expect.stringMatching(says)]);
      expect(existsSync(join(never, 'mariadb'))).toBe(false);
    }
  }, 240_000);
});

describe('one shop alone', () => {
  it('goes out of where it is and into another installation, row for row, with its people and pictures; nothing there is written over', async () => {
    const made = await shopsCommand(shop, 'make', 'south', 'South yard', '--owner', 'sol');
    const password = /password (\S+)/.exec(made.said)![1]!;
    const at = `${shop.base}/at/south`;
    const sol = await new Client(at).signIn('sol', password);
    const picture = png(21, 30, 30);
    const photo = sha256(picture);
    expect((await sol.bytes(`/api/photos/${photo}`, picture)).status).toBeLessThan(300);
    await sol.call('POST', '/api/people', { id: 'ben', name: 'Ben', role: 'lead', password: 'ben has this one' });
    expect((await sol.call('POST', '/api/sheets', readFileSync('demo/models/drover-2.json', 'utf8'))).status).toBeLessThan(300);
    expect((await sol.call('PUT', '/api/session/bench-code', { password, code: '48213' })).body).toEqual({ on: true });
    await givePasskey(shop.url, 'sol');
    const live = await everyRow(shop.url, 'kadro_south');
    const archive = join(folder, 'south.tar.gz');
    const out = await npm('backup', shop.folder, archive, '--shop', 'south');
    expect([out.code, out.said]).toEqual([0, expect.stringMatching(/all of South yard/)]);
    const whole = join(folder, 'everything.tar.gz');
    expect((await npm('backup', shop.folder, whole)).code).toBe(0);

    // over itself it is not written
    const over = await npm('restore', shop.folder, archive);
    expect([over.code, over.said]).toEqual([1, expect.stringMatching(/“south” already: nothing was touched/)]);
    expect(await everyRow(shop.url, 'kadro_south')).toEqual(live);
    // nor into nothing
    const nowhere = await npm('restore', join(folder, 'nothing'), archive);
    expect([nowhere.code, nowhere.said]).toEqual([1, expect.stringMatching(/There is no Kadro/)]);

    // another installation, where somebody else is called ben
    const other = await startShop();
    try {
      const oda = await new Client(other.base).signIn('oda');
      await oda.call('POST', '/api/people', { id: 'ben', name: 'Another Ben', role: 'desk', password: 'somebody else' });
      for (const [file, args, id] of [
        [archive, [], 'south'],
        [whole, ['--shop', 'south', '--as', 'taken'], 'taken'],
      ] as const) {
        const back = await npm('restore', other.folder, file, ...args);
        expect([back.code, back.said]).toEqual([
          0,
          expect.stringMatching(/1 pictures: every state is what its events make, every hash agrees/),
        ]);
        expect(back.said).toMatch(/ben: somebody here is called that already/);
        expect(await everyRow(other.url, `kadro_${id}`)).toEqual(live);
        const there = await new Client(`${other.base}/at/${id}`).signIn('sol', password);
        expect((await there.call('GET', '/api/about')).body).toMatchObject({ shop: 'South yard' });
        const ways = await waysIn(other.url, 'sol');
        expect(ways).toEqual(await waysIn(shop.url, 'sol'));
        expect(JSON.stringify(ways)).toMatch(/h-7.*Sol's/s);
        const shown = await there.raw(`/api/photos/${photo}`);
        expect(Buffer.from(await shown.arrayBuffer()).equals(picture)).toBe(true);
        for (const word of ['ben has this one', 'somebody else'])
          expect((await new Client(`${other.base}/at/${id}`).call('POST', '/api/session', { name: 'ben', password: word })).status).toBe(
            401,
          );
        expect((await there.call('GET', '/api/people')).body).toEqual(
          expect.arrayContaining([expect.objectContaining({ id: 'ben', name: 'Ben', ended: true })]),
        );
      }
      // the keeper says that it is the same
      expect((await shopsCommand(other, 'join', 'ben', 'south', 'lead')).status).toBe(0);
      await new Client(`${other.base}/at/south`).signIn('ben', 'somebody else');
    } finally {
      await other.stop();
    }
  }, 240_000);
});
