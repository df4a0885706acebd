// Rebuilds every order from its events, compares it with what is stored, and checks every hash. A shop that runs goes on.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { ensureDebian, ensureModules, root } from './lib/ensure.mjs';
import { build } from './build.mjs';
import { CannotStart, runningDatabase, startMariadb } from './lib/mariadb.mjs';
import { picturesOf } from './lib/pictures.mjs';

ensureModules();
await build();
const folder = process.env.KADRO_HOME ?? join(root, '.kadro');
let database = null;
let url = process.env.KADRO_DATABASE_URL ?? runningDatabase(folder)?.url;
if (!url) {
  if (!existsSync(join(folder, 'mariadb/mysql'))) {
    console.error(`There is no shop in ${folder} yet: npm start makes one.`);
    process.exit(1);
  }
  ensureDebian(['mariadbd']);
  try {
    database = await startMariadb(folder);
  } catch (e) {
    if (!(e instanceof CannotStart)) throw e;
    console.error(e.message);
    process.exit(1);
  }
  url = database.url;
}
const r = spawnSync(process.execPath, [join(root, 'dist/server.mjs'), 'check-record'], {
  env: { ...process.env, KADRO_DATABASE_URL: url, KADRO_PICTURES: picturesOf(folder) },
  stdio: 'inherit',
});
await database?.stop();
process.exit(r.status ?? 1);
