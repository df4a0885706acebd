// Runs the built server for one command, with whatever database holds the shop: the one that runs, or one that is started for it.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { build } from '../build.mjs';
import { ensureDebian, ensureModules, root } from './ensure.mjs';
import { CannotStart, runningDatabase, startMariadb } from './mariadb.mjs';
import { picturesOf } from './pictures.mjs';

/**
 * Runs a command of the server's over the shops in KADRO_HOME, and ends as it ends.
 * @param args its name and what goes with it
 */
export async function serverCommand(args) {
  ensureModules();
  await build();
  const folder = process.env.KADRO_HOME ?? join(root, '.kadro');
  let database = null;
  let url = process.env.KADRO_DATABASE_URL ?? runningDatabase(folder)?.url;
  if (!url) {
    if (!existsSync(join(folder, 'mariadb/mysql'))) {
      console.error(
        existsSync(join(folder, 'cluster.json'))
          ? `The cluster in ${folder} does not run: start it first.`
          : `There is no shop in ${folder} yet: npm start makes one.`,
      );
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
  const r = spawnSync(process.execPath, [join(root, 'dist/server.mjs'), ...args], {
    env: { ...process.env, KADRO_DATABASE_URL: url, KADRO_PICTURES: picturesOf(folder) },
    stdio: 'inherit',
  });
  await database?.stop();
  process.exit(r.status ?? 1);
}
