// One command from a fresh clone to a running shop. Ctrl-C stops all of it.
import { spawn, spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { accessSync, constants, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { ensureDebian, ensureModules, root } from './lib/ensure.mjs';
import { alive, CannotStart, endLeftover, FIRST_ROOM, LEAST_ROOM, roomLeft, startMariadb } from './lib/mariadb.mjs';
import { whoHas } from './lib/who-has.mjs';

/** One clear line, and the end. */
function give(up) {
  console.error(up);
  process.exit(1);
}

const empty = process.argv.includes('--empty');
const unknown = process.argv.slice(2).find((a) => a !== '--empty');
if (unknown) give(`“${unknown}” is not understood: npm start, or npm start -- --empty.`);
const folder = process.env.KADRO_HOME ?? join(root, '.kadro');
try {
  mkdirSync(folder, { recursive: true });
  accessSync(folder, constants.W_OK);
  writeFileSync(join(folder, '.write'), '');
  rmSync(join(folder, '.write'));
} catch (e) {
  give(
    e.code === 'ENOSPC'
      ? `There is no room on the disk that holds ${folder}: make some, then start again.`
      : `Kadro cannot write in ${folder}: choose another folder with KADRO_HOME, or let this user write there.`,
  );
}
const first = !existsSync(join(folder, 'database.json')) && !process.env.KADRO_DATABASE_URL;
if (roomLeft(folder) < (first ? FIRST_ROOM : LEAST_ROOM))
  give(`There is no room on the disk that holds ${folder}: ${first ? 'a first start takes about 250 MB' : 'make some'}, then start again.`);

const wanted = Number(process.env.KADRO_PORT ?? 4820);
if (!Number.isInteger(wanted) || wanted < 1 || wanted > 65535)
  give(`KADRO_PORT is “${process.env.KADRO_PORT}”: a port is a number from 1 to 65535.`);
const host = process.env.KADRO_HOST ?? '127.0.0.1';

const runFile = join(folder, 'run.json');
if (existsSync(runFile)) {
  let was = {};
  try {
    was = JSON.parse(readFileSync(runFile, 'utf8'));
  } catch {
    // half written when the machine went down
  }
  const ours = (pid, what) =>
    pid && alive(pid) && existsSync(`/proc/${pid}/cmdline`) && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(what);
  if (ours(was.starter, 'start.mjs')) give(`Kadro is already running from this folder (process ${was.starter}). Stop it there first.`);
  if (ours(was.server, 'server.mjs')) {
    process.kill(was.server, 'SIGTERM');
    for (let i = 0; i < 40 && alive(was.server); i++) await new Promise((r) => setTimeout(r, 100));
  }
}

// what is recorded on a tablet and waits belongs to this address: another port would be another shop to it
const taken = await new Promise((resolve) => {
  const s = createServer();
  s.once('error', (e) => resolve(e.code));
  s.listen(wanted, host, () => s.close(() => resolve(null)));
});
if (taken === 'EADDRINUSE') {
  const who = whoHas(wanted);
  give(`Port ${wanted} is taken${who ? ` by ${who}` : ''}: end that, or choose another with KADRO_PORT.`);
}
if (taken === 'EACCES') give(`Port ${wanted} is only for the administrator: choose one above 1023 with KADRO_PORT.`);
if (taken) give(`KADRO_HOST is “${host}”, which is no address of this machine.`);

if (!process.env.KADRO_DATABASE_URL) ensureDebian(['mariadbd']);
ensureModules();
const built = spawnSync(process.execPath, [join(root, 'scripts/build.mjs')], { stdio: 'inherit' });
if (built.status !== 0) process.exit(1);

let database = null;
let url = process.env.KADRO_DATABASE_URL;
if (!url) {
  await endLeftover(folder);
  console.log(first ? 'First start: making the database ...' : 'Starting the database ...');
  try {
    database = await startMariadb(folder, {
      onFall: () => console.error('The database stopped and is started again; nothing acknowledged is lost.'),
      onFull: (full) =>
        console.error(
          full
            ? `The disk that holds ${folder} is full: nothing can be recorded until there is room. Nothing is lost.`
            : 'There is room on the disk again.',
        ),
    });
  } catch (e) {
    if (!(e instanceof CannotStart)) throw e;
    give(e.message);
  }
  url = database.url;
}

const ownerPassword = randomBytes(6).toString('base64url');
const logFile = join(folder, 'log', 'kadro');
const env = {
  ...process.env,
  KADRO_DATABASE_URL: url,
  KADRO_PORT: String(wanted),
  KADRO_HOST: host,
  KADRO_HOME: folder,
  KADRO_LOG_FILE: logFile,
  ...(empty ? { KADRO_OWNER_PASSWORD: ownerPassword } : { KADRO_DEMO: '1', KADRO_STAND_INS: '1' }),
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
  else {
    console.log(
      `  Demo sign-ins, password ${demo.password}:\n${demo.people.map((p) => `    ${p.id.padEnd(6)} ${p.role === 'desk' ? 'front desk' : p.role}`).join('\n')}\n`,
    );
    console.log('  Demo data and stand-ins (a simulated meter, supplier and messenger) are on, and marked wherever they show.');
    console.log('  For a real shop: npm start -- --empty, with a folder of its own in KADRO_HOME.\n');
  }
  console.log(`  What goes wrong is logged in ${join(folder, 'log')}`);
  console.log('  Ctrl-C stops it. The data stays for the next start.\n');
}
function launch() {
  server = spawn(process.execPath, ['--enable-source-maps', join(root, 'dist/server.mjs')], { env, stdio: ['ignore', 'pipe', 'inherit'] });
  try {
    writeFileSync(runFile, JSON.stringify({ starter: process.pid, server: server.pid, port: wanted }));
  } catch {
    // a full disk is told by who watches the database
  }
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
console.log('Loading ...');
launch();
