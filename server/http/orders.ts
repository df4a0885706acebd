import { z } from 'zod';
import Papa from 'papaparse';
import { handoverRows } from '#core/order/handover-sheet';
import { say } from '#core/order/say';
import { OrderQuery, searchRows } from '#core/order/search';
import { OrderCommand, OrderOpening } from '#model/event';
import type { Order } from '#model/order';
import { handoverPdf } from '../documents/handover-pdf';
import { claimKey, keepAnswer, type Answer } from '../store/answers';
import { canonical, sha256 } from '../store/chain';
import { transact, type Conn, type Db } from '../store/db';
import { carryOut, compute, findingsFor, listFloor, measuredFor, openOrder, readEvents, readHandover, readOrder } from '../store/orders';
import { searchOrders } from '../store/search';
import { readSettings } from '../store/settings';
import { readRevision, sheetsOf } from '../store/sheets';
import { learnedBy } from '../store/worked';
import { Problem } from './problem';
import { route, type Call, type Services } from './route';

const Id = z.uuid();
/** Finished jobs that a chart shows. */
const MOST_JOBS = 400;
/** Rows of a search that go into one file. */
const MOST_ROWS = 5000;
const IF_MATCH = { name: 'If-Match', description: 'The version of the order the change was made on, in quotes', required: true };
const KEY = {
  name: 'Idempotency-Key',
  description: 'A key of the sender’s making; the same POST repeated with it is carried out once',
  required: false,
};

async function orderOr404(db: Db | Conn, id: string): Promise<Order> {
  const order = Id.safeParse(id).success ? await readOrder(db, id) : null;
  if (!order) throw new Problem(404, 'Not here', 'There is no such order.');
  return order;
}

/** What a screen needs to compute an order by itself. */
async function dossier(db: Db, order: Order) {
  const model = order.unit.model.id;
  const [sheets, settings, findings, measured, learned] = await Promise.all([
    sheetsOf(db, order),
    readSettings(db),
    findingsFor(db, model, order.id),
    measuredFor(db, model, order.id),
    learnedBy(db),
  ]);
  const kits = ['', ...sheets.kits.map((k) => k.id)];
  const paces = Object.fromEntries(kits.map((k) => [k, learned.pace(k, model, order.assignee)]));
  return { order, sheets, settings, findings, measured, paces };
}

/** Carries a write out once per key: the answer is kept in the write's own transaction. */
async function once(call: Call<unknown, unknown>, s: Services, write: (c: Conn) => Promise<Answer>): Promise<unknown> {
  const key = call.req.get('Idempotency-Key');
  if (key !== undefined && !/^[\w-]{8,80}$/.test(key))
    throw new Problem(400, 'Key', 'An Idempotency-Key has 8 to 80 letters, digits, dashes or underscores.');
  const fingerprint = sha256(canonical({ path: call.req.path, body: call.body }));
  const answer = await transact(s.db, async (conn) => {
    if (!key) return write(conn);
    const had = await claimKey(conn, key, call.person.id, fingerprint);
    if (had === 'other request') throw new Problem(422, 'Key used', 'This Idempotency-Key was used for another request.');
    if (had) return had;
    const made = await write(conn);
    await keepAnswer(conn, key, call.person.id, made);
    return made;
  });
  s.changed();
  call.res.status(answer.status);
  return answer.body;
}

export const orderRoutes = [
  route({ method: 'get', path: '/api/floor', summary: 'Units in the shop now', handle: async (_c, { db }) => listFloor(db) }),
  route({
    method: 'get',
    path: '/api/orders',
    summary: 'Find orders by what they are called, anything that was recorded, kit, model, who worked on them, what happened, and when',
    query: OrderQuery,
    handle: async ({ query }, { db }) => searchOrders(db, query),
  }),
  route({
    method: 'get',
    path: '/api/orders.csv',
    summary: 'What a search finds as rows, at most 5,000',
    query: OrderQuery,
    produces: 'text/csv',
    handle: async ({ query, res }, { db }) => {
      const found = await searchOrders(db, query, MOST_ROWS);
      res
        .attachment('orders.csv')
        .type('text/csv')
        .send(Papa.unparse(searchRows(found), { escapeFormulae: true }));
    },
  }),
  route({
    method: 'post',
    path: '/api/orders',
    summary: 'Take a unit in',
    action: 'order.open',
    body: OrderOpening,
    headers: [KEY],
    handle: async (call, s) =>
      once(call, s, async (conn) => {
        const o = call.body;
        const model = await readRevision(conn, 'model', o.model);
        if (!model)
          throw new Problem(422, 'Not possible', 'That model is not in the sheets.', {
            fields: [{ path: 'model', message: 'choose a model' }],
          });
        const field = (path: string, message: string) => new Problem(422, 'Not possible', message, { fields: [{ path, message }] });
        if (!model.builds.some((b) => b.id === o.build)) throw field('build', `${model.name} has no build “${o.build}”.`);
        if (o.year < model.years.from || o.year > model.years.to)
          throw field('year', `${model.name} was made from ${model.years.from} to ${model.years.to}.`);
        const order = await openOrder(conn, o, call.person.id);
        return { status: 201, body: { id: order.id, number: order.number, version: order.version } };
      }),
  }),
  route({
    method: 'get',
    path: '/api/orders/:id',
    summary: 'An order with the sheets and settings it is computed with',
    handle: async ({ params, res }, { db }) => {
      const order = await orderOr404(db, params.id!);
      res.setHeader('ETag', `"${order.version}"`);
      return dossier(db, order);
    },
  }),
  route({
    method: 'get',
    path: '/api/orders/:id/events',
    summary: 'An order’s history',
    handle: async ({ params }, { db }) => {
      const order = await orderOr404(db, params.id!);
      return (await readEvents(db, order.id)).map((e) => ({ ...e, says: say(e.body) }));
    },
  }),
  route({
    method: 'post',
    path: '/api/orders/:id/events',
    summary: 'Record something on an order',
    body: OrderCommand,
    headers: [IF_MATCH, KEY],
    query: z.object({ merge: z.enum(['yes', 'no']).default('no') }),
    handle: async (call, s) => {
      const match = /^"?(\d+)"?$/.exec(call.req.get('If-Match') ?? '');
      if (!match) throw new Problem(428, 'Version needed', 'Say which version of the order this change was made on (If-Match).');
      if (!Id.safeParse(call.params.id).success) throw new Problem(404, 'Not here', 'There is no such order.');
      return once(call, s, async (conn) => {
        const order = await carryOut(conn, call.params.id!, call.body, call.person, Number(match[1]), call.query.merge === 'yes');
        if (!order) throw new Problem(404, 'Not here', 'There is no such order.');
        return { status: 200, body: { version: order.version } };
      });
    },
  }),
  route({
    method: 'get',
    path: '/api/orders/:id/worked',
    summary:
      'What the kits of an order took on finished ones beside what was planned, the slope that was learned, and jobs far off with what explains them',
    handle: async ({ params }, { db }) => {
      const order = await orderOr404(db, params.id!);
      const kits = new Set(['', ...order.kits.map((k) => k.kit.id)]);
      const learned = await learnedBy(db);
      const jobs = learned.worked.filter((w) => kits.has(w.kit)).slice(0, MOST_JOBS);
      return { jobs, slope: learned.slope, spread: learned.spread, outliers: learned.outliers(jobs) };
    },
  }),
  route({
    method: 'get',
    path: '/api/orders/:id/history.json',
    summary: 'An order’s history as data: every event with who, when, what was expected, and the hashes that chain them',
    handle: async ({ params, res }, { db }) => {
      const order = await orderOr404(db, params.id!);
      res.attachment(`history-${order.number}.json`);
      const events = await readEvents(db, order.id);
      return {
        kadro: 'history',
        format: 1,
        order: { id: order.id, number: order.number, status: order.status, model: order.unit.model, identity: order.unit.identity },
        hash: 'SHA-256 over the order’s id and the event without its own hash, as canonical JSON (RFC 8785)',
        events: events.map((e) => ({ ...e, says: say(e.body) })),
      };
    },
  }),
  route({
    method: 'get',
    path: '/api/orders/:id/hand-over.json',
    summary: 'The hand-over sheet as data',
    handle: async ({ params, res }, { db }) => {
      const order = await orderOr404(db, params.id!);
      res.attachment(`hand-over-${order.number}.json`);
      return readHandover(db, order);
    },
  }),
  route({
    method: 'get',
    path: '/api/orders/:id/hand-over.csv',
    summary: 'The hand-over sheet’s steps and readings as rows',
    produces: 'text/csv',
    handle: async ({ params, res }, { db }) => {
      const order = await orderOr404(db, params.id!);
      const rows = handoverRows(await readHandover(db, order));
      res
        .attachment(`hand-over-${order.number}.csv`)
        .type('text/csv')
        .send(Papa.unparse(rows, { escapeFormulae: true }));
    },
  }),
  route({
    method: 'get',
    path: '/api/orders/:id/hand-over.pdf',
    summary: 'The hand-over sheet on paper',
    produces: 'application/pdf',
    handle: async ({ params, res }, { db }) => {
      const order = await orderOr404(db, params.id!);
      const sheet = await readHandover(db, order);
      const pdf = await handoverPdf(sheet, (await compute(db, order)).sheets.model, await readSettings(db));
      res.type('application/pdf').setHeader('Content-Disposition', `inline; filename="hand-over-${order.number}.pdf"`);
      res.send(pdf);
    },
  }),
];
