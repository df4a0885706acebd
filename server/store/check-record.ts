import { replay, STATE_VERSION } from '#core/events/apply';
import { UnreadableEvent, upToDate } from '#core/events/record';
import { canonical, eventHash, FIRST_HASH, sha256 } from './chain';
import { row, rows, type Shop } from './db';
import { readStored } from './events';
import { readPhoto } from './photos';

export interface RecordCheck {
  orders: number;
  events: number;
  photos: number;
  problems: string[];
}

/** Rebuilds every order's state from its events, compares it with the stored one, and checks each event's hash, each sealed sheet's and each picture's. */
export async function checkRecord(s: Shop): Promise<RecordCheck> {
  const out: RecordCheck = { orders: 0, events: 0, photos: 0, problems: [] };
  const ids = await rows<{ id: string }>(s, 'SELECT id FROM orders ORDER BY number');
  for (const { id } of ids) {
    const o = (await row<{ id: string; number: number; version: number; state: string; state_version: number }>(
      s,
      'SELECT id, number, version, state, state_version FROM orders WHERE id = ?',
      [id],
    ))!;
    const bad = (what: string) => out.problems.push(`order ${o.number}: ${what}`);
    out.orders++;
    try {
      const stored = await readStored(s, o.id);
      out.events += stored.length;
      let prev = FIRST_HASH;
      stored.forEach((e, i) => {
        if (e.seq !== i + 1) bad(`event ${i + 1} is missing`);
        if (e.prevHash !== prev) bad(`event ${e.seq} does not follow the one before`);
        const { hash, ...rest } = e;
        if (eventHash(o.id, rest) !== hash) bad(`event ${e.seq} was changed after it was recorded`);
        prev = hash;
      });
      if (!stored.length) {
        bad('has no events');
        continue;
      }
      const events = stored.map(upToDate);
      if (o.state_version === STATE_VERSION && canonical(replay(o.id, events)) !== canonical(JSON.parse(o.state)))
        bad('the stored state is not what its events make');
      if (events.length !== o.version) bad(`stands at version ${o.version} with ${events.length} events`);
      const seal = events.find((e) => e.body.type === 'order.sealed')?.body;
      if (seal?.type === 'order.sealed') {
        const sheet = await row<{ json: string }>(s, 'SELECT json FROM sealed_sheets WHERE order_id = ?', [o.id]);
        if (!sheet) bad('the sealed sheet is gone');
        else if (sha256(sheet.json) !== seal.sheetHash) bad('the sealed sheet was changed');
      }
    } catch (e) {
      if (!(e instanceof UnreadableEvent) && !(e instanceof SyntaxError) && (e as Error).name !== 'ZodError') throw e;
      bad((e as Error).message);
    }
  }
  for (const { id } of await rows<{ id: string }>(s, 'SELECT id FROM photos')) {
    const p = await readPhoto(s, id);
    out.photos++;
    if (!p) out.problems.push(`picture ${id.slice(0, 12)}: its bytes are gone from ${s.pictures?.where ?? 'the database'}`);
    else if (sha256(p.bytes) !== id) out.problems.push(`picture ${id.slice(0, 12)}: its bytes were changed`);
  }
  return out;
}
