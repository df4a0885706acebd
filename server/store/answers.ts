import type { Conn, Db } from './db';
import { row, run } from './db';

export interface Answer {
  status: number;
  body: unknown;
}

/**
 * Claims a key for the request being carried out in this transaction. Null: it is ours, and `keepAnswer` must follow.
 * Otherwise the answer already given; a request that is just being carried out is waited for.
 */
export async function claimKey(conn: Conn, key: string, person: string, fingerprint: string): Promise<Answer | 'other request' | null> {
  try {
    await run(conn, "INSERT INTO answers (idempotency_key, person, fingerprint, status, body, at) VALUES (?, ?, ?, 0, 'null', ?)", [
      key,
      person,
      fingerprint,
      new Date(),
    ]);
    return null;
  } catch (e) {
    if ((e as { code?: string }).code !== 'ER_DUP_ENTRY') throw e;
  }
  const r = (await row<{ fingerprint: string; status: number; body: string }>(
    conn,
    'SELECT fingerprint, status, body FROM answers WHERE idempotency_key = ? AND person = ?',
    [key, person],
  ))!;
  return r.fingerprint === fingerprint ? { status: r.status, body: JSON.parse(r.body) } : 'other request';
}

/** Keeps the answer in the transaction that made it. */
export const keepAnswer = (conn: Conn, key: string, person: string, a: Answer) =>
  run(conn, 'UPDATE answers SET status = ?, body = ? WHERE idempotency_key = ? AND person = ?', [
    a.status,
    JSON.stringify(a.body),
    key,
    person,
  ]);

const KEEP_DAYS = 7;

/** Drops answers so old that nobody repeats their request any more. */
export const forgetAnswers = (db: Db) => run(db, 'DELETE FROM answers WHERE at < ?', [new Date(Date.now() - KEEP_DAYS * 86400_000)]);
