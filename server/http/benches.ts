import type { Request, Response } from 'express';
import { z } from 'zod';
import { BenchCode, BenchSwitch, Person, TypedPassword } from '#model/person';
import { comeBack, endBench, hasBenchCode, newBench, peopleAt, setBenchCode, stayAt } from '../store/benches';
import { Problem } from './problem';
import { route } from './route';
import { benchOf, forgetSession, keepSession, sure, tokenOf } from './session';

const COOKIE = 'kadro-bench';
const YEAR_MS = 365 * 86_400_000;
const keepBench = (req: Request, res: Response, bench: string) =>
  res.cookie(COOKIE, bench, { httpOnly: true, sameSite: 'strict', path: '/', maxAge: YEAR_MS, secure: req.secure });

export const benchRoutes = [
  route({
    method: 'get',
    path: '/api/bench',
    summary: 'Whether this browser is a bench that people share, and who is signed in at it',
    open: true,
    result: z.object({ shared: z.boolean(), people: z.array(Person.pick({ id: true, name: true }).extend({ code: z.boolean() })) }),
    handle: async ({ req }, { shop }) => {
      const bench = benchOf(req);
      return { shared: bench !== undefined, people: bench ? await peopleAt(shop, bench) : [] };
    },
  }),
  route({
    method: 'put',
    path: '/api/bench',
    summary: 'This browser is a bench from now on: who is signed in stays so while others work at it',
    handle: async ({ req, res }, { shop }) => {
      const bench = benchOf(req) ?? newBench();
      await stayAt(shop, tokenOf(req.headers.cookie)!, bench);
      keepBench(req, res, bench);
      return { shared: true };
    },
  }),
  route({
    method: 'delete',
    path: '/api/bench',
    summary: 'This browser is no bench any more: the others are signed out of it',
    handle: async ({ req, res }, { shop }) => {
      const bench = benchOf(req);
      const ended = bench ? await endBench(shop, bench, tokenOf(req.headers.cookie)!) : 0;
      res.clearCookie(COOKIE, { path: '/' });
      return { ended };
    },
  }),
  route({
    method: 'post',
    path: '/api/bench/leave',
    summary: 'Leave a bench for the next one to sign in, without being signed out of it',
    handle: async ({ req, res }) => {
      if (!benchOf(req)) throw new Problem(409, 'Not now', 'This device is not shared: sign out of it.');
      forgetSession(res);
      return { left: true };
    },
  }),
  route({
    method: 'post',
    path: '/api/bench/person',
    summary: 'Go on at a bench as somebody who is signed in there, by their short code',
    open: true,
    body: BenchSwitch,
    result: Person,
    handle: async ({ body, req, res }, { shop }) => {
      const bench = benchOf(req);
      const back = bench ? await comeBack(shop, bench, body.name, body.code) : null;
      if (!back)
        throw new Problem(401, 'Not signed in', 'That code is wrong, or they are not signed in here any more: sign in with the password.');
      keepSession(req, res, back.token, back.expires);
      return back.person;
    },
  }),
  route({
    method: 'get',
    path: '/api/session/bench-code',
    summary: 'Whether one has a short code for benches',
    result: z.object({ on: z.boolean() }),
    handle: async ({ person }, { shop }) => ({ on: await hasBenchCode(shop, person.id) }),
  }),
  route({
    method: 'put',
    path: '/api/session/bench-code',
    summary: 'Set one’s own short code for benches, or take it away',
    body: z.strictObject({ password: TypedPassword, code: BenchCode.nullable() }),
    handle: async ({ body, person }, { shop }) => {
      await sure(shop, person, body.password);
      await setBenchCode(shop, person.id, body.code);
      return { on: body.code !== null };
    },
  }),
];
