import type { Conn, Db } from './db';
import { row, run } from './db';

export interface Answer {
  status: number;
  body: unknown;
}

/** The answer already given to this key, if any. Waits for one that is just being made. */
export async function findAnswer(conn: Conn, key: string, person: string, fingerprint: string): Promise<Answer | 'other request' | null> {
  const r = await row<{ fingerprint: string; status: number; body: string }>(conn, 'SELECT fingerprint, status, body FROM answers WHERE idempotency_key = ? AND person = ? FOR UPDATE', [key, person]);
  if (!r) return null;
  return r.fingerprint === fingerprint ? { status: r.status, body: JSON.parse(r.body) } : 'other request';
}

/** Keeps an answer in the transaction that made it. */
export async function keepAnswer(conn: Conn, key: string, person: string, fingerprint: string, a: Answer): Promise<void> {
  await run(conn, 'INSERT INTO answers (idempotency_key, person, fingerprint, status, body, at) VALUES (?, ?, ?, ?, ?, ?)', [key, person, fingerprint, a.status, JSON.stringify(a.body), new Date()]);
}

const KEEP_DAYS = 7;

/** Drops answers so old that nobody repeats their request any more. */
export const forgetAnswers = (db: Db) => run(db, 'DELETE FROM answers WHERE at < ?', [new Date(Date.now() - KEEP_DAYS * 86400_000)]);
