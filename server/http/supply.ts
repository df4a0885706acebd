import { z } from 'zod';
import { localDay } from '#core/quantity/say-here';
import { Day } from '#model/shop-week';
import { PurchaseLine, ReceivedLine, SupplyItem, type ShelfMove } from '#model/supply';
import type { Supply } from '#core/supply/allocate';
import { cutRowsOf, purchaseRows, supplyRows } from '#core/supply/rows';
import { countedItems } from '#core/supply/allocate';
import { labelText } from '#core/supply/label';
import { csv } from '../documents/csv';
import { labelSheet } from '../documents/label-sheet';
import type { Shop } from '../store/db';
import { readSettings } from '../store/settings';
import { changePurchase, listPurchases, makePurchase, readPurchase, readStockMoves, receive, supplyOf } from '../store/supply';
import { Problem } from './problem';
import { route, type Services } from './route';

const id = z.uuid();
const version = z.number().int().min(1).max(2_000_000_000);
const lines = z.array(PurchaseLine).min(1, 'order at least one thing').max(200);
const NewPurchase = z.strictObject({ id, lines, day: Day.nullable().default(null) });
const Change = z
  .strictObject({ version, day: Day.nullable().optional(), closed: z.literal(true).optional() })
  .refine((c) => c.day !== undefined || c.closed, 'say what is to change');
const Receipt = z.strictObject({ id, lines: z.array(ReceivedLine).min(1, 'count at least one thing').max(200) });

/** Today by the shop’s calendar. */
export async function todayOf(shop: Shop): Promise<string> {
  return localDay(new Date().toISOString(), (await readSettings(shop)).timeZone);
}

async function supplyNow(s: Services): Promise<Supply> {
  const { purchases: _, ...input } = await supplyOf(s.shop, s.workers, await todayOf(s.shop));
  return s.workers.run('supply', input);
}

const stale = () =>
  new Problem(409, 'Changed meanwhile', 'Somebody else changed this order to the supplier meanwhile: look at it again.', { stale: true });
const gone = () => new Problem(404, 'Not here', 'There is no such order to the supplier.');

export const supplyRoutes = [
  route({
    method: 'get',
    path: '/api/supply',
    summary:
      'What all open orders take, against the shelf and what is on order: who gets what from where and when, what is short, what should be ordered, and their wire cut together',
    handle: async (_c, s) => supplyNow(s),
  }),
  route({
    method: 'get',
    path: '/api/supply.csv',
    summary: 'The same items as rows',
    produces: 'text/csv',
    handle: async ({ res }, s) =>
      void res
        .attachment('parts.csv')
        .type('text/csv')
        .send(csv(supplyRows(await supplyNow(s)))),
  }),
  route({
    method: 'get',
    path: '/api/supply/cuts.csv',
    summary: 'The wire of all open orders as it is cut together: each piece with the spool that it comes from',
    produces: 'text/csv',
    handle: async ({ res }, s) => {
      const input = await supplyOf(s.shop, s.workers, await todayOf(s.shop));
      const { cuts } = await s.workers.run('supply', { claims: input.claims, coming: input.coming, settings: input.settings });
      const numbers = new Map(input.claims.map((c) => [c.order, c.number]));
      res
        .attachment('cuts.csv')
        .type('text/csv')
        .send(csv(cutRowsOf(cuts, numbers)));
    },
  }),
  route({
    method: 'get',
    path: '/api/supply/labels.pdf',
    summary: 'A label for each item that the shop has or that an order takes, with its code for scanner and camera',
    produces: 'application/pdf',
    handle: async ({ res }, s) => {
      const [{ shelf }, { rows }] = [await readSettings(s.shop), await supplyNow(s)];
      // spools of wire have theirs beside what is counted in pieces
      const wires = rows.filter((r) => r.unit === 'm').map((r) => ({ item: r.item, name: r.name }));
      const labels = [...countedItems(rows, shelf), ...wires].map(({ item, name }) => ({
        big: name,
        first: '',
        second: item,
        mark: '',
        code: labelText({ item }),
      }));
      const pdf = await labelSheet('Labels of the shelf', s.demo ? 'demo' : null, labels, 'Scan at Parts, Count');
      res.type('application/pdf').send(pdf);
    },
  }),
  route({
    method: 'post',
    path: '/api/supply/quote',
    summary: 'What the supplier (a stand-in) says to lines: when they come and what they cost',
    standIn: true,
    action: 'purchase.make',
    body: z.strictObject({ lines }),
    handle: async ({ body }, { shop, errands }) => errands.outside.supplier!.quote(body.lines, await todayOf(shop)),
  }),
  route({
    method: 'get',
    path: '/api/purchases',
    summary: 'Orders to the supplier: those that are open and the latest of the others, with what arrived of each',
    handle: async (_c, { shop }) => listPurchases(shop),
  }),
  route({
    method: 'post',
    path: '/api/purchases',
    summary: 'Order from the supplier, once by the id; where none answers here it is ordered by hand, for a day that was told',
    action: 'purchase.make',
    body: NewPurchase,
    handle: async ({ body, person, res }, { shop, errands, changed }) => {
      const sent = errands.outside.supplier === null;
      const p = await makePurchase(shop, { id: body.id, lines: body.lines, toldDay: body.day, by: person.id, sent, at: new Date() });
      void errands.go();
      changed();
      res.status(201);
      return p;
    },
  }),
  route({
    method: 'patch',
    path: '/api/purchases/:id',
    summary: 'Say the day on which it comes, as somebody was told, or that the rest of it will not come',
    action: 'purchase.make',
    body: Change,
    handle: async ({ params, body }, { shop, changed }) => {
      const had = await readPurchase(shop, params.id!);
      if (!had) throw gone();
      if (had.state === 'closed') throw new Problem(409, 'Closed', `Order ${had.number} to the supplier is closed.`);
      const change = { ...(body.day !== undefined && { toldDay: body.day }), ...(body.closed && { state: 'closed' as const }) };
      if (!(await changePurchase(shop, params.id!, body.version, change))) throw stale();
      changed();
      return readPurchase(shop, params.id!);
    },
  }),
  route({
    method: 'post',
    path: '/api/purchases/:id/receipts',
    summary:
      'What arrived, as it was counted: it goes onto the shelf, once by the receipt’s id; what was bought for an order is kept for it',
    action: 'purchase.receive',
    body: Receipt,
    handle: async ({ params, body, person }, { shop, changed }) => {
      const p = await receive(shop, params.id!, { ...body, by: person.id });
      if (!p) throw gone();
      changed();
      return p;
    },
  }),
  route({
    method: 'get',
    path: '/api/purchases/:id/order.csv',
    summary: 'An order to the supplier as rows, to send or keep',
    produces: 'text/csv',
    handle: async ({ params, res }, { shop }) => {
      const p = await readPurchase(shop, params.id!);
      if (!p) throw gone();
      res
        .attachment(`purchase-${p.number}.csv`)
        .type('text/csv')
        .send(csv(purchaseRows(p)));
    },
  }),
  route({
    method: 'get',
    path: '/api/stock-moves',
    summary: 'What came onto the shelf and went from it, the latest first, with why and by whom',
    query: z.object({ item: SupplyItem.optional() }),
    handle: async ({ query }, { shop }) =>
      (await readStockMoves(shop, query.item ?? null)).map(({ by_person, at, ...m }): ShelfMove => ({
        ...m,
        by: by_person,
        at: at.toISOString(),
      })),
  }),
];
