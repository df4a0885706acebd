import { setTimeout as pause } from 'node:timers/promises';
import { createPool, type Pool, type PoolConnection, type ResultSetHeader, type RowDataPacket } from 'mysql2/promise';
import { LRUCache } from 'lru-cache';
import type { PictureStore } from '../pictures/store';
import { isAway, isTriedAgain, isPassing } from './passing';
import { tries } from './tries';

/** What a shop remembers of its own record; it can be dropped at any time, and is never another shop's. */
export class Memo {
  /** sheets by kind, id and revision, as JSON: a revision never changes */
  readonly sheets = new LRUCache<string, string>({ maxSize: 32 * 1024 * 1024, sizeCalculation: (json) => json.length || 1 });
  /** by a key that changes when what it was made from does */
  readonly made = new LRUCache<string, { key: string; value: unknown }>({ max: 16 });
}

/**
 * One shop's record: its database, and what is remembered of it. It is handed down to whatever reads or writes; nothing
 * reaches a database that it was not given.
 */
export class Shop {
  readonly memo = new Memo();
  /** who waits for whom, by order: people on one order take turns here instead of each holding a connection */
  readonly turns = new Map<string, Promise<unknown>>();
  constructor(
    readonly id: string,
    readonly pool: Pool,
    /** kept free for health */
    readonly spare: Pool,
    /** where its pictures are; null: in the database */
    readonly pictures: PictureStore | null,
  ) {}
  async close(): Promise<void> {
    await Promise.all([this.pool.end(), this.spare.end()]);
  }
}

/** A transaction under way in one shop. */
export class Tx {
  constructor(
    readonly shop: Shop,
    readonly conn: PoolConnection,
  ) {}
}

/** What a store function is given: a shop, or a transaction in one. */
export type Store = Shop | Tx;
export const shopOf = (s: Store): Shop => (s instanceof Tx ? s.shop : s);

/** The database and the server's patience with it, ms. A statement is ended by the database first, then given up here. */
const CONNECT_MS = 3000;
const STATEMENT_S = 6;
const ANSWER_MS = 8000;
const LOCK_WAIT_S = 3;
const TRY_FOR_MS = 5000;
const POOL = 10;
/** Requests that wait for a connection; more are told to come again. */
const MOST_WAITING = 200;

/** Opens a shop's record. Times are UTC. */
export function openShop(id: string, url: string, pictures: PictureStore | null = null): Shop {
  const options = {
    uri: url,
    connectTimeout: CONNECT_MS,
    timezone: 'Z',
    dateStrings: false as const,
    charset: 'utf8mb4',
    multipleStatements: false,
    enableKeepAlive: true,
  };
  const pool = createPool({ ...options, connectionLimit: POOL, queueLimit: MOST_WAITING });
  const spare = createPool({ ...options, connectionLimit: 1, queueLimit: 20 });
  for (const p of [pool, spare])
    p.on('connection', (c) => {
      // rows are locked, not the gaps between them: two orders never wait for each other
      void c.query(
        `SET SESSION tx_isolation = 'READ-COMMITTED', SESSION max_statement_time = ${STATEMENT_S}, SESSION innodb_lock_wait_timeout = ${LOCK_WAIT_S}`,
      );
      // what was written on one node of a cluster is read next on any other; alone, it costs nothing
      // a database that was built without clusters says no, and needs none
      (c as unknown as { query(sql: string, done: () => void): void }).query('SET SESSION wsrep_sync_wait = 1', () => undefined);
    });
  return new Shop(id, pool, spare, pictures);
}

export type Param = string | number | boolean | null | Date | Buffer;

/** A connection that broke, or was left in the middle of something, is thrown away, never lent again. */
function giveBack(conn: PoolConnection, broken: boolean): void {
  if (broken) conn.destroy();
  else conn.release();
}
const isBroken = (e: unknown): boolean => {
  const { code, fatal } = e as { code?: string; fatal?: boolean };
  return fatal === true || code === 'PROTOCOL_SEQUENCE_TIMEOUT' || (code !== undefined && !code.startsWith('ER_'));
};

async function ask<T extends RowDataPacket[] | ResultSetHeader>(s: Store, sql: string, params: Param[], simple = false): Promise<T> {
  const go = async (conn: PoolConnection): Promise<T> => {
    const q = { sql, values: params, timeout: ANSWER_MS };
    const [r] = simple ? await conn.query<T>(q) : await conn.execute<T>(q);
    return r;
  };
  if (s instanceof Tx) return go(s.conn);
  // what only reads can be asked again of the next node, whatever became of the first one
  const reads = /^\s*SELECT\b/i.test(sql);
  return again(async () => {
    const conn = await connection(s);
    let broken = false;
    try {
      return await go(conn);
    } catch (e) {
      broken = isBroken(e);
      if (reads && isAway(e)) throw new NothingDone(e);
      throw e;
    } finally {
      giveBack(conn, broken);
    }
  });
}

/** Rows of a parameterised query. */
export const rows = async <T>(s: Store, sql: string, params: Param[] = []): Promise<T[]> =>
  (await ask<RowDataPacket[]>(s, sql, params)) as T[];

export const row = async <T>(s: Store, sql: string, params: Param[] = []): Promise<T | null> => (await rows<T>(s, sql, params))[0] ?? null;

export const run = (s: Store, sql: string, params: Param[] = []): Promise<ResultSetHeader> => ask<ResultSetHeader>(s, sql, params);

/** A statement that the database cannot prepare, such as most that define tables. */
export const define = (s: Store, sql: string): Promise<ResultSetHeader> => ask<ResultSetHeader>(s, sql, [], true);

/** The database went away before anything was done that lasts: the same may be tried again, there or at another node. */
class NothingDone extends Error {
  constructor(override readonly cause: unknown) {
    super('nothing was done');
  }
}

async function connection(s: Shop): Promise<PoolConnection> {
  try {
    return await s.pool.getConnection();
  } catch (e) {
    if (isAway(e)) throw new NothingDone(e);
    throw e;
  }
}

/** Tries again what the database says to try again, and what it left undone, for as long as a person waits. */
async function again<T>(work: () => Promise<T>): Promise<T> {
  const until = Date.now() + TRY_FOR_MS;
  for (let attempt = 1; ; attempt++) {
    try {
      return await work();
    } catch (e) {
      const undone = e instanceof NothingDone;
      const why = undone ? e.cause : e;
      // who is gone is looked for less often than who is busy
      const wait = Math.min(400, (undone ? 60 : 15) * attempt) * (0.5 + Math.random());
      if ((!undone && !isTriedAgain(why)) || Date.now() + wait > until) throw why;
      tries.again(why);
      await pause(wait);
    }
  }
}

/** One transaction: all of `work` or none of it. What the database could not settle between two is tried again. */
export function transact<T>(shop: Shop, work: (tx: Tx) => Promise<T>): Promise<T> {
  return again(async () => {
    const conn = await connection(shop);
    let broken = false;
    let committing = false;
    try {
      await conn.beginTransaction();
      const result = await work(new Tx(shop, conn));
      committing = true;
      await conn.commit();
      return result;
    } catch (e) {
      broken = isBroken(e);
      // a connection that could not go back holds the remains: the next one to use it would commit them
      if (!broken)
        await conn.rollback().catch(() => {
          broken = true;
        });
      // once it was to be committed, nobody knows whether it stands: whoever asked sends it again under its key
      if (!committing && isAway(e)) throw new NothingDone(e);
      throw e;
    } finally {
      giveBack(conn, broken);
    }
  });
}

/** Does `work` once all that came before it under the same name in this process is over, so that one order never holds all connections. */
export async function inTurn<T>(shop: Shop, name: string, work: () => Promise<T>): Promise<T> {
  const before = shop.turns.get(name) ?? Promise.resolve();
  const mine = before.then(work, work);
  const settled = mine.catch(() => undefined);
  shop.turns.set(name, settled);
  try {
    return await mine;
  } finally {
    if (shop.turns.get(name) === settled) shop.turns.delete(name);
  }
}

/** Whether the record answers: a table is read, on a connection of its own, and not waited for long. */
export async function answers(shop: Shop, ms = 1500): Promise<boolean> {
  const conn = await shop.spare.getConnection();
  let broken = false;
  try {
    await conn.query({ sql: 'SELECT name FROM migrations LIMIT 1', timeout: ms });
    return true;
  } catch (e) {
    broken = isBroken(e);
    if (isPassing(e)) return false;
    throw e;
  } finally {
    giveBack(conn, broken);
  }
}
