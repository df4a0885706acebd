import { z } from 'zod';
import { PersonId, Role } from '#model/person';
import { directoryAt, row, run, type Shop } from './db';
import { joinPerson } from './people';

/** As the database writes it, in UTC. */
const At = z.string().transform((t) => new Date(`${t.replace(' ', 'T')}Z`));
/** Who works in a shop, as an archive of it has them. */
export const ShopPeople = z.object({
  members: z.array(z.object({ account: PersonId, name: z.string(), role: Role, version: z.number(), ended_at: At.nullable(), at: At })),
  accounts: z.array(
    z.object({
      id: PersonId,
      password_hash: z.string(),
      at: At,
      otp_secret: z.string().nullable(),
      otp_step: z.number(),
      otp_spare: z.string().nullable(),
    }),
  ),
  rights: z.array(z.object({ at: At, by_person: z.string(), person: z.string(), says: z.string() })),
});
export type ShopPeople = z.output<typeof ShopPeople>;

/**
 * Takes the people of an archived shop into the directory. Repeated, it is the same.
 * @returns those who are not let in: somebody here is called that, with another password, and may be somebody else
 */
export async function takePeople(shop: Shop, people: ShopPeople): Promise<string[]> {
  const at = directoryAt(shop);
  const others: string[] = [];
  for (const m of people.members) {
    const brought = people.accounts.find((a) => a.id === m.account);
    if (!brought) continue;
    await run(
      shop,
      `INSERT IGNORE INTO ${at}.accounts (id, password_hash, at, otp_secret, otp_step, otp_spare) VALUES (?, ?, ?, ?, ?, ?)`,
      [brought.id, brought.password_hash, brought.at, brought.otp_secret, brought.otp_step, brought.otp_spare],
    );
    const here = await row<{ password_hash: string }>(shop, `SELECT password_hash FROM ${at}.accounts WHERE id = ?`, [m.account]);
    const same = here?.password_hash === brought.password_hash;
    if (!same && !m.ended_at) others.push(m.account);
    await joinPerson(shop, { id: m.account, name: m.name, role: m.role }, 'kadro');
    await run(shop, `UPDATE ${at}.members SET version = ?, ended_at = ?, at = ? WHERE shop = ? AND account = ?`, [
      m.version,
      same ? m.ended_at : (m.ended_at ?? new Date()),
      m.at,
      shop.id,
      m.account,
    ]);
  }
  await run(shop, `DELETE FROM ${at}.rights_log WHERE shop = ?`, [shop.id]);
  for (const r of people.rights)
    await run(shop, `INSERT INTO ${at}.rights_log (shop, at, by_person, person, says) VALUES (?, ?, ?, ?, ?)`, [
      shop.id,
      r.at,
      r.by_person,
      r.person,
      r.says,
    ]);
  return others;
}
