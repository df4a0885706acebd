import { row, run, type Store, type Tx } from './db';

export interface Answer {
  status: number;
  body: unknown;
}
interface Kept {
  fingerprint: string;
  status: number;
  body: string;
}
const asAnswer = (r: Kept, fingerprint: string): Answer | 'other request' =>
  r.fingerprint === fingerprint ? { status: r.status, body: JSON.parse(r.body) } : 'other request';

/** What was answered under a key before; null where nothing was. A status of 0 is no answer: it is of a claim that came to nothing. */
export async function keptAnswer(s: Store, key: string, person: string, fingerprint: string): Promise<Answer | 'other request' | null> {
  const r = await row<Kept>(s, 'SELECT fingerprint, status, body FROM answers WHERE idempotency_key = ? AND person = ? AND status <> 0', [
    key,
    person,
  ]);
  return r && asAnswer(r, fingerprint);
}

/**
 * Keeps an answer in the transaction that made it. Null: it is kept. Otherwise what was kept under the key first, by the same
 * request sent twice at once, which is waited for: this transaction must then come to nothing.
 */
export async function keepAnswer(
  tx: Tx,
  key: string,
  person: string,
  fingerprint: string,
  a: Answer,
): Promise<Answer | 'other request' | null> {
  const r = await run(tx, 'INSERT IGNORE INTO answers (idempotency_key, person, fingerprint, status, body, at) VALUES (?, ?, ?, ?, ?, ?)', [
    key,
    person,
    fingerprint,
    a.status,
    JSON.stringify(a.body),
    new Date(),
  ]);
  if (r.affectedRows === 1) return null;
  const first = await keptAnswer(tx, key, person, fingerprint);
  if (first) return first;
  // what an interrupted start of long ago left is no answer
  await run(tx, 'DELETE FROM answers WHERE idempotency_key = ? AND person = ? AND status = 0', [key, person]);
  return keepAnswer(tx, key, person, fingerprint, a);
}

const KEEP_DAYS = 30;

/** Drops answers so old that nobody repeats their request any more. */
export const forgetAnswers = (s: Store) => run(s, 'DELETE FROM answers WHERE at < ?', [new Date(Date.now() - KEEP_DAYS * 86400_000)]);
