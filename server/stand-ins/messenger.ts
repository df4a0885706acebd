import { run, type Shop } from '../store/db';
import type { Messenger } from '../outside/messenger';
import { OutOfReach } from '../outside/out-of-reach';

/**
 * A messenger that stands in for mail and text: it keeps what it was given, once by name, and sends nothing.
 * @param loses whether this answer is lost on its way back, after the message was taken
 */
export const standInMessenger = (shop: Shop, loses: (ref: string) => boolean = () => false): Messenger => ({
  async send(ref, address, text) {
    await run(shop, 'INSERT IGNORE INTO standin_messenger (ref, address, text, at) VALUES (?, ?, ?, ?)', [ref, address, text, new Date()]);
    if (loses(ref)) throw new OutOfReach('the messenger did not answer in time');
  },
});
