// A whole shop of its own for scripts: database, built server, demo data, on free ports, thrown away after.
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { root } from './ensure.mjs';
import { freePort, startMariadb } from './mariadb.mjs';

export async function startShop({ fast = true, restartMs = 700 } = {}) {
  const folder = mkdtempSync(join(tmpdir(), 'kadro-shop-'));
  const database = await startMariadb(folder, { fast, restartMs });
  const port = await freePort();
  let child = null;
  const startServer = () =>
    new Promise((resolve, reject) => {
      child = spawn(process.execPath, ['--enable-source-maps', join(root, 'dist/server.mjs')], {
        env: { ...process.env, KADRO_DATABASE_URL: database.url, KADRO_PORT: String(port) },
        stdio: ['ignore', 'pipe', 'inherit'],
      });
      child.stdout.on('data', (c) => String(c).includes('kadro ready') && resolve());
      child.once('exit', (code) => reject(new Error(`the server ended (${code})`)));
    });
  await startServer();
  return {
    base: `http://127.0.0.1:${port}`,
    url: database.url,
    database,
    startServer,
    killServer: () => void child?.kill('SIGKILL'),
    stop: async () => {
      child?.kill('SIGTERM');
      await database.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
