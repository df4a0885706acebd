import { hash, verify } from '@node-rs/argon2';
import type { Person } from '#model/person';
import { directoryAt, row, rows, run, shopOf, transact, type Shop, type Store } from './db';
import { logRights } from './rights';
import { newToken, tokenHash } from './sessions';

/** Wrong codes in a row after which somebody’s session at a bench is over: from then on it takes their password. */
const MOST_WRONG = 5;

/** Sets one’s own short code, or takes it away. It opens nothing by itself: only a session that is at a bench already. */
export async function setBenchCode(shop: Shop, account: string, code: string | null): Promise<void> {
  const hashed = code === null ? null : await hash(code);
  await run(shop, `UPDATE ${directoryAt(shop)}.accounts SET bench_code = ? WHERE id = ?`, [hashed, account]);
  await logRights(shop, account, account, code === null ? 'short code taken away' : 'short code set');
}
export const hasBenchCode = async (s: Store, account: string): Promise<boolean> =>
  (await row(s, `SELECT id FROM ${directoryAt(s)}.accounts WHERE id = ? AND bench_code IS NOT NULL`, [account])) !== null;

/** A browser becomes a bench that people share. @returns what it keeps so that it is known again; only its hash is stored */
export const newBench = newToken;

/** A session stays at this bench while others work there. */
export const stayAt = (s: Store, token: string, bench: string) =>
  run(s, `UPDATE ${directoryAt(s)}.sessions SET bench = ?, bench_tries = 0 WHERE token_hash = ?`, [tokenHash(bench), tokenHash(token)]);

/** A browser is no bench any more: who stayed there besides the one who asks is signed out of it. @returns how many */
export async function endBench(s: Store, bench: string, token: string): Promise<number> {
  const at = directoryAt(s);
  const r = await run(s, `DELETE FROM ${at}.sessions WHERE bench = ? AND token_hash <> ?`, [tokenHash(bench), tokenHash(token)]);
  await run(s, `UPDATE ${at}.sessions SET bench = NULL WHERE bench = ?`, [tokenHash(bench)]);
  return r.affectedRows;
}

/** Who of this shop is signed in at a bench; `code`: they come back by a short code, others by their password. */
export async function peopleAt(s: Store, bench: string): Promise<(Pick<Person, 'id' | 'name'> & { code: boolean })[]> {
  const at = directoryAt(s);
  const found = await rows<{ id: string; name: string; code: number }>(
    s,
    `SELECT m.account AS id, m.name, MAX(a.bench_code IS NOT NULL) code FROM ${at}.sessions s
     JOIN ${at}.members m ON m.account = s.account AND m.shop = ? JOIN ${at}.accounts a ON a.id = s.account
     WHERE s.bench = ? AND s.expires_at > ? AND m.ended_at IS NULL GROUP BY m.account, m.name ORDER BY m.name`,
    [shopOf(s).id, tokenHash(bench), new Date()],
  );
  return found.map((p) => ({ id: p.id, name: p.name, code: Number(p.code) === 1 }));
}

/**
 * Comes back to a session that stayed at a bench. It goes on under a new token: the one that was used before opens nothing.
 * @returns null where nobody of that name stayed there, or the code is wrong; after a few wrong ones their session is over
 */
export const comeBack = (
  shop: Shop,
  bench: string,
  account: string,
  code: string,
): Promise<{ person: Person; token: string; expires: Date } | null> =>
  transact(shop, async (tx) => {
    const at = directoryAt(tx);
    const found = await row<Person & { token_hash: string; expires_at: Date; bench_code: string | null; bench_tries: number }>(
      tx,
      `SELECT m.account AS id, m.name, m.role, s.token_hash, s.expires_at, s.bench_tries, a.bench_code FROM ${at}.sessions s
       JOIN ${at}.members m ON m.account = s.account AND m.shop = ? JOIN ${at}.accounts a ON a.id = s.account
       WHERE s.bench = ? AND s.account = ? AND s.expires_at > ? AND m.ended_at IS NULL ORDER BY s.expires_at DESC LIMIT 1 FOR UPDATE`,
      [shop.id, tokenHash(bench), account, new Date()],
    );
    if (!found?.bench_code) return null;
    if (!(await verify(found.bench_code, code))) {
      if (found.bench_tries + 1 >= MOST_WRONG)
        await run(tx, `DELETE FROM ${at}.sessions WHERE bench = ? AND account = ?`, [tokenHash(bench), account]);
      else await run(tx, `UPDATE ${at}.sessions SET bench_tries = bench_tries + 1 WHERE token_hash = ?`, [found.token_hash]);
      return null;
    }
    const token = newToken();
    await run(tx, `UPDATE ${at}.sessions SET token_hash = ?, bench_tries = 0, seen_at = ? WHERE token_hash = ?`, [
      tokenHash(token),
      new Date(),
      found.token_hash,
    ]);
    return { person: { id: found.id, name: found.name, role: found.role }, token, expires: found.expires_at };
  });
