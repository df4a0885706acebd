import { z } from 'zod';
import { OrderCommand } from '#core/events/registry';
import { OrderQuery, searchRows } from '#core/order/search';
import { moment } from '#model/common';
import { OrderOpening } from '#model/opening';
import type { Order } from '#model/order';
import { csv } from '../documents/csv';
import { canonical, sha256 } from '../store/chain';
import { findingsFor, measuredFor } from '../store/told';
import { readStored } from '../store/events';
import { listMessages } from '../store/messages';
import { carryOut, listFloor, openOrder, readLog, type Once } from '../store/orders';
import type { Answer } from '../store/answers';
import { searchOrders } from '../store/search';
import { readSettings } from '../store/settings';
import { newestRef, readSheetJson, sheetKey, sheetsOf } from '../store/sheets';
import { learning, pacesFor } from '../store/worked';
import { orderOr404, sendPaper } from './paper';
import { Problem } from './problem';
import { route, type Call, type Services } from './route';

/** Rows of a search that go into one file. */
const MOST_ROWS = 5000;
const IF_MATCH = { name: 'If-Match', description: 'The version of the order the change was made on, in quotes', required: true };
const KEY = {
  name: 'Idempotency-Key',
  description: 'A key of the sender’s making; the same POST repeated with it is carried out once',
  required: false,
};
const DONE_AT = {
  name: 'Done-At',
  description: 'When it was done by the device’s clock, corrected by its offset; ISO 8601. Left out: now',
  required: false,
};
const AUTHOR = {
  name: 'Author',
  description: 'Who did it: refused, and kept by the device, when somebody else is signed in by now',
  required: false,
};

/** What a screen needs to compute an order by itself, as JSON; sheets are passed on without taking them apart. */
async function dossier(s: Services, order: Order): Promise<string> {
  const model = order.unit.model.id;
  const { shop, workers } = s;
  const kits = ['', ...order.kits.map((k) => k.kit.id)];
  // asked for at once, not one after another
  const [{ bag, packs }, settings, findings, measured, list] = await Promise.all([
    sheetsOf(shop, workers, order),
    readSettings(shop),
    findingsFor(shop, model, order.id),
    measuredFor(shop, model, order.id),
    pacesFor(
      shop,
      workers,
      kits.map((kit) => ({ kit, model, by: order.assignee })),
    ),
  ]);
  const paces = Object.fromEntries(kits.map((k, i) => [k, list[i]!]));
  const json = (kind: 'kit' | 'rules', list: readonly { id: string; revision: number }[]) =>
    `[${list.map((ref) => bag[sheetKey(shop, kind, ref)]).join(',')}]`;
  const kitRefs = order.kits.map((k) => k.kit);
  const sheets = `{"model":${bag[sheetKey(shop, 'model', order.unit.model)]},"kits":${json('kit', kitRefs)},"packs":${json('rules', packs)}}`;
  const rest = JSON.stringify({ order, settings, findings, measured, paces }).slice(0, -1);
  return `${rest},"sheets":${sheets}}`;
}

/** The key under which a write's answer is kept, if it was sent with one. */
function onceOf({ req, body, person }: Call<unknown, unknown>): Once | null {
  const key = req.get('Idempotency-Key');
  if (key === undefined) return null;
  if (!/^[\w-]{8,80}$/.test(key)) throw new Problem(400, 'Key', 'An Idempotency-Key has 8 to 80 letters, digits, dashes or underscores.');
  return { key, person: person.id, fingerprint: sha256(canonical({ path: req.path, body })) };
}

function answered({ res }: Call<unknown, unknown>, s: Services, answer: Answer): unknown {
  s.changed();
  res.status(answer.status);
  return answer.body;
}

/** Who did what is being sent must be who is signed in: nobody signs for another’s work. */
function checkAuthor({ req, person }: Call<unknown, unknown>): void {
  const author = req.get('Author');
  if (author !== undefined && author !== person.id)
    throw new Problem(
      403,
      'Another person',
      `That was done by ${author.slice(0, 31)}, and ${person.name} is signed in. It is kept until they are.`,
    );
}

export const orderRoutes = [
  route({
    method: 'get',
    path: '/api/floor',
    summary: 'Units in the shop now, and how many more there are than are shown',
    handle: async (_c, { shop, workers }) => listFloor(shop, workers),
  }),
  route({
    method: 'get',
    path: '/api/orders',
    summary: 'Find orders by what they are called, anything that was recorded, kit, model, who worked on them, what happened, and when',
    query: OrderQuery,
    handle: async ({ query }, { shop }) => searchOrders(shop, query),
  }),
  route({
    method: 'get',
    path: '/api/orders.csv',
    summary: 'What a search finds as rows, one an order',
    query: OrderQuery,
    produces: 'text/csv',
    handle: async ({ query, res }, { shop }) => {
      const found = await searchOrders(shop, query, MOST_ROWS);
      res
        .attachment('orders.csv')
        .type('text/csv')
        .send(csv(searchRows(found)));
    },
  }),
  route({
    method: 'post',
    path: '/api/orders',
    summary: 'Take a unit in',
    action: 'order.open',
    body: OrderOpening,
    headers: [KEY],
    handle: async (call, s) => {
      const { body: o, person } = call;
      if (o.trial && !(o.trial === 'practice' && s.standIns))
        throw new Problem(422, 'Not possible', 'Orders to practise on are there where stand-ins are.', {
          fields: [{ path: 'trial', message: 'stand-ins are off in this shop' }],
        });
      const field = (path: string, message: string) => new Problem(422, 'Not possible', message, { fields: [{ path, message }] });
      if ((await newestRef(s.shop, 'model', o.model.id)) === null || (await readSheetJson(s.shop, s.workers, 'model', o.model)) === null)
        throw field('model', 'That model is not in the sheets.');
      return answered(call, s, await openOrder(s.shop, s.workers, o, person.id, onceOf(call)));
    },
  }),
  route({
    method: 'get',
    path: '/api/orders/:id',
    summary: 'An order with the sheets and settings it is computed with',
    handle: async ({ params, res }, s) => {
      const order = await orderOr404(s, params.id);
      res.setHeader('ETag', `"${order.version}"`);
      res.type('application/json').send(await dossier(s, order));
    },
  }),
  route({
    method: 'get',
    path: '/api/orders/:id/events',
    summary: 'An order’s history',
    handle: async ({ params }, s) => readLog(s.shop, (await orderOr404(s, params.id)).id),
  }),
  route({
    method: 'post',
    path: '/api/orders/:id/events',
    summary: 'Record something on an order',
    body: OrderCommand,
    headers: [IF_MATCH, KEY, DONE_AT, AUTHOR],
    query: z.object({ merge: z.enum(['yes', 'no']).default('no') }),
    handle: async (call, s) => {
      const { req, body: command, person, params, query } = call;
      checkAuthor(call);
      const match = /^"?(\d{1,9})"?$/.exec(req.get('If-Match') ?? '');
      if (!match) throw new Problem(428, 'Version needed', 'Say which version of the order this change was made on (If-Match).');
      const told = req.get('Done-At');
      const doneAt = told === undefined ? null : moment.safeParse(told);
      if (doneAt && !doneAt.success) throw new Problem(400, 'Done-At', 'Done-At is a day and time as 2026-03-31T16:00:00Z.');
      const asked = {
        command,
        person,
        onVersion: Number(match[1]),
        merge: query.merge === 'yes',
        doneAt: doneAt ? new Date(doneAt.data!).toISOString() : null,
      };
      const answer = await carryOut(s.shop, s.workers, params.id!, asked, onceOf(call));
      if (!answer) throw new Problem(404, 'Not here', 'There is no such order.');
      return answered(call, s, answer);
    },
  }),
  route({
    method: 'get',
    path: '/api/orders/:id/worked',
    summary:
      'What the kits of an order took on finished ones beside what was planned, the slope that was learned, and jobs far off with what explains them',
    handle: async ({ params, signal, person }, s) => {
      const order = await orderOr404(s, params.id);
      const kits = ['', ...order.kits.map((k) => k.kit.id)];
      return s.workers.run('worked', { ...(await learning(s.shop)), kits }, { signal, person: person.id });
    },
  }),
  route({
    method: 'get',
    path: '/api/orders/:id/history.json',
    summary:
      'An order’s history as data: every event with who, when it was done and recorded, and the hashes that chain them; and what its owner was told',
    handle: async ({ params, res }, s) => {
      const order = await orderOr404(s, params.id);
      res.attachment(`history-${order.number}.json`);
      return {
        kadro: 'history',
        format: 2,
        order: {
          id: order.id,
          number: order.number,
          status: order.status,
          trial: order.trial,
          model: order.unit.model,
          identity: order.unit.identity,
        },
        hash: 'SHA-256 over the order’s id as orderId and the event without its own hash, as canonical JSON (RFC 8785); of an event of version 0 over orderId, seq, at (recordedAt), by, body and prevHash',
        // as they lie in the store: what their hashes were taken of
        events: await readStored(s.shop, order.id),
        // sent by nobody and not in the chain: what the owner was told, the newest first
        messages: await listMessages(s.shop, order.id),
      };
    },
  }),
  route({
    method: 'get',
    path: '/api/orders/:id/hand-over.json',
    summary: 'The hand-over sheet as data',
    handle: (call, s) => sendPaper(call, s, { paper: 'hand-over.json' }),
  }),
  route({
    method: 'get',
    path: '/api/orders/:id/hand-over.csv',
    summary: 'The hand-over sheet’s steps and readings as rows',
    produces: 'text/csv',
    handle: (call, s) => sendPaper(call, s, { paper: 'hand-over.csv' }),
  }),
  route({
    method: 'get',
    path: '/api/orders/:id/hand-over.pdf',
    summary: 'The hand-over sheet on paper',
    produces: 'application/pdf',
    handle: (call, s) => sendPaper(call, s, { paper: 'hand-over.pdf' }),
  }),
];
