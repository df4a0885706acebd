import { bagLabelsPdf, planPdf } from '../documents/plan-paper';
import { z } from 'zod';
import { shortNeeds } from '#core/plan/needs';
import { Settings } from '#model/settings';
import { transact, type Db } from '../store/db';
import { compute, readOrder } from '../store/orders';
import { readSettings, writeSettings } from '../store/settings';
import { quote } from '../stand-ins/supplier';
import { Problem } from './problem';
import { route } from './route';

async function workOf(db: Db, id: string) {
  const order = await readOrder(db, id);
  if (!order) throw new Problem(404, 'Not here', 'There is no such order.');
  const { assessment } = await compute(db, order);
  const { model } = assessment.sheets;
  if (!assessment.work) throw new Problem(404, 'Nothing to print', 'No kit is chosen, so there is nothing to plan.');
  return {
    work: assessment.work,
    model,
    heading: { order: order.number, unit: `${model.maker} ${model.name}`, identity: order.unit.identity, owner: order.owner },
  };
}

const paper = (name: string, summary: string, make: (w: Awaited<ReturnType<typeof workOf>>) => Promise<Buffer>) =>
  route({
    method: 'get',
    path: `/api/orders/:id/${name}.pdf`,
    summary,
    produces: 'application/pdf',
    handle: async ({ params, res }, { db }) => {
      const w = await workOf(db, params.id!);
      res
        .type('application/pdf')
        .setHeader('Content-Disposition', `inline; filename="${name}-${w.heading.order}.pdf"`)
        .send(await make(w));
    },
  });

export const planRoutes = [
  route({
    method: 'get',
    path: '/api/orders/:id/quote',
    summary: 'What the supplier (a stand-in) says to what this order is short of: price and days',
    handle: async ({ params }, { db }) => {
      const order = await readOrder(db, params.id!);
      if (!order) throw new Problem(404, 'Not here', 'There is no such order.');
      const { assessment } = await compute(db, order);
      return quote(shortNeeds(assessment.needs));
    },
  }),
  route({
    method: 'put',
    path: '/api/shelf/:item',
    summary: 'Say how many of an item are on the shelf',
    action: 'box.counted',
    body: z.strictObject({ have: Settings.shape.shelf.unwrap().element.shape.have }),
    handle: async ({ params, body }, { db, changed }) => {
      const item = Settings.shape.shelf.unwrap().element.parse({ id: params.item, have: body.have });
      await transact(db, async (conn) => {
        const settings = await readSettings(conn);
        await writeSettings(conn, { ...settings, shelf: [...settings.shelf.filter((s) => s.id !== item.id), item] });
      });
      changed();
      return item;
    },
  }),
  paper('plan', 'The work in its order, on paper', (w) => planPdf(w.work, w.model, w.heading)),
  paper('bag-labels', 'A label for the bag of each panel’s fasteners', (w) => bagLabelsPdf(w.work, w.heading)),
];
