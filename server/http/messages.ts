import { z } from 'zod';
import { listMessages, releaseMessage } from '../store/messages';
import { orderOr404 } from './paper';
import { Problem } from './problem';
import { route } from './route';

const address = z.string().trim().min(3, 'say how the owner is reached').max(40, 'at most 40 characters');

export const messageRoutes = [
  route({
    method: 'get',
    path: '/api/orders/:id/messages',
    summary: 'What the unit’s owner was told, and what could not be sent',
    handle: async ({ params }, s) => listMessages(s.shop, (await orderOr404(s, params.id)).id),
  }),
  route({
    method: 'post',
    path: '/api/orders/:id/messages/:item/release',
    summary: 'Send a message that is held, to this telephone number or mail address',
    action: 'message.release',
    body: z.strictObject({ address }),
    handle: async ({ params, body }, s) => {
      const order = await orderOr404(s, params.id);
      if (!(await releaseMessage(s.shop, order.id, params.item!, body.address)))
        throw new Problem(409, 'Not now', 'That message is not held any more.');
      await s.errands.go();
      return listMessages(s.shop, order.id);
    },
  }),
];
