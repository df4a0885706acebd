import type { Request, RequestHandler, Response } from 'express';
import { rateLimit } from 'express-rate-limit';
import { z } from 'zod';
import { AsksSecond, CodeSignIn, normalName, Password, Person, SecondFactor, ShopOfMine, SignIn, TypedPassword } from '#model/person';
import { HitStore } from '../store/hits';
import { changePassword, checkPassword, useCode } from '../store/accounts';
import type { Directory, Shop } from '../store/db';
import { beginSecondFactor, checkSecondFactor, confirmSecondFactor, dropSecondFactor, hasSecondFactor } from '../store/second-factor';
import { stayAt } from '../store/benches';
import { accountOf, beginSession, endSession, findSession } from '../store/sessions';
import { FIRST_SHOP, shopsOf } from '../store/shops';
import { Problem, wrong } from './problem';
import { route, type Services } from './route';

const COOKIE = 'kadro';
export const tokenOf = (cookies: string | undefined) => /(?:^|;\s*)kadro=([\w-]{20,100})/.exec(cookies ?? '')?.[1];

/** Finds who is asking. A broken or old cookie is nobody. */
export const whoIsIt: RequestHandler = async (req, res, next) => {
  const token = tokenOf(req.headers.cookie);
  if (token) res.locals.person = await findSession((res.locals.services as Services).shop, token);
  next();
};

const hostOf = (origin: string): string | null => {
  try {
    return new URL(origin).host;
  } catch {
    // `null`, as from a page that hides where it is, or something unreadable
    return null;
  }
};

/** Refuses writes that another site's page sent. */
export const sameOrigin: RequestHandler = (req, _res, next) => {
  if (['GET', 'HEAD', 'OPTIONS'].includes(req.method)) return next();
  const { origin } = req.headers;
  const site = req.headers['sec-fetch-site'];
  if ((origin !== undefined && hostOf(origin) !== req.headers.host) || (site && !['same-origin', 'none'].includes(String(site))))
    throw new Problem(403, 'Another origin', 'This came from another site’s page and was not carried out.');
  next();
};

const TRIES = 8;
/** Wrong tries from one address under whatever names: a shop's tablets share one. */
const TRIES_FROM_ONE = 60;
const WINDOW_MIN = 10;

/** Limits wrong passwords by name and address, and by address alone, across all servers. */
export function signInLimits(directory: Directory): RequestHandler[] {
  const limit = (prefix: string, most: number, key: (name: string, address: string) => string, says: string) =>
    rateLimit({
      windowMs: WINDOW_MIN * 60_000,
      limit: most,
      standardHeaders: 'draft-8',
      legacyHeaders: false,
      skipSuccessfulRequests: true,
      validate: false,
      store: new HitStore(directory, prefix),
      keyGenerator: (req) => key(normalName((req.body as { name?: unknown } | undefined)?.name), req.ip ?? ''),
      handler: () => {
        throw new Problem(429, 'Too many tries', `${says} Wait ${WINDOW_MIN} minutes.`);
      },
    });
  return [
    limit('address:', TRIES_FROM_ONE, (_name, address) => address, 'Too many wrong tries from here.'),
    limit('sign-in:', TRIES, (name, address) => `${name}@${address}`, 'Too many wrong tries for this name.'),
  ];
}

/** Limits wrong guesses at secret addresses, by who guesses, across all servers. */
export const guessLimit = (directory: Directory): RequestHandler =>
  rateLimit({
    windowMs: WINDOW_MIN * 60_000,
    limit: TRIES_FROM_ONE,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    // what is there, or is refused by a rule, is no guess
    skipSuccessfulRequests: true,
    requestWasSuccessful: (_req, res) => res.statusCode !== 404,
    validate: false,
    store: new HitStore(directory, 'guess:'),
    keyGenerator: (req) => req.ip ?? '',
    handler: () => {
      throw new Problem(429, 'Too many tries', `Too many addresses that are not here. Wait ${WINDOW_MIN} minutes.`);
    },
  });

/** Signs somebody in who has shown who they are; at a shared bench they stay. */
export const begin = async (req: Request, res: Response, shop: Shop, person: Person): Promise<Person> => {
  const { token, expires } = await beginSession(shop, person.id, { agent: req.headers['user-agent'], address: req.ip });
  const bench = benchOf(req);
  if (bench) await stayAt(shop, token, bench);
  keepSession(req, res, token, expires);
  return person;
};

/** The browser keeps the token of a session, out of reach of what runs in its pages. */
export function keepSession(req: Request, res: Response, token: string, expires: Date): void {
  res.cookie(COOKIE, token, { httpOnly: true, sameSite: 'strict', path: '/', expires, secure: req.secure });
}

/** The browser forgets the token; the session itself goes on. */
export const forgetSession = (res: Response) => res.clearCookie(COOKIE, { path: '/' });

/** What a browser that is a bench is known by. */
export const benchOf = (req: Request): string | undefined => /(?:^|;\s*)kadro-bench=([\w-]{20,100})/.exec(req.headers.cookie ?? '')?.[1];

/** @throws Problem where that is not the password of who is signed in */
export async function sure(shop: Shop, person: Person, password: string): Promise<void> {
  if (!(await checkPassword(shop, person.id, password))) throw wrong('password', 'is wrong');
}

export const sessionRoutes = [
  route({
    method: 'get',
    path: '/api/session',
    summary: 'Who is signed in',
    open: true,
    result: Person.nullable(),
    handle: async ({ res }) => (res.locals.person as Person | null | undefined) ?? null,
  }),
  route({
    method: 'get',
    path: '/api/session/shops',
    summary: 'The shops where who is signed in works, whichever is asked',
    open: true,
    result: z.array(ShopOfMine),
    handle: async ({ req }, { shop }) => {
      const token = tokenOf(req.headers.cookie);
      const account = token ? await accountOf(shop.directory, token) : null;
      if (!account) return [];
      return (await shopsOf(shop.directory, account)).map(({ id, name, role }) => ({
        id,
        name,
        role,
        first: id === FIRST_SHOP,
      }));
    },
  }),
  route({
    method: 'post',
    path: '/api/session',
    summary: 'Sign in',
    open: true,
    body: SignIn,
    result: z.union([Person, AsksSecond]),
    handle: async ({ body, req, res }, { shop }) => {
      const person = await checkPassword(shop, body.name, body.password);
      if (!person) throw new Problem(401, 'Not signed in', 'That name and password do not go together.');
      if (await hasSecondFactor(shop, person.id)) {
        if (body.second === undefined) return { asks: 'second factor' };
        if (!(await checkSecondFactor(shop, person.id, body.second)))
          throw new Problem(401, 'Not signed in', 'Those digits are wrong, too old, or were used already: wait for the next ones.');
      }
      return begin(req, res, shop, person);
    },
  }),
  route({
    method: 'get',
    path: '/api/session/second',
    summary: 'Whether one’s own account asks for a second factor',
    result: z.object({ on: z.boolean() }),
    handle: async ({ person }, { shop }) => ({ on: await hasSecondFactor(shop, person.id) }),
  }),
  route({
    method: 'post',
    path: '/api/session/second',
    summary: 'Begin a second factor by time (RFC 6238) for one’s own account: its secret, and the address for an authenticator',
    body: z.strictObject({ password: TypedPassword }),
    result: z.object({ secret: z.string(), uri: z.string() }),
    handle: async ({ body, person }, { shop }) => {
      await sure(shop, person, body.password);
      if (await hasSecondFactor(shop, person.id)) throw new Problem(409, 'Not now', 'There is one already: take it away first.');
      return beginSecondFactor(shop, person.id);
    },
  }),
  route({
    method: 'put',
    path: '/api/session/second',
    summary: 'End it with the digits that the authenticator shows: from now on a sign-in asks for them. Answers spare codes, once.',
    body: z.strictObject({ second: SecondFactor }),
    result: z.object({ spare: z.array(z.string()) }),
    handle: async ({ body, person }, { shop }) => {
      const spare = await confirmSecondFactor(shop, person.id, body.second);
      if (!spare) throw wrong('second', 'Those digits are wrong or too old: wait for the next ones.');
      return { spare };
    },
  }),
  route({
    method: 'post',
    path: '/api/session/second/end',
    summary: 'Take the second factor from one’s own account',
    body: z.strictObject({ password: TypedPassword, second: SecondFactor }),
    handle: async ({ body, person }, { shop }) => {
      await sure(shop, person, body.password);
      if (!(await checkSecondFactor(shop, person.id, body.second)))
        throw wrong('second', 'Those digits are wrong, too old, or were used already.');
      await dropSecondFactor(shop, person.id, person.id);
      return { on: false };
    },
  }),
  route({
    method: 'post',
    path: '/api/session/code',
    summary: 'Set a new password with a code that the owner gave, and sign in',
    open: true,
    body: CodeSignIn,
    result: Person,
    handle: async ({ body, req, res }, { shop }) => {
      const person = await useCode(shop, body.name, body.code, body.password);
      if (!person) throw new Problem(401, 'Not signed in', 'That code is wrong, used, or too old: ask the owner for a new one.');
      return begin(req, res, shop, person);
    },
  }),
  route({
    method: 'put',
    path: '/api/session/password',
    summary: 'Change one’s own password; other devices are signed out',
    body: z.strictObject({ old: z.string().min(1, 'type the old password').max(200), password: Password }),
    handle: async ({ body, person, req }, { shop }) => {
      if (!(await changePassword(shop, person, body.old, body.password, tokenOf(req.headers.cookie) ?? null)))
        throw new Problem(422, 'Not possible', 'The old password is wrong.', { fields: [{ path: 'old', message: 'is wrong' }] });
      return { changed: true };
    },
  }),
  route({
    method: 'delete',
    path: '/api/session',
    summary: 'Sign out',
    open: true,
    handle: async ({ req, res }, { shop, signedOut }) => {
      const token = tokenOf(req.headers.cookie);
      if (token) {
        await endSession(shop, token);
        signedOut(token);
      }
      forgetSession(res);
      return null;
    },
  }),
];
