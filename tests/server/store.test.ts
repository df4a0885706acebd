import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { claimKey, forgetAnswers, keepAnswer } from '#server/store/answers';
import { canonical, eventHash, FIRST_HASH, sha256 } from '#server/store/chain';
import { isGone, migrate, openDb, row, rows, run, transact, type Db } from '#server/store/db';
import { HitStore } from '#server/store/hits';
import { addPerson, beginSession, checkPassword, endSession, findSession } from '#server/store/people';
import { openApi } from '#server/http/openapi';
import { ROUTES } from '#server/app';
// @ts-expect-error plain JavaScript shared with the start command
import { startMariadb } from '../../scripts/lib/mariadb.mjs';

let folder: string;
let database: { url: string; stop(): Promise<void> };
let db: Db;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'kadro-store-'));
  database = await startMariadb(folder, { fast: true });
  db = openDb(database.url);
});
afterAll(async () => {
  await db.end();
  await database.stop();
  rmSync(folder, { recursive: true, force: true });
});

describe('migrations', () => {
  it('run once, in order, also when two servers start together', async () => {
    const ran = await Promise.all([migrate(db, 'server/store/migrations'), migrate(db, 'server/store/migrations')]);
    expect(ran.flat()).toEqual(readdirSync('server/store/migrations').sort());
    const more = join(folder, 'more');
    rmSync(more, { recursive: true, force: true });
    const { mkdirSync } = await import('node:fs');
    mkdirSync(more);
    writeFileSync(join(more, '002-b.sql'), '-- a comment\nCREATE TABLE b (x INT);\nINSERT INTO b VALUES (1);\n');
    writeFileSync(join(more, '003-c.sql'), 'ALTER TABLE b ADD COLUMN y INT;\n');
    expect(await migrate(db, more)).toEqual(['002-b.sql', '003-c.sql']);
    expect(await migrate(db, more)).toEqual([]);
    expect(await row(db, 'SELECT x, y FROM b')).toEqual({ x: 1, y: null });
  });
});

describe('transactions', () => {
  it('are all or nothing', async () => {
    await expect(
      transact(db, async (c) => {
        await run(c, "INSERT INTO counters (name, value) VALUES ('t', 1)");
        throw new Error('no');
      }),
    ).rejects.toThrow('no');
    expect(await rows(db, "SELECT * FROM counters WHERE name = 't'")).toEqual([]);
  });
  it('a deadlock is tried again and both succeed', async () => {
    await run(db, "INSERT INTO counters (name, value) VALUES ('p', 0), ('q', 0)");
    const add = (first: string, second: string) =>
      transact(db, async (c) => {
        await run(c, 'UPDATE counters SET value = value + 1 WHERE name = ?', [first]);
        await new Promise((r) => setTimeout(r, 80));
        await run(c, 'UPDATE counters SET value = value + 1 WHERE name = ?', [second]);
      });
    await Promise.all([add('p', 'q'), add('q', 'p')]);
    expect(await rows(db, "SELECT value FROM counters WHERE name IN ('p', 'q')")).toEqual([{ value: 2 }, { value: 2 }]);
  });
  it('knows a database that is gone from a wrong request', () => {
    expect(isGone({ code: 'ECONNREFUSED' })).toBe(true);
    expect(isGone({ code: 'PROTOCOL_CONNECTION_LOST', fatal: true })).toBe(true);
    expect(isGone({ code: 'ER_DUP_ENTRY' })).toBe(false);
    expect(isGone(new Error('x'))).toBe(false);
  });
});

describe('answers to repeated requests', () => {
  it('the second waits for the first and gets its answer; another request under the key is told', async () => {
    const ask = (fingerprint: string, slow = 0) =>
      transact(db, async (c) => {
        const had = await claimKey(c, 'key-00000001', 'tor', fingerprint);
        if (had) return had;
        await new Promise((r) => setTimeout(r, slow));
        await keepAnswer(c, 'key-00000001', 'tor', { status: 201, body: { n: 1 } });
        return 'made';
      });
    const first = ask('f'.repeat(64), 150);
    await new Promise((r) => setTimeout(r, 40));
    expect(await Promise.all([first, ask('f'.repeat(64))])).toEqual(['made', { status: 201, body: { n: 1 } }]);
    expect(await ask('e'.repeat(64))).toBe('other request');
  });
  it('a request that failed leaves its key free', async () => {
    await transact(db, async (c) => {
      await claimKey(c, 'key-00000002', 'tor', 'a'.repeat(64));
      throw new Error('refused');
    }).catch(() => undefined);
    expect(await transact(db, (c) => claimKey(c, 'key-00000002', 'tor', 'b'.repeat(64)))).toBeNull();
  });
  it('old ones are forgotten', async () => {
    await run(db, 'UPDATE answers SET at = ?', [new Date(Date.now() - 8 * 86400_000)]);
    expect((await forgetAnswers(db)).affectedRows).toBeGreaterThan(0);
  });
});

describe('people and sessions', () => {
  it('passwords are hashed with argon2id, names are taken once', async () => {
    expect(await addPerson(db, { id: 'bo', name: 'Bo', role: 'lead', password: 'correct horse' })).toBe(true);
    expect(await addPerson(db, { id: 'bo', name: 'Bo', role: 'lead', password: 'other' })).toBe(false);
    expect((await row<{ password_hash: string }>(db, "SELECT password_hash FROM people WHERE id = 'bo'"))!.password_hash).toMatch(
      /^\$argon2id\$/,
    );
    expect(await checkPassword(db, 'bo', 'correct horse')).toEqual({ id: 'bo', name: 'Bo', role: 'lead' });
    expect(await checkPassword(db, 'bo', 'wrong')).toBeNull();
    expect(await checkPassword(db, 'nobody', 'correct horse')).toBeNull();
  });
  it('only the hash of a token is stored; an ended or old session finds nobody', async () => {
    const { token } = await beginSession(db, 'bo');
    expect(await rows(db, 'SELECT token_hash FROM sessions')).toEqual([{ token_hash: sha256(token) }]);
    expect(await findSession(db, token)).toMatchObject({ id: 'bo' });
    await run(db, 'UPDATE sessions SET expires_at = ?', [new Date(Date.now() - 1000)]);
    expect(await findSession(db, token)).toBeNull();
    const next = await beginSession(db, 'bo');
    await endSession(db, next.token);
    expect(await findSession(db, next.token)).toBeNull();
  });
  it('counts of tries are shared and begin anew after their time', async () => {
    const [a, b] = [new HitStore(db, 'x:'), new HitStore(db, 'x:')];
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
    const event = { seq: 1, at: '2026-03-02T08:00:00.000Z', by: 'tor', body: { type: 'timer.stopped' as const }, prevHash: FIRST_HASH };
    const hash = eventHash('o1', event);
    expect(hash).toMatch(/^[0-9a-f]{64}$/);
    for (const changed of [
      { ...event, seq: 2 },
      { ...event, by: 'ann' },
      { ...event, at: '2026-03-02T08:00:00.001Z' },
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
      'post /api/session',
      'delete /api/session',
      'get /api/health',
      'get /api/calc',
      'post /api/calc/:name',
    ]);
  });
  it('every write that changes the shop names who may', () => {
    for (const r of ROUTES.filter((x) => x.method !== 'get' && !x.open && !x.path.endsWith('/events')))
      expect(r.action, r.path).toBeDefined();
  });
});
