import { z } from 'zod';
import { monthOf, monthRows } from '#core/shop/month';
import { Day } from '#model/shop-week';
import type { Person } from '#model/person';
import { momentOf } from '#core/shop/calendar';
import { csv } from '../documents/csv';
import { finishedIn } from '../store/month';
import { readSettings } from '../store/settings';
import type { Shop } from '../store/db';
import { route } from './route';

/** From one day to another, both of them whole. */
export const Period = z.object({ from: Day, to: Day }).refine((p) => p.to >= p.from, { message: 'ends before it begins', path: ['to'] });

/** Installers see their own times; who answers for the shop sees everybody’s. */
const only = (p: Person): string | null => (p.role === 'installer' ? p.id : null);

/** What was handed over in a period, by the shop’s own days. */
export async function period(shop: Shop, { from, to }: z.output<typeof Period>) {
  const { timeZone } = await readSettings(shop);
  return finishedIn(shop, new Date(momentOf(from, 0, timeZone)), new Date(momentOf(to, 1, timeZone)));
}

export const monthRoutes = [
  route({
    method: 'get',
    path: '/api/month',
    summary: 'What a period came to: promises kept, minutes planned and spent by kit, model and person, what came back',
    query: Period,
    handle: async ({ query, person }, { shop }) => monthOf(await period(shop, query), only(person)),
  }),
  route({
    method: 'get',
    path: '/api/month.csv',
    summary: 'The same period as rows, one for each kit’s share of an order',
    query: Period,
    produces: 'text/csv',
    handle: async ({ query, person, res }, { shop }) => {
      const own = only(person);
      const list = monthRows(monthOf(await period(shop, query), own), own);
      res.attachment(`month-${query.from}-${query.to}.csv`).type('text/csv').send(csv(list));
    },
  }),
];
