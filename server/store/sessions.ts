import { createHash, randomBytes } from 'node:crypto';
import type { Person } from '#model/person';
import type { OpenSession } from '#model/system';
import { directoryAt, row, rows, run, shopOf, type InDirectory, type Store } from './db';

const SESSION_DAYS = 14;
/** A secret that a browser keeps; only its hash is stored. */
export const newToken = (): string => randomBytes(32).toString('base64url');
export const tokenHash = (token: string) => createHash('sha256').update(token).digest('hex');

/** What a browser says it is, as far as its person wants to know. */
export const deviceOf = (agent: string | undefined): OpenSession['device'] =>
  !agent ? 'unknown' : /iPad|Tablet|Android(?!.*Mobile)/i.test(agent) ? 'tablet' : /Mobi/i.test(agent) ? 'telephone' : 'computer';

/** Begins a session and answers its secret token; only the token's hash is stored. */
export async function beginSession(
  s: Store,
  person: string,
  from: { agent?: string | undefined; address?: string | undefined } = {},
): Promise<{ token: string; expires: Date }> {
  const token = newToken();
  const now = new Date();
  const expires = new Date(now.getTime() + SESSION_DAYS * 86400_000);
  await run(
    s,
    `INSERT INTO ${directoryAt(s)}.sessions (token_hash, account, expires_at, begun_at, seen_at, device, address) VALUES (?, ?, ?, ?, ?, ?, ?)`,
    [tokenHash(token), person, expires, now, now, deviceOf(from.agent), from.address?.slice(0, 45) ?? null],
  );
  return { token, expires };
}

/** A session is noted as seen this often at most, minutes. */
const SEEN_MIN = 5;

/** Who is signed in with this token and works in this shop, as what they are here; null: nobody. */
export async function findSession(s: Store, token: string): Promise<Person | null> {
  const at = directoryAt(s);
  const hashed = tokenHash(token);
  const now = new Date();
  const found = await row<Person & { seen_at: Date | null }>(
    s,
    `SELECT m.account AS id, m.name, m.role, s.seen_at FROM ${at}.sessions s JOIN ${at}.members m ON m.account = s.account AND m.shop = ?
     WHERE s.token_hash = ? AND s.expires_at > ? AND m.ended_at IS NULL`,
    [shopOf(s).id, hashed, now],
  );
  if (!found) return null;
  if ((found.seen_at?.getTime() ?? 0) < now.getTime() - SEEN_MIN * 60_000)
    // nobody waits for that, and it may fail
    void run(s, `UPDATE ${at}.sessions SET seen_at = ? WHERE token_hash = ?`, [now, hashed]).catch(() => undefined);
  return { id: found.id, name: found.name, role: found.role };
}

/** Whose session this is, wherever they work; null: it is over. */
export async function accountOf(d: InDirectory, token: string): Promise<string | null> {
  const found = await row<{ account: string }>(
    d,
    `SELECT account FROM ${directoryAt(d)}.sessions WHERE token_hash = ? AND expires_at > ?`,
    [tokenHash(token), new Date()],
  );
  return found?.account ?? null;
}

/** A session as it is named to its person: enough of its hash to tell it from others, and of no use to get in. */
const sessionName = (hashed: string): string => hashed.slice(0, 24);

/** Where a person is signed in, the newest first. */
export async function sessionsOf(s: Store, person: string, token: string): Promise<OpenSession[]> {
  const found = await rows<{
    token_hash: string;
    device: OpenSession['device'] | null;
    address: string | null;
    begun_at: Date | null;
    seen_at: Date | null;
  }>(
    s,
    `SELECT token_hash, device, address, begun_at, seen_at FROM ${directoryAt(s)}.sessions WHERE account = ? AND expires_at > ? ORDER BY seen_at DESC`,
    [person, new Date()],
  );
  const mine = tokenHash(token);
  return found.map((r) => ({
    id: sessionName(r.token_hash),
    device: r.device ?? 'unknown',
    address: r.address,
    begunAt: r.begun_at?.toISOString() ?? null,
    seenAt: r.seen_at?.toISOString() ?? null,
    here: r.token_hash === mine,
  }));
}

/** Ends one of a person’s sessions by its name, or with `others` all but the one that asks; answers how many. */
export async function endSessionOf(s: Store, person: string, name: string, token: string): Promise<number> {
  const r =
    name === 'others'
      ? await run(s, `DELETE FROM ${directoryAt(s)}.sessions WHERE account = ? AND token_hash <> ?`, [person, tokenHash(token)])
      : await run(s, `DELETE FROM ${directoryAt(s)}.sessions WHERE account = ? AND LEFT(token_hash, 24) = ?`, [person, name]);
  return r.affectedRows;
}

/** Of these tokens, those whose session is still good, of somebody who still works in this shop. */
export async function stillSignedIn(s: Store, tokens: readonly string[]): Promise<Set<string>> {
  if (!tokens.length) return new Set();
  const byHash = new Map(tokens.map((t) => [tokenHash(t), t]));
  const good = await rows<{ token_hash: string }>(
    s,
    `SELECT s.token_hash FROM ${directoryAt(s)}.sessions s JOIN ${directoryAt(s)}.members m ON m.account = s.account AND m.shop = ?
     WHERE s.token_hash IN (${tokens.map(() => '?').join(',')}) AND s.expires_at > ? AND m.ended_at IS NULL`,
    [shopOf(s).id, ...byHash.keys(), new Date()],
  );
  return new Set(good.map((r) => byHash.get(r.token_hash)!));
}

export const endSession = (s: Store, token: string) =>
  run(s, `DELETE FROM ${directoryAt(s)}.sessions WHERE token_hash = ?`, [tokenHash(token)]);

/** Drops sessions that are over. */
export const forgetSessions = (d: InDirectory) => run(d, `DELETE FROM ${directoryAt(d)}.sessions WHERE expires_at < ?`, [new Date()]);
