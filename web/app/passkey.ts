import type { PublicKeyCredentialCreationOptionsJSON, PublicKeyCredentialRequestOptionsJSON } from '@simplewebauthn/browser';
import type { Person } from '#model/person';
import { call, signIn } from './api';

/** Whether this browser, at this address, can keep and use passkeys: they are bound to a name, and need an address that nobody listens in on. */
export const passkeysWork = (): boolean =>
  globalThis.isSecureContext && 'PublicKeyCredential' in globalThis && !/^\[|^[\d.]+$/.test(location.hostname);

// who never uses one never loads it
const browser = () => import('@simplewebauthn/browser');

/** Somebody put the question of their device away; nothing is to be said of it. */
export const wasPutAway = (e: unknown): boolean => e instanceof Error && (e.name === 'NotAllowedError' || e.name === 'AbortError');

/**
 * Makes a passkey for who is signed in, which the device asks them about.
 * @throws ApiError, or what the browser says: see `wasPutAway`
 */
export async function makePasskey(password: string, name: string): Promise<void> {
  const optionsJSON = await call<PublicKeyCredentialCreationOptionsJSON>('/api/session/passkeys/ask', { json: { password } });
  const answer = await (await browser()).startRegistration({ optionsJSON });
  await call('/api/session/passkeys', { json: { name, answer } });
}

/**
 * Signs in with a passkey of this device.
 * @throws ApiError, or what the browser says: see `wasPutAway`
 */
export async function signInByPasskey(): Promise<Person> {
  const optionsJSON = await call<PublicKeyCredentialRequestOptionsJSON>('/api/session/passkey/ask', { json: {} });
  const answer = await (await browser()).startAuthentication({ optionsJSON });
  return (await signIn('/api/session/passkey', { answer })) as Person;
}
