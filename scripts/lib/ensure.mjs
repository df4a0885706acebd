// What a fresh machine lacks: Debian packages and node modules. Built-ins only.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

export const root = new URL('../..', import.meta.url).pathname.replace(/\/$/, '');

const run = (cmd, args, opts = {}) => spawnSync(cmd, args, { stdio: 'inherit', cwd: root, ...opts }).status ?? 1;
/** Debian's own Python, whichever other one is on the path. */
const PYTHON = '/usr/bin/python3';
const has = (cmd) =>
  cmd === 'scipy'
    ? existsSync(PYTHON) && spawnSync(PYTHON, ['-c', 'import scipy.integrate']).status === 0
    : cmd === 'galera'
      ? existsSync('/usr/lib/galera/libgalera_smm.so')
      : spawnSync('sh', ['-c', `command -v ${cmd}`]).status === 0 || existsSync(`/usr/sbin/${cmd}`);

/** Debian packages by the command that shows they are there. */
const NEEDS = {
  mariadbd: 'mariadb-server',
  'mariadb-backup': 'mariadb-backup',
  galera: 'galera-4',
  haproxy: 'haproxy',
  socat: 'socat',
  faketime: 'faketime',
  chromium: 'chromium',
  ngspice: 'ngspice',
  scipy: 'python3-scipy',
};

/** What a cluster needs beside what one database does. */
export const CLUSTER_NEEDS = ['mariadbd', 'galera', 'mariadb-backup', 'socat', 'haproxy'];

/** Installs the packages that the commands need, or says exactly what to run. */
export function ensureDebian(commands) {
  const missing = commands.filter((c) => !has(c)).map((c) => NEEDS[c]);
  if (!missing.length) return;
  const root = process.getuid?.() === 0;
  const sudo = !root && spawnSync('sudo', ['-n', 'true']).status === 0;
  const line = `apt-get update && apt-get install -y --no-install-recommends ${missing.join(' ')}`;
  if (!root && !sudo) {
    console.error(`Kadro needs ${missing.join(' and ')}. Run this once, then start again:\n\n  sudo sh -c '${line}'\n`);
    process.exit(1);
  }
  console.log(`Installing ${missing.join(', ')} ...`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const [cmd, pre] = root ? ['sh', []] : ['sudo', ['-E', 'sh']];
  const opts = { env, stdio: ['ignore', 'ignore', 'inherit'] };
  if (run(cmd, [...pre, '-c', line], opts) !== 0) {
    console.error(`Could not install ${missing.join(', ')}. Try by hand:\n\n  sudo sh -c '${line}'\n`);
    process.exit(1);
  }
}

/** Node modules as the lock file says. */
export function ensureModules() {
  const stamp = join(root, 'node_modules/.kadro-lock');
  const lock = readFileSync(join(root, 'package-lock.json'), 'utf8');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.log('Installing node modules ...');
  if (run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { stdio: ['ignore', 'ignore', 'inherit'] }) !== 0) {
    console.error('npm ci failed: see above.');
    process.exit(1);
  }
  writeFileSync(stamp, lock);
}
