import { createHash } from 'node:crypto';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openShop } from '#server/store/db';
import { checkRecord } from '#server/store/check-record';
import { png } from '../picture';
import { Client, startShop, type Shop } from '../shop';

let shop: Shop;
beforeAll(async () => {
  // not fast: what is acknowledged must be on the disk
  shop = await startShop({ fast: false });
});
afterAll(() => shop.stop());

const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));

/** One thing recorded: what is sent before it, if anything, and its command. */
interface Deed {
  before?: () => Promise<{ status: number; text: string }>;
  command: unknown;
}

/** Does numbered things one after another, each with its key, trying again as a screen does, until told to stop. */
function hammer(client: Client, id: string, name: string, deed: (i: number) => Deed) {
  const acknowledged: number[] = [];
  let going = true;
  const done = (async () => {
    for (let i = 0; going; i++) {
      const { before, command } = deed(i);
      for (;;) {
        try {
          const first = (await before?.()) ?? { status: 200, text: '' };
          const r = first.status === 200 ? await client.record(id, 1, command, { 'Idempotency-Key': `${name}-key-${i}` }, true) : first;
          if (r.status === 200) break;
          if (r.status !== 503) throw new Error(`${r.status} ${r.text}`);
        } catch (e) {
          if (/^\d{3} /.test((e as Error).message)) throw e;
        }
        if (!going) return;
        await wait(100);
      }
      acknowledged.push(i);
    }
  })();
  return { acknowledged, stop: async () => ((going = false), done) };
}

const sha = (b: Buffer) => createHash('sha256').update(b).digest('hex');
const picture = (i: number) => png(i, 24, 24);

it('nothing acknowledged is lost and nothing appears twice when server and database are killed under load', async () => {
  const [tor, maud, ines] = await Promise.all(['tor', 'maud', 'ines'].map((n) => new Client(shop.base).signIn(n)));
  const { id } = await tor!.order('Greenway 36');
  const volts = (i: number) => Number((36 + i / 1000).toFixed(3));
  const hands = {
    findings: hammer(tor!, id, 'tor', (i) => ({ command: { type: 'finding.added', text: `found ${i}` } })),
    readings: hammer(maud!, id, 'maud', (i) => ({
      command: { type: 'reading.taken', step: 'safe/rest', reading: 'rest', value: volts(i) },
    })),
    pictures: hammer(ines!, id, 'ines', (i) => ({
      before: () => ines!.bytes(`/api/photos/${sha(picture(i))}`, picture(i)),
      command: { type: 'photo.taken', photo: sha(picture(i)), step: 'safe/rest', note: `picture ${i}` },
    })),
  };
  const all = Object.values(hands);
  await wait(1500);
  shop.killServer();
  await wait(300);
  await shop.startServer().catch(() => shop.startServer());
  await wait(1500);
  const before = all.map((h) => h.acknowledged.length);
  shop.database.kill();
  // the database comes back by itself; the server finds it again
  for (let i = 0; i < 100 && all.some((h, k) => h.acknowledged.length <= before[k]!); i++) await wait(200);
  await wait(1000);
  await Promise.all(all.map((h) => h.stop()));
  expect(all.every((h, k) => h.acknowledged.length > before[k]!)).toBe(true);

  const events = (await tor!.call('GET', `/api/orders/${id}/events`)).body as {
    seq: number;
    body: { type: string; text?: string; value?: number; photo?: string; by?: string };
    by: string;
  }[];
  const of = (type: string, by: string) => events.filter((e) => e.body.type === type && e.by === by).map((e) => e.body);
  const once = (list: unknown[], wanted: unknown[]) => {
    for (const w of wanted)
      expect(
        list.filter((x) => x === w),
        String(w),
      ).toHaveLength(1);
    expect(new Set(list).size).toBe(list.length);
  };
  once(
    of('finding.added', 'tor').map((b) => b.text),
    hands.findings.acknowledged.map((i) => `found ${i}`),
  );
  // in the order in which they were taken, too
  const read = of('reading.taken', 'maud').map((b) => b.value!);
  once(read, hands.readings.acknowledged.map(volts));
  expect(read).toEqual([...read].sort((a, b) => a - b));
  once(
    of('photo.taken', 'ines').map((b) => b.photo),
    hands.pictures.acknowledged.map((i) => sha(picture(i))),
  );
  for (const i of hands.pictures.acknowledged) {
    const kept = Buffer.from(await (await tor!.raw(`/api/photos/${sha(picture(i))}`)).arrayBuffer());
    expect(sha(kept)).toBe(sha(picture(i)));
  }
  expect(events.map((e) => e.seq)).toEqual(events.map((_, i) => i + 1));
  const db = openShop('shop', shop.url);
  expect((await checkRecord(db)).problems).toEqual([]);
  await db.close();
});
