import { randomInt } from 'node:crypto';
import { z } from 'zod';
import { singleFaults } from '#core/fault/causes';
import type { Order } from '#model/order';
import { CauseId, Switched } from '#model/probe';
import { HarnessId } from '#model/harness';
import type { Db } from '../store/db';
import { compute, readOrder } from '../store/orders';
import { samples } from '../stand-ins/meter';
import { plant, readPlanted, shows } from '../stand-ins/unit';
import { Problem } from './problem';
import { route } from './route';

/** What the meter on the bench is put to. */
const Look = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('volts'), plus: HarnessId, minus: HarnessId }),
  z.strictObject({ kind: z.literal('ohms'), plus: HarnessId, minus: HarnessId }),
  z.strictObject({ kind: z.literal('amps'), of: z.enum(['battery', 'source']) }),
  z.strictObject({ kind: z.literal('works'), lit: z.array(HarnessId).max(60), dark: z.array(HarnessId).max(60) }),
]);
const Asked = z.strictObject({ look: Look, state: Switched });
const LONGEST_MS = 120_000;

async function bench(
  db: Db,
  id: string | undefined,
): Promise<{ order: Order; harness: Awaited<ReturnType<typeof compute>>['assessment']['wiring']['harness'] }> {
  const order = z.uuid().safeParse(id).success ? await readOrder(db, id!) : null;
  if (!order) throw new Problem(404, 'Not here', 'There is no such order.');
  return { order, harness: (await compute(db, order)).assessment.wiring.harness };
}

function asked(text: string): z.infer<typeof Asked> {
  try {
    return Asked.parse(JSON.parse(text));
  } catch {
    throw new Problem(422, 'Not possible', 'The meter was not told where its probes are.');
  }
}

export const meterRoutes = [
  route({
    method: 'get',
    path: '/api/orders/:id/meter',
    summary: 'The bench meter (a stand-in: the live model with a meter’s error), its figures streamed as they come',
    query: z.object({ sight: z.string().max(8000) }),
    produces: 'text/event-stream',
    handle: async ({ params, query, req, res }, { db }) => {
      const sight = asked(query.sight);
      const { order, harness } = await bench(db, params.id);
      const { look } = sight;
      const lost = 'plus' in look ? [look.plus, look.minus].find((p) => !harness.nodes.some((n) => n.id === p)) : undefined;
      if (lost) throw new Problem(422, 'Not possible', `There is no point “${lost}” in this wiring.`);
      const truth = shows(harness, sight, await readPlanted(db, order, harness));
      if (truth === null) throw new Problem(422, 'Not possible', 'The live model finds no answer there.');
      res.writeHead(200, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-cache', 'X-Accel-Buffering': 'no' });
      let gone = false;
      req.on('close', () => (gone = true));
      const until = Date.now() + LONGEST_MS;
      for await (const s of samples(look.kind, truth)) {
        if (gone || Date.now() > until) break;
        res.write(`data: ${JSON.stringify(s)}\n\n`);
      }
      res.end();
      return undefined;
    },
  }),
  route({
    method: 'get',
    path: '/api/orders/:id/stand-in',
    summary: 'What is wrong with the unit that stands in for a real one on the bench',
    handle: async ({ params }, { db }) => {
      const { order, harness } = await bench(db, params.id);
      const p = await readPlanted(db, order, harness);
      return { planted: p && { cause: p.cause.id, says: p.cause.variants[p.variant]!.says ?? p.cause.says } };
    },
  }),
  route({
    method: 'put',
    path: '/api/orders/:id/stand-in',
    summary: 'Plant a fault in the unit that stands in for a real one: a named one, any, or none',
    action: 'reading.taken',
    body: z.strictObject({ cause: z.union([CauseId, z.literal('any'), z.null()]) }),
    handle: async ({ params, body }, { db }) => {
      const { order, harness } = await bench(db, params.id);
      const causes = singleFaults(harness);
      if (!causes.length) throw new Problem(422, 'Not possible', 'There is no wiring yet in which anything could be wrong.');
      const cause = body.cause === 'any' ? causes[randomInt(causes.length)]! : causes.find((c) => c.id === body.cause);
      if (body.cause !== null && !cause) throw new Problem(422, 'Not possible', 'There is no such fault in this wiring.');
      await plant(db, order, cause?.id ?? null, cause ? randomInt(cause.variants.length) : 0);
      return { planted: cause !== undefined };
    },
  }),
];
