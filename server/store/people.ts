import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import type { Person, Role } from '#model/person';
import { row, rows, run, type Conn, type Db } from './db';

const SESSION_DAYS = 14;
const tokenHash = (token: string) => createHash('sha256').update(token).digest('hex');

export const listPeople = (db: Db | Conn): Promise<Person[]> => rows<Person>(db, 'SELECT id, name, role FROM people ORDER BY name');

/** Adds a person; false when the name is taken. */
export async function addPerson(db: Db | Conn, p: { id: string; name: string; role: Role; password: string }): Promise<boolean> {
  const r = await run(db, 'INSERT IGNORE INTO people (id, name, role, password_hash, created_at) VALUES (?, ?, ?, ?, ?)', [
    p.id,
    p.name,
    p.role,
    await hash(p.password),
    new Date(),
  ]);
  return r.affectedRows === 1;
}

// verified against when a name does not exist, so that the time taken does not tell
let nobody: Promise<string> | null = null;

/** The person whose name and password these are, or null. */
export async function checkPassword(db: Db, name: string, password: string): Promise<Person | null> {
  const found = await row<Person & { password_hash: string }>(db, 'SELECT id, name, role, password_hash FROM people WHERE id = ?', [name]);
  nobody ??= hash('nobody has this password');
  const good = await verify(found?.password_hash ?? (await nobody), password);
  return found && good ? { id: found.id, name: found.name, role: found.role } : null;
}

/** Begins a session and answers its secret token; only the token's hash is stored. */
export async function beginSession(db: Db, person: string): Promise<{ token: string; expires: Date }> {
  const token = randomBytes(32).toString('base64url');
  const expires = new Date(Date.now() + SESSION_DAYS * 86400_000);
  await run(db, 'DELETE FROM sessions WHERE expires_at < ?', [new Date()]);
  await run(db, 'INSERT INTO sessions (token_hash, person, expires_at) VALUES (?, ?, ?)', [tokenHash(token), person, expires]);
  return { token, expires };
}

export const findSession = (db: Db, token: string): Promise<Person | null> =>
  row<Person>(
    db,
    'SELECT p.id, p.name, p.role FROM sessions s JOIN people p ON p.id = s.person WHERE s.token_hash = ? AND s.expires_at > ?',
    [tokenHash(token), new Date()],
  );

export const endSession = (db: Db, token: string) => run(db, 'DELETE FROM sessions WHERE token_hash = ?', [tokenHash(token)]);
