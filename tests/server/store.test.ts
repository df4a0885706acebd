import { copyFileSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createConnection } from 'mysql2/promise';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { forgetAnswers, keepAnswer, keptAnswer } from '#server/store/answers';
import { canonical, eventHash, FIRST_HASH, sha256 } from '#server/store/chain';
import { answers, inTurn, openShop, row, rows, run, Shop, transact, type Tx } from '#server/store/db';
import { HitStore } from '#server/store/hits';
import { withLease } from '#server/store/lease';
import { migrate } from '#server/store/migrate';
import { isPassing, isTriedAgain } from '#server/store/passing';
import { changePassword, checkPassword, giveCode, useCode } from '#server/store/accounts';
import { addPerson, changePerson, joinPerson, listPeople } from '#server/store/people';
import { readRights } from '#server/store/rights';
import { beginSecondFactor, checkSecondFactor, confirmSecondFactor, dropSecondFactor, hasSecondFactor } from '#server/store/second-factor';
import { Secret, TOTP } from 'otpauth';
import { beginSession, endSession, findSession, stillSignedIn } from '#server/store/sessions';
import { adoptPeople, listShops, nameShop, prepareDirectory, shopsOf } from '#server/store/shops';
import { bringSettings, changeSettings, countShelf, moveOnShelf, readKeptSettings, StaleSetting } from '#server/store/settings';
import { normalName } from '#model/person';
import { DEFAULT_SETTINGS } from '#model/settings';
import { openApi } from '#server/http/openapi';
import { ROUTES } from '#server/app';
// @ts-expect-error plain JavaScript shared with the start command
import { startMariadb } from '../../scripts/lib/mariadb.mjs';

const FOLDER = 'server/store/migrations';
let folder: string;
let database: { url: string; stop(): Promise<void> };
let db: Shop;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'kadro-store-'));
  database = await startMariadb(folder, { fast: true });
  db = openShop('one', database.url);
  await prepareDirectory(db, 'server/store');
});
afterAll(async () => {
  await db.close();
  await database.stop();
  rmSync(folder, { recursive: true, force: true });
});
const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));
const tables = async () =>
  (await rows<{ t: string }>(db, 'SELECT table_name t FROM information_schema.tables WHERE table_schema = DATABASE()'))
    .map((r) => r.t)
    .sort();
const dropAll = async () => {
  const c = await db.pools.pool.getConnection();
  await c.query('SET FOREIGN_KEY_CHECKS = 0');
  for (const t of await tables()) await c.query(`DROP TABLE \`${t}\``);
  await c.query('SET FOREIGN_KEY_CHECKS = 1');
  c.release();
};
/** What the database looks like: tables with their columns and keys. */
const shape = () =>
  rows(
    db,
    "SELECT table_name t, column_name c, column_type k FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name <> 'watch' UNION SELECT table_name, index_name, GROUP_CONCAT(column_name ORDER BY seq_in_index) FROM information_schema.statistics WHERE table_schema = DATABASE() AND table_name <> 'watch' GROUP BY table_name, index_name ORDER BY 1, 2, 3",
  );

describe('migrations', () => {
  it('run once, in order, also when two servers start together', async () => {
    const other = openShop('one', database.url);
    const ran = await Promise.all([migrate(db, FOLDER), migrate(other, FOLDER)]);
    await other.close();
    expect(ran.flat()).toEqual(readdirSync(FOLDER).sort());
    const more = join(folder, 'more');
    mkdirSync(more);
    writeFileSync(join(more, '902-b.sql'), '-- a comment\nCREATE TABLE b (x INT);\nINSERT INTO b VALUES (1);\n');
    writeFileSync(join(more, '903-c.sql'), 'ALTER TABLE b ADD COLUMN y INT;\n');
    expect(await migrate(db, more)).toEqual(['902-b.sql', '903-c.sql']);
    expect(await migrate(db, more)).toEqual([]);
    expect(await row(db, 'SELECT x, y FROM b')).toEqual({ x: 1, y: null });
    await run(db, "DELETE FROM migrations WHERE name LIKE '90%'");
    await db.pools.pool.query('DROP TABLE b');
  });
  it('interrupted at any statement, the next start finishes them', async () => {
    const whole = await shape();
    let statements = 0;
    await dropAll();
    await migrate(db, FOLDER, () => void statements++);
    expect(statements).toBeGreaterThan(15);
    for (let stop = 1; stop <= statements; stop++) {
      await dropAll();
      let n = 0;
      await expect(
        migrate(db, FOLDER, () => {
          if (++n === stop) throw new Error('killed');
        }),
      ).rejects.toThrow('killed');
      await migrate(db, FOLDER);
      expect(await shape(), `stopped before statement ${stop}`).toEqual(whole);
    }
  }, 120_000);
  it('a lease is one server’s at a time, and that of one that died is free after a while', async () => {
    let inside = 0;
    let most = 0;
    const work = () =>
      withLease(db, 'test', async () => {
        most = Math.max(most, ++inside);
        await wait(60);
        inside--;
      });
    await Promise.all([work(), work(), work()]);
    expect(most).toBe(1);
    await run(db, "INSERT INTO leases (name, holder, until_at) VALUES ('test', 'a dead one', NOW(3) + INTERVAL 1 SECOND)");
    const begun = Date.now();
    await work();
    expect(Date.now() - begun).toBeGreaterThan(700);
  });
});

describe('transactions', () => {
  it('are all or nothing', async () => {
    await expect(
      transact(db, async (tx) => {
        await run(tx, "INSERT INTO counters (name, value) VALUES ('t', 1)");
        throw new Error('no');
      }),
    ).rejects.toThrow('no');
    expect(await rows(db, "SELECT * FROM counters WHERE name = 't'")).toEqual([]);
  });
  it('a connection whose rollback fails is destroyed: what was left on it is never another’s', async () => {
    for (let i = 0; i < 12; i++) {
      await transact(db, async (tx: Tx) => {
        await run(tx, "INSERT INTO counters (name, value) VALUES ('remains', 1) ON DUPLICATE KEY UPDATE value = value + 1");
        tx.conn.rollback = () => Promise.reject(Object.assign(new Error('node left'), { code: 'ER_UNKNOWN_COM_ERROR' }));
        throw new Error('no');
      }).catch(() => undefined);
      await transact(db, (tx) => run(tx, 'UPDATE counters SET value = value WHERE name = ?', ['nobody']));
    }
    expect(await rows(db, "SELECT * FROM counters WHERE name = 'remains'")).toEqual([]);
  });
  it('a deadlock is tried again and both succeed', async () => {
    await run(db, "INSERT INTO counters (name, value) VALUES ('p', 0), ('q', 0)");
    const add = (first: string, second: string) =>
      transact(db, async (tx) => {
        await run(tx, 'UPDATE counters SET value = value + 1 WHERE name = ?', [first]);
        await wait(80);
        await run(tx, 'UPDATE counters SET value = value + 1 WHERE name = ?', [second]);
      });
    await Promise.all([add('p', 'q'), add('q', 'p')]);
    expect(await rows(db, "SELECT value FROM counters WHERE name IN ('p', 'q')")).toEqual([{ value: 2 }, { value: 2 }]);
  });
  it('knows what passes from a wrong request', () => {
    for (const code of [
      'ECONNREFUSED',
      'ER_LOCK_WAIT_TIMEOUT',
      'ER_LOCK_DEADLOCK',
      'ER_UNKNOWN_COM_ERROR',
      'ER_ERROR_DURING_COMMIT',
      'ER_STATEMENT_TIMEOUT',
      'ER_DISK_FULL',
    ])
      expect(isPassing({ code }), code).toBe(true);
    expect(isPassing({ code: 'PROTOCOL_CONNECTION_LOST', fatal: true })).toBe(true);
    expect(isPassing({ code: 'ER_DUP_ENTRY' })).toBe(false);
    expect(isPassing(new Error('x'))).toBe(false);
    expect(isTriedAgain({ code: 'ER_ERROR_DURING_COMMIT' })).toBe(false);
    // a node of a cluster whose disk is full; others have room
    const full = Object.assign(new Error('Maximum writeset size exceeded'), { code: 'ER_UNKNOWN_ERROR' });
    expect([isTriedAgain(full), isPassing(full)]).toEqual([true, true]);
  });
  it('a statement that takes too long is ended, and health answers while every other connection is held', async () => {
    const begun = Date.now();
    const slow = Array.from({ length: 10 }, () => row(db, 'SELECT SLEEP(30)').catch((e: { code?: string }) => e.code ?? 'done'));
    await wait(300);
    const asked = Date.now();
    expect(await answers(db)).toBe(true);
    expect(Date.now() - asked).toBeLessThan(500);
    await Promise.all(slow);
    expect(Date.now() - begun).toBeLessThan(15_000);
  }, 40_000);
  it('what is given comes back as it was, whatever it is made of, also where a database takes backslashes as they are', async () => {
    const odd = ["O'Neil", '\\', "\\' OR 1=1 -- ", '? ?? :x', 'a\nb\0c', '“12 V” 🛥', '/* */ #', '%_', ''];
    const back = async (s: Shop) => {
      for (const text of odd) expect(await row(s, 'SELECT ? AS v, ? AS w', [text, 'next'])).toEqual({ v: text, w: 'next' });
      const at = new Date('2026-03-29T00:59:59.123Z');
      await run(s, 'CREATE OR REPLACE TABLE odd (t VARCHAR(80), d DOUBLE, n BIGINT, at DATETIME(3), b VARBINARY(300), o BOOLEAN)');
      const bytes = Buffer.from(Array.from({ length: 256 }, (_x, k) => k));
      for (const b of [null, bytes])
        await run(s, 'INSERT INTO odd VALUES (?, ?, ?, ?, ?, ?)', ['x', 0.1 + 0.2, Number.MAX_SAFE_INTEGER, at, b, true]);
      const same = { t: 'x', d: 0.1 + 0.2, n: Number.MAX_SAFE_INTEGER, at, o: 1 };
      expect(await rows(s, 'SELECT * FROM odd ORDER BY b')).toEqual([
        { ...same, b: null },
        { ...same, b: bytes },
      ]);
      await run(s, 'DROP TABLE odd');
    };
    await back(db);
    const read = (f: string) => JSON.parse(readFileSync(join(folder, f), 'utf8')) as { socket: string; password: string };
    const root = await createConnection({
      socketPath: read('database-run.json').socket,
      user: 'root',
      password: read('database.json').password,
    });
    try {
      await root.query("SET GLOBAL sql_mode = CONCAT(@@GLOBAL.sql_mode, ',NO_BACKSLASH_ESCAPES')");
      const other = openShop('one', database.url);
      await back(other);
      await other.close();
    } finally {
      await root.query("SET GLOBAL sql_mode = REPLACE(@@GLOBAL.sql_mode, 'NO_BACKSLASH_ESCAPES', '')");
      root.destroy();
    }
  });
  it('people on one order take turns without a connection each', async () => {
    const order: number[] = [];
    await Promise.all([1, 2, 3].map((i) => inTurn(db, 'o', async () => (await wait(30 - i * 8), order.push(i)))));
    expect(order).toEqual([1, 2, 3]);
    await expect(inTurn(db, 'o', () => Promise.reject(new Error('x')))).rejects.toThrow('x');
    expect(await inTurn(db, 'o', async () => 'next')).toBe('next');
    expect(db.turns.size).toBe(0);
  });
});

describe('answers to repeated requests', () => {
  const made = { status: 201, body: { n: 1 } };
  it('the second waits for the first and gets its answer; another request under the key is told', async () => {
    const ask = (claimed: () => void, slow = 0) =>
      transact(db, async (tx) => {
        const had = await keepAnswer(tx, 'key-00000001', 'tor', 'f'.repeat(64), made);
        claimed();
        await wait(slow);
        return had ?? 'made';
      });
    let first: Promise<unknown> = Promise.resolve();
    await new Promise<void>((claimed) => (first = ask(claimed, 150)));
    expect(await Promise.all([first, ask(() => undefined)])).toEqual(['made', made]);
    expect(await keptAnswer(db, 'key-00000001', 'tor', 'e'.repeat(64))).toBe('other request');
  });
  it('a request that failed leaves its key free, and a row of status 0 is no answer', async () => {
    await transact(db, async (tx) => {
      await keepAnswer(tx, 'key-00000002', 'tor', 'a'.repeat(64), made);
      throw new Error('refused');
    }).catch(() => undefined);
    expect(await keptAnswer(db, 'key-00000002', 'tor', 'b'.repeat(64))).toBeNull();
    await run(
      db,
      "INSERT INTO answers (idempotency_key, person, fingerprint, status, body, at) VALUES ('key-00000003', 'tor', ?, 0, 'null', NOW(3))",
      ['a'.repeat(64)],
    );
    expect(await keptAnswer(db, 'key-00000003', 'tor', 'a'.repeat(64))).toBeNull();
    expect(await transact(db, (tx) => keepAnswer(tx, 'key-00000003', 'tor', 'a'.repeat(64), made))).toBeNull();
    expect(await keptAnswer(db, 'key-00000003', 'tor', 'a'.repeat(64))).toEqual(made);
  });
  it('old ones are forgotten', async () => {
    await run(db, 'UPDATE answers SET at = ?', [new Date(Date.now() - 31 * 86400_000)]);
    expect((await forgetAnswers(db)).affectedRows).toBeGreaterThan(0);
  });
});

describe('the shelf and the settings', () => {
  it('forty items counted at once are all kept, each by itself', async () => {
    await Promise.all(Array.from({ length: 40 }, (_, i) => countShelf(db, `item-${i}`, i, 0, 'tor')));
    const { settings } = await readKeptSettings(db);
    expect(Object.fromEntries(settings.shelf.map((s) => [s.id, s.have]))).toEqual(
      Object.fromEntries(Array.from({ length: 40 }, (_, i) => [`item-${i}`, i])),
    );
  });
  it('of two who count the same at once one is told, thirty times of thirty; what is taken by several adds up', async () => {
    for (let i = 0; i < 30; i++) {
      const { version } = (await readKeptSettings(db)).settings.shelf.find((s) => s.id === 'item-1')!;
      const both = await Promise.allSettled([countShelf(db, 'item-1', 5, version!, 'tor'), countShelf(db, 'item-1', 7, version!, 'maud')]);
      expect(both.filter((r) => r.status === 'fulfilled')).toHaveLength(1);
      expect((both.find((r) => r.status === 'rejected') as PromiseRejectedResult).reason).toBeInstanceOf(StaleSetting);
    }
    await moveOnShelf(db, 'item-2', 98, 'tor');
    await Promise.all(Array.from({ length: 20 }, () => moveOnShelf(db, 'item-2', -3, 'tor')));
    expect((await readKeptSettings(db)).settings.shelf.find((s) => s.id === 'item-2')!.have).toBe(40);
  });
  it('a setting is changed only on the version it was seen at, all of a change or none', async () => {
    const set = (field: string, value: unknown, version: number) => ({ field, value, version });
    expect((await changeSettings(db, [set('parkedDays', 20, 0), set('shop', 'Ours', 0)], 'ines')).settings).toMatchObject({
      parkedDays: 20,
      shop: 'Ours',
    });
    await expect(changeSettings(db, [set('units', 'metric', 0), set('parkedDays', 30, 0)], 'oda')).rejects.toBeInstanceOf(StaleSetting);
    expect((await readKeptSettings(db)).settings).toMatchObject({ parkedDays: 20, units: 'imperial' });
    const both = await Promise.allSettled([
      changeSettings(db, [set('parkedDays', 21, 1)], 'ines'),
      changeSettings(db, [set('parkedDays', 22, 1)], 'oda'),
    ]);
    expect(both.map((r) => r.status).sort()).toEqual(['fulfilled', 'rejected']);
  });
  it('settings from before are brought along once, and do not take back what was changed since', async () => {
    await run(db, 'REPLACE INTO settings (id, json) VALUES (1, ?)', [
      JSON.stringify({ ...DEFAULT_SETTINGS, shop: 'Old name', currency: 'kr', shelf: [{ id: 'old-relay', have: 4 }] }),
    ]);
    await bringSettings(db);
    await bringSettings(db);
    expect((await readKeptSettings(db)).settings).toMatchObject({ shop: 'Ours', currency: 'kr' });
    expect((await readKeptSettings(db)).settings.shelf.find((s) => s.id === 'old-relay')!.have).toBe(4);
  });
});

describe('two shops on the connections of one server', () => {
  let other: Shop;
  beforeAll(async () => {
    other = new Shop('two', db.pools, `${db.schema}_two`, db.directory, null);
    await run(db, `CREATE DATABASE \`${other.schema}\``);
    await migrate(other, FOLDER);
    await nameShop(db.directory, { id: 'two', name: 'Two', schema: other.schema });
  }, 60_000);
  it('a statement asked of both by turns on the same connections is answered by each', async () => {
    await run(db, "INSERT INTO progress (name, upto, done) VALUES ('whose', 1, 0)");
    await run(other, "INSERT INTO progress (name, upto, done) VALUES ('whose', 2, 0)");
    const ask = (s: Shop) => row<{ upto: number }>(s, "SELECT upto FROM progress WHERE name = 'whose'");
    const within = (s: Shop) => transact(s, (tx) => row<{ upto: number }>(tx, "SELECT upto FROM progress WHERE name = 'whose'"));
    // many more than there are connections, so that each is lent to both
    const asked = Array.from({ length: 200 }, (_, i) => ({ s: [db, other][(i * 7 + (i >> 2)) % 2]!, how: i % 3 ? ask : within }));
    const got = await Promise.all(asked.map(({ s, how }) => how(s)));
    expect(got.map((r) => r!.upto)).toEqual(asked.map(({ s }) => (s === db ? 1 : 2)));
  });
  it('neither finds anything of the other, nor what was remembered of it', async () => {
    await changeSettings(other, [{ field: 'shop', value: 'Second shop', version: 0 }], 'zoe');
    expect((await readKeptSettings(other)).settings.shop).toBe('Second shop');
    expect((await readKeptSettings(db)).settings.shop).not.toBe('Second shop');
    expect((await listShops(db.directory)).map((s) => s.name)).toContain('Second shop');
    await addPerson(other, { id: 'zoe', name: 'Zoe', role: 'owner', password: 'of the other shop' });
    expect(await checkPassword(db, 'zoe', 'of the other shop')).toBeNull();
    const { token } = await beginSession(other, 'zoe');
    expect(await findSession(db, token)).toBeNull();
    expect(await findSession(other, token)).toMatchObject({ id: 'zoe' });
    expect(await stillSignedIn(db, [token])).toEqual(new Set());
    expect((await listPeople(db)).map((p) => p.id)).not.toContain('zoe');
    expect(await readRights(db)).toEqual([]);
    expect(other.memo).not.toBe(db.memo);
  });
  it('a person of several shops is in each what they are there, and no owner of one changes what opens another', async () => {
    const name = { name: 'Kit', role: 'installer' as const };
    await addPerson(db, { id: 'ula', name: 'Ula', role: 'owner', password: 'of the first shop' });
    await addPerson(db, { id: 'kit', ...name, password: 'kit has this one' });
    // whose account is of a shop that is not theirs is taken, whatever password they type
    expect(await addPerson(other, { id: 'kit', ...name, password: 'zoe typed this' }, 'zoe')).toBe(false);
    expect(await checkPassword(db, 'kit', 'kit has this one')).toMatchObject({ id: 'kit' });
    // who keeps the machine lets them in
    expect(await joinPerson(other, { id: 'kit', name: 'Kit', role: 'lead' }, 'kadro')).toBe(true);
    expect(await checkPassword(other, 'kit', 'kit has this one')).toMatchObject({ role: 'lead' });
    const { token } = await beginSession(other, 'kit');
    expect([await findSession(db, token), await findSession(other, token)]).toMatchObject([{ role: 'installer' }, { role: 'lead' }]);
    expect((await shopsOf(db.directory, 'kit')).map((s) => [s.id, s.role])).toEqual(expect.arrayContaining([['two', 'lead']]));
    await expect(giveCode(other, 'kit', 'zoe')).rejects.toThrow(/another shop/);
    await expect(giveCode(db, 'kit', 'ula')).rejects.toThrow(/another shop/);
    // an end here is none there
    const at = (await listPeople(other)).find((p) => p.id === 'kit')!;
    await changePerson(other, 'kit', at.version, { ended: true, name: 'Kit the second' }, 'zoe');
    expect([await findSession(db, token), await findSession(other, token)]).toMatchObject([{ id: 'kit', name: 'Kit' }, null]);
    expect(await giveCode(db, 'kit', 'ula')).toMatchObject({ code: expect.stringMatching(/^\w{10}$/) as string });
    // who owns both lets somebody of the one into the other
    await joinPerson(db, { id: 'zoe', name: 'Zoe', role: 'owner' }, 'kadro');
    await addPerson(db, { id: 'lin', name: 'Lin', role: 'desk', password: 'lin has this one' });
    expect(await addPerson(other, { id: 'lin', name: 'Lin', role: 'desk', password: 'typed by zoe' }, 'zoe')).toBe(true);
    expect(await checkPassword(other, 'lin', 'typed by zoe')).toBeNull();
    expect(await checkPassword(other, 'lin', 'lin has this one')).toMatchObject({ id: 'lin' });
  });
  it('people who stood in a shop’s own database are taken into the directory, once', async () => {
    const old = new Shop('old', db.pools, `${db.schema}_old`, db.directory, null);
    await run(db, `CREATE DATABASE \`${old.schema}\``);
    const before = join(folder, 'before');
    mkdirSync(before);
    for (const f of readdirSync(FOLDER).filter((f) => f < '015')) copyFileSync(join(FOLDER, f), join(before, f));
    await migrate(old, before);
    await run(
      old,
      "INSERT INTO people (id, name, role, password_hash, created_at, version, ended_at) SELECT 'nel', 'Nel', 'owner', password_hash, NOW(3), 4, NULL FROM " +
        `${db.directory.at}.accounts WHERE id = 'lin' UNION SELECT 'pim', 'Pim', 'lead', 'x', NOW(3), 1, NOW(3)`,
    );
    await run(old, "INSERT INTO rights_log (at, by_person, person, says) VALUES (NOW(3), 'nel', 'pim', 'access ended')");
    for (let times = 0; times < 2; times++) {
      await adoptPeople(old, db.directory);
      await migrate(old, FOLDER);
    }
    expect((await listPeople(old)).map((p) => [p.id, p.version, p.ended])).toEqual([
      ['nel', 4, false],
      ['pim', 1, true],
    ]);
    expect((await readRights(old)).map((r) => r.says)).toEqual(['access ended']);
    expect(await checkPassword(old, 'nel', 'lin has this one')).toMatchObject({ id: 'nel', role: 'owner' });
    expect(await rows(old, 'SHOW TABLES LIKE "people"')).toEqual([]);
    await run(db, `DELETE FROM ${db.directory.at}.members WHERE shop = 'one'`);
  }, 60_000);
});

describe('people and sessions', () => {
  it('passwords are hashed with argon2id, names are taken once', async () => {
    expect(await addPerson(db, { id: 'bo', name: 'Bo', role: 'lead', password: 'correct horse' })).toBe(true);
    expect(await addPerson(db, { id: 'bo', name: 'Bo', role: 'lead', password: 'other' })).toBe(false);
    expect(
      (await row<{ password_hash: string }>(db, `SELECT password_hash FROM ${db.directory.at}.accounts WHERE id = 'bo'`))!.password_hash,
    ).toMatch(/^\$argon2id\$/);
    expect(await checkPassword(db, 'bo', 'correct horse')).toEqual({ id: 'bo', name: 'Bo', role: 'lead' });
    expect(await checkPassword(db, 'bo', 'wrong')).toBeNull();
    expect(await checkPassword(db, 'nobody', 'correct horse')).toBeNull();
  });
  it('only the hash of a token is stored; an ended or old session finds nobody', async () => {
    const { token } = await beginSession(db, 'bo');
    expect(await rows(db, `SELECT token_hash FROM ${db.directory.at}.sessions WHERE account = 'bo'`)).toEqual([
      { token_hash: sha256(token) },
    ]);
    expect(await findSession(db, token)).toMatchObject({ id: 'bo' });
    await run(db, `UPDATE ${db.directory.at}.sessions SET expires_at = ?`, [new Date(Date.now() - 1000)]);
    expect(await findSession(db, token)).toBeNull();
    const next = await beginSession(db, 'bo');
    await endSession(db, next.token);
    expect(await findSession(db, next.token)).toBeNull();
  });
  it('one’s own password is changed with the old one, and other devices are signed out', async () => {
    const bo = { id: 'bo', name: 'Bo', role: 'lead' as const };
    const [here, there] = [await beginSession(db, 'bo'), await beginSession(db, 'bo')];
    expect(await changePassword(db, bo, 'wrong', 'another horse', here.token)).toBe(false);
    expect(await changePassword(db, bo, 'correct horse', 'another horse', here.token)).toBe(true);
    expect([await findSession(db, here.token), await findSession(db, there.token)]).toMatchObject([{ id: 'bo' }, null]);
    expect(await checkPassword(db, 'bo', 'another horse')).toMatchObject({ id: 'bo' });
  });
  it('a code of the owner’s sets a new password once; only its hash is kept, and it is good for a day', async () => {
    const { code } = (await giveCode(db, 'bo', 'oda'))!;
    expect(JSON.stringify(await rows(db, `SELECT * FROM ${db.directory.at}.accounts`))).not.toContain(code);
    expect(await useCode(db, 'bo', 'ABCDEFGHJK', 'third horse')).toBeNull();
    expect(await useCode(db, 'bo', `${code.slice(0, 5).toLowerCase()} ${code.slice(5)}`, 'third horse')).toMatchObject({ id: 'bo' });
    expect(await useCode(db, 'bo', code, 'fourth horse')).toBeNull();
    const old = (await giveCode(db, 'bo', 'oda'))!;
    await run(db, `UPDATE ${db.directory.at}.accounts SET code_until = ? WHERE id = 'bo'`, [new Date(Date.now() - 1000)]);
    expect(await useCode(db, 'bo', old.code, 'fifth horse')).toBeNull();
    expect(await giveCode(db, 'nobody', 'oda')).toBeNull();
  });
  it('the digits of a second factor are those of RFC 6238, and each is good once', async () => {
    // Appendix B of the RFC (SHA-1), its last six digits; from memory
    await run(db, `UPDATE ${db.directory.at}.accounts SET otp_secret = 'GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ' WHERE id = 'bo'`);
    const at = (s: number) => new Date(s * 1000);
    for (const [s, digits] of [
      [59, '287082'],
      [1111111109, '081804'],
      [1111111111, '050471'],
      [1234567890, '005924'],
      [2000000000, '279037'],
    ] as const) {
      expect(await checkSecondFactor(db, 'bo', digits === '287082' ? '287083' : '287082', at(s)), digits).toBe(false);
      // a clock that is off by less than one step
      expect(await checkSecondFactor(db, 'bo', `${digits.slice(0, 3)} ${digits.slice(3)}`, at(s + 20)), digits).toBe(true);
      expect(await checkSecondFactor(db, 'bo', digits, at(s)), 'twice').toBe(false);
      expect(await checkSecondFactor(db, 'bo', digits, at(s + 95)), 'too old').toBe(false);
    }
    expect(await checkSecondFactor(db, 'oda', '279037', at(2000000000))).toBe(false);
    await dropSecondFactor(db, 'bo', 'bo');
    expect(await hasSecondFactor(db, 'bo')).toBe(false);
  });
  it('a second factor asks for nothing until its digits were told once; spare codes open once; a new password by a code takes it away', async () => {
    const { secret, uri } = await beginSecondFactor(db, 'bo');
    expect(uri).toMatch(/^otpauth:\/\/totp\/Kadro:bo\?/);
    expect(await hasSecondFactor(db, 'bo')).toBe(false);
    const digits = () => new TOTP({ secret: Secret.fromBase32(secret) }).generate();
    expect(await confirmSecondFactor(db, 'bo', '000000' === digits() ? '000001' : '000000')).toBeNull();
    const spare = (await confirmSecondFactor(db, 'bo', digits()))!;
    expect([await hasSecondFactor(db, 'bo'), new Set(spare).size]).toEqual([true, 8]);
    expect(JSON.stringify(await rows(db, `SELECT * FROM ${db.directory.at}.accounts`))).not.toContain(spare[0]);
    // what confirmed it opens nothing again
    expect(await checkSecondFactor(db, 'bo', digits())).toBe(false);
    expect(await checkSecondFactor(db, 'bo', spare[3]!.toLowerCase())).toBe(true);
    expect(await checkSecondFactor(db, 'bo', spare[3]!)).toBe(false);
    expect((await Promise.all([1, 2, 3].map(() => checkSecondFactor(db, 'bo', spare[4]!)))).filter(Boolean)).toHaveLength(1);
    const { code } = (await giveCode(db, 'bo', 'oda'))!;
    expect(await useCode(db, 'bo', code, 'third horse')).toMatchObject({ id: 'bo' });
    expect(await hasSecondFactor(db, 'bo')).toBe(false);
  });
  it('a role changed or an access ended signs out everywhere; the last owner stays; all of it stands in the log of rights', async () => {
    await addPerson(db, { id: 'oda', name: 'Oda', role: 'owner', password: 'long enough' });
    const of = async (id: string) => (await listPeople(db)).find((p) => p.id === id)!;
    const { token } = await beginSession(db, 'bo');
    await changePerson(db, 'bo', (await of('bo')).version, { role: 'desk' }, 'oda');
    expect(await findSession(db, token)).toBeNull();
    await expect(changePerson(db, 'bo', 1, { role: 'lead' }, 'oda')).rejects.toThrow(/meanwhile/);
    const again = await beginSession(db, 'bo');
    await changePerson(db, 'bo', (await of('bo')).version, { ended: true }, 'oda');
    expect(await findSession(db, again.token)).toBeNull();
    expect(await checkPassword(db, 'bo', 'third horse')).toBeNull();
    expect(await of('bo')).toMatchObject({ ended: true });
    await expect(changePerson(db, 'oda', (await of('oda')).version, { role: 'lead' }, 'oda')).rejects.toThrow(/at least one owner/);
    await expect(changePerson(db, 'oda', (await of('oda')).version, { ended: true }, 'oda')).rejects.toThrow(/at least one owner/);
    expect((await readRights(db)).map((r) => r.says)).toEqual(
      expect.arrayContaining([
        'access ended',
        'role lead became desk',
        'given a code for a new password',
        'new password set with a code',
        'own password changed',
      ]),
    );
    // two owners who end each other at once leave one
    await addPerson(db, { id: 'una', name: 'Una', role: 'owner', password: 'long enough' });
    const [oda, una] = [await of('oda'), await of('una')];
    await Promise.allSettled([
      changePerson(db, 'oda', oda.version, { ended: true }, 'una'),
      changePerson(db, 'una', una.version, { ended: true }, 'oda'),
    ]);
    expect((await listPeople(db)).filter((p) => p.role === 'owner' && !p.ended)).toHaveLength(1);
  });
  it('a name has one form, whatever stands round it', () => {
    for (const typed of ['tor', ' tor', 'TOR\t', 't\u200bor', '\ufeffTor ', 'ｔｏｒ', 'to r']) expect(normalName(typed)).toBe('tor');
    expect(normalName({})).toBe('');
  });
  it('counts of tries are shared and begin anew after their time', async () => {
    const [a, b] = [new HitStore(db.directory, 'x:'), new HitStore(db.directory, 'x:')];
    for (const s of [a, b]) s.init({ windowMs: 400 } as never);
    expect((await a.increment('k')).totalHits).toBe(1);
    expect((await b.increment('k')).totalHits).toBe(2);
    await a.decrement('k');
    expect((await b.increment('k')).totalHits).toBe(2);
    await new Promise((r) => setTimeout(r, 500));
    expect((await a.increment('k')).totalHits).toBe(1);
    await a.resetKey('k');
    expect((await a.increment('k')).totalHits).toBe(1);
  });
});

describe('the chain', () => {
  it('the same data has the same text, whatever its order', () => {
    expect(canonical({ b: 1, a: [{ d: undefined, c: 'x' }] })).toBe('{"a":[{"c":"x"}],"b":1}');
    expect(canonical({ a: [{ c: 'x' }], b: 1 })).toBe(canonical({ b: 1, a: [{ c: 'x', d: undefined }] }));
  });
  it('any change to an event changes its hash', () => {
    const event = {
      seq: 1,
      version: 1,
      doneAt: '2026-03-02T08:00:00.000Z',
      recordedAt: '2026-03-02T08:05:00.000Z',
      by: 'tor',
      body: { type: 'timer.stopped' },
      prevHash: FIRST_HASH,
    };
    const hash = eventHash('o1', event);
    expect(hash).toMatch(/^[0-9a-f]{64}$/);
    for (const changed of [
      { ...event, seq: 2 },
      { ...event, by: 'ann' },
      { ...event, doneAt: '2026-03-02T08:00:00.001Z' },
      { ...event, recordedAt: '2026-03-02T08:05:00.001Z' },
      { ...event, version: 2 },
      { ...event, prevHash: 'f'.repeat(64) },
    ])
      expect(eventHash('o1', changed)).not.toBe(hash);
    expect(eventHash('o2', event)).not.toBe(hash);
  });
});

describe('the OpenAPI document', () => {
  const doc = openApi(ROUTES);
  it('holds every route with a summary and its problems', () => {
    for (const r of ROUTES) {
      const op = doc.paths[r.path.replace(/:(\w+)/g, '{$1}')]![r.method] as { summary: string; responses: Record<string, unknown> };
      expect(op.summary.length).toBeGreaterThan(5);
      expect(op.responses).toHaveProperty('default');
    }
  });
  it('marks what is open and what a session opens', () => {
    const open = ROUTES.filter((r) => r.open).map((r) => `${r.method} ${r.path}`);
    expect(open).toEqual([
      'get /api/session',
      'get /api/session/shops',
      'post /api/session',
      'post /api/session/code',
      'delete /api/session',
      'get /api/bench',
      'post /api/bench/person',
      'post /api/session/passkey/ask',
      'post /api/session/passkey',
      'get /api/about',
      'get /api/live',
      'get /api/ready',
      // for an owner, or who has the token
      'get /api/metrics',
      'get /api/health',
      // behind a secret of its own
      'get /api/calendar/:secret',
      'get /api/owner/:link',
      'post /api/owner/:link',
      'get /api/owner/:link/photos/:id',
    ]);
  });
  it('every write that changes the shop names who may', () => {
    for (const r of ROUTES.filter((x) => x.method !== 'get' && !x.open && !/events$|session|calc|\/when$|^\/api\/bench/.test(x.path)))
      expect(r.action, r.path).toBeDefined();
  });
});
