import { spawn, spawnSync } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createConnection } from 'mysql2/promise';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openShop, rows, run, type Shop as Record } from '#server/store/db';
import { migrate } from '#server/store/migrate';
import { isPassing } from '#server/store/passing';
// @ts-expect-error plain JavaScript shared with the start command
import { freePort, startMariadb } from '../../scripts/lib/mariadb.mjs';
import { png } from '../picture';
import { Client, startShop, type Shop } from '../shop';

const folder = mkdtempSync(join(tmpdir(), 'kadro-faults-'));
const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** A command as a person runs it: how it ended, and what it said. */
const command = (script: string, env: NodeJS.ProcessEnv, ...args: string[]) =>
  new Promise<{ code: number | null; said: string }>((resolve) => {
    const child = spawn(process.execPath, [script, ...args], { env: { ...process.env, ...env } });
    let said = '';
    child.stdout.on('data', (c) => (said += String(c)));
    child.stderr.on('data', (c) => (said += String(c)));
    child.once('exit', (code) => resolve({ code, said }));
  });

describe('a start that cannot be', () => {
  let taken: Server;
  let port: number;
  let shop: Shop;
  beforeAll(async () => {
    port = await freePort();
    taken = createServer().listen(port, '127.0.0.1');
    shop = await startShop();
  });
  afterAll(async () => {
    taken.close();
    await shop.stop();
  });
  const url = (change: (u: URL) => void) => {
    const u = new URL(shop.url);
    change(u);
    return u.href;
  };
  it('says so in one clear line, and ends', async () => {
    const file = join(folder, 'a-file');
    writeFileSync(file, '');
    const cases: [NodeJS.ProcessEnv, RegExp, ...string[]][] = [
      [{ KADRO_PORT: String(port) }, new RegExp(`Port ${port} is taken by .*\\(process ${process.pid}\\)`)],
      [{ KADRO_PORT: 'eighty' }, /KADRO_PORT is “eighty”: a port is a number/],
      [{ KADRO_HOST: '203.0.113.9' }, /which is no address of this machine/],
      [{ KADRO_HOME: join(file, 'under') }, /Kadro cannot write in/],
      [{ KADRO_DATABASE_URL: url((u) => (u.password = 'wrong')) }, /does not take that name and password/],
      [
        { KADRO_DATABASE_URL: url((u) => (u.pathname = '/nothing')) },
        /does not let that name use this database|has no database of that name/,
      ],
      [{ KADRO_DATABASE_URL: 'mysql://kadro:x@no-such-machine.invalid/kadro' }, /cannot be found/],
      [{ KADRO_DATABASE_URL: 'not an address' }, /cannot be read: it is written mysql:/],
      [{}, /“--full” is not understood/, '--full'],
    ];
    for (const [env, says, ...args] of cases) {
      const free = { KADRO_PORT: String(await freePort()), KADRO_HOME: join(folder, 'home') };
      const r = await command('scripts/start.mjs', { ...free, ...env }, ...args);
      expect(r.said, JSON.stringify(env)).toMatch(says);
      expect(r.said, JSON.stringify(env)).not.toMatch(/\n\s+at .*\.(ts|mjs|js):\d+/);
      expect(r.code, JSON.stringify(env)).toBe(1);
    }
  }, 400_000);
});

describe('a database folder', () => {
  it('whose making was interrupted is made anew', async () => {
    const home = join(folder, 'half');
    mkdirSync(join(home, 'mariadb.new/mysql'), { recursive: true });
    mkdirSync(join(home, 'mariadb'), { recursive: true });
    writeFileSync(join(home, 'mariadb.new/ibdata1'), 'half');
    const database = (await startMariadb(home, { fast: true })) as { url: string; stop(): Promise<void> };
    const c = await createConnection(database.url);
    expect(await c.query('SELECT 1').then(() => 'answers')).toBe('answers');
    await c.end();
    await database.stop();
  }, 60_000);
});

const mayMount = spawnSync('sh', ['-c', `mkdir -p ${folder}/disk && mount -t tmpfs -o size=260m tmpfs ${folder}/disk`]).status === 0;
describe.skipIf(!mayMount)('a full disk', () => {
  const disk = join(folder, 'disk');
  afterAll(() => void spawnSync('umount', ['-l', disk]));
  it('is said, loses nothing, and is recovered from when there is room', async () => {
    const said: boolean[] = [];
    const database = (await startMariadb(join(disk, 'k'), { restartMs: 100, onFull: (full: boolean) => said.push(full) })) as {
      url: string;
      stop(): Promise<void>;
    };
    const db: Record = openShop('disk', database.url);
    await migrate(db, 'server/store/migrations');
    const kept: string[] = [];
    const put = async () => {
      const id = createHash('sha256').update(randomBytes(8)).digest('hex');
      await run(db, "INSERT INTO photos (id, type, width, height, bytes, by_person, at) VALUES (?, 'image/png', 1, 1, ?, 'tor', NOW(3))", [
        id,
        randomBytes(1_500_000),
      ]);
      kept.push(id);
    };
    await put();
    spawnSync('sh', ['-c', `dd if=/dev/zero of=${disk}/fill bs=1M 2>/dev/null`]);
    let error: unknown = null;
    for (let i = 0; i < 12 && !error; i++) await put().catch((e: unknown) => (error = e));
    expect(isPassing(error)).toBe(true);
    await wait(2500);
    expect(said.at(0)).toBe(true);
    rmSync(join(disk, 'fill'));
    let back = false;
    for (let i = 0; i < 80 && !back; i++)
      await put().then(
        () => (back = true),
        () => wait(400),
      );
    expect(back).toBe(true);
    const there = new Set((await rows<{ id: string }>(db, 'SELECT id FROM photos')).map((r) => r.id));
    expect(kept.filter((k) => !there.has(k))).toEqual([]);
    await db.close();
    await database.stop();
  }, 120_000);
});

describe('a backup', () => {
  it('taken while the shop works holds all that was acknowledged before it, pictures too, and comes back on an empty machine', async () => {
    const shop = await startShop({ fast: false });
    const home = join(folder, 'restored');
    const archive = join(folder, 'all.tar.gz');
    try {
      const tor = await new Client(shop.base).signIn('tor');
      const { id, version } = await tor.order('Greenway 36');
      const picture = png(5, 40, 40);
      const photo = createHash('sha256').update(picture).digest('hex');
      expect((await tor.bytes(`/api/photos/${photo}`, picture)).status).toBe(200);
      let at = version;
      let going = true;
      const acknowledged: { text: string; when: number }[] = [];
      const working = (async () => {
        for (let i = 0; going; i++) {
          const text = `while copying ${i}`;
          const r = await tor.record(id, at, { type: 'finding.added', text });
          if (r.status === 200) {
            at = r.body.version as number;
            acknowledged.push({ text, when: Date.now() });
          }
          await wait(20);
        }
      })();
      await wait(300);
      const began = Date.now();
      const made = await command('scripts/backup.mjs', { KADRO_HOME: shop.folder }, archive);
      going = false;
      await working;
      expect(made.said).toMatch(/all\.tar\.gz: \d+\.\d MB, SHA-256 [0-9a-f]{64}/);
      expect(made.code).toBe(0);
      expect(acknowledged.filter((a) => a.when > began).length).toBeGreaterThan(10);
      // a second of the same name is not written over
      expect((await command('scripts/backup.mjs', { KADRO_HOME: shop.folder }, archive)).code).toBe(1);
      // checking the record of a shop that works leaves it working
      const checked = await command('scripts/check-record.mjs', { KADRO_HOME: shop.folder });
      expect(checked.said).toMatch(/every hash agrees/);
      expect((await tor.call('GET', '/api/health')).status).toBe(200);

      const back = await command('scripts/restore.mjs', { KADRO_HOME: home }, archive);
      expect(back.said).toMatch(/1 pictures: every state is what its events make, every hash agrees/);
      expect(back.code).toBe(0);
      const database = (await startMariadb(home)) as { url: string; stop(): Promise<void> };
      const db = openShop('restored', database.url);
      const texts = (
        await rows<{ body: string }>(db, "SELECT body FROM order_events WHERE order_id = ? AND type = 'finding.added' ORDER BY seq", [id])
      ).map((r) => (JSON.parse(r.body) as { text: string }).text);
      const before = acknowledged.filter((a) => a.when < began).map((a) => a.text);
      expect(before.filter((t) => !texts.includes(t))).toEqual([]);
      // what came back is a beginning of what happened, without a gap
      const copied = texts.filter((t) => t.startsWith('while copying'));
      expect(copied).toEqual(acknowledged.slice(0, copied.length).map((a) => a.text));
      const kept = readFileSync(join(home, 'pictures', photo.slice(0, 2), photo));
      expect(kept.equals(picture)).toBe(true);
      // row by row the same as what was backed up, but for what was recorded since
      const live = openShop('live', shop.url);
      for (const table of [
        'kadro_directory.accounts',
        'kadro_directory.members',
        'sheets',
        'setting_fields',
        'shelf',
        'worked',
        'sealed_sheets',
        'order_words',
      ]) {
        const all = async (s: Record) =>
          (
            await rows(
              s,
              `SELECT * FROM ${table}${table === 'order_words' ? " WHERE number <> (SELECT number FROM orders WHERE id = '" + id + "')" : ''} ORDER BY 1, 2`,
            )
          ).map((r) => JSON.stringify(r));
        expect(await all(db), table).toEqual(await all(live));
      }
      await live.close();
      await db.close();
      await database.stop();
      // it is not brought back over a shop, and what is no backup is refused
      const over = await command('scripts/restore.mjs', { KADRO_HOME: home }, archive);
      expect([over.code, over.said]).toEqual([1, expect.stringMatching(/There is a shop .* already: nothing was touched/)]);
      writeFileSync(join(folder, 'no.tar.gz'), 'nothing of the kind');
      const none = await command('scripts/restore.mjs', { KADRO_HOME: join(folder, 'never') }, join(folder, 'no.tar.gz'));
      expect([none.code, none.said]).toEqual([1, expect.stringMatching(/is not a backup of Kadro, or it is damaged/)]);
    } finally {
      await shop.stop();
    }
  }, 180_000);
});
