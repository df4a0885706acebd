import { replay } from '#core/order/reduce';
import { canonical, eventHash, FIRST_HASH, sha256 } from './chain';
import { row, rows, type Db } from './db';
import { readEvents, readState } from './orders';

export interface RecordCheck {
  orders: number;
  events: number;
  problems: string[];
}

/** Rebuilds every order's state from its events, compares it with the stored one, and checks each event's hash and each sealed sheet's. */
export async function checkRecord(db: Db): Promise<RecordCheck> {
  const out: RecordCheck = { orders: 0, events: 0, problems: [] };
  for (const o of await rows<{ id: string; number: number; version: number; state: string }>(
    db,
    'SELECT id, number, version, state FROM orders ORDER BY number',
  )) {
    const events = await readEvents(db, o.id);
    out.orders++;
    out.events += events.length;
    const bad = (what: string) => out.problems.push(`order ${o.number}: ${what}`);
    let prev = FIRST_HASH;
    events.forEach((e, i) => {
      if (e.seq !== i + 1) bad(`event ${i + 1} is missing`);
      if (e.prevHash !== prev) bad(`event ${e.seq} does not follow the one before`);
      const { hash, ...rest } = e;
      if (eventHash(o.id, rest) !== hash) bad(`event ${e.seq} was changed after it was recorded`);
      prev = hash;
    });
    if (!events.length) {
      bad('has no events');
      continue;
    }
    if (canonical(replay(o.id, events)) !== canonical(readState(o.state))) bad('the stored state is not what its events make');
    if (events.length !== o.version) bad(`stands at version ${o.version} with ${events.length} events`);
    const seal = events.find((e) => e.body.type === 'order.sealed')?.body;
    if (seal?.type === 'order.sealed') {
      const sheet = await row<{ json: string }>(db, 'SELECT json FROM sealed_sheets WHERE order_id = ?', [o.id]);
      if (!sheet) bad('the sealed sheet is gone');
      else if (sha256(sheet.json) !== seal.sheetHash) bad('the sealed sheet was changed');
    }
  }
  return out;
}
