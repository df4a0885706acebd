import { afterAll, beforeAll, expect, it } from 'vitest';
import { checkRecord } from '#server/store/check-record';
import { openShop } from '#server/store/db';
// @ts-expect-error plain JavaScript shared with the command that tries a cluster
import { clusterPlace } from '../../scripts/lib/cluster-shop.mjs';
// @ts-expect-error plain JavaScript shared with the command that tries a cluster
import { faultRun } from '../../scripts/lib/kills.mjs';
import { Client } from '../shop';

interface Node {
  n: number;
  url: string;
  state(): Promise<{ ready: boolean; size: number } | null>;
}
interface Place {
  shop: { base: string; bases: string[]; cluster: { nodes: Node[] } };
  stop(): Promise<void>;
}
interface Run {
  acknowledged: number;
  lost: number;
  doubled: number;
  disordered: number;
  gaps: number;
  silent: { name: string; ms: number }[];
  order: string;
}

let place: Place;
beforeAll(async () => {
  place = (await clusterPlace({ fast: true })) as Place;
}, 240_000);
afterAll(() => place?.stop());

it('three nodes hold one shop: what is written through one server is read next through the other', async () => {
  for (const node of place.shop.cluster.nodes) expect(await node.state()).toMatchObject({ ready: true, size: 3 });
  const [one, other] = await Promise.all(place.shop.bases.map((b) => new Client(b).signIn('tor')));
  // signed in at one, known at the other; each thing recorded at the one is seen at the other at once
  const { id, version } = await one!.order('Greenway 36');
  for (let i = 0; i < 5; i++) {
    const done = await one!.record(id, version + i, { type: 'finding.added', text: `through one ${i}` });
    expect(done.status).toBe(200);
    const seen = await other!.call<{ order: { version: number } }>('GET', `/api/orders/${id}`);
    expect(seen.body.order.version).toBe(version + i + 1);
  }
});

it('an owner and who has the token see how a server does; others do not', async () => {
  const owner = await new Client(place.shop.base).signIn('oda');
  const { status, text, headers } = await owner.call('GET', '/api/metrics');
  expect(status).toBe(200);
  expect(headers.get('content-type')).toMatch(/^application\/openmetrics-text; version=1\.0\.0/);
  expect(text).toMatch(/^kadro_database_node\{what="nodes"\} 3$/m);
  expect(text).toMatch(/^kadro_database_node\{what="ready"\} 1$/m);
  expect(text.trim().endsWith('# EOF')).toBe(true);
  expect((await (await new Client(place.shop.base).signIn('tor')).call('GET', '/api/metrics')).status).toBe(401);
  expect((await fetch(`${place.shop.base}/api/metrics`, { headers: { Authorization: 'Bearer nonsense' } })).status).toBe(401);
  // what came with an id is answered with it
  const named = await fetch(`${place.shop.base}/api/live`, { headers: { 'X-Request-Id': 'desk-0417' } });
  expect(named.headers.get('x-request-id')).toBe('desk-0417');
});

it('nothing acknowledged is lost or doubled while nodes, a server and the proxy are killed, frozen and cut off', async () => {
  const strikes = ['writer killed', 'writer frozen 6 s', 'node killed', 'writer cut off 6 s', 'server killed', 'proxy killed'];
  const r = (await faultRun(place, { strikes, seed: 21 })) as Run;
  expect(r).toMatchObject({ lost: 0, doubled: 0, disordered: 0, gaps: 0 });
  expect(r.acknowledged).toBeGreaterThan(20);
  console.log(
    `cluster: acknowledged ${r.acknowledged}, lost ${r.lost}, doubled ${r.doubled}; longest without an answer ${r.silent.map((s) => `${s.name} ${(s.ms / 1000).toFixed(1)} s`).join(', ')}`,
  );
  // every node holds the same, and every chain of hashes is whole on each
  const counts = [];
  for (const node of place.shop.cluster.nodes) {
    const db = openShop('shop', node.url);
    const found = await checkRecord(db);
    await db.close();
    expect(found.problems).toEqual([]);
    counts.push([found.orders, found.events]);
  }
  expect(new Set(counts.map(String)).size).toBe(1);
}, 600_000);
