import { createHash, randomBytes, randomInt } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import type { PersonInShop, Person, Role } from '#model/person';
import type { OpenSession } from '#model/system';
import { row, rows, run, transact, type Shop, type Store, type Tx } from './db';

const SESSION_DAYS = 14;
/** How long a code that the owner gave out opens the way to a new password. */
const CODE_HOURS = 24;
const tokenHash = (token: string) => createHash('sha256').update(token).digest('hex');

interface PersonRow {
  id: string;
  name: string;
  role: Role;
  version: number;
  ended_at: Date | null;
}
const toPerson = (r: PersonRow): PersonInShop => ({ id: r.id, name: r.name, role: r.role, version: r.version, ended: r.ended_at !== null });

/** Everybody there ever was: people are ended, never deleted, because the record names them. */
export const listPeople = async (s: Store): Promise<PersonInShop[]> =>
  (await rows<PersonRow>(s, 'SELECT id, name, role, version, ended_at FROM people ORDER BY name')).map(toPerson);

export interface RightsLine {
  at: Date;
  by: string;
  person: string;
  says: string;
}
const logRights = (s: Store, by: string, person: string, says: string) =>
  run(s, 'INSERT INTO rights_log (at, by_person, person, says) VALUES (?, ?, ?, ?)', [new Date(), by, person, says]);

/** What was changed of who may do what, the newest first. */
export const readRights = (s: Store, most = 200): Promise<RightsLine[]> =>
  rows<RightsLine>(s, `SELECT at, by_person \`by\`, person, says FROM rights_log ORDER BY at DESC, id DESC LIMIT ${most}`);

/** Adds a person; false when the name is taken. */
export async function addPerson(s: Store, p: { id: string; name: string; role: Role; password: string }, by = 'kadro'): Promise<boolean> {
  const r = await run(s, 'INSERT IGNORE INTO people (id, name, role, password_hash, created_at) VALUES (?, ?, ?, ?, ?)', [
    p.id,
    p.name,
    p.role,
    await hash(p.password),
    new Date(),
  ]);
  if (r.affectedRows === 1) await logRights(s, by, p.id, `added as ${p.role}`);
  return r.affectedRows === 1;
}

/** Why a change of a person was not made. */
export class PersonRefused extends Error {
  constructor(
    readonly why: 'unknown' | 'stale' | 'last owner',
    message: string,
  ) {
    super(message);
  }
}

/**
 * Changes a person's name, role, or whether they still work here. Who has ended, or another role, is signed out everywhere.
 * @throws PersonRefused
 */
export const changePerson = (
  shop: Shop,
  id: string,
  version: number,
  change: { name?: string | undefined; role?: Role | undefined; ended?: boolean | undefined },
  by: string,
): Promise<PersonInShop> =>
  transact(shop, async (tx) => {
    // all owners are locked, so that two who change at once do not leave a shop without any
    const owners = await rows<{ id: string }>(tx, "SELECT id FROM people WHERE role = 'owner' AND ended_at IS NULL FOR UPDATE");
    const was = await row<PersonRow>(tx, 'SELECT id, name, role, version, ended_at FROM people WHERE id = ? FOR UPDATE', [id]);
    if (!was) throw new PersonRefused('unknown', 'Nobody here is called that.');
    if (was.version !== version) throw new PersonRefused('stale', 'Somebody changed this person meanwhile: look again.');
    const now = {
      name: change.name ?? was.name,
      role: change.role ?? was.role,
      ended: change.ended ?? was.ended_at !== null,
    };
    const ownsAfter = now.role === 'owner' && !now.ended;
    if (!ownsAfter && owners.length === 1 && owners[0]!.id === id)
      throw new PersonRefused('last owner', 'A shop has at least one owner: make somebody else one first.');
    await run(tx, 'UPDATE people SET name = ?, role = ?, ended_at = ?, version = version + 1 WHERE id = ?', [
      now.name,
      now.role,
      now.ended ? (was.ended_at ?? new Date()) : null,
      id,
    ]);
    if (now.role !== was.role) await logRights(tx, by, id, `role ${was.role} became ${now.role}`);
    if (now.name !== was.name) await logRights(tx, by, id, `called ${now.name} instead of ${was.name}`);
    if (now.ended !== (was.ended_at !== null)) await logRights(tx, by, id, now.ended ? 'access ended' : 'access given again');
    if (now.ended || now.role !== was.role) await run(tx, 'DELETE FROM sessions WHERE person = ?', [id]);
    return { id, name: now.name, role: now.role, version: version + 1, ended: now.ended };
  });

// verified against when a name does not exist, so that the time taken does not tell
let nobody: Promise<string> | null = null;

/** The person whose name and password these are, or null. */
export async function checkPassword(s: Store, name: string, password: string): Promise<Person | null> {
  const found = await row<Person & { password_hash: string }>(
    s,
    'SELECT id, name, role, password_hash FROM people WHERE id = ? AND ended_at IS NULL',
    [name],
  );
  nobody ??= hash('nobody has this password');
  const good = await verify(found?.password_hash ?? (await nobody), password);
  return found && good ? { id: found.id, name: found.name, role: found.role } : null;
}

/** Sets a password, drops any code, and ends every session but the one named. */
async function setPassword(tx: Tx, person: string, password: string, keep: string | null): Promise<void> {
  await run(tx, 'UPDATE people SET password_hash = ?, code_hash = NULL, code_until = NULL WHERE id = ?', [await hash(password), person]);
  await run(tx, 'DELETE FROM sessions WHERE person = ? AND token_hash <> ?', [person, keep === null ? '' : tokenHash(keep)]);
}

/** Changes one's own password; false when the old one is wrong. Other devices are signed out. */
export async function changePassword(shop: Shop, person: Person, old: string, password: string, token: string | null): Promise<boolean> {
  if (!(await checkPassword(shop, person.id, old))) return false;
  await transact(shop, async (tx) => {
    await setPassword(tx, person.id, password, token);
    await logRights(tx, person.id, person.id, 'own password changed');
  });
  return true;
}

/** Letters and digits that are not taken for one another. */
const CODE_LETTERS = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789';
const CODE_LENGTH = 10;

/** A code that lets a person set a new password once. Only its hash is kept; null for nobody. */
export async function giveCode(shop: Shop, person: string, by: string): Promise<{ code: string; until: Date } | null> {
  const code = Array.from({ length: CODE_LENGTH }, () => CODE_LETTERS[randomInt(CODE_LETTERS.length)]).join('');
  const until = new Date(Date.now() + CODE_HOURS * 3600_000);
  const hashed = await hash(code);
  return transact(shop, async (tx) => {
    const r = await run(tx, 'UPDATE people SET code_hash = ?, code_until = ? WHERE id = ? AND ended_at IS NULL', [hashed, until, person]);
    if (!r.affectedRows) return null;
    await logRights(tx, by, person, 'given a code for a new password');
    return { code, until };
  });
}

/** Sets a new password by a code that the owner gave; null when the code is wrong, used or too old. */
export async function useCode(shop: Shop, name: string, code: string, password: string): Promise<Person | null> {
  nobody ??= hash('nobody has this password');
  return transact(shop, async (tx) => {
    const found = await row<Person & { code_hash: string | null; code_until: Date | null }>(
      tx,
      'SELECT id, name, role, code_hash, code_until FROM people WHERE id = ? AND ended_at IS NULL FOR UPDATE',
      [name],
    );
    const good = await verify(found?.code_hash ?? (await nobody!), code.toUpperCase().replace(/[\s-]/g, ''));
    if (!found || !good || !found.code_until || found.code_until < new Date()) return null;
    await setPassword(tx, found.id, password, null);
    await logRights(tx, found.id, found.id, 'new password set with a code');
    return { id: found.id, name: found.name, role: found.role };
  });
}

/** Begins a session and answers its secret token; only the token's hash is stored. */
/** What a browser says it is, as far as its person wants to know. */
export const deviceOf = (agent: string | undefined): OpenSession['device'] =>
  !agent ? 'unknown' : /iPad|Tablet|Android(?!.*Mobile)/i.test(agent) ? 'tablet' : /Mobi/i.test(agent) ? 'telephone' : 'computer';

export async function beginSession(
  s: Store,
  person: string,
  from: { agent?: string | undefined; address?: string | undefined } = {},
): Promise<{ token: string; expires: Date }> {
  const token = randomBytes(32).toString('base64url');
  const now = new Date();
  const expires = new Date(now.getTime() + SESSION_DAYS * 86400_000);
  await run(s, 'INSERT INTO sessions (token_hash, person, expires_at, begun_at, seen_at, device, address) VALUES (?, ?, ?, ?, ?, ?, ?)', [
    tokenHash(token),
    person,
    expires,
    now,
    now,
    deviceOf(from.agent),
    from.address?.slice(0, 45) ?? null,
  ]);
  return { token, expires };
}

/** A session is noted as seen this often at most, minutes. */
const SEEN_MIN = 5;

export async function findSession(s: Store, token: string): Promise<Person | null> {
  const hashed = tokenHash(token);
  const now = new Date();
  const found = await row<Person & { seen_at: Date | null }>(
    s,
    'SELECT p.id, p.name, p.role, s.seen_at FROM sessions s JOIN people p ON p.id = s.person WHERE s.token_hash = ? AND s.expires_at > ? AND p.ended_at IS NULL',
    [hashed, now],
  );
  if (!found) return null;
  if ((found.seen_at?.getTime() ?? 0) < now.getTime() - SEEN_MIN * 60_000)
    // nobody waits for that, and it may fail
    void run(s, 'UPDATE sessions SET seen_at = ? WHERE token_hash = ?', [now, hashed]).catch(() => undefined);
  return { id: found.id, name: found.name, role: found.role };
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
  }>(s, 'SELECT token_hash, device, address, begun_at, seen_at FROM sessions WHERE person = ? AND expires_at > ? ORDER BY seen_at DESC', [
    person,
    new Date(),
  ]);
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
      ? await run(s, 'DELETE FROM sessions WHERE person = ? AND token_hash <> ?', [person, tokenHash(token)])
      : await run(s, 'DELETE FROM sessions WHERE person = ? AND LEFT(token_hash, 24) = ?', [person, name]);
  return r.affectedRows;
}

/** Of these tokens, those whose session is still good. */
export async function stillSignedIn(s: Store, tokens: readonly string[]): Promise<Set<string>> {
  if (!tokens.length) return new Set();
  const byHash = new Map(tokens.map((t) => [tokenHash(t), t]));
  const good = await rows<{ token_hash: string }>(
    s,
    `SELECT s.token_hash FROM sessions s JOIN people p ON p.id = s.person WHERE s.token_hash IN (${tokens.map(() => '?').join(',')}) AND s.expires_at > ? AND p.ended_at IS NULL`,
    [...byHash.keys(), new Date()],
  );
  return new Set(good.map((r) => byHash.get(r.token_hash)!));
}

export const endSession = (s: Store, token: string) => run(s, 'DELETE FROM sessions WHERE token_hash = ?', [tokenHash(token)]);

/** Drops sessions that are over. */
export const forgetSessions = (s: Store) => run(s, 'DELETE FROM sessions WHERE expires_at < ?', [new Date()]);
