// A whole shop of its own for scripts: database, built server, demo data, on free ports, thrown away after.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { endChild } from './end-child.mjs';
import { root } from './ensure.mjs';
import { freePort, startMariadb } from './mariadb.mjs';
import { picturesOf } from './pictures.mjs';

/** Names a shop's folder with the demo in it: where it is set, a shop begins as a copy of that one, which takes a moment only. */
export const COPY_OF = 'KADRO_SHOP_COPY';

/** Makes a shop with the demo in it, ended cleanly, for others to be copied from. Answers what to put into their environment. */
export async function makeShopToCopy() {
  const folder = mkdtempSync(join(tmpdir(), 'kadro-copy-'));
  const shop = await startShop({ folder });
  await shop.end();
  return { env: { [COPY_OF]: folder }, drop: () => rmSync(folder, { recursive: true, force: true }) };
}

/** Starts a built server over a database; answers its address, and how to end it. */
export function startServer(url, port, env = {}) {
  const child = spawn(process.execPath, ['--enable-source-maps', join(root, 'dist/server.mjs')], {
    // what is out of reach for a moment is what is tried here, and no news
    env: { KADRO_LOG: 'error', ...process.env, KADRO_DATABASE_URL: url, KADRO_PORT: String(port), ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const ready = new Promise((resolve, reject) => {
    child.stdout.on('data', (c) => String(c).includes('kadro ready') && resolve());
    child.once('exit', (code) => reject(new Error(`the server ended (${code})`)));
  });
  return { child, ready };
}

/**
 * @param env what the start would ask for; left out: the demo with its stand-ins
 */
export async function startShop({
  fast = true,
  restartMs = 700,
  folder = mkdtempSync(join(tmpdir(), 'kadro-shop-')),
  env = { KADRO_DEMO: '1', KADRO_STAND_INS: '1' },
} = {}) {
  const from = env.KADRO_DEMO ? process.env[COPY_OF] : undefined;
  if (from)
    spawnSync('cp', ['-r', ...['mariadb', 'database.json', 'pictures'].map((f) => join(from, f)).filter((f) => existsSync(f)), folder]);
  const database = await startMariadb(folder, { fast, restartMs });
  const port = await freePort();
  let child = null;
  const start = async () => {
    const s = startServer(database.url, port, { KADRO_HOME: folder, KADRO_PICTURES: picturesOf(folder), ...env });
    child = s.child;
    await s.ready;
  };
  await start();
  const end = async () => {
    await endChild(child, 4000);
    await database.stop();
  };
  return {
    base: `http://127.0.0.1:${port}`,
    url: database.url,
    folder,
    database,
    startServer: start,
    killServer: () => void child?.kill('SIGKILL'),
    end,
    stop: async () => {
      await end();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
