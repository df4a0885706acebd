// Rebuilds every order from its events, compares it with what is stored, and checks every hash.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { ensureDebian, ensureModules, root } from './lib/ensure.mjs';
import { build } from './build.mjs';
import { endLeftover, startMariadb } from './lib/mariadb.mjs';

ensureModules();
await build();
const folder = process.env.KADRO_HOME ?? join(root, '.kadro');
let database = null;
let url = process.env.KADRO_DATABASE_URL;
if (!url) {
  ensureDebian(['mariadbd']);
  await endLeftover(folder);
  database = await startMariadb(folder);
  url = database.url;
}
const r = spawnSync(process.execPath, [join(root, 'dist/server.mjs'), 'check-record'], {
  env: { ...process.env, KADRO_DATABASE_URL: url },
  stdio: 'inherit',
});
await database?.stop();
process.exit(r.status ?? 1);
