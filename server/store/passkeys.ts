import { randomBytes } from 'node:crypto';
import type {
  AuthenticationResponseJSON,
  PublicKeyCredentialCreationOptionsJSON,
  PublicKeyCredentialRequestOptionsJSON,
  RegistrationResponseJSON,
} from '@simplewebauthn/server';
import type { Passkey, Person } from '#model/person';
import { sha256 } from './chain';
import { directoryAt, row, rows, run, shopOf, type InDirectory, type Shop, type Store } from './db';
import { logRights } from './rights';

/** Where a browser stands: passkeys are bound to the name of the address (their relying party), and answer its pages only. */
export interface Place {
  /** the name in the address, such as kadro.example */
  host: string;
  /** the address with its scheme and port, as the browser says it */
  origin: string;
}

/** What reads what keys say: a quarter of what a server has to load, so with the first key only. */
const webauthn = () => import('@simplewebauthn/server');

/** How long somebody may take to touch their key. */
const CHALLENGE_MS = 5 * 60_000;
const MOST_PASSKEYS = 10;
// the device asks for a finger, a face or a PIN: who has the device alone does not get in, so no second factor is asked for beside it
const ASKED = { residentKey: 'required', userVerification: 'required' } as const;

async function keepChallenge(s: Store, challenge: string, account: string | null): Promise<void> {
  const at = directoryAt(s);
  await run(s, `DELETE FROM ${at}.challenges WHERE until_at < ? LIMIT 100`, [new Date()]);
  await run(s, `INSERT INTO ${at}.challenges (challenge_hash, account, until_at) VALUES (?, ?, ?)`, [
    sha256(challenge),
    account,
    new Date(Date.now() + CHALLENGE_MS),
  ]);
}
/** Whether a challenge was given to this account (null: to whoever signs in) and not used yet; it is used with that. */
async function takeChallenge(s: Store, challenge: string, account: string | null): Promise<boolean> {
  const r = await run(s, `DELETE FROM ${directoryAt(s)}.challenges WHERE challenge_hash = ? AND account <=> ? AND until_at > ?`, [
    sha256(challenge),
    account,
    new Date(),
  ]);
  return r.affectedRows === 1;
}

/** What an account is called on devices: it tells nobody who that is. */
async function handleOf(s: Store, account: string): Promise<string> {
  const at = directoryAt(s);
  await run(s, `UPDATE ${at}.accounts SET passkey_handle = ? WHERE id = ? AND passkey_handle IS NULL`, [
    randomBytes(32).toString('base64url'),
    account,
  ]);
  return (await row<{ h: string }>(s, `SELECT passkey_handle h FROM ${at}.accounts WHERE id = ?`, [account]))!.h;
}

/** One’s own passkeys, the newest first. */
export async function passkeysOf(s: Store, account: string): Promise<Passkey[]> {
  const found = await rows<{ id_hash: string; name: string; host: string; at: Date; used_at: Date | null }>(
    s,
    `SELECT id_hash, name, host, at, used_at FROM ${directoryAt(s)}.passkeys WHERE account = ? ORDER BY at DESC`,
    [account],
  );
  return found.map((p) => ({
    id: p.id_hash,
    name: p.name,
    host: p.host,
    at: p.at.toISOString(),
    usedAt: p.used_at?.toISOString() ?? null,
  }));
}

/** What a browser is told so that it makes a passkey for an account. */
export async function beginPasskey(s: Store, person: Person, place: Place): Promise<PublicKeyCredentialCreationOptionsJSON> {
  const had = await rows<{ credential: string }>(s, `SELECT credential FROM ${directoryAt(s)}.passkeys WHERE account = ? AND host = ?`, [
    person.id,
    place.host,
  ]);
  const { generateRegistrationOptions } = await webauthn();
  const options = await generateRegistrationOptions({
    rpName: 'Kadro',
    rpID: place.host,
    userName: person.id,
    userDisplayName: person.name,
    userID: Buffer.from(await handleOf(s, person.id), 'base64url'),
    timeout: CHALLENGE_MS,
    excludeCredentials: had.map((p) => ({ id: p.credential })),
    authenticatorSelection: ASKED,
  });
  await keepChallenge(s, options.challenge, person.id);
  return options;
}

/**
 * Keeps a passkey that a browser made (W3C Web Authentication, registration).
 * @returns false where what came is not one, or was not asked for, or there are as many as an account has
 */
export async function addPasskey(shop: Shop, account: string, name: string, response: unknown, place: Place): Promise<boolean> {
  const at = directoryAt(shop);
  const { verifyRegistrationResponse } = await webauthn();
  const made = await verifyRegistrationResponse({
    response: response as RegistrationResponseJSON,
    expectedChallenge: (c) => takeChallenge(shop, c, account),
    expectedOrigin: place.origin,
    expectedRPID: place.host,
    requireUserVerification: true,
  }).catch(() => null);
  if (!made?.verified) return false;
  const { credential } = made.registrationInfo;
  const kept = await run(
    shop,
    `INSERT IGNORE INTO ${at}.passkeys (id_hash, account, host, credential, public_key, counter, transports, name, at)
     SELECT ?, ?, ?, ?, ?, ?, ?, ?, ? FROM DUAL WHERE (SELECT COUNT(*) FROM ${at}.passkeys WHERE account = ?) < ${MOST_PASSKEYS}`,
    [
      sha256(credential.id),
      account,
      place.host,
      credential.id,
      Buffer.from(credential.publicKey),
      credential.counter,
      JSON.stringify(credential.transports ?? []),
      name,
      new Date(),
      account,
    ],
  );
  if (kept.affectedRows) await logRights(shop, account, account, `passkey “${name}” made`);
  return kept.affectedRows === 1;
}

/** Takes one of one’s own passkeys away; false where there is none of that name. */
export async function endPasskey(s: Store, account: string, id: string): Promise<boolean> {
  const r = await run(s, `DELETE FROM ${directoryAt(s)}.passkeys WHERE account = ? AND id_hash = ?`, [account, id]);
  if (r.affectedRows) await logRights(s, account, account, 'passkey taken away');
  return r.affectedRows === 1;
}

/** Takes every passkey from an account: whoever asks has shown that they may. */
export const dropPasskeys = (s: Store | InDirectory, account: string) =>
  run(s, `DELETE FROM ${directoryAt(s)}.passkeys WHERE account = ?`, [account]);

/** What a browser is told so that it offers the passkeys it has for this address: whose they are is not asked. */
export async function askPasskey(s: Store, place: Place): Promise<PublicKeyCredentialRequestOptionsJSON> {
  const { generateAuthenticationOptions } = await webauthn();
  const options = await generateAuthenticationOptions({ rpID: place.host, timeout: CHALLENGE_MS, userVerification: 'required' });
  await keepChallenge(s, options.challenge, null);
  return options;
}

/**
 * Who of this shop signs in with a passkey (W3C Web Authentication, assertion).
 * @returns null where it is not known here, signed something else, is a copy that lags behind, or its person does not work in this shop
 */
export async function checkPasskey(s: Store, response: unknown, place: Place): Promise<Person | null> {
  const at = directoryAt(s);
  const given = response as AuthenticationResponseJSON;
  const known = await row<{
    account: string;
    credential: string;
    public_key: Buffer;
    counter: number;
    transports: string;
    passkey_handle: string;
  }>(
    s,
    `SELECT k.account, k.credential, k.public_key, k.counter, k.transports, a.passkey_handle
     FROM ${at}.passkeys k JOIN ${at}.accounts a ON a.id = k.account WHERE k.id_hash = ? AND k.host = ?`,
    [sha256(given.id), place.host],
  );
  if (!known || (given.response.userHandle !== undefined && given.response.userHandle !== known.passkey_handle)) return null;
  const { verifyAuthenticationResponse } = await webauthn();
  const checked = await verifyAuthenticationResponse({
    response: given,
    expectedChallenge: (c) => takeChallenge(s, c, null),
    expectedOrigin: place.origin,
    expectedRPID: place.host,
    credential: {
      id: known.credential,
      publicKey: new Uint8Array(known.public_key),
      counter: Number(known.counter),
      transports: JSON.parse(known.transports) as string[],
    },
    requireUserVerification: true,
  }).catch(() => null);
  if (!checked?.verified) return null;
  await run(s, `UPDATE ${at}.passkeys SET counter = ?, used_at = ? WHERE id_hash = ?`, [
    checked.authenticationInfo.newCounter,
    new Date(),
    sha256(given.id),
  ]);
  return row<Person>(s, `SELECT account AS id, name, role FROM ${at}.members WHERE shop = ? AND account = ? AND ended_at IS NULL`, [
    shopOf(s).id,
    known.account,
  ]);
}
