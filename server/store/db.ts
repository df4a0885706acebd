import { randomUUID } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import { createPool, type Pool, type PoolConnection, type ResultSetHeader, type RowDataPacket } from 'mysql2/promise';
import { LRUCache } from 'lru-cache';
import type { PictureStore } from '../pictures/store';
import { isAway, isTriedAgain, isPassing } from './passing';
import { tries } from './tries';

/** What a shop remembers of its own record; it can be dropped at any time, and is never another shop's. */
export class Memo {
  /** names it in threads: a shop that was removed and made again under its id has another one */
  readonly name = randomUUID();
  /** sheets by kind, id and revision, as JSON: a revision never changes */
  readonly sheets: LRUCache<string, string>;
  /** by a key that changes when what it was made from does */
  readonly made = new LRUCache<string, { key: string; value: unknown }>({ max: 16 });
  constructor(maxBytes: number) {
    this.sheets = new LRUCache({ maxSize: maxBytes, sizeCalculation: (json) => json.length || 1 });
  }
}
/** What one shop remembers of its sheets at most, where it is the only one, and where there are many; bytes. */
const ALONE_BYTES = 32 * 1024 * 1024;
export const ONE_OF_MANY_BYTES = 8 * 1024 * 1024;

/** The connections of one server to its database: all shops take from the same ones. */
export interface Pools {
  pool: Pool;
  /** kept free for health */
  spare: Pool;
  /** the database that a connection begins in */
  first: string;
  close(): Promise<void>;
}

/** One database of those that a server works with. Nothing reaches one that it was not given. */
abstract class Held {
  constructor(
    readonly pools: Pools,
    /** its name at the database server */
    readonly schema: string,
  ) {}
}

/** Who there is and where: shops and their groups, accounts, who works in which shop as what, sessions, limits. Small, and one for all shops. */
export class Directory extends Held {
  /** in front of its tables, in whatever database a statement is asked */
  readonly at = `\`${this.schema}\``;
  /** The directory that goes with a first database. */
  static of(pools: Pools): Directory {
    return new Directory(pools, `${pools.first}_directory`);
  }
}

/**
 * One shop's record: its database, and what is remembered of it. It is handed down to whatever reads or writes; nothing
 * reaches a database that it was not given.
 */
export class Shop extends Held {
  readonly memo: Memo;
  /** who waits for whom, by order: people on one order take turns here instead of each holding a connection */
  readonly turns = new Map<string, Promise<unknown>>();
  constructor(
    readonly id: string,
    pools: Pools,
    schema: string,
    readonly directory: Directory,
    /** where its pictures are; null: in the database */
    readonly pictures: PictureStore | null,
    maxBytes = ALONE_BYTES,
  ) {
    super(pools, schema);
    this.memo = new Memo(maxBytes);
  }
  /** Ends the connections that it was opened with. */
  close(): Promise<void> {
    return this.pools.close();
  }
}

/** A transaction under way in one database. */
export class Tx<H extends Held = Shop> {
  constructor(
    readonly held: H,
    readonly conn: PoolConnection,
  ) {}
}

/** What a store function is given: a shop, or a transaction in one. */
export type Store = Shop | Tx;
/** What a function of the directory is given. */
export type InDirectory = Directory | Tx<Directory>;
type Any = Store | InDirectory;
export const shopOf = (s: Store): Shop => (s instanceof Tx ? s.held : s);
/** In front of the directory’s tables, for whoever has a shop or the directory itself. */
export const directoryAt = (s: Any): string => {
  const held = s instanceof Tx ? s.held : s;
  return held instanceof Shop ? held.directory.at : held.at;
};

/** The database and the server's patience with it, ms. A statement is ended by the database first, then given up here. */
const CONNECT_MS = 3000;
const STATEMENT_S = 6;
const ANSWER_MS = 8000;
const LOCK_WAIT_S = 3;
const TRY_FOR_MS = 5000;
const POOL = 10;
/** Requests that wait for a connection; more are told to come again. */
const MOST_WAITING = 200;

/** Statements that one connection keeps prepared. */
const MOST_PREPARED = 50;

/** Opens connections to a database server. Times are UTC. @throws where the address cannot be read */
export function openPools(url: string): Pools {
  const first = decodeURIComponent(new URL(url).pathname.slice(1));
  if (!/^[\w-]{1,40}$/.test(first)) throw new Error('the address names no database');
  const options = {
    uri: url,
    connectTimeout: CONNECT_MS,
    timezone: 'Z',
    dateStrings: false as const,
    charset: 'utf8mb4',
    multipleStatements: false,
    // a value is a value, whatever it is made of
    stringifyObjects: true,
    enableKeepAlive: true,
    maxPreparedStatements: MOST_PREPARED,
  };
  const pool = createPool({ ...options, connectionLimit: POOL, queueLimit: MOST_WAITING });
  const spare = createPool({ ...options, connectionLimit: 1, queueLimit: 20 });
  for (const p of [pool, spare])
    p.on('connection', (c) => {
      // rows are locked, not the gaps between them: two orders never wait for each other; and values are escaped as the driver does it
      void c.query(
        `SET SESSION tx_isolation = 'READ-COMMITTED', SESSION max_statement_time = ${STATEMENT_S}, SESSION innodb_lock_wait_timeout = ${LOCK_WAIT_S},
         SESSION sql_mode = REPLACE(@@sql_mode, 'NO_BACKSLASH_ESCAPES', '')`,
      );
      // what was written on one node of a cluster is read next on any other; alone, it costs nothing
      // a database that was built without clusters says no, and needs none
      (c as unknown as { query(sql: string, done: () => void): void }).query('SET SESSION wsrep_sync_wait = 1', () => undefined);
    });
  return { pool, spare, first, close: async () => void (await Promise.all([pool.end(), spare.end()])) };
}

/** Opens a shop by itself, on connections of its own. */
export function openShop(id: string, url: string, pictures: PictureStore | null = null): Shop {
  const pools = openPools(url);
  return new Shop(id, pools, pools.first, Directory.of(pools), pictures);
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

async function ask<T extends RowDataPacket[] | ResultSetHeader>(s: Any, sql: string, params: Param[]): Promise<T> {
  const { schema } = s instanceof Tx ? s.held : s;
  const go = async (conn: PoolConnection): Promise<T> => {
    // one round trip: to prepare a statement is another, and a prepared one stays with one connection and one shop’s database, so that
    // among hundreds of shops it is seldom there when it is asked again. Bytes are sent as they are, which only a prepared one can.
    const bytes = params.some((p) => Buffer.isBuffer(p));
    const q = { sql: bytes ? `/* ${schema} */ ${sql}` : sql, values: params, timeout: ANSWER_MS };
    const [r] = bytes ? await conn.execute<T>(q) : await conn.query<T>(q);
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
export const rows = async <T>(s: Any, sql: string, params: Param[] = []): Promise<T[]> =>
  (await ask<RowDataPacket[]>(s, sql, params)) as T[];

export const row = async <T>(s: Any, sql: string, params: Param[] = []): Promise<T | null> => (await rows<T>(s, sql, params))[0] ?? null;

export const run = (s: Any, sql: string, params: Param[] = []): Promise<ResultSetHeader> => ask<ResultSetHeader>(s, sql, params);

/** The database went away before anything was done that lasts: the same may be tried again, there or at another node. */
class NothingDone extends Error {
  constructor(override readonly cause: unknown) {
    super('nothing was done');
  }
}

/** The database that each connection is in, if it is not the one that it began in. */
const isIn = new WeakMap<object, string>();

/** A connection, in the database that it is asked for. */
async function connection(s: Held): Promise<PoolConnection> {
  let conn: PoolConnection | null = null;
  try {
    conn = await s.pools.pool.getConnection();
    const { connection: itself } = conn as unknown as { connection: object };
    if ((isIn.get(itself) ?? s.pools.first) !== s.schema) {
      await conn.query({ sql: `USE \`${s.schema}\``, timeout: ANSWER_MS });
      isIn.set(itself, s.schema);
    }
    return conn;
  } catch (e) {
    // nobody knows which database it is in
    conn?.destroy();
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
export function transact<T, H extends Shop | Directory = Shop>(held: H, work: (tx: Tx<H>) => Promise<T>): Promise<T> {
  return again(async () => {
    const conn = await connection(held);
    let broken = false;
    let committing = false;
    try {
      await conn.beginTransaction();
      const result = await work(new Tx(held, conn));
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
export async function answers({ pools }: Held, ms = 1500): Promise<boolean> {
  const conn = await pools.spare.getConnection();
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
