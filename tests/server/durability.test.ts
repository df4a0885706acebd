import { afterAll, beforeAll, expect, it } from 'vitest';
import { openDb } from '#server/store/db';
import { checkRecord } from '#server/store/check-record';
import { Client, startShop, type Shop } from '../shop';

let shop: Shop;
beforeAll(async () => {
  // not fast: what is acknowledged must be on the disk
  shop = await startShop({ fast: false });
});
afterAll(() => shop.stop());

const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));

/** Records numbered findings one after another, each with its key, trying again as a screen does, until told to stop. */
function hammer(client: Client, id: string, name: string) {
  const acknowledged: string[] = [];
  let going = true;
  const done = (async () => {
    for (let i = 0; going; i++) {
      const text = `${name} ${i}`;
      for (;;) {
        try {
          const r = await client.record(id, 1, { type: 'finding.added', text }, { 'Idempotency-Key': `${name}-key-${i}` }, true);
          if (r.status === 200) break;
          if (r.status !== 503) throw new Error(`${r.status} ${r.text}`);
        } catch (e) {
          if (/^\d{3} /.test((e as Error).message)) throw e;
        }
        if (!going) return;
        await wait(100);
      }
      acknowledged.push(text);
    }
  })();
  return { acknowledged, stop: async () => ((going = false), done) };
}

it('nothing acknowledged is lost and nothing appears twice when server and database are killed under load', async () => {
  const [tor, maud] = await Promise.all(['tor', 'maud'].map((n) => new Client(shop.base).signIn(n)));
  const { id } = await tor!.order('Greenway 36');
  const hands = [hammer(tor!, id, 'tor'), hammer(maud!, id, 'maud')];
  await wait(1500);
  shop.killServer();
  await wait(300);
  await shop.startServer().catch(() => shop.startServer());
  await wait(1500);
  const before = hands.map((h) => h.acknowledged.length);
  shop.database.kill();
  // the database comes back by itself; the server finds it again
  for (let i = 0; i < 100 && hands.some((h, k) => h.acknowledged.length <= before[k]!); i++) await wait(200);
  await wait(1000);
  await Promise.all(hands.map((h) => h.stop()));
  expect(hands.every((h, k) => h.acknowledged.length > before[k]!)).toBe(true);

  const events = (await tor!.call('GET', `/api/orders/${id}/events`)).body as { seq: number; body: { type: string; text?: string } }[];
  const texts = events.filter((e) => e.body.type === 'finding.added').map((e) => e.body.text!);
  for (const h of hands)
    for (const text of h.acknowledged)
      expect(
        texts.filter((t) => t === text),
        text,
      ).toHaveLength(1);
  expect(new Set(texts).size).toBe(texts.length);
  expect(events.map((e) => e.seq)).toEqual(events.map((_, i) => i + 1));
  const db = openDb(shop.url);
  expect((await checkRecord(db)).problems).toEqual([]);
  await db.end();
});
