import { z } from 'zod';
import { Person, PersonId, Role } from '#model/person';
import { words } from '#model/common';
import { Settings } from '#model/settings';
import { addPerson, listPeople } from '../store/people';
import { readSettings, writeSettings } from '../store/settings';
import { row } from '../store/db';
import { Problem } from './problem';
import { route } from './route';

const NewPerson = z.strictObject({
  id: PersonId,
  name: words(40),
  role: Role,
  password: z.string().min(8, 'at least 8 characters').max(200),
});

export const shopRoutes = [
  route({
    method: 'get',
    path: '/api/people',
    summary: 'People of the shop',
    result: z.array(Person),
    handle: async (_c, { db }) => listPeople(db),
  }),
  route({
    method: 'post',
    path: '/api/people',
    summary: 'Add a person',
    action: 'people.change',
    body: NewPerson,
    handle: async ({ body }, { db }) => {
      if (!(await addPerson(db, body)))
        throw new Problem(409, 'Taken', `Somebody is already called “${body.id}”.`, { fields: [{ path: 'id', message: 'already taken' }] });
      return { id: body.id, name: body.name, role: body.role };
    },
  }),
  route({
    method: 'get',
    path: '/api/settings',
    summary: 'The shop’s settings',
    result: Settings,
    handle: async (_c, { db }) => readSettings(db),
  }),
  route({
    method: 'put',
    path: '/api/settings',
    summary: 'Change the shop’s settings',
    action: 'settings.change',
    body: Settings,
    result: Settings,
    handle: async ({ body }, { db }) => {
      await writeSettings(db, body);
      return body;
    },
  }),
  route({
    method: 'get',
    path: '/api/health',
    summary: 'Whether server and database answer',
    open: true,
    handle: async (_c, { db }) => {
      await row(db, 'SELECT 1');
      return { ok: true };
    },
  }),
];
