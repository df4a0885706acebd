import { createHash, timingSafeEqual } from 'node:crypto';
import { statfs } from 'node:fs/promises';
import { z } from 'zod';
import { words } from '#model/common';
import { Password, PersonId, PersonInShop, Role } from '#model/person';
import { Settings } from '#model/settings';
import { answers } from '../store/db';
import { giveCode } from '../store/accounts';
import { addPerson, changePerson, listPeople } from '../store/people';
import { readRights } from '../store/rights';
import { changeSettings, readKeptSettings, readSettings } from '../store/settings';
import { Problem } from './problem';
import { route } from './route';

const NewPerson = z.strictObject({ id: PersonId, name: words(40), role: Role, password: Password });
const version = z.number().int().min(0).max(2_000_000_000);
const PersonChange = z
  .strictObject({ version, name: words(40).optional(), role: Role.optional(), ended: z.boolean().optional() })
  .refine((c) => c.name !== undefined || c.role !== undefined || c.ended !== undefined, 'say what is to change');

// each as the field itself would be written, with no default for what is left out
const fields = Object.keys(Settings.shape).filter((f) => f !== 'shelf') as [string, ...string[]];
const Change = z.strictObject({ field: z.enum(fields, 'is not a setting'), value: z.unknown(), version }).transform((c, ctx) => {
  const shape = Settings.shape as unknown as Record<string, z.ZodDefault<z.ZodType>>;
  const read = shape[c.field]!.removeDefault().safeParse(c.value);
  if (read.success) return { ...c, value: read.data };
  read.error.issues.slice(0, 5).forEach((i) => ctx.addIssue({ code: 'custom', path: [c.field, ...i.path], message: i.message }));
  return z.NEVER;
});
const Changes = z.strictObject({ changes: z.array(Change).min(1, 'say what is to change').max(60) });

const KeptSettings = z.object({ settings: Settings, versions: z.record(z.string(), z.number()) });

export const shopRoutes = [
  route({
    method: 'get',
    path: '/api/people',
    summary: 'Everybody of the shop, those who left among them',
    result: z.array(PersonInShop),
    handle: async (_c, { shop }) => listPeople(shop),
  }),
  route({
    method: 'post',
    path: '/api/people',
    summary: 'Add a person',
    action: 'people.change',
    body: NewPerson,
    handle: async ({ body, person }, { shop }) => {
      if (!(await addPerson(shop, body, person.id)))
        throw new Problem(409, 'Taken', `Somebody is already called “${body.id}”.`, { fields: [{ path: 'id', message: 'already taken' }] });
      return { id: body.id, name: body.name, role: body.role, version: 1, ended: false };
    },
  }),
  route({
    method: 'patch',
    path: '/api/people/:id',
    summary: 'Change a person’s name or role, or end their access: they are signed out everywhere',
    action: 'people.change',
    body: PersonChange,
    result: PersonInShop,
    handle: async ({ params, body: { version: v, ...change }, person }, { shop }) => changePerson(shop, params.id!, v, change, person.id),
  }),
  route({
    method: 'post',
    path: '/api/people/:id/code',
    summary: 'Make a code with which a person sets a new password once, within a day',
    action: 'people.change',
    handle: async ({ params, person }, { shop }) => {
      const made = await giveCode(shop, params.id!, person.id);
      if (!made) throw new Problem(404, 'Not here', 'Nobody who works here is called that.');
      return made;
    },
  }),
  route({
    method: 'get',
    path: '/api/rights',
    summary: 'What was changed of who may do what, and by whom',
    action: 'people.change',
    handle: async (_c, { shop }) => readRights(shop),
  }),
  route({
    method: 'get',
    path: '/api/settings',
    summary: 'The shop’s settings, with the version of each',
    result: KeptSettings,
    handle: async (_c, { shop }) => readKeptSettings(shop),
  }),
  route({
    method: 'patch',
    path: '/api/settings',
    summary: 'Change single settings, each on the version it was changed on; what is not named stays as it is',
    action: 'settings.change',
    body: Changes,
    result: KeptSettings,
    handle: async ({ body, person }, { shop, changed }) => {
      const now = await changeSettings(shop, body.changes as { field: string; value: unknown; version: number }[], person.id);
      changed();
      return now;
    },
  }),
  route({
    method: 'get',
    path: '/api/about',
    summary: 'What this start asked for: whether stand-ins answer, whether this is the demo, and what the shop is called',
    open: true,
    handle: async (_c, { standIns, demo, shop }) => ({ standIns, demo, shop: (await readSettings(shop)).shop }),
  }),
  route({
    method: 'get',
    path: '/api/live',
    summary: 'Whether this server answers at all, whatever it can reach: for a proxy in front of several',
    open: true,
    handle: async () => ({ ok: true }),
  }),
  route({
    method: 'get',
    path: '/api/ready',
    summary: 'Whether this server can read the record now: 503 while it cannot',
    open: true,
    handle: async ({ res }, { shop }) => {
      const ok = await answers(shop).catch(() => false);
      if (!ok) res.status(503).setHeader('Retry-After', '2');
      return { ok };
    },
  }),
  route({
    method: 'get',
    path: '/api/metrics',
    summary: 'What is counted of this server, in the OpenMetrics text format: for an owner, or with the token that the start was given',
    produces: 'application/openmetrics-text',
    open: true,
    handle: async ({ req, res, person }, { watch }) => {
      const token = process.env.KADRO_METRICS_TOKEN;
      const told = /^Bearer (.{1,200})$/.exec(req.headers.authorization ?? '')?.[1];
      if (person?.role !== 'owner' && !(token && told && sameText(told, token)))
        throw new Problem(401, 'Sign in', 'This is for the shop’s owner, or for who has the token that the start was given.');
      const { type, text } = await watch.text();
      res.set('Content-Type', type).send(text);
    },
  }),
  route({
    method: 'get',
    path: '/api/health',
    summary: 'Whether server and database answer, and whether there is room on the disk',
    open: true,
    handle: async ({ res }, { shop }) => {
      const [database, disk] = [await answers(shop).catch(() => false), await roomLeft()];
      if (!database || disk === 'full') res.status(503).setHeader('Retry-After', '2');
      return { ok: database && disk !== 'full', database, disk };
    },
  }),
];

/** Compares without telling by its time how far they agree. */
function sameText(a: string, b: string): boolean {
  const of = (t: string) => createHash('sha256').update(t).digest();
  return timingSafeEqual(of(a), of(b));
}

/** Below this the disk counts as full, bytes. */
const LEAST_ROOM = 8 * 1024 * 1024;
async function roomLeft(): Promise<'ok' | 'full'> {
  const folder = process.env.KADRO_HOME;
  if (!folder) return 'ok';
  const s = await statfs(folder).catch(() => null);
  return s && s.bavail * s.bsize < LEAST_ROOM ? 'full' : 'ok';
}
