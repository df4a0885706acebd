import { ImpossibleInput } from '#core/errors';
import type { Call, Services } from './route';
import { readEvents } from '../store/events';
import { orderInput, readOrder, readSealed } from '../store/orders';
import type { Order } from '#model/order';
import type { PaperInput } from '../work/papers';
import { Problem } from './problem';

export async function orderOr404(s: Services, id: string | undefined): Promise<Order> {
  const order = await readOrder(s.shop, id!);
  if (!order) throw new Problem(404, 'Not here', 'There is no such order.');
  return order;
}

/** Answers with something of an order on paper or in a file, made in a thread that ends with the request. */
export async function sendPaper(
  { params, res, signal, person }: Pick<Call<unknown, unknown>, 'params' | 'res' | 'signal' | 'person'>,
  s: Services,
  ask: Omit<PaperInput, 'x'>,
): Promise<undefined> {
  const order = await orderOr404(s, params.id);
  const x = await orderInput(s.shop, s.workers, order);
  const more = ask.paper.startsWith('hand-over')
    ? { history: await readEvents(s.shop, order.id), ...(order.status === 'sealed' && { sealed: (await readSealed(s.shop, order.id))! }) }
    : {};
  const paper = await s.workers.run('paper', { x, ...ask, ...more }, { signal, person: person.id }).catch((e: unknown) => {
    throw e instanceof ImpossibleInput && e.path === 'paper' ? new Problem(404, 'Nothing to print', e.message) : e;
  });
  res
    .type(paper.type)
    .setHeader('Content-Disposition', `${paper.inline ? 'inline' : 'attachment'}; filename="${paper.fileName}"`)
    .send(typeof paper.body === 'string' ? paper.body : Buffer.from(paper.body));
  return undefined;
}
