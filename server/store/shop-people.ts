import { z } from 'zod';
import { PersonId, Role } from '#model/person';
import { directoryAt, row, run, transact, type Shop } from './db';
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
      // archives from before there were any have none
      bench_code: z.string().nullable().default(null),
      passkey_handle: z.string().nullable().default(null),
    }),
  ),
  passkeys: z
    .array(
      z.object({
        id_hash: z.string(),
        account: PersonId,
        host: z.string(),
        credential: z.string(),
        /** hexadecimal */
        public_key: z.string(),
        counter: z.number(),
        transports: z.string(),
        name: z.string(),
        at: At,
        used_at: At.nullable(),
      }),
    )
    .default([]),
  rights: z.array(z.object({ at: At, by_person: z.string(), person: z.string(), says: z.string() })),
});
export type ShopPeople = z.output<typeof ShopPeople>;

/** Makes an account that is not here as it was, with its passkeys. One that is here stays as it is: what it gave up does not come back. */
const takeAccount = (shop: Shop, a: ShopPeople['accounts'][number], passkeys: ShopPeople['passkeys']): Promise<void> =>
  transact(shop, async (tx) => {
    const at = directoryAt(tx);
    const made = await run(
      tx,
      `INSERT IGNORE INTO ${at}.accounts (id, password_hash, at, otp_secret, otp_step, otp_spare, bench_code, passkey_handle) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
      [a.id, a.password_hash, a.at, a.otp_secret, a.otp_step, a.otp_spare, a.bench_code, a.passkey_handle],
    );
    if (!made.affectedRows) return;
    for (const k of passkeys.filter((p) => p.account === a.id))
      await run(
        tx,
        `INSERT IGNORE INTO ${at}.passkeys (id_hash, account, host, credential, public_key, counter, transports, name, at, used_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
        [k.id_hash, a.id, k.host, k.credential, Buffer.from(k.public_key, 'hex'), k.counter, k.transports, k.name, k.at, k.used_at],
      );
  });

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
    await takeAccount(shop, brought, people.passkeys);
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
