import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { promisify } from 'node:util';
import { createConnection, type RowDataPacket } from 'mysql2/promise';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { SystemState } from '#model/system';
import { checkRecord } from '#server/store/check-record';
import { openShop, rows } from '#server/store/db';
// @ts-expect-error plain JavaScript shared with the start command
import { copying } from '../../scripts/lib/cluster-node.mjs';
// @ts-expect-error plain JavaScript shared with the command that tries a cluster
import { clusterPlace } from '../../scripts/lib/cluster-shop.mjs';
// @ts-expect-error plain JavaScript shared with the command that tries a cluster
import { faultRun } from '../../scripts/lib/kills.mjs';
// @ts-expect-error plain JavaScript shared with the start command
import { startMariadb } from '../../scripts/lib/mariadb.mjs';
import { Client } from '../shop';

interface Node {
  n: number;
  url: string;
  /** its folder */
  data: string;
  state(): Promise<{ ready: boolean; size: number } | null>;
  /** takes its disk away: it begins again with nothing */
  lose(): Promise<void>;
  joined(): Promise<void>;
  kill(): void;
}
interface Place {
  url: string;
  faults: Record<string, () => Promise<void>>;
  settled(): Promise<void>;
  shop: { base: string; folder: string; bases: string[]; cluster: { nodes: Node[] } };
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
  place = (await clusterPlace({ fast: true, stalledMs: 15_000 })) as Place;
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
  const strikes = ['writer killed', 'writer frozen 6 s', 'standby killed', 'writer cut off 6 s', 'server killed', 'proxy killed'];
  const r = (await faultRun(place, { strikes, seed: 21 })) as Run;
  expect(r).toMatchObject({ lost: 0, doubled: 0, disordered: 0, gaps: 0 });
  expect(r.acknowledged).toBeGreaterThan(20);
  console.log(
    `cluster: acknowledged ${r.acknowledged}, lost ${r.lost}, doubled ${r.doubled}; longest without an answer ${r.silent.map((s) => `${s.name} ${(s.ms / 1000).toFixed(1)} s`).join(', ')}`,
  );
  // every node holds the same, and every chain of hashes is whole on each
  const held = async () => {
    const counts = new Set<string>();
    for (const node of place.shop.cluster.nodes) {
      const db = openShop('shop', node.url);
      const found = await checkRecord(db);
      await db.close();
      expect(found.problems).toEqual([]);
      counts.add(`${found.orders} orders, ${found.events} events`);
    }
    return counts.size;
  };
  // what was sent before a kill may still be carried out while they are counted
  await expect.poll(held, { timeout: 60_000 }).toBe(1);
}, 600_000);

/** The node to which the proxy sends people. */
async function sentTo(): Promise<string> {
  const c = await createConnection({ uri: place.url, connectTimeout: 3000 });
  try {
    const [[r]] = await c.query<RowDataPacket[]>('SELECT @@wsrep_node_name AS name');
    return String(r!.name);
  } finally {
    c.destroy();
  }
}

it('people stay at the node that took over, also once the one before is back: there is one writer', async () => {
  const before = await sentTo();
  await place.faults['writer killed']!();
  await expect.poll(() => sentTo().catch(() => before), { timeout: 60_000 }).not.toBe(before);
  const after = await sentTo();
  await place.settled();
  // by now the proxy has seen that it is back
  await pause(4000);
  for (let i = 0; i < 5; i++) expect(await sentTo()).toBe(after);
}, 120_000);

/** What goes wrong while the record is copied to a node. */
const MISHAPS: Record<string, (node: Node, group: number) => void> = {
  'it is killed before it is sent anything': (node) => node.kill(),
  'the copy comes to a standstill': (_node, group) => process.kill(-group, 'SIGSTOP'),
};
it.each(Object.entries(MISHAPS))(
  'a node to which the record is copied begins anew where %s, and nothing of that copy stays',
  async (_what, happens) => {
    const writer = await sentTo();
    const node = place.shop.cluster.nodes.find((n) => `node-${n.n}` !== writer)!;
    await node.lose();
    let group: number | undefined;
    while ((group = (copying(node) as number[])[0]) === undefined) await pause(3);
    happens(node, group);
    const began = Date.now();
    await pause(500);
    await node.joined();
    // who waits for what will not come waits for five minutes
    expect(Date.now() - began).toBeLessThan(100_000);
    expect(() => process.kill(-group, 0)).toThrow('ESRCH');
    await place.settled();
  },
  240_000,
);

it('a copy is taken from a standby while people work, and stands alone elsewhere with all that was acknowledged, to a moment where it is asked for', async () => {
  const { folder, base } = place.shop;
  const tor = await new Client(base).signIn('tor');
  const { id, version } = await tor.order('Greenway 36');
  expect((await tor.record(id, version, { type: 'finding.added', text: 'before the copy' }, {}, true)).status).toBe(200);
  const away = mkdtempSync(join(tmpdir(), 'kadro-away-'));
  const archive = join(away, 'shop.tar.gz');
  const npm = (script: string, home: string, ...args: string[]) =>
    promisify(execFile)(process.execPath, [`scripts/${script}.mjs`, ...args], { env: { ...process.env, KADRO_HOME: home } });
  try {
    const said = (await npm('backup', folder, archive)).stdout;
    expect(said).toContain('SHA-256');
    const log = /written down in (\S+):/.exec(said)![1]!;
    const later = async (text: string) => {
      const now = (await tor.order('Greenway 36')).version;
      expect((await tor.record(id, now, { type: 'finding.added', text }, {}, true)).status).toBe(200);
    };
    await later('after the copy');
    // a log's times are whole seconds
    await pause(1100);
    const moment = new Date(Math.ceil(Date.now() / 1000) * 1000);
    await pause(moment.getTime() - Date.now() + 100);
    await later('after the moment');
    // its owner sees that there is one, and that three hold the record
    const { body } = await (await new Client(base).signIn('oda')).call<SystemState>('GET', '/api/system');
    expect(body).toMatchObject({ database: { ready: true, nodes: 3, nodesWanted: 3 }, backup: { file: 'shop.tar.gz' } });
    expect(body.servers.length).toBeGreaterThanOrEqual(2);
    expect((await tor.call('GET', '/api/system')).status).toBe(403);
    // as it was copied; on from there by the log of the node that was copied, to a moment and to the end
    const to = ['--to', moment.toISOString().slice(0, 19).replace('T', ' ')];
    for (const [name, args, last] of [
      ['copied', [], 'before the copy'],
      ['moment', ['--log', log, ...to], 'after the copy'],
      ['end', ['--log', log], 'after the moment'],
    ] as const) {
      const home = join(away, name);
      expect((await npm('restore', home, archive, ...args)).stdout).toMatch(/every hash agrees/);
      const alone = (await startMariadb(home, { fast: true })) as { url: string; stop(): Promise<void> };
      const db = openShop('shop', alone.url);
      try {
        const found = await rows<{ body: string }>(db, 'SELECT body FROM order_events WHERE order_id = ? ORDER BY seq DESC LIMIT 1', [id]);
        expect(found[0]!.body).toContain(last);
      } finally {
        await db.close();
        await alone.stop();
      }
    }
    // over a cluster nothing is restored
    await expect(npm('restore', folder, archive)).rejects.toMatchObject({
      stderr: expect.stringContaining('nothing was touched') as string,
    });
  } finally {
    rmSync(away, { recursive: true, force: true });
  }
}, 300_000);
