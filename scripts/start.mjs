// One command from a fresh clone to a running shop. Ctrl-C stops all of it.
import { spawn, spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { ensureDebian, ensureModules, root } from './lib/ensure.mjs';
import { alive, endLeftover, freePort, startMariadb } from './lib/mariadb.mjs';

const empty = process.argv.includes('--empty');
const folder = process.env.KADRO_HOME ?? join(root, '.kadro');
mkdirSync(folder, { recursive: true });

const runFile = join(folder, 'run.json');
if (existsSync(runFile)) {
  const { starter, server } = JSON.parse(readFileSync(runFile, 'utf8'));
  const ours = (pid, what) =>
    pid && alive(pid) && existsSync(`/proc/${pid}/cmdline`) && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(what);
  if (ours(starter, 'start.mjs')) {
    console.error(`Kadro is already running from this folder (process ${starter}). Stop it there first.`);
    process.exit(1);
  }
  if (ours(server, 'server.mjs')) process.kill(server, 'SIGTERM');
}

if (!process.env.KADRO_DATABASE_URL) ensureDebian(['mariadbd']);
ensureModules();
const built = spawnSync(process.execPath, [join(root, 'scripts/build.mjs')], { stdio: 'inherit' });
if (built.status !== 0) process.exit(1);

let database = null;
if (!process.env.KADRO_DATABASE_URL) {
  await endLeftover(folder);
  console.log('Starting the database ...');
  database = await startMariadb(folder, {
    onFall: () => console.error('The database stopped and is started again; nothing acknowledged is lost.'),
  });
}
const url = process.env.KADRO_DATABASE_URL ?? database.url;

const busy = (port) =>
  new Promise((resolve) => {
    const s = createServer();
    s.once('error', () => resolve(true));
    s.listen(port, '127.0.0.1', () => s.close(() => resolve(false)));
  });
const wanted = Number(process.env.KADRO_PORT ?? 4820);
const port = (await busy(wanted)) ? await freePort() : wanted;
const ownerPassword = randomBytes(6).toString('base64url');
const env = {
  ...process.env,
  KADRO_DATABASE_URL: url,
  KADRO_PORT: String(port),
  ...(empty ? { KADRO_EMPTY: '1', KADRO_OWNER_PASSWORD: ownerPassword } : {}),
};

let stopping = false;
let server;
let greeted = false;
const demo = JSON.parse(readFileSync(join(root, 'demo/orders.json'), 'utf8'));
function greet(address) {
  if (greeted) return;
  greeted = true;
  console.log(`\n  Kadro is running at ${address}\n`);
  if (empty) console.log(`  If this is the first start of an empty shop: sign in as owner, password ${ownerPassword}\n`);
  else
    console.log(
      `  Demo sign-ins, password ${demo.password}:\n${demo.people.map((p) => `    ${p.id.padEnd(6)} ${p.role === 'desk' ? 'front desk' : p.role}`).join('\n')}\n`,
    );
  console.log('  Ctrl-C stops it. The data stays for the next start.\n');
}
function launch() {
  server = spawn(process.execPath, ['--enable-source-maps', join(root, 'dist/server.mjs')], { env, stdio: ['ignore', 'pipe', 'inherit'] });
  writeFileSync(runFile, JSON.stringify({ starter: process.pid, server: server.pid, port }));
  server.stdout.on('data', (chunk) => {
    const ready = /kadro ready (\S+)/.exec(String(chunk));
    if (ready) greet(ready[1]);
  });
  server.on('exit', (code) => {
    if (stopping) return;
    if (!greeted && code) {
      console.error('The server did not start: see above.');
      void stop(1);
      return;
    }
    console.error('The server stopped and is started again.');
    setTimeout(launch, 500);
  });
}
async function stop(code = 0) {
  if (stopping) return;
  stopping = true;
  if (server && server.exitCode === null && !server.signalCode) {
    const gone = new Promise((r) => server.once('exit', r));
    server.kill('SIGTERM');
    await Promise.race([gone, new Promise((r) => setTimeout(r, 4000))]);
  }
  await database?.stop();
  rmSync(runFile, { force: true });
  process.exit(code);
}
process.on('SIGINT', () => void stop());
process.on('SIGTERM', () => void stop());
process.on('SIGHUP', () => void stop());
if (!existsSync(join(folder, 'database.json')) && !process.env.KADRO_DATABASE_URL) console.log('First start ...');
console.log('Loading ...');
launch();
