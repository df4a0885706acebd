// One address in front of several: HAProxy from Debian, over the nodes of a cluster with one writer, and over the servers.
import { spawnSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { endChild } from './end-child.mjs';
import { spawnLogged } from './logged.mjs';
import { bin, CannotStart, LEAST_ROOM, wait } from './mariadb.mjs';

/** A node with less is not written at, kB: what has no room refuses it anyway. */
const LEAST_ROOM_KB = LEAST_ROOM / 1024;
/** 1 from a node that is well. Where the database cannot tell how much room there is, it has room. */
const WELL = `SELECT COUNT(*) FROM information_schema.GLOBAL_STATUS WHERE VARIABLE_NAME = 'wsrep_ready' AND VARIABLE_VALUE = 'ON' AND COALESCE((SELECT Available FROM information_schema.DISKS WHERE LEFT(@@datadir, LENGTH(Path)) = Path ORDER BY LENGTH(Path) DESC LIMIT 1), ${LEAST_ROOM_KB}) >= ${LEAST_ROOM_KB}`;

/**
 * Starts the proxy over a folder that holds its configuration.
 * @param database `{port, nodes: [{n, address, port}], password}`: who opens the port writes at one node, another one once that is gone
 * @param web `{host, port, servers: [port, …]}`: who opens it is answered by whichever server is well
 */
export async function startProxy(folder, { database, web, onFall = () => {} }) {
  mkdirSync(folder, { recursive: true });
  const secret = join(folder, 'check.cnf');
  writeFileSync(secret, `[client]\nuser=probe\npassword=${database.password}\nconnect-timeout=1\n`, { mode: 0o600 });
  const check = join(folder, 'node-is-ready.sh');
  // a node that is not in the quorum lets people in, and answers them nothing; one whose disk is full refuses what is written
  writeFileSync(check, `#!/bin/sh\nexec mariadb --defaults-file='${secret}' -h "$3" -P "$4" -Nse "${WELL}" | grep -q 1\n`, { mode: 0o700 });
  const lines = [
    'global',
    '  external-check',
    '  insecure-fork-wanted',
    '  maxconn 4000',
    'defaults',
    '  timeout connect 2s',
    '  timeout check 1500ms',
    '  retries 3',
    '  option redispatch',
    '',
    '# one writer: whoever comes is sent where the last one was sent, until that node is gone',
    'listen database',
    `  bind 127.0.0.1:${database.port}`,
    '  mode tcp',
    '  timeout client 8h',
    '  timeout server 8h',
    '  balance first',
    // with room for one entry only, and that kept, it would never be told of another node
    '  stick-table type ip size 16',
    '  stick on dst',
    '  option external-check',
    '  external-check path "/usr/bin:/bin"',
    `  external-check command ${check}`,
    // who has just come to take over is asked often, and goes on at its first good answer: all wait for it
    '  default-server inter 1s fastinter 300ms downinter 300ms fall 2 rise 1 on-marked-down shutdown-sessions',
    ...database.nodes.map((n) => `  server node-${n.n} ${n.address}:${n.port} check`),
    '',
    'listen kadro',
    `  bind ${web.host}:${web.port}`,
    '  mode http',
    '  timeout client 60s',
    // a screen that listens for news does so for hours, and hears something every twenty seconds
    '  timeout server 60s',
    '  timeout tunnel 1h',
    '  timeout http-request 15s',
    '  option forwardfor',
    '  option httpchk GET /api/live',
    '  retry-on conn-failure empty-response',
    '  # what is recorded is sent again by whoever recorded it, under its key',
    '  http-request disable-l7-retry if ! METH_GET ! METH_HEAD',
    '  default-server inter 1s fastinter 300ms fall 2 rise 1',
    ...web.servers.map((port, i) => `  server kadro-${i + 1} 127.0.0.1:${port} check`),
    '',
  ];
  const file = join(folder, 'haproxy.cfg');
  writeFileSync(file, lines.join('\n'), { mode: 0o600 });
  const tried = spawnSync(bin('haproxy'), ['-c', '-f', file], { encoding: 'utf8' });
  if (tried.status !== 0)
    throw new CannotStart(`The proxy cannot start: ${(tried.stderr || String(tried.error)).trim().split('\n')[0].slice(0, 300)}`);
  let stopping = false;
  let child;
  const launch = () => {
    child = spawnLogged(join(folder, 'haproxy.log'), bin('haproxy'), ['-db', '-f', file]);
    const launched = child;
    child.on('exit', () => {
      if (stopping || child !== launched) return;
      onFall();
      setTimeout(() => !stopping && launch(), 500);
    });
  };
  launch();
  await wait(200);
  return {
    pid: () => child.pid,
    kill: () => child.kill('SIGKILL'),
    stop: async () => {
      stopping = true;
      await endChild(child, 5000);
    },
  };
}
