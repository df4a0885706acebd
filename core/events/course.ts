import { z } from 'zod';
import { words } from '#model/common';
import { stopClocks } from './clock';
import { ALL, event, Refused } from './definition';
import { reason } from './shapes';
import { lastOf, stands, takenBack } from './undo';

/** What happens to an order as a whole, at whichever station: taken back, cancelled, reopened. */
export const courseEvents = [
  event({
    type: 'action.undone',
    may: ALL,
    undo: 'undoes',
    records: { seq: z.number().int().positive(), says: words(1000) },
    /** what the person saw as their last action here: another is not taken back in its place */
    asks: { says: words(1000) },
    decide: ({ says }, order, c) => {
      const last = lastOf(order, c.by);
      if (!last) throw new Refused('There is nothing of yours here to take back.');
      if (last.says !== says) throw new Refused(`The last thing you did here is “${last.says}” now: look again before you take it back.`);
      if (!stands(order, last)) throw new Refused(`“${says}” was changed since, so it cannot be taken back. Change it as it is now.`);
      return { type: 'action.undone', seq: last.seq, says };
    },
    apply: (order, _e, { by }) => takenBack(order, by),
    // the state itself tells whether others changed the same
    touches: () => [],
    says: (e) => `Taken back: ${e.says}`.slice(0, 1000),
  }),
  event({
    type: 'order.cancelled',
    may: ALL,
    undo: 'final',
    records: { reason },
    apply: (order, e, stamp) => ({
      ...stopClocks(order, stamp.at, () => true),
      status: 'cancelled',
      cancelled: { reason: e.reason, ...stamp },
    }),
    touches: () => ['*'],
    says: (e) => `Cancelled, because ${e.reason}`,
  }),
  event({
    type: 'order.reopened',
    may: ALL,
    undo: 'final',
    takenWhen: ['cancelled'],
    records: {},
    apply: (order) => ({ ...order, status: 'open', cancelled: null }),
    touches: () => ['*'],
    says: () => 'Reopened',
  }),
] as const;
