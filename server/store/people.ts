import type { PersonInShop, Role } from '#model/person';
import { makeAccount } from './accounts';
import { directoryAt, row, rows, run, shopOf, transact, type Shop, type Store } from './db';
import { logRights, ownsWherever, PersonRefused } from './rights';

interface PersonRow {
  id: string;
  name: string;
  role: Role;
  version: number;
  ended_at: Date | null;
}
const COLUMNS = 'account AS id, name, role, version, ended_at';
const toPerson = (r: PersonRow): PersonInShop => ({ id: r.id, name: r.name, role: r.role, version: r.version, ended: r.ended_at !== null });

/** Everybody there ever was: people are ended, never deleted, because the record names them. */
export const listPeople = async (s: Store): Promise<PersonInShop[]> =>
  (await rows<PersonRow>(s, `SELECT ${COLUMNS} FROM ${directoryAt(s)}.members WHERE shop = ? ORDER BY name`, [shopOf(s).id])).map(toPerson);

/** Lets somebody who has an account work in this shop; false where they are here already, or left. */
export async function joinPerson(s: Store, p: { id: string; name: string; role: Role }, by: string): Promise<boolean> {
  const r = await run(s, `INSERT IGNORE INTO ${directoryAt(s)}.members (shop, account, name, role, at) VALUES (?, ?, ?, ?, ?)`, [
    shopOf(s).id,
    p.id,
    p.name,
    p.role,
    new Date(),
  ]);
  if (r.affectedRows === 1) await logRights(s, by, p.id, `added as ${p.role}`);
  return r.affectedRows === 1;
}

/** The same for who keeps the machine: who left, or came along with a shop from elsewhere, is let in again. @returns false where they are in */
export async function letIn(s: Store, p: { id: string; name: string; role: Role }): Promise<boolean> {
  if (await joinPerson(s, p, 'kadro')) return true;
  const r = await run(
    s,
    `UPDATE ${directoryAt(s)}.members SET role = ?, ended_at = NULL, version = version + 1 WHERE shop = ? AND account = ? AND ended_at IS NOT NULL`,
    [p.role, shopOf(s).id, p.id],
  );
  if (r.affectedRows) await logRights(s, 'kadro', p.id, `let in again as ${p.role}`);
  return r.affectedRows > 0;
}

/**
 * Adds a person, with an account of their own; false when the name is taken. Who works in other shops of the same owner is let in
 * with the account that they have, and keeps their password.
 */
export async function addPerson(s: Store, p: { id: string; name: string; role: Role; password: string }, by = 'kadro'): Promise<boolean> {
  if (!(await makeAccount(s, p.id, p.password))) {
    const works = await row(s, `SELECT shop FROM ${directoryAt(s)}.members WHERE account = ? AND ended_at IS NULL LIMIT 1`, [p.id]);
    if (!works || !(await ownsWherever(s, by, p.id))) return false;
  }
  return joinPerson(s, p, by);
}

/**
 * Changes a person's name, role, or whether they still work here. Who has ended, or another role, is signed out everywhere,
 * unless they work in other shops: there they stay, and here every request looks anew.
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
    const at = directoryAt(tx);
    // all owners are locked, so that two who change at once do not leave a shop without any
    const owners = await rows<{ id: string }>(
      tx,
      `SELECT account AS id FROM ${at}.members WHERE shop = ? AND role = 'owner' AND ended_at IS NULL FOR UPDATE`,
      [shop.id],
    );
    const was = await row<PersonRow>(tx, `SELECT ${COLUMNS} FROM ${at}.members WHERE shop = ? AND account = ? FOR UPDATE`, [shop.id, id]);
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
    await run(tx, `UPDATE ${at}.members SET name = ?, role = ?, ended_at = ?, version = version + 1 WHERE shop = ? AND account = ?`, [
      now.name,
      now.role,
      now.ended ? (was.ended_at ?? new Date()) : null,
      shop.id,
      id,
    ]);
    if (now.role !== was.role) await logRights(tx, by, id, `role ${was.role} became ${now.role}`);
    if (now.name !== was.name) await logRights(tx, by, id, `called ${now.name} instead of ${was.name}`);
    if (now.ended !== (was.ended_at !== null)) await logRights(tx, by, id, now.ended ? 'access ended' : 'access given again');
    if (now.ended || now.role !== was.role) await endSessionsOf(tx, id);
    return { id, name: now.name, role: now.role, version: version + 1, ended: now.ended };
  });

async function endSessionsOf(s: Store, person: string): Promise<void> {
  const at = directoryAt(s);
  const elsewhere = await row(s, `SELECT shop FROM ${at}.members WHERE account = ? AND shop <> ? AND ended_at IS NULL LIMIT 1`, [
    person,
    shopOf(s).id,
  ]);
  if (!elsewhere) await run(s, `DELETE FROM ${at}.sessions WHERE account = ?`, [person]);
}
