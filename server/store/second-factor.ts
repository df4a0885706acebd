import { createHash } from 'node:crypto';
import { Secret, TOTP } from 'otpauth';
import { directoryAt, row, run, transact, type Shop, type Store } from './db';
import { plainCode, readableCode } from './readable-code';
import { logRights } from './rights';

/** RFC 6238 as authenticators have it: six digits, a new one every thirty seconds; one before and one after is taken, for clocks that are off. */
const PERIOD_S = 30;
const DIGITS = 6;
const WINDOW = 1;
const ISSUER = 'Kadro';
/** Codes that each stand in for the digits once. */
const SPARE = 8;

const totp = (secret: string, label: string): TOTP =>
  new TOTP({ issuer: ISSUER, label, digits: DIGITS, period: PERIOD_S, secret: Secret.fromBase32(secret) });

interface FactorRow {
  otp_secret: string | null;
  otp_pending: string | null;
  otp_step: number;
  otp_spare: string | null;
}
const read = (s: Store, account: string, lock = ''): Promise<FactorRow | null> =>
  row<FactorRow>(s, `SELECT otp_secret, otp_pending, otp_step, otp_spare FROM ${directoryAt(s)}.accounts WHERE id = ?${lock}`, [account]);

/** The step that digits belong to; null: to none near now. */
function stepOf(secret: string, account: string, digits: string, now: Date): number | null {
  const delta = totp(secret, account).validate({ token: digits, timestamp: now.getTime(), window: WINDOW });
  return delta === null ? null : Math.floor(now.getTime() / 1000 / PERIOD_S) + delta;
}

// ten letters of thirty are not guessed: a fast hash is enough
const spareHash = (code: string): string => createHash('sha256').update(plainCode(code)).digest('hex');

/** Whether an account asks for a second factor at its sign-in. */
export const hasSecondFactor = async (s: Store, account: string): Promise<boolean> => Boolean((await read(s, account))?.otp_secret);

/**
 * Whether these are the digits of now, or a spare code. Each is good once: what somebody read over a shoulder opens nothing.
 */
export const checkSecondFactor = (shop: Shop, account: string, given: string, now = new Date()): Promise<boolean> =>
  transact(shop, async (tx) => {
    const at = directoryAt(tx);
    const f = await read(tx, account, ' FOR UPDATE');
    if (!f?.otp_secret) return false;
    if (/^\d{6}$/.test(plainCode(given))) {
      const step = stepOf(f.otp_secret, account, plainCode(given), now);
      if (step === null || step <= Number(f.otp_step)) return false;
      await run(tx, `UPDATE ${at}.accounts SET otp_step = ? WHERE id = ?`, [step, account]);
      return true;
    }
    const spare = JSON.parse(f.otp_spare ?? '[]') as string[];
    const rest = spare.filter((h) => h !== spareHash(given));
    if (rest.length === spare.length) return false;
    await run(tx, `UPDATE ${at}.accounts SET otp_spare = ? WHERE id = ?`, [JSON.stringify(rest), account]);
    await logRights(tx, account, account, 'signed in with a spare code');
    return true;
  });

/** Begins a second factor: its secret, and the address that an authenticator reads. It asks for nothing until its digits were told once. */
export async function beginSecondFactor(s: Store, account: string): Promise<{ secret: string; uri: string }> {
  const secret = new Secret({ size: 20 }).base32;
  await run(s, `UPDATE ${directoryAt(s)}.accounts SET otp_pending = ? WHERE id = ?`, [secret, account]);
  return { secret, uri: totp(secret, account).toString() };
}

/** Ends what was begun with the digits that it shows. @returns spare codes, told once and kept as hashes; null: the digits are wrong */
export const confirmSecondFactor = (shop: Shop, account: string, digits: string, now = new Date()): Promise<string[] | null> =>
  transact(shop, async (tx) => {
    const f = await read(tx, account, ' FOR UPDATE');
    const step = f?.otp_pending ? stepOf(f.otp_pending, account, plainCode(digits), now) : null;
    if (step === null) return null;
    const spare = Array.from({ length: SPARE }, readableCode);
    await run(
      tx,
      `UPDATE ${directoryAt(tx)}.accounts SET otp_secret = otp_pending, otp_pending = NULL, otp_step = ?, otp_spare = ? WHERE id = ?`,
      [step, JSON.stringify(spare.map(spareHash)), account],
    );
    await logRights(tx, account, account, 'second factor set');
    return spare;
  });

/** Takes the second factor away; whoever asks has shown that they may. */
export async function dropSecondFactor(s: Store, account: string, by: string): Promise<void> {
  const r = await run(
    s,
    `UPDATE ${directoryAt(s)}.accounts SET otp_secret = NULL, otp_pending = NULL, otp_step = 0, otp_spare = NULL WHERE id = ? AND otp_secret IS NOT NULL`,
    [account],
  );
  if (r.affectedRows) await logRights(s, by, account, 'second factor taken away');
}
