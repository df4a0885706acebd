import type { RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import { SignIn, Person } from '#model/person';
import type { Db } from '../store/db';
import { HitStore } from '../store/hits';
import { beginSession, checkPassword, endSession, findSession } from '../store/people';
import { Problem } from './problem';
import { route } from './route';

const COOKIE = 'kadro';
const tokenOf = (cookies: string | undefined) => /(?:^|;\s*)kadro=([\w-]{20,100})/.exec(cookies ?? '')?.[1];

/** Finds who is asking. A broken or old cookie is nobody. */
export const whoIsIt =
  (db: Db): RequestHandler =>
  async (req, res, next) => {
    const token = tokenOf(req.headers.cookie);
    if (token) res.locals.person = await findSession(db, token);
    next();
  };

/** Refuses writes that another site's page sent. */
export const sameOrigin: RequestHandler = (req, _res, next) => {
  if (['GET', 'HEAD', 'OPTIONS'].includes(req.method)) return next();
  const { origin } = req.headers;
  if (origin && new URL(origin).host !== req.headers.host)
    throw new Problem(403, 'Another origin', 'This came from another site’s page and was not carried out.');
  if (req.headers['sec-fetch-site'] && !['same-origin', 'none'].includes(String(req.headers['sec-fetch-site'])))
    throw new Problem(403, 'Another origin', 'This came from another site’s page and was not carried out.');
  next();
};

const TRIES = 8;
const WINDOW_MIN = 10;

/** Limits wrong passwords by name and address, across all servers. */
export const limitSignIn = (db: Db): RequestHandler =>
  rateLimit({
    windowMs: WINDOW_MIN * 60_000,
    limit: TRIES,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    skipSuccessfulRequests: true,
    store: new HitStore(db, 'sign-in:'),
    keyGenerator: (req) =>
      `${String((req.body as { name?: string })?.name ?? '')
        .toLowerCase()
        .slice(0, 40)}@${req.socket.remoteAddress}`,
    handler: () => {
      throw new Problem(429, 'Too many tries', `Too many wrong tries for this name. Wait ${WINDOW_MIN} minutes.`);
    },
  });

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
    method: 'post',
    path: '/api/session',
    summary: 'Sign in',
    open: true,
    body: SignIn,
    result: Person,
    handle: async ({ body, res }, { db }) => {
      const person = await checkPassword(db, body.name, body.password);
      if (!person) throw new Problem(401, 'Not signed in', 'That name and password do not go together.');
      const { token, expires } = await beginSession(db, person.id);
      res.cookie(COOKIE, token, { httpOnly: true, sameSite: 'strict', path: '/', expires });
      return person;
    },
  }),
  route({
    method: 'delete',
    path: '/api/session',
    summary: 'Sign out',
    open: true,
    handle: async ({ req, res }, { db }) => {
      const token = tokenOf(req.headers.cookie);
      if (token) await endSession(db, token);
      res.clearCookie(COOKIE, { path: '/' });
      return null;
    },
  }),
];
