import { directoryAt, rows, run, shopOf, type Store } from './db';

/** Why a change of a person was not made. */
export class PersonRefused extends Error {
  constructor(
    readonly why: 'unknown' | 'stale' | 'last owner' | 'elsewhere',
    message: string,
  ) {
    super(message);
  }
}

export interface RightsLine {
  at: Date;
  by: string;
  person: string;
  says: string;
}
export const logRights = (s: Store, by: string, person: string, says: string) =>
  run(s, `INSERT INTO ${directoryAt(s)}.rights_log (shop, at, by_person, person, says) VALUES (?, ?, ?, ?, ?)`, [
    shopOf(s).id,
    new Date(),
    by,
    person,
    says,
  ]);

/** What was changed of who may do what, the newest first. */
export const readRights = (s: Store, most = 200): Promise<RightsLine[]> =>
  rows<RightsLine>(
    s,
    `SELECT at, by_person \`by\`, person, says FROM ${directoryAt(s)}.rights_log WHERE shop = ? ORDER BY at DESC, id DESC LIMIT ${most}`,
    [shopOf(s).id],
  );

/** Whether somebody is an owner wherever else a person works: what they change of the account is theirs to change everywhere. */
export async function ownsWherever(s: Store, by: string, person: string): Promise<boolean> {
  const at = directoryAt(s);
  const elsewhere = await rows(
    s,
    `SELECT m.shop FROM ${at}.members m
     LEFT JOIN ${at}.members o ON o.shop = m.shop AND o.account = ? AND o.role = 'owner' AND o.ended_at IS NULL
     WHERE m.account = ? AND m.shop <> ? AND m.ended_at IS NULL AND o.shop IS NULL LIMIT 1`,
    [by, person, shopOf(s).id],
  );
  return !elsewhere.length;
}
