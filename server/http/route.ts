import type { Express, Request, Response } from 'express';
import { z } from 'zod';
import type { Logger } from 'pino';
import { may, whoMay, type Action } from '#core/people/permissions';
import type { Person } from '#model/person';
import type { OwnGroup } from '../shops';
import type { Shop } from '../store/db';
import type { Errands } from '../outside/errands';
import type { Workers } from '../work/workers';
import { checkBounds } from './bounds';
import { Problem } from './problem';
import type { Watch } from './watch';

/** All that a request may reach: one shop, and what computes for it. */
export interface Services {
  shop: Shop;
  workers: Workers;
  log: Logger;
  /** a group of shops, for one who owns it */
  groupOf: (account: string, group: string) => Promise<OwnGroup | null>;
  /** tells open screens at once that an order changed */
  changed: () => void;
  /** ends the open streams of a session that is over */
  signedOut: (token: string) => void;
  /** who is reached outside of the shop, and what is to be done there */
  errands: Errands;
  /** stand-ins for outside devices and services answer, on orders that are no customer’s */
  standIns: boolean;
  /** this shop is the demo */
  demo: boolean;
  /** what is counted of this server */
  watch: Watch;
}

export interface Call<B, Q> {
  req: Request;
  res: Response;
  /** signed in, unless the route is open */
  person: Person;
  params: Record<string, string>;
  body: B;
  query: Q;
  /** ends what is computed when the request is gone */
  signal: AbortSignal;
}

/** One thing the API can do: what the server routes by and what its OpenAPI document is made from. */
export interface Route<B extends z.ZodType = z.ZodType, Q extends z.ZodObject = z.ZodObject> {
  method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** Express path; `:name` for parameters */
  path: string;
  summary: string;
  open?: boolean;
  action?: Action;
  query?: Q;
  body?: B;
  /** body read as text, such as a file */
  text?: boolean;
  /** body read as bytes, such as a picture */
  bytes?: boolean;
  result?: z.ZodType;
  produces?: string;
  headers?: { name: string; description: string; required: boolean }[];
  /** of a stand-in: not there unless the start asked for them */
  standIn?: boolean;
  handle: (call: Call<z.output<B>, z.output<Q>>, s: Services) => Promise<unknown>;
}

export const route = <B extends z.ZodType, Q extends z.ZodObject>(r: Route<B, Q>): Route => r as unknown as Route;

/** What each parameter of a path must look like; anything else is not there. */
const PARAMS: Record<string, RegExp> = {
  // an order by its UUID, a picture by its hash, a sheet or person by its name
  id: /^[A-Za-z0-9-]{1,64}$/,
  name: /^[A-Za-z.]{1,40}$/,
  kind: /^[a-z]{1,10}$/,
  kit: /^[a-z0-9-]{1,60}$/,
  device: /^[a-z0-9-]{1,60}$/,
  item: /^[a-z0-9-]{1,60}$/,
  group: /^[a-z][a-z0-9]{1,19}$/,
  // one of a person’s sessions
  session: /^(others|[0-9a-f]{24})$/,
  passkey: /^[0-9a-f]{64}$/,
  // a calendar by the secret in its address
  secret: /^[A-Za-z0-9_-]{43}\.ics$/,
  // an owner’s page by the secret in its address
  link: /^[A-Za-z0-9_-]{43}$/,
};
const Uuid = z.uuid();
const isThere = (path: string, params: Record<string, string>): boolean =>
  Object.entries(params).every(([k, v]) => PARAMS[k]!.test(v)) &&
  (!path.startsWith('/api/orders/:id') || Uuid.safeParse(params.id).success);

/** Adds routes to the application. What a handler returns is the JSON answer; undefined when it answered itself. */
export function addRoutes(app: Express, routes: readonly Route[]): void {
  for (const r of routes)
    app[r.method](r.path, async (req: Request, res: Response) => {
      const s = res.locals.services as Services;
      const person = res.locals.person as Person | undefined;
      const params = req.params as Record<string, string>;
      if (!r.open && !person) throw new Problem(401, 'Sign in', 'Sign in first: your session is over.');
      if (r.standIn && !s.standIns) throw new Problem(404, 'Not here', 'Stand-ins are off in this shop.');
      if (!isThere(r.path, params)) throw new Problem(404, 'Not here', `There is nothing at ${req.path}.`);
      if (r.action && person && !may(person.role, r.action)) throw new Problem(403, 'Not yours to do', whoMay(r.action));
      if (r.body) checkBounds(req.body);
      const body = r.text || r.bytes ? (req.body as unknown) : r.body ? r.body.parse(req.body ?? {}, { reportInput: true }) : undefined;
      if (r.text && typeof body !== 'string') throw new Problem(415, 'Not text', 'Send the file’s text as text/plain.');
      if (r.bytes && !Buffer.isBuffer(body)) throw new Problem(415, 'Not a file', 'Send the file’s bytes, with the type of a picture.');
      const query = r.query ? r.query.parse(req.query) : {};
      const gone = new AbortController();
      res.on('close', () => gone.abort());
      const result = await r.handle({ req, res, person: person!, params, body, query, signal: gone.signal }, s);
      if (result !== undefined && !res.headersSent) res.json(result);
    });
}
