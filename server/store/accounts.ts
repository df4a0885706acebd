import { hash, verify } from '@node-rs/argon2';
import type { Person } from '#model/person';
import { directoryAt, row, run, shopOf, transact, type InDirectory, type Shop, type Store, type Tx } from './db';
import { dropPasskeys } from './passkeys';
import { plainCode, readableCode } from './readable-code';
import { logRights, ownsWherever, PersonRefused } from './rights';
import { dropSecondFactor } from './second-factor';
import { tokenHash } from './sessions';

/** How long a code that the owner gave out opens the way to a new password. */
const CODE_HOURS = 24;

// verified against when a name does not exist, so that the time taken does not tell
let nobody: Promise<string> | null = null;

const MEMBER = (s: Store) =>
  `SELECT m.account AS id, m.name, m.role, a.password_hash, a.code_hash, a.code_until
   FROM ${directoryAt(s)}.members m JOIN ${directoryAt(s)}.accounts a ON a.id = m.account
   WHERE m.shop = ? AND m.account = ? AND m.ended_at IS NULL`;
type MemberRow = Person & { password_hash: string; code_hash: string | null; code_until: Date | null };
const toPerson = ({ id, name, role }: MemberRow): Person => ({ id, name, role });

/** Who works in this shop and has this name and password, or null. */
export async function checkPassword(s: Store, name: string, password: string): Promise<Person | null> {
  const found = await row<MemberRow>(s, MEMBER(s), [shopOf(s).id, name]);
  nobody ??= hash('nobody has this password');
  const good = await verify(found?.password_hash ?? (await nobody), password);
  return found && good ? toPerson(found) : null;
}

/** Makes an account; false where somebody has, or had, one of that name. One that was made for nobody is made anew. */
export async function makeAccount(s: Store, id: string, password: string): Promise<boolean> {
  const at = directoryAt(s);
  const hashed = await hash(password);
  const made = await run(s, `INSERT IGNORE INTO ${at}.accounts (id, password_hash, at) VALUES (?, ?, ?)`, [id, hashed, new Date()]);
  if (made.affectedRows) return true;
  const anew = await run(
    s,
    `UPDATE ${at}.accounts SET password_hash = ?, otp_secret = NULL, otp_pending = NULL, otp_spare = NULL, bench_code = NULL
     WHERE id = ? AND NOT EXISTS (SELECT 1 FROM ${at}.members m WHERE m.account = ?)`,
    [hashed, id, id],
  );
  if (anew.affectedRows) await dropPasskeys(s, id);
  return anew.affectedRows > 0;
}

/** Sets a password, drops any code, and ends every session but the one named. */
async function setPassword(tx: Tx, person: string, password: string, keep: string | null): Promise<void> {
  const at = directoryAt(tx);
  await run(tx, `UPDATE ${at}.accounts SET password_hash = ?, code_hash = NULL, code_until = NULL WHERE id = ?`, [
    await hash(password),
    person,
  ]);
  await run(tx, `DELETE FROM ${at}.sessions WHERE account = ? AND token_hash <> ?`, [person, keep === null ? '' : tokenHash(keep)]);
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

/**
 * A code that lets a person set a new password once. Only its hash is kept; null for nobody.
 * @throws PersonRefused where the person works in a shop that is not the giver’s: the code would open that too
 */
export async function giveCode(shop: Shop, person: string, by: string): Promise<{ code: string; until: Date } | null> {
  return transact(shop, async (tx) => {
    if (!(await row<MemberRow>(tx, MEMBER(tx), [shop.id, person]))) return null;
    if (!(await ownsWherever(tx, by, person)))
      throw new PersonRefused(
        'elsewhere',
        'They work in another shop too, and a code would open that as well: whoever owns both gives it, or who keeps the machine, with npm run shops.',
      );
    const made = await makeCode(tx, person);
    await logRights(tx, by, person, 'given a code for a new password');
    return made;
  });
}

/** Makes a code for an account, whoever asked for it and may. Only its hash is kept. */
export async function makeCode(s: Store | InDirectory, account: string): Promise<{ code: string; until: Date }> {
  const code = readableCode();
  const until = new Date(Date.now() + CODE_HOURS * 3600_000);
  await run(s, `UPDATE ${directoryAt(s)}.accounts SET code_hash = ?, code_until = ? WHERE id = ?`, [await hash(code), until, account]);
  return { code, until };
}

/** Sets a new password by a code that the owner gave; null when the code is wrong, used or too old. */
export async function useCode(shop: Shop, name: string, code: string, password: string): Promise<Person | null> {
  nobody ??= hash('nobody has this password');
  return transact(shop, async (tx) => {
    const found = await row<MemberRow>(tx, `${MEMBER(tx)} FOR UPDATE`, [shop.id, name]);
    const good = await verify(found?.code_hash ?? (await nobody!), plainCode(code));
    if (!found || !good || !found.code_until || found.code_until < new Date()) return null;
    await setPassword(tx, found.id, password, null);
    // whoever gave the code answers for who it is: a telephone that is gone does not keep them out
    await dropSecondFactor(tx, found.id, found.id);
    await dropPasskeys(tx, found.id);
    await logRights(tx, found.id, found.id, 'new password set with a code');
    return toPerson(found);
  });
}
