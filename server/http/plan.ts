import { bagLabelsPdf, planPdf } from '../documents/plan-paper';
import type { Db } from '../store/db';
import { compute, readOrder } from '../store/orders';
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
  paper('plan', 'The work in its order, on paper', (w) => planPdf(w.work, w.model, w.heading)),
  paper('bag-labels', 'A label for the bag of each panel’s fasteners', (w) => bagLabelsPdf(w.work, w.heading)),
];
