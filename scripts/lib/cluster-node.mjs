// One node of a cluster: what it is started with, and what its own files say of it.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { asRoot, bin, logSettings, memoryMB } from './mariadb.mjs';

/** Where Debian's galera-4 has it. */
const PROVIDER = '/usr/lib/galera/libgalera_smm.so';
/** Each node has an address of its own, and the usual port at it. */
export const PORT = 3306;

/** What a node's log says went wrong, last. */
export const lastError = ({ home }) =>
  readFileSync(join(home, 'mariadb.log'), 'utf8')
    .split('\n')
    .filter((l) => l.includes('[ERROR]'))
    .at(-1)
    ?.replace(/^.*\[ERROR\]\s*/, '')
    .slice(0, 300) ?? `see mariadb.log in ${home}`;

/** A node's place in the cluster, as its own file says it. */
export function graOf(data) {
  const file = join(data, 'grastate.dat');
  if (!existsSync(file)) return null;
  const text = readFileSync(file, 'utf8');
  const of = (name) => new RegExp(`^${name}:\\s*(\\S+)`, 'm').exec(text)?.[1] ?? '';
  return { uuid: of('uuid'), seqno: Number(of('seqno')), safe: of('safe_to_bootstrap') === '1' };
}

/** A node that is to be copied to begins anew where nobody has sent it anything for so long, s: who was to has gone. */
const FIRST_DATA_S = 30;

/**
 * Writes what a node is started with, and answers the file.
 * @param addresses of all nodes; @param password null before there is one; @param fast trades durability for speed
 */
export function configure(node, { addresses, password, fast }) {
  const file = join(node.home, 'node.cnf');
  mkdirSync(join(node.home, 'none'), { recursive: true });
  const lines = {
    datadir: node.data,
    tmpdir: join(node.home, 'tmp'),
    socket: node.socket,
    port: PORT,
    'bind-address': node.address,
    'pid-file': join(node.home, 'mariadb.pid'),
    'skip-name-resolve': '1',
    'character-set-server': 'utf8mb4',
    'collation-server': 'utf8mb4_unicode_ci',
    // all of them are on this machine
    'innodb-buffer-pool-size': `${memoryMB(fast ? 0 : 1 / 8 / addresses.length)}M`,
    // who asks how much room there is may read no file for that
    'plugin-load-add': 'disks',
    'secure-file-priv': join(node.home, 'none'),
    'innodb-lock-wait-timeout': '10',
    'default-storage-engine': 'InnoDB',
    // each writes down what happens at any of them: a copy that was taken of it is gone on from by its own
    ...logSettings(node.log, node.n, fast),
    'log-slave-updates': 'ON',
    'innodb-autoinc-lock-mode': '2',
    ...(fast ? { 'innodb-flush-log-at-trx-commit': '0' } : {}),
    ...(asRoot ? { user: 'root' } : {}),
    'wsrep-on': 'ON',
    'wsrep-provider': PROVIDER,
    'wsrep-cluster-name': 'kadro',
    'wsrep-cluster-address': `gcomm://${addresses.join(',')}`,
    'wsrep-node-address': node.address,
    'wsrep-node-name': `node-${node.n}`,
    // a node that says nothing for two seconds is left out; who held its breath while they agreed on a newcomer is waited for longer:
    // it would be left out of that, and with it the quorum gone
    // one that comes back and has not caught up yet holds nobody up: nothing is read there
    'wsrep-provider-options': `"gmcast.listen_addr=tcp://${node.address}:4567;ist.recv_addr=${node.address}:4568;gcache.size=64M;gcs.fc_limit=500;evs.keepalive_period=PT0.5S;evs.inactive_check_period=PT0.5S;evs.suspect_timeout=PT2S;evs.inactive_timeout=PT5S;evs.install_timeout=PT5S"`,
    'wsrep-sst-method': 'mariabackup',
    // who copies to another is held up meanwhile: rather the last one, where people are not sent
    'wsrep-sst-donor': `${addresses
      .map((_a, i) => `node-${i + 1}`)
      .filter((_n, i) => i + 1 !== node.n)
      .reverse()
      .join(',')},`,
    // who is copied to listens on all addresses of a machine: no two on one port
    'wsrep-sst-receive-address': `${node.address}:${node.copyPort}`,
    ...(password ? { 'wsrep-sst-auth': `sst:${password}` } : {}),
  };
  // it holds the key
  writeFileSync(
    file,
    `[mysqld]\n${Object.entries(lines)
      .map(([k, v]) => `${k}=${v}`)
      .join('\n')}\n[sst]\nsst-initial-timeout=${FIRST_DATA_S}\n`,
    { mode: 0o600 },
  );
  return file;
}

/** How far a node's own log goes, after a stop that was none; null where it holds none. */
export async function recovered(node, file) {
  const log = join(node.home, 'recover.log');
  rmSync(log, { force: true });
  const child = spawn(bin('mariadbd'), [`--defaults-file=${file}`, '--wsrep-recover', `--log-error=${log}`], { stdio: 'ignore' });
  // the others are looked after meanwhile
  await new Promise((done) => child.once('exit', done).once('error', done));
  const m = existsSync(log) ? /Recovered position:?\s*([0-9a-f-]{36}):(-?\d+)/.exec(readFileSync(log, 'utf8')) : null;
  return m ? { uuid: m[1], seqno: Number(m[2]) } : null;
}

/** Groups of processes that copy all of a record to or from a node. */
export const copying = (node) =>
  readdirSync('/proc').flatMap((pid) => {
    try {
      const said = readFileSync(`/proc/${pid}/cmdline`, 'utf8');
      if (!/\/wsrep_sst_\w+\0.*--role/s.test(said) || !said.includes(node.data)) return [];
      // the third of its figures behind its name
      return [Number(readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ').at(-1).split(' ')[2])];
    } catch {
      // no process, or one that has just ended
      return [];
    }
  });

/**
 * Ends what still copies to or from a node that has ended. It waits minutes for who will not come, and as long as it does nobody else
 * can copy to that node.
 */
export function endCopying(node) {
  for (const group of new Set(copying(node)))
    try {
      process.kill(-group, 'SIGKILL');
    } catch {
      // it has just ended
    }
}
