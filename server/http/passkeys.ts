import { isIP } from 'node:net';
import type { Request } from 'express';
import { z } from 'zod';
import { NewPasskey, Passkey, PasskeyAnswer, Person, TypedPassword } from '#model/person';
import { addPasskey, askPasskey, beginPasskey, checkPasskey, endPasskey, passkeysOf, type Place } from '../store/passkeys';
import { Problem } from './problem';
import { route } from './route';
import { begin, sure } from './session';

/** @throws Problem where the address has no name that a passkey could be bound to */
function placeOf(req: Request): Place {
  // that it is this server’s own was looked at before
  const { origin } = req.headers;
  const host = origin ? new URL(origin).hostname : '';
  if (!origin || !host || isIP(host.replace(/^\[|\]$/g, '')))
    throw new Problem(409, 'Not now', 'Passkeys need an address with a name, by https or at localhost: open Kadro there.');
  return { host, origin };
}

export const passkeyRoutes = [
  route({
    method: 'get',
    path: '/api/session/passkeys',
    summary: 'One’s own passkeys',
    result: z.array(Passkey),
    handle: ({ person }, { shop }) => passkeysOf(shop, person.id),
  }),
  route({
    method: 'post',
    path: '/api/session/passkeys/ask',
    summary: 'Begin a passkey (W3C Web Authentication) for one’s own account: what the browser is to make it from',
    body: z.strictObject({ password: TypedPassword }),
    handle: async ({ body, person, req }, { shop }) => {
      const place = placeOf(req);
      await sure(shop, person, body.password);
      return beginPasskey(shop, person, place);
    },
  }),
  route({
    method: 'post',
    path: '/api/session/passkeys',
    summary: 'Keep the passkey that the browser made',
    body: NewPasskey,
    handle: async ({ body, person, req }, { shop }) => {
      if (!(await addPasskey(shop, person.id, body.name, body.answer, placeOf(req))))
        throw new Problem(422, 'Not possible', 'That passkey was not made as it was asked for, or too late: begin again.');
      return { made: true };
    },
  }),
  route({
    method: 'delete',
    path: '/api/session/passkeys/:passkey',
    summary: 'Take one of one’s own passkeys away',
    handle: async ({ params, person }, { shop }) => {
      if (!(await endPasskey(shop, person.id, params.passkey!))) throw new Problem(404, 'Not here', 'You have no such passkey.');
      return { ended: true };
    },
  }),
  route({
    method: 'post',
    path: '/api/session/passkey/ask',
    summary: 'What a browser is to sign for a sign-in with a passkey',
    open: true,
    handle: ({ req }, { shop }) => askPasskey(shop, placeOf(req)),
  }),
  route({
    method: 'post',
    path: '/api/session/passkey',
    summary: 'Sign in with a passkey',
    open: true,
    body: z.strictObject({ answer: PasskeyAnswer }),
    result: Person,
    handle: async ({ body, req, res }, { shop }) => {
      const person = await checkPasskey(shop, body.answer, placeOf(req));
      if (!person) throw new Problem(401, 'Not signed in', 'That passkey opens nothing in this shop: sign in with your password.');
      return begin(req, res, shop, person);
    },
  }),
];
