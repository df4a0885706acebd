import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createPool, type Pool, type PoolConnection, type ResultSetHeader, type RowDataPacket } from 'mysql2/promise';

export type Db = Pool;
export type Conn = PoolConnection;
type Asker = Pick<Pool | PoolConnection, 'execute' | 'query'>;

/** Opens the pool. Times are UTC; a database that does not answer within three seconds counts as gone. */
export function openDb(url: string): Db {
  const pool = createPool({
    uri: url,
    connectionLimit: 10,
    connectTimeout: 3000,
    timezone: 'Z',
    dateStrings: false,
    charset: 'utf8mb4',
    multipleStatements: false,
    enableKeepAlive: true,
  });
  // rows are locked, not the gaps between them: two orders never wait for each other
  pool.on('connection', (c) => void c.query('SET SESSION TRANSACTION ISOLATION LEVEL READ COMMITTED'));
  return pool;
}

export type Param = string | number | boolean | null | Date | Buffer;

/** Rows of a parameterised query. */
export async function rows<T>(db: Asker, sql: string, params: Param[] = []): Promise<T[]> {
  const [r] = await db.execute<RowDataPacket[]>(sql, params);
  return r as T[];
}

export const row = async <T>(db: Asker, sql: string, params: Param[] = []): Promise<T | null> =>
  (await rows<T>(db, sql, params))[0] ?? null;

export async function run(db: Asker, sql: string, params: Param[] = []): Promise<ResultSetHeader> {
  const [r] = await db.execute<ResultSetHeader>(sql, params);
  return r;
}

/** One transaction: all of `work` or none of it. A deadlock is tried again. */
export async function transact<T>(db: Db, work: (c: Conn) => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt++) {
    const conn = await db.getConnection();
    try {
      await conn.beginTransaction();
      const result = await work(conn);
      await conn.commit();
      return result;
    } catch (e) {
      await conn.rollback().catch(() => undefined);
      if (attempt < 6 && (e as { code?: string }).code === 'ER_LOCK_DEADLOCK') {
        await new Promise((r) => setTimeout(r, 10 * attempt + Math.random() * 20));
        continue;
      }
      throw e;
    } finally {
      conn.release();
    }
  }
}

/** Errors that mean the database is out of reach or shutting down, not that the request was wrong. */
export const isGone = (e: unknown): boolean => {
  const { code, fatal } = e as { code?: string; fatal?: boolean };
  return (
    [
      'ECONNREFUSED',
      'ECONNRESET',
      'EPIPE',
      'ETIMEDOUT',
      'ENOTFOUND',
      'PROTOCOL_CONNECTION_LOST',
      'ER_SERVER_SHUTDOWN',
      'ER_CON_COUNT_ERROR',
      'ER_QUERY_INTERRUPTED',
      'ER_CONNECTION_KILLED',
    ].includes(code ?? '') ||
    (fatal === true && code !== undefined && !code.startsWith('ER_ACCESS'))
  );
};

/** Applies the numbered migrations that have not run yet, one server at a time. */
export async function migrate(db: Db, folder: string): Promise<string[]> {
  const conn = await db.getConnection();
  const done: string[] = [];
  try {
    await conn.query("SELECT GET_LOCK('kadro-migrate', 60)");
    await conn.query('CREATE TABLE IF NOT EXISTS migrations (name VARCHAR(80) NOT NULL PRIMARY KEY, at DATETIME(3) NOT NULL)');
    const had = new Set((await rows<{ name: string }>(conn, 'SELECT name FROM migrations')).map((m) => m.name));
    for (const name of readdirSync(folder)
      .filter((f) => f.endsWith('.sql'))
      .sort()) {
      if (had.has(name)) continue;
      const sql = readFileSync(join(folder, name), 'utf8').replace(/^--.*$/gm, '');
      for (const statement of sql
        .split(/;\s*$/m)
        .map((s) => s.trim())
        .filter(Boolean))
        await conn.query(statement);
      await run(conn, 'INSERT INTO migrations (name, at) VALUES (?, ?)', [name, new Date()]);
      done.push(name);
    }
    return done;
  } finally {
    await conn.query("SELECT RELEASE_LOCK('kadro-migrate')").catch(() => undefined);
    conn.release();
  }
}
