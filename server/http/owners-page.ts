import { z } from 'zod';
import type { OrderCommand } from '#core/events/registry';
import { ownersPhotos } from '#core/order/owners-view';
import { CLIENT, CLIENT_ID } from '#model/person';
import { PhotoId } from '#model/photo';
import { words } from '#model/common';
import type { Order } from '#model/order';
import { carryOut, orderInput, readOrder, readSealed, StaleVersion } from '../store/orders';
import { orderBehind } from '../store/owner-links';
import { readPhoto } from '../store/photos';
import { Problem } from './problem';
import { route, type Services } from './route';

const name = words(80);
const reason = z.string().trim().max(300).default('');

/** What the owner of a unit may do on their page. */
const Said = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('agree'), revision: z.number().int().min(1).max(999), option: z.string().regex(/^[a-d]$/), name }),
  z.strictObject({ do: z.literal('decline'), revision: z.number().int().min(1).max(999), name, reason }),
  z.strictObject({ do: z.literal('answer'), extra: z.string().regex(/^[a-z0-9-]{1,60}$/), yes: z.boolean(), name, reason }),
  z.strictObject({ do: z.literal('ask'), text: words(600) }),
]);

function commandOf(said: z.output<typeof Said>): OrderCommand {
  const by = { how: 'page' as const, strokes: null };
  switch (said.do) {
    case 'agree':
      return { type: 'quote.agreed', revision: said.revision, option: said.option, name: said.name, ...by };
    case 'decline':
      return { type: 'quote.declined', revision: said.revision, name: said.name, reason: said.reason };
    case 'answer':
      return { type: 'extra.answered', id: said.extra, yes: said.yes, name: said.name, reason: said.reason, ...by };
    case 'ask':
      return { type: 'question.asked', text: said.text };
  }
}

/** The order that a secret opens. One that was withdrawn, is over or never was shows nothing, and does not say which. */
async function behind(s: Services, secret: string): Promise<Order> {
  const id = await orderBehind(s.shop, secret);
  const order = id === null ? null : await readOrder(s.shop, id);
  if (!order) throw new Problem(404, 'Not here', 'There is nothing at this address any more. Ask the shop for a new one.');
  return order;
}

async function shown(s: Services, order: Order, signal: AbortSignal) {
  const sealed = order.status === 'sealed' ? await readSealed(s.shop, order.id) : null;
  return s.workers.run('ownersView', { x: await orderInput(s.shop, s.workers, order), sealed, at: new Date().toISOString() }, { signal });
}

/** How often what was said is decided anew because others changed the same meanwhile. */
const MOST_TRIES = 5;

/**
 * Records what the owner said. What they did not see yet is told by the refusal of the rules, not by the order as the shop has it:
 * where something came between, it is decided anew.
 * @throws Refused
 */
async function said(s: Services, order: Order, command: OrderCommand): Promise<Order> {
  const person = { id: CLIENT_ID, role: CLIENT } as const;
  for (let tries = 1, now = order; ; tries++) {
    try {
      await carryOut(s.shop, s.workers, now.id, { command, person, onVersion: now.version, merge: true, doneAt: null }, null);
      return (await readOrder(s.shop, order.id))!;
    } catch (e) {
      if (!(e instanceof StaleVersion) || tries >= MOST_TRIES) throw e instanceof StaleVersion ? busy() : e;
      now = (await readOrder(s.shop, order.id))!;
    }
  }
}
const busy = () => new Problem(503, 'Busy', 'Much is changing here at this moment: try again.');

export const ownersPageRoutes = [
  route({
    method: 'get',
    path: '/api/owner/:link',
    summary: 'The page of a unit’s owner: their order and nothing else, for whoever knows its secret address',
    open: true,
    handle: async ({ params, signal }, s) => shown(s, await behind(s, params.link!), signal),
  }),
  route({
    method: 'post',
    path: '/api/owner/:link',
    summary: 'The owner agrees, declines or asks',
    open: true,
    body: Said,
    handle: async ({ params, body, signal }, s) => {
      const after = await said(s, await behind(s, params.link!), commandOf(body));
      s.changed();
      return shown(s, after, signal);
    },
  }),
  route({
    method: 'get',
    path: '/api/owner/:link/photos/:id',
    summary: 'A picture that the owner’s page shows',
    open: true,
    produces: 'image/jpeg',
    handle: async ({ params, res }, s) => {
      const order = await behind(s, params.link!);
      const id = PhotoId.safeParse(params.id);
      const photo = id.success && ownersPhotos(order).has(id.data) ? await readPhoto(s.shop, id.data) : null;
      if (!photo) throw new Problem(404, 'Not here', 'There is no such picture.');
      res.type(photo.type).setHeader('Cache-Control', 'private, max-age=31536000, immutable');
      res.send(photo.bytes);
    },
  }),
];
