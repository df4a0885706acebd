// A shop on three databases and two servers under load, with one thing after another gone wrong, and counts of what came of it.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { build } from './build.mjs';
import { clusterPlace } from './lib/cluster-shop.mjs';
import { CLUSTER_NEEDS, ensureDebian, ensureModules, root } from './lib/ensure.mjs';
import { faultRun } from './lib/kills.mjs';
import { makeShopToCopy } from './lib/shop.mjs';

ensureDebian([...CLUSTER_NEEDS, 'faketime']);
ensureModules();
await build();
/** How often each fault, and which of them: all where none is named. */
const times = Number(process.argv[2] ?? 3);
const only = process.argv.slice(3);
const seed = Date.now() % 1e9;
const copy = await makeShopToCopy();
Object.assign(process.env, copy.env);
const place = await clusterPlace({ disks: true });
let bad = 0;
try {
  const names = Object.keys(place.faults).filter((n) => !only.length || only.some((o) => n.includes(o)));
  const strikes = Array.from({ length: times }, () => names).flat();
  console.log(`3 databases, 2 servers, one address; ${strikes.length} faults, seed ${seed}`);
  const r = await faultRun(place, { strikes, seed, log: console.log });
  for (const name of names) {
    const ms = r.silent
      .filter((x) => x.name === name)
      .map((x) => x.ms)
      .sort((a, b) => a - b);
    console.log(
      `${name}, ${ms.length} times: nobody was answered for ${(ms[ms.length >> 1] / 1000).toFixed(1)} s at the median, ${(ms.at(-1) / 1000).toFixed(1)} s at most`,
    );
  }
  console.log(`acknowledged ${r.acknowledged}, lost ${r.lost}, doubled ${r.doubled}, out of order ${r.disordered}, gaps ${r.gaps}`);
  bad = r.lost + r.doubled + r.disordered + r.gaps + r.silent.filter((x) => x.ms > 10_000).length;
  // every node holds the same, and every chain of hashes is whole on each
  for (const node of place.shop.cluster.nodes) {
    const checked = spawnSync(process.execPath, [join(root, 'dist/server.mjs'), 'check-record'], {
      env: { ...process.env, KADRO_DATABASE_URL: node.url },
      encoding: 'utf8',
    });
    console.log(`node ${node.n}: ${checked.stdout.trim()}`);
    bad += checked.status ?? 1;
  }
} finally {
  await place.stop();
  copy.drop();
}
console.log(bad ? `${bad} wrong` : 'nothing wrong');
process.exitCode = bad ? 1 : 0;
