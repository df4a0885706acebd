import { afterAll, expect, it } from 'vitest';
import { openShop } from '#server/store/db';
import { checkRecord } from '#server/store/check-record';
// @ts-expect-error plain JavaScript shared with the kills command
import { killRun } from '../../scripts/lib/kills.mjs';
import { createHash } from 'node:crypto';
import { png } from '../picture';
import { Client, startShop, type Shop } from '../shop';

interface Run {
  done: Record<string, number>;
  acknowledged: number;
  lost: number;
  doubled: number;
  disordered: number;
  gaps: number;
  backMs: number[];
  url: string;
  stop(): Promise<void>;
}
const runs: Run[] = [];
afterAll(() => Promise.all(runs.map((r) => r.stop())));

it.each([
  [1, 3, 1],
  [2, 3, 0],
])(
  'nothing acknowledged is lost, doubled or out of order: %i servers, %i kills of server and database, %i of the browser',
  async (servers, kills, browserKills) => {
    const r = (await killRun({ kills, browserKills, servers, seed: 14 + servers })) as Run;
    runs.push(r);
    expect(r).toMatchObject({ lost: 0, doubled: 0, disordered: 0, gaps: 0 });
    expect(r.acknowledged).toBeGreaterThan(0);
    const db = openShop('shop', r.url);
    expect((await checkRecord(db)).problems).toEqual([]);
    await db.close();
    console.log(
      `kills: ${JSON.stringify(r.done)}, acknowledged ${r.acknowledged}, lost ${r.lost}, doubled ${r.doubled}, out of order ${r.disordered}`,
    );
  },
  240_000,
);

it('pictures that were acknowledged are there, byte for byte, through a killed server and a killed database', async () => {
  const shop: Shop = await startShop({ fast: false });
  try {
    const ines = await new Client(shop.base).signIn('ines');
    const { id } = await ines.order('Greenway 36');
    const kept: Buffer[] = [];
    for (let i = 0; i < 12; i++) {
      const bytes = png(i, 24, 24);
      const photo = createHash('sha256').update(bytes).digest('hex');
      if (i === 4) shop.killServer();
      if (i === 8) shop.database.kill();
      for (let tries = 0; ; tries++) {
        const put = await ines.bytes(`/api/photos/${photo}`, bytes).catch(() => ({ status: 0 }));
        const r =
          put.status === 200
            ? await ines
                .record(id, 1, { type: 'photo.taken', photo, note: `n ${i}` }, { 'Idempotency-Key': `photo-key-${i}` }, true)
                .catch(() => ({ status: 0 }))
            : put;
        if (r.status === 200) break;
        expect([0, 503]).toContain(r.status);
        if (i === 4 && tries === 0) await shop.startServer();
        if (tries > 200) throw new Error('never came back');
        await new Promise((x) => setTimeout(x, 100));
      }
      kept.push(bytes);
    }
    for (const bytes of kept) {
      const photo = createHash('sha256').update(bytes).digest('hex');
      expect(Buffer.from(await (await ines.raw(`/api/photos/${photo}`)).arrayBuffer()).equals(bytes)).toBe(true);
    }
  } finally {
    await shop.stop();
  }
}, 120_000);
