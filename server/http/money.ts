import { z } from 'zod';
import { Amount, Discount, OptionChange } from '#model/money';
import { csv } from '../documents/csv';
import { orderInput } from '../store/orders';
import { listOwnerLinks, makeOwnerLink, withdrawOwnerLink } from '../store/owner-links';
import { listBills } from '../store/bills';
import { Day } from '#model/shop-week';
import { orderOr404, sendPaper } from './paper';
import { Problem } from './problem';
import { route } from './route';

const Revision = z.object({ revision: z.coerce.number().int().min(1).max(999).optional() });

/** Options of a quote as they are tried before it is given. */
const Tried = z.strictObject({
  options: z
    .array(z.strictObject({ name: z.string().trim().max(80).default(''), changes: z.array(OptionChange).max(12) }))
    .min(1)
    .max(4),
  discount: Discount.nullable(),
  prices: z.record(z.string().max(80), Amount),
});

export const moneyRoutes = [
  route({
    method: 'post',
    path: '/api/orders/:id/quote/try',
    summary: 'What options of a quote would come to and how each is judged; nothing is recorded',
    action: 'quote.made',
    body: Tried,
    handle: async ({ params, body, signal, person }, s) => {
      const x = await orderInput(s.shop, s.workers, await orderOr404(s, params.id));
      return s.workers.run('quote', { x, ...body }, { signal, person: person.id });
    },
  }),
  ...(['pdf', 'csv'] as const).flatMap((ending) => [
    route({
      method: 'get',
      path: `/api/orders/:id/quote.${ending}`,
      summary: ending === 'pdf' ? 'A quote on paper; the newest if none is named' : 'A quote’s lines as rows',
      query: Revision,
      produces: ending === 'pdf' ? 'application/pdf' : 'text/csv',
      handle: (call, s) => sendPaper(call, s, { paper: `quote.${ending}`, ...(call.query.revision && { revision: call.query.revision }) }),
    }),
    route({
      method: 'get',
      path: `/api/orders/:id/bill.${ending}`,
      summary: ending === 'pdf' ? 'The bill on paper' : 'The bill’s lines as rows, for the books',
      produces: ending === 'pdf' ? 'application/pdf' : 'text/csv',
      handle: (call, s) => sendPaper(call, s, { paper: `bill.${ending}` }),
    }),
  ]),
  route({
    method: 'get',
    path: '/api/bills.csv',
    summary: 'Every bill’s lines of a period as rows, for the books',
    action: 'bill.made',
    query: z.object({ from: Day, to: Day }),
    produces: 'text/csv',
    handle: async ({ query, res }, { shop }) => {
      res
        .attachment('bills.csv')
        .type('text/csv')
        .send(csv(await listBills(shop, query.from, query.to)));
    },
  }),
  route({
    method: 'get',
    path: '/api/orders/:id/links',
    summary: 'The addresses of the owner’s page that stand; the secrets themselves are kept nowhere',
    handle: async ({ params }, s) => listOwnerLinks(s.shop, (await orderOr404(s, params.id)).id),
  }),
  route({
    method: 'post',
    path: '/api/orders/:id/links',
    summary: 'Make a secret address of the owner’s page; it is told this once',
    action: 'quote.made',
    body: z.strictObject({}),
    handle: async ({ params, person }, s) => {
      const { id, secret } = await makeOwnerLink(s.shop, (await orderOr404(s, params.id)).id, person.id);
      return { id, path: `/u/${secret}` };
    },
  }),
  route({
    method: 'delete',
    path: '/api/orders/:id/links/:item',
    summary: 'Withdraw an address of the owner’s page: it shows nothing any more',
    action: 'quote.made',
    handle: async ({ params }, s) => {
      if (!(await withdrawOwnerLink(s.shop, params.id!, params.item!)))
        throw new Problem(404, 'Not here', 'There is no such address any more.');
      return { withdrawn: true };
    },
  }),
];
