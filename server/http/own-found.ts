import { z } from 'zod';
import { ownFound, withOwnFound, type OwnOffered, type OwnOfOrder } from '#core/known/own-found';
import { words } from '#model/common';
import { Pointer } from '#model/known';
import { UnitModel } from '#model/unit-model';
import { transact } from '../store/db';
import { decline, declinedOf, ownOfOrders } from '../store/evidence';
import { newestRef, readSheetJson, writeSheet } from '../store/sheets';
import { Problem } from './problem';
import { route, type Services } from './route';

/** By which a lead leaves out parts of one order. */
const BOX = '/own';

async function look(s: Services, id: string): Promise<{ model: UnitModel; orders: OwnOfOrder[]; offered: OwnOffered }> {
  const ref = await newestRef(s.shop, 'model', id);
  const json = ref && (await readSheetJson(s.shop, s.workers, 'model', ref));
  if (!json) throw new Problem(404, 'Not here', 'There is no such sheet.');
  const model = UnitModel.parse(JSON.parse(json));
  const orders = await ownOfOrders(s.shop, id);
  const out = await declinedOf(s.shop, id);
  const found = ownFound(model, orders).filter((f) => !out.has(`${f.order} ${f.pointer}`));
  const boxes = orders.flatMap(({ order, number, own }) => (own && !out.has(`${order} ${BOX}`) ? [{ order, number, own }] : []));
  return { model, orders, offered: { found, boxes } };
}

const gone = () => new Problem(409, 'Not now', 'That is not offered any more.', { refused: true });

export const ownFoundRoutes = [
  route({
    method: 'get',
    path: '/api/sheets/model/:id/own',
    summary: 'What orders on this model have of their own: places and ways that its sheet lacks, and parts that might be a box',
    handle: async ({ params }, s) => (await look(s, params.id!)).offered,
  }),
  route({
    method: 'post',
    path: '/api/sheets/model/:id/own/taken',
    summary: 'Take a place or a way of one order into the sheet of its model, as its next revision',
    action: 'sheets.import',
    body: z.strictObject({ order: z.uuid(), pointer: Pointer }),
    handle: async ({ params, body, person }, s) => {
      const { model, orders, offered } = await look(s, params.id!);
      if (!offered.found.some((f) => f.order === body.order && f.pointer === body.pointer)) throw gone();
      const of = orders.find((o) => o.order === body.order)!;
      const sheet = UnitModel.parse(withOwnFound(model, of, body.pointer, { at: new Date().toISOString(), by: person.id }));
      return transact(s.shop, (tx) => writeSheet(tx, { kadro: 'model', format: 1, sheet }, person.id));
    },
  }),
  route({
    method: 'post',
    path: '/api/sheets/model/:id/own/declined',
    summary: 'Leave out of the sheets what one order has of its own; /own for its parts',
    action: 'sheets.import',
    body: z.strictObject({ order: z.uuid(), pointer: Pointer, reason: words(200) }),
    handle: async ({ params, body, person }, s) => {
      const { found, boxes } = (await look(s, params.id!)).offered;
      const there = body.pointer === BOX ? boxes : found.filter((f) => f.pointer === body.pointer);
      if (!there.some((x) => x.order === body.order)) throw gone();
      await decline(s.shop, params.id!, body.pointer, body.order, body.reason, person.id);
      return { declined: true };
    },
  }),
];
