import { randomInt } from 'node:crypto';
import { z } from 'zod';
import { HarnessId } from '#model/harness';
import type { Order } from '#model/order';
import { CauseId, Switched } from '#model/probe';
import { METER_NAME, samples } from '../stand-ins/meter';
import { plant, readPlanted } from '../stand-ins/unit';
import { orderInput } from '../store/orders';
import { checkBounds } from './bounds';
import { orderOr404 } from './paper';
import { Problem } from './problem';
import { route, type Services } from './route';

/** What the meter on the bench is put to. */
const Look = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('volts'), plus: HarnessId, minus: HarnessId }),
  z.strictObject({ kind: z.literal('ohms'), plus: HarnessId, minus: HarnessId }),
  z.strictObject({ kind: z.literal('amps'), of: z.enum(['battery', 'source']) }),
  z.strictObject({ kind: z.literal('works'), lit: z.array(HarnessId).max(60), dark: z.array(HarnessId).max(60) }),
]);
const Asked = z.strictObject({ look: Look, state: Switched });
const LONGEST_MS = 120_000;

/** An order that a stand-in may serve: one that is no customer’s. */
async function trial(s: Services, id: string | undefined): Promise<Order> {
  const order = await orderOr404(s, id);
  if (!order.trial)
    throw new Problem(409, 'Not now', 'This is a customer’s unit: its readings come from a real meter. The stand-in is for practice.');
  return order;
}

function asked(text: string): z.infer<typeof Asked> {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    throw new Problem(422, 'Not possible', 'The meter was not told where its probes are.');
  }
  checkBounds(data);
  const read = Asked.safeParse(data);
  if (!read.success) throw new Problem(422, 'Not possible', 'The meter was not told where its probes are.');
  return read.data;
}

export const meterRoutes = [
  route({
    method: 'get',
    path: '/api/orders/:id/meter',
    summary: 'The bench meter (a stand-in: the live model with a meter’s error), its figures streamed as they come',
    standIn: true,
    query: z.object({ sight: z.string().max(8000) }),
    produces: 'text/event-stream',
    handle: async ({ params, query, req, res, signal, person }, s) => {
      const sight = asked(query.sight);
      const order = await trial(s, params.id);
      const x = await orderInput(s.shop, s.workers, order);
      const planted = await readPlanted(s.shop, order.id);
      const { lost, truth } = await s.workers.run('sight', { x, sight, planted }, { signal, person: person.id });
      if (lost) throw new Problem(422, 'Not possible', `There is no point “${lost}” in this wiring.`);
      if (truth === null) throw new Problem(422, 'Not possible', 'The live model finds no answer there.');
      res.writeHead(200, {
        'Content-Type': 'text/event-stream',
        'Cache-Control': 'no-store',
        'X-Accel-Buffering': 'no',
        'Meter-Name': METER_NAME,
      });
      if (req.method === 'HEAD') return void res.end();
      const until = Date.now() + LONGEST_MS;
      for await (const sample of samples(sight.look.kind, truth)) {
        if (signal.aborted || Date.now() > until) break;
        res.write(`data: ${JSON.stringify(sample)}\n\n`);
      }
      res.end();
      return undefined;
    },
  }),
  route({
    method: 'get',
    path: '/api/orders/:id/stand-in',
    summary: 'What is wrong with the unit that stands in for a real one on the bench',
    standIn: true,
    handle: async ({ params, signal, person }, s) => {
      const order = await trial(s, params.id);
      const x = await orderInput(s.shop, s.workers, order);
      const planted = await readPlanted(s.shop, order.id);
      return { planted: await s.workers.run('planted', { x, planted }, { signal, person: person.id }) };
    },
  }),
  route({
    method: 'put',
    path: '/api/orders/:id/stand-in',
    summary: 'Plant a fault in the unit that stands in for a real one: a named one, any, or none',
    action: 'reading.taken',
    standIn: true,
    body: z.strictObject({ cause: z.union([CauseId, z.literal('any'), z.null()]) }),
    handle: async ({ params, body, signal, person }, s) => {
      const order = await trial(s, params.id);
      const x = await orderInput(s.shop, s.workers, order);
      const faults = await s.workers.run('faults', { x }, { signal, person: person.id });
      if (!faults.length) throw new Problem(422, 'Not possible', 'There is no wiring yet in which anything could be wrong.');
      const cause = body.cause === 'any' ? faults[randomInt(faults.length)]! : faults.find((c) => c.id === body.cause);
      if (body.cause !== null && !cause) throw new Problem(422, 'Not possible', 'There is no such fault in this wiring.');
      await plant(s.shop, order, cause?.id ?? null, cause ? randomInt(cause.forms) : 0);
      return { planted: cause !== undefined };
    },
  }),
];
