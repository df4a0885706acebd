import { randomUUID } from 'node:crypto';
import type { DueMessage } from '#core/messages/due';
import type { MessageKind, MessageState, OwnerMessage } from '#model/message';
import { rows, run, type Store, type Tx } from './db';

const NO_ADDRESS = 'nobody wrote down how the owner is reached';

/** Writes messages that are due with the event that gives them: once each, whatever happens again. */
export async function writeMessages(tx: Tx, order: string, list: readonly DueMessage[]): Promise<void> {
  for (const m of list)
    await run(
      tx,
      'INSERT IGNORE INTO messages (id, order_id, kind, ref, text, address, state, says, tries, next_try, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, 0, ?, ?)',
      [
        randomUUID(),
        order,
        m.kind,
        m.ref,
        m.text,
        m.address,
        m.address ? 'waiting' : 'held',
        m.address ? '' : NO_ADDRESS,
        new Date(),
        new Date(),
      ],
    );
}

interface MessageRow {
  id: string;
  order_id: string;
  kind: MessageKind;
  text: string;
  address: string;
  state: MessageState;
  says: string;
  tries: number;
  at: Date;
  sent_at: Date | null;
}
const COLUMNS = 'id, order_id, kind, text, address, state, says, tries, at, sent_at';

/** Messages of an order, the newest first. */
export async function listMessages(s: Store, order: string): Promise<OwnerMessage[]> {
  const list = await rows<MessageRow>(s, `SELECT ${COLUMNS} FROM messages WHERE order_id = ? ORDER BY at DESC LIMIT 200`, [order]);
  return list.map((r) => ({
    id: r.id,
    kind: r.kind,
    text: r.text,
    address: r.address,
    state: r.state,
    says: r.says,
    at: r.at.toISOString(),
    sentAt: r.sent_at?.toISOString() ?? null,
  }));
}

/** Messages whose turn it is. */
export const dueNow = (s: Store, now: Date): Promise<MessageRow[]> =>
  rows<MessageRow>(s, `SELECT ${COLUMNS} FROM messages WHERE state = 'waiting' AND next_try <= ? ORDER BY at LIMIT 20`, [now]);

export const markSent = (s: Store, id: string, text: string, now: Date): Promise<unknown> =>
  run(s, "UPDATE messages SET state = 'sent', says = '', text = ?, sent_at = ?, next_try = NULL WHERE id = ? AND state = 'waiting'", [
    text,
    now,
    id,
  ]);

/** Not sent: tried again at a moment, or held until somebody does something about it. */
export const markUnsent = (s: Store, id: string, says: string, again: Date | null): Promise<unknown> =>
  run(
    s,
    "UPDATE messages SET tries = tries + 1, says = ?, state = IF(? IS NULL, 'held', state), next_try = ? WHERE id = ? AND state = 'waiting'",
    [says.slice(0, 300), again, again, id],
  );

/** Sends one that is held to an address, or as it was: false where it is not held any more. */
export const releaseMessage = async (s: Store, order: string, id: string, address: string): Promise<boolean> =>
  (
    await run(
      s,
      "UPDATE messages SET state = 'waiting', says = '', address = ?, next_try = ? WHERE id = ? AND order_id = ? AND state = 'held'",
      [address, new Date(), id, order],
    )
  ).affectedRows === 1;
