// A shop on three databases and two servers under load, with one thing after another gone wrong, and counts of what came of it.
import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
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
/** So many faults befall one cluster; then a new one: an order that holds thousands of findings is no shop’s. */
const ROUND = 32;
const copy = await makeShopToCopy();
Object.assign(process.env, copy.env);
const silent = [];
const total = { acknowledged: 0, lost: 0, doubled: 0, disordered: 0, gaps: 0 };
let broken = 0;
/** all faults in turn, known once there is a cluster that they may befall */
let strikes = null;

/** Nobody may be without an answer for longer, ms. */
const MOST_SILENT = 10_000;
/** A machine of which others take more for seconds tells nothing of how long something takes: that fault is tried once more. */
const MOST_STOLEN = 0.3;
const fair = () => silent.filter((x) => x.stolen <= MOST_STOLEN);
/** So many times as many faults are tried at most. */
const PATIENCE = 1.5;

/** Keeps what the logs of a cluster say, for who asks why; where. */
function keep(folder) {
  const to = mkdtempSync(join(tmpdir(), 'kadro-trial-'));
  for (const node of [1, 2, 3]) cpSync(join(folder, `node-${node}`, 'mariadb.log'), join(to, `node-${node}.log`));
  cpSync(join(folder, 'proxy', 'haproxy.log'), join(to, 'proxy.log'));
  return to;
}
function tooLong(folder, { name, ms, stolen, heard }) {
  const to = keep(folder);
  writeFileSync(join(to, 'heard.json'), JSON.stringify(heard, null, 1));
  console.log(
    `${name}: nobody was answered for ${(ms / 1000).toFixed(1)} s, others took ${(stolen * 100).toFixed(0)} % of this machine meanwhile; logs and answers of then are in ${to}`,
  );
}

async function round(from) {
  const place = await clusterPlace({ disks: true });
  try {
    if (!strikes) {
      const names = Object.keys(place.faults).filter((n) => !only.length || only.some((o) => n.includes(o)));
      if (!names.length) throw new Error(`no fault is called so; there are: ${Object.keys(place.faults).join(', ')}`);
      strikes = Array.from({ length: times }, () => names).flat();
      console.log(`3 databases, 2 servers, one address; ${strikes.length} faults of ${names.length} kinds, seed ${seed}`);
      for (const what of place.leftOut) console.log(`left out: ${what}`);
    }
    const some = strikes.slice(from, from + ROUND);
    const told = (fault) => fault.ms > MOST_SILENT && tooLong(place.shop.folder, fault);
    const r = await faultRun(place, { strikes: some, seed: seed + from, log: console.log, told }).catch((e) => {
      console.log(`logs of then are in ${keep(place.shop.folder)}`);
      throw e;
    });
    silent.push(...r.silent);
    for (const k of Object.keys(total)) total[k] += r[k];
    // every node holds the same, and every chain of hashes is whole on each
    for (const node of place.shop.cluster.nodes) {
      const checked = spawnSync(process.execPath, [join(root, 'dist/server.mjs'), 'check-record'], {
        env: { ...process.env, KADRO_DATABASE_URL: node.url },
        encoding: 'utf8',
      });
      console.log(`after ${from + some.length} faults, node ${node.n}: ${checked.stdout.trim()}`);
      broken += checked.status ?? 1;
    }
    const worst = fair().reduce((a, b) => (b.ms > a.ms ? b : a), { name: 'none', ms: 0 });
    console.log(
      `so far acknowledged ${total.acknowledged}, lost ${total.lost}, doubled ${total.doubled}, out of order ${total.disordered}, gaps ${total.gaps}; nobody was answered for ${(worst.ms / 1000).toFixed(1)} s at most (${worst.name})`,
    );
  } finally {
    await place.stop();
  }
}

/** Faults of which the time was not told by the machine alone, once more. */
function again() {
  const kinds = [...new Set(strikes)];
  const missing = kinds.flatMap((name) => Array(Math.max(0, times - fair().filter((x) => x.name === name).length)).fill(name));
  strikes.push(...missing.slice(0, Math.max(0, Math.floor(times * kinds.length * PATIENCE) - strikes.length)));
}

try {
  for (let from = 0; !strikes || from < strikes.length; from += ROUND) {
    await round(from);
    if (from + ROUND >= strikes.length) again();
  }
} finally {
  copy.drop();
}
for (const name of new Set(silent.map((x) => x.name))) {
  const ms = fair()
    .filter((x) => x.name === name)
    .map((x) => x.ms)
    .sort((a, b) => a - b);
  console.log(
    ms.length
      ? `${name}, ${ms.length} times: nobody was answered for ${(ms[ms.length >> 1] / 1000).toFixed(1)} s at the median, ${(ms.at(-1) / 1000).toFixed(1)} s at most`
      : `${name}: others took too much of this machine each time`,
  );
}
const unfair = silent.filter((x) => x.stolen > MOST_STOLEN);
if (unfair.length)
  console.log(
    `not counted for their time: ${unfair.length} faults during which others took over ${MOST_STOLEN * 100} % of this machine for four seconds (${(Math.max(...unfair.map((x) => x.ms)) / 1000).toFixed(1)} s at most)`,
  );
const { acknowledged, lost, doubled, disordered, gaps } = total;
console.log(`acknowledged ${acknowledged}, lost ${lost}, doubled ${doubled}, out of order ${disordered}, gaps ${gaps}`);
const bad = broken + lost + doubled + disordered + gaps + fair().filter((x) => x.ms > MOST_SILENT).length;
console.log(bad ? `${bad} wrong` : 'nothing wrong');
process.exitCode = bad ? 1 : 0;
