// Kills servers, database and browser under load, with one server and with two, and prints what came of what was acknowledged.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { build } from './build.mjs';
import { ensureDebian, ensureModules, root } from './lib/ensure.mjs';
import { killRun } from './lib/kills.mjs';

ensureDebian(['mariadbd', 'chromium']);
ensureModules();
await build();
const each = Number(process.argv[2] ?? 90);
const browsers = Number(process.argv[3] ?? 20);
const seed = Number(process.argv[4] ?? Date.now() % 1e9);
let bad = 0;
let kills = 0;
for (const servers of [1, 2]) {
  console.log(`${servers} ${servers === 1 ? 'server' : 'servers'}, seed ${seed}`);
  const r = await killRun({ kills: each, browserKills: servers === 1 ? browsers : 0, servers, seed, log: console.log });
  const checked = spawnSync(process.execPath, [join(root, 'dist/server.mjs'), 'check-record'], {
    env: { ...process.env, KADRO_DATABASE_URL: r.url },
    encoding: 'utf8',
  });
  await r.stop();
  const back = [...r.backMs].sort((a, b) => a - b);
  const n = Object.values(r.done).reduce((a, b) => a + b, 0);
  kills += n;
  console.log(
    `${n} kills (${JSON.stringify(r.done)}): acknowledged ${r.acknowledged}, lost ${r.lost}, doubled ${r.doubled}, out of order ${r.disordered}, gaps ${r.gaps}`,
  );
  console.log(`back in ${Math.round(back[Math.floor(back.length / 2)] ?? 0)} ms at the median, ${Math.round(back.at(-1) ?? 0)} ms at most`);
  console.log(checked.stdout.trim());
  bad += r.lost + r.doubled + r.disordered + r.gaps + (checked.status ?? 1);
}
console.log(`${kills} kills, ${bad} wrong`);
process.exitCode = bad ? 1 : 0;
