import type { Express, Request, Response } from 'express';
import type { z } from 'zod';
import type { Logger } from 'pino';
import { may, whoMay, type Action } from '#core/people/permissions';
import type { Person } from '#model/person';
import type { Db } from '../store/db';
import { Problem } from './problem';

export interface Services {
  db: Db;
  log: Logger;
  /** tells open screens at once that an order changed */
  changed: () => void;
}

export interface Call<B, Q> {
  req: Request;
  res: Response;
  /** signed in, unless the route is open */
  person: Person;
  params: Record<string, string>;
  body: B;
  query: Q;
}

/** One thing the API can do: what the server routes by and what its OpenAPI document is made from. */
export interface Route<B extends z.ZodType = z.ZodType, Q extends z.ZodObject = z.ZodObject> {
  method: 'get' | 'post' | 'put' | 'delete';
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
  handle: (call: Call<z.output<B>, z.output<Q>>, s: Services) => Promise<unknown>;
}

export const route = <B extends z.ZodType, Q extends z.ZodObject>(r: Route<B, Q>): Route => r as unknown as Route;

/** Adds routes to the application. What a handler returns is the JSON answer; undefined when it answered itself. */
export function addRoutes(app: Express, routes: Route[], s: Services): void {
  for (const r of routes)
    app[r.method](r.path, async (req: Request, res: Response) => {
      const person = res.locals.person as Person | undefined;
      if (!r.open && !person) throw new Problem(401, 'Sign in', 'Sign in first: your session is over.');
      if (r.action && person && !may(person.role, r.action)) throw new Problem(403, 'Not yours to do', whoMay(r.action));
      const body = r.text || r.bytes ? req.body : r.body ? r.body.parse(req.body ?? {}, { reportInput: true }) : undefined;
      if (r.text && typeof body !== 'string') throw new Problem(415, 'Not text', 'Send the file’s text as text/plain.');
      if (r.bytes && !Buffer.isBuffer(body)) throw new Problem(415, 'Not a file', 'Send the file’s bytes, with the type of a picture.');
      const query = r.query ? r.query.parse(req.query) : {};
      const result = await r.handle({ req, res, person: person!, params: req.params as Record<string, string>, body, query }, s);
      if (result !== undefined && !res.headersSent) res.json(result);
    });
}
