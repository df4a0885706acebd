import { z } from 'zod';
import { Settings } from '#model/settings';
import { orderInput } from '../store/orders';
import { countShelf, moveOnShelf } from '../store/settings';
import { orderOr404, sendPaper } from './paper';
import { todayOf } from './supply';
import { route } from './route';

const have = Settings.shape.shelf.unwrap().element.shape.have;

export const planRoutes = [
  route({
    method: 'get',
    path: '/api/orders/:id/quote',
    summary: 'What the supplier (a stand-in) says to what this order is short of: price and days',
    standIn: true,
    handle: async ({ params, signal, person }, s) => {
      const order = await orderOr404(s, params.id);
      const x = await orderInput(s.shop, s.workers, order);
      const short = await s.workers.run('short', { x }, { signal, person: person.id });
      return s.errands.outside.supplier!.quote(
        short.map(({ id, kind, name, unit, short: lacks, need, price }) => ({ item: id, kind, name, unit, amount: lacks ?? need, price })),
        await todayOf(s.shop),
      );
    },
  }),
  route({
    method: 'put',
    path: '/api/shelf/:item',
    summary: 'Say how many of an item are on the shelf, on the version that was counted; 0 for one never counted',
    action: 'shelf.count',
    body: z.strictObject({ have, version: z.number().int().min(0).max(2_000_000_000) }),
    handle: async ({ params, body, person }, { shop, changed }) => {
      const count = await countShelf(shop, params.item!, body.have, body.version, person.id);
      changed();
      return count;
    },
  }),
  route({
    method: 'post',
    path: '/api/shelf/:item/moves',
    summary: 'Take from the shelf (below zero) or put there: what several do at once adds up',
    action: 'shelf.count',
    body: z.strictObject({ by: z.number().int().min(-9999).max(9999) }),
    handle: async ({ params, body, person }, { shop, changed }) => {
      const count = await moveOnShelf(shop, params.item!, body.by, person.id);
      changed();
      return count;
    },
  }),
  route({
    method: 'get',
    path: '/api/orders/:id/plan.pdf',
    summary: 'The work in its order, on paper',
    produces: 'application/pdf',
    handle: (call, s) => sendPaper(call, s, { paper: 'plan.pdf' }),
  }),
  route({
    method: 'get',
    path: '/api/orders/:id/bag-labels.pdf',
    summary: 'A label for the bag of each panel’s fasteners',
    produces: 'application/pdf',
    handle: (call, s) => sendPaper(call, s, { paper: 'bag-labels.pdf' }),
  }),
];
