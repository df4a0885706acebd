// Several MariaDB nodes that hold the same record (Galera), on loopback addresses of their own: each is started again when it falls.
import { randomInt } from 'node:crypto';
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { configure, endCopying, graOf, lastError, PORT, recovered } from './cluster-node.mjs';
import { endChild, runs as childRuns } from './end-child.mjs';
import { spawnLogged } from './logged.mjs';
import { alive, begin, bin, CannotStart, freePort, grant, install, LEAST_ROOM, roomLeft, RUN_FILE, wait } from './mariadb.mjs';

/** How long a node may take to be one of the cluster, ms, besides what it copies: one that begins with an empty disk copies all of it first. */
const JOIN_MS = 180_000;
/** So much of a record is copied at least, on a slow disk that others use too, bytes in a ms. */
const COPIES = 20_000;
const ASK_MS = 2000;
const ANSWER_MS = 4000;
/** So many questions in a row without an answer, and a node is started anew. */
const SILENT = 5;
/** So many looks in a row at which no living node has the quorum, and the one that has most is told to go on. */
const NO_QUORUM = 5;
/** The others agree on who is left within this, or will not, ms. */
const AGREE_MS = 15_000;
/** So many looks in a row at which a node is none of the others', though they have their quorum. */
const APART = 20;
/** How often it is looked whether every node has room, ms. */
const ROOM_MS = 500;
/** A node that says nothing while it joins, and writes nothing for so long, will not come to an end, ms. */
const STALLED_MS = 60_000;
/** A node that ends so often before it is one of the cluster will not become one. */
const MOST_FALLS = 8;

/** What the files of a folder come to, bytes; what goes meanwhile counts nothing. */
function bytesIn(folder) {
  try {
    return readdirSync(folder, { withFileTypes: true }).reduce((sum, f) => {
      const path = join(folder, f.name);
      return sum + (f.isDirectory() ? bytesIn(path) : (statSync(path, { throwIfNoEntry: false })?.size ?? 0));
    }, 0);
  } catch {
    return 0;
  }
}

/** From where the nodes of a cluster on this machine are asked. */
const NODES = '127.%';

/** Lets a node copy all of the record from another one, and the proxy ask how a node does: whether it is of the cluster, and has room. */
async function addOthers(c, password) {
  await c.query(`CREATE USER IF NOT EXISTS 'probe'@'${NODES}' IDENTIFIED BY '${password}'`);
  await c.query(`ALTER USER 'probe'@'${NODES}' IDENTIFIED BY '${password}'`);
  await c.query(`GRANT FILE ON *.* TO 'probe'@'${NODES}'`);
  await c.query(`CREATE USER IF NOT EXISTS 'sst'@'localhost' IDENTIFIED BY '${password}'`);
  await c.query(`ALTER USER 'sst'@'localhost' IDENTIFIED BY '${password}'`);
  await c.query("GRANT RELOAD, PROCESS, LOCK TABLES, BINLOG MONITOR, REPLICATION CLIENT ON *.* TO 'sst'@'localhost'");
}

/**
 * Starts a cluster over a folder, made when missing: `node-1` to `node-N` in it. Answers once all nodes hold the same record.
 * @param stalledMs after so long without a byte written a node that joins is started anew
 * @param onFall is told which node fell, and is started again
 */
export async function startCluster(
  folder,
  { nodes: count = 3, fast = false, restartMs = 700, stalledMs = STALLED_MS, onFall = () => {} } = {},
) {
  mkdirSync(folder, { recursive: true });
  const planFile = join(folder, 'cluster.json');
  if (!existsSync(planFile))
    // a range of loopback of its own: clusters on one machine do not meet
    writeFileSync(planFile, JSON.stringify({ nodes: count, range: `127.${randomInt(1, 250)}.${randomInt(1, 250)}` }));
  const plan = JSON.parse(readFileSync(planFile, 'utf8'));
  if (plan.nodes !== count)
    throw new CannotStart(`The cluster in ${folder} has ${plan.nodes} nodes: start it with --cluster ${plan.nodes}, or in another folder.`);
  const secretFile = join(folder, 'database.json');
  const addresses = Array.from({ length: count }, (_, i) => `${plan.range}.${i + 1}`);
  const { createConnection } = await import('mysql2/promise');
  let stopping = false;
  /** How long a node may take to be one of the cluster with all that the largest of them holds, ms. */
  const joinMs = () => JOIN_MS + Math.max(0, ...nodes.map((n) => bytesIn(n.data))) / COPIES;

  const copyPorts = [];
  while (copyPorts.length < count) copyPorts.push(await freePort());
  const nodes = addresses.map((address, i) => {
    const home = join(folder, `node-${i + 1}`);
    mkdirSync(join(home, 'tmp'), { recursive: true });
    return {
      n: i + 1,
      address,
      copyPort: copyPorts[i],
      home,
      data: join(home, 'mariadb'),
      log: process.env.KADRO_BINLOG ? join(process.env.KADRO_BINLOG, `node-${i + 1}`) : join(home, 'binlog'),
      socket: join(tmpdir(), `kadro-${plan.range.slice(4).replace('.', '-')}-${i + 1}.sock`),
      child: null,
      /** while it is looked how far its own log goes */
      launching: null,
      /** since it was last one of the cluster */
      falls: 0,
      joining: false,
      /** until when it may be about that */
      joinedBy: 0,
      /** what it had written when it was last looked at, bytes, and since when that is so */
      written: 0,
      writtenAt: 0,
      apart: 0,
      silent: 0,
      /** somebody wants it down: it is not started again by itself */
      held: false,
      /** its disk is full: it is held down until there is room */
      aside: false,
      /** what its process is told besides, such as another clock */
      env: {},
    };
  });
  const secret = () => JSON.parse(readFileSync(secretFile, 'utf8')).password;

  const configFile = (node) => configure(node, { addresses, password: existsSync(secretFile) ? secret() : null, fast });

  const launch = (node, alone) => (node.launching ??= start(node, alone).finally(() => (node.launching = null)));
  const start = async (node, alone = false) => {
    // an earlier start of all this may have left it
    endCopying(node);
    const args = [`--defaults-file=${configFile(node)}`];
    const gra = graOf(node.data);
    if (gra && gra.seqno < 0 && existsSync(join(node.data, 'mysql'))) {
      const at = await recovered(node, configFile(node));
      if (stopping || node.held || runs(node)) return;
      if (at && at.seqno >= 0) args.push(`--wsrep-start-position=${at.uuid}:${at.seqno}`);
    }
    if (alone) args.push('--wsrep-new-cluster');
    mkdirSync(node.data, { recursive: true });
    const child = spawnLogged(join(node.home, 'mariadb.log'), bin('mariadbd'), args, {
      detached: true,
      env: { ...process.env, ...node.env },
    });
    try {
      writeFileSync(
        join(node.home, RUN_FILE),
        JSON.stringify({ pid: child.pid, host: node.address, port: PORT, socket: node.socket, data: node.data, log: node.log }),
      );
    } catch {
      // a full disk: other commands do not find it until there is room
    }
    node.child = child;
    node.joining = true;
    node.joinedBy = Date.now() + joinMs();
    node.writtenAt = Date.now();
    node.silent = 0;
    child.on('exit', () => {
      endCopying(node);
      if (stopping || node.held || node.child !== child) return;
      node.falls++;
      onFall(node.n);
      setTimeout(() => node.child === child && again(node), restartMs);
    });
  };
  /**
   * Starts a node anew that fell. While the others are at work it waits until they have agreed to go on without it, and comes back as
   * somebody new: one that knocks while they are at that, or as whom it was, makes them begin again, and lose their quorum over it.
   */
  const again = async (node) => {
    for (const t = Date.now(); Date.now() - t < AGREE_MS && !stopping && !node.held; await wait(300)) {
      const others = (await Promise.all(nodes.map((n) => (n === node ? null : stateOf(n))))).filter(Boolean);
      // all are down, and as whom they were they find one another
      if (!others.length) break;
      if (others.every((s) => s.primary && s.size <= others.length)) {
        rmSync(join(node.data, 'gvwstate.dat'), { force: true });
        break;
      }
    }
    if (stopping || node.held || runs(node)) return;
    // a full disk takes not even what it is started with: once more, until there is room
    await launch(node).catch(() => setTimeout(() => runs(node) || void again(node), ROOM_MS));
  };
  const runs = (node) => childRuns(node.child);
  const end = (node) => endChild(node.child, 20_000);

  const ask = async (node, sql) => {
    const c = await createConnection({
      host: node.address,
      port: PORT,
      user: 'kadro',
      password: secret(),
      connectTimeout: ANSWER_MS,
    });
    try {
      return (await c.query({ sql, timeout: ANSWER_MS }))[0];
    } finally {
      c.destroy();
    }
  };
  /** How a node stands, by its own words; null when it does not answer. */
  const stateOf = async (node) => {
    const rows = await ask(
      node,
      "SHOW GLOBAL STATUS WHERE Variable_name IN ('wsrep_ready', 'wsrep_cluster_status', 'wsrep_cluster_size', 'wsrep_last_committed', 'wsrep_local_state_comment')",
    ).catch(() => null);
    if (!rows) return null;
    const of = Object.fromEntries(rows.map((r) => [r.Variable_name, r.Value]));
    return {
      ready: of.wsrep_ready === 'ON',
      primary: of.wsrep_cluster_status === 'Primary',
      size: Number(of.wsrep_cluster_size),
      at: Number(of.wsrep_last_committed),
      says: of.wsrep_local_state_comment,
    };
  };
  const until = async (what, test, ms = joinMs()) => {
    for (const t = Date.now(); Date.now() - t < ms; await wait(200)) {
      if (await test()) return;
      const bad = nodes.find((n) => n.falls > MOST_FALLS);
      if (bad) throw new CannotStart(`Node ${bad.n} ends as soon as it starts: ${lastError(bad)}`);
      if (roomLeft(folder) < LEAST_ROOM)
        throw new CannotStart(`There is no room on the disk that holds ${folder}: make some, then start again.`);
    }
    throw new CannotStart(`${what}: see mariadb.log in ${folder}.`);
  };
  const joined = (node) =>
    until(`Node ${node.n} did not join the cluster`, async () => {
      const s = await stateOf(node);
      if (!s?.ready || s.says !== 'Synced') return false;
      node.falls = 0;
      return true;
    });

  const asRootOf = async (node, sql) => {
    const c = await createConnection({ socketPath: node.socket, user: 'root', password: secret(), connectTimeout: ANSWER_MS });
    try {
      if (typeof sql === 'function') return await sql(c);
      return (await c.query({ sql, timeout: ANSWER_MS }))[0];
    } finally {
      c.destroy();
    }
  };

  /** A node that joins and says nothing copies, or puts in order what it has: it may, as long as it writes and in the end comes to one. */
  const goesOn = (node) => {
    const written = bytesIn(node.home);
    if (written !== node.written) Object.assign(node, { written, writtenAt: Date.now() });
    return Date.now() < node.joinedBy && Date.now() - node.writtenAt < stalledMs;
  };

  let without = 0;
  const watch = async () => {
    for (;;) {
      await wait(ASK_MS);
      if (stopping) return;
      const states = await Promise.all(nodes.map(stateOf));
      nodes.forEach((node, i) => {
        if (states[i]) node.joining = false;
        // one that lets people in but came to nothing with the others begins again
        node.apart = states[i] && !states[i].ready && states.some((s) => s?.primary) ? node.apart + 1 : 0;
        if (node.apart > APART) node.child.kill('SIGKILL');
        if (states[i] || !runs(node) || node.held) node.silent = 0;
        // one that copies all of the record says nothing meanwhile
        else if (++node.silent > SILENT && !(node.joining && goesOn(node))) node.child.kill('SIGKILL');
      });
      // all nodes are this machine's: one that is not seen is dead, and not at work elsewhere
      without = states.some((s) => s?.primary) ? 0 : without + 1;
      if (without > NO_QUORUM) {
        without = 0;
        const far = nodes.map((node, i) => ({ node, at: states[i]?.at ?? -1 })).sort((a, b) => b.at - a.at)[0];
        if (far.at >= 0) await asRootOf(far.node, "SET GLOBAL wsrep_provider_options = 'pc.bootstrap=YES'").catch(() => undefined);
      }
    }
  };

  const [first] = nodes;
  try {
    // a shop that stood on one database, or was restored: what it holds becomes the first node's
    const lone = join(folder, 'mariadb');
    if (existsSync(join(lone, 'mysql')) && !existsSync(first.data)) renameSync(lone, first.data);
    if (!existsSync(secretFile)) {
      // one node is made whole, and the others are copies of it
      install(first.home, first.data, join(first.home, 'tmp'));
      await launch(first, true);
      await until('The first node did not start', () =>
        begin(first.socket, NODES, secretFile, addOthers).then(
          () => true,
          () => false,
        ),
      );
      first.held = true;
      await end(first);
      first.held = false;
      for (const node of nodes.slice(1)) {
        rmSync(node.data, { recursive: true, force: true });
        cpSync(first.data, node.data, { recursive: true });
      }
    }
    // who left last knows most; after a stop that was none, whose own log goes farthest
    const has = nodes.filter((n) => existsSync(join(n.data, 'mysql')));
    let last = has.find((n) => graOf(n.data)?.safe);
    if (!last) {
      const far = await Promise.all(has.map(async (n) => ({ n, seqno: (await recovered(n, configFile(n)))?.seqno ?? -1 })));
      far.sort((a, b) => b.seqno - a.seqno);
      last = far[0]?.n;
      if (!last) throw new CannotStart(`No node in ${folder} holds a record: restore a backup into another folder.`);
      const file = join(last.data, 'grastate.dat');
      if (existsSync(file)) writeFileSync(file, readFileSync(file, 'utf8').replace(/safe_to_bootstrap:\s*\d/, 'safe_to_bootstrap: 1'));
    }
    await launch(last, true);
    // one that was alone before lets in neither a copier nor who asks at another address
    await until('The first node did not start', () =>
      asRootOf(last, async (c) => {
        await addOthers(c, secret());
        await c.query(`CREATE USER IF NOT EXISTS 'kadro'@'${NODES}' IDENTIFIED BY '${secret()}'`);
        await grant(c, NODES);
        return true;
      }).catch(() => false),
    );
    await joined(last);
    void watch();
    // one after another: a node gives to one at a time
    for (const node of nodes) {
      if (node === last) continue;
      await launch(node);
      await joined(node);
    }
  } catch (e) {
    stopping = true;
    await Promise.allSettled(nodes.map((n) => n.launching));
    await Promise.all(nodes.map(end));
    throw e;
  }

  /**
   * A node whose disk is full waits for room in the middle of what it writes, and the others wait for it. While another one has room it
   * is ended at once, and begins again once it has room too.
   */
  const standAside = async () => {
    for (; !stopping; await wait(ROOM_MS)) {
      const room = nodes.map((node) => Math.min(roomLeft(node.home), existsSync(node.log) ? roomLeft(node.log) : Infinity));
      nodes.forEach((node, i) => {
        if (node.aside && room[i] >= LEAST_ROOM) {
          node.aside = false;
          node.held = false;
          void again(node);
        } else if (!node.held && runs(node) && room[i] < LEAST_ROOM && room.some((r) => r >= LEAST_ROOM)) {
          node.aside = true;
          node.held = true;
          node.child.kill('SIGKILL');
        }
      });
    }
  };
  void standAside();

  return {
    password: secret(),
    nodes: nodes.map((node) => ({
      n: node.n,
      address: node.address,
      port: PORT,
      data: node.data,
      socket: node.socket,
      url: `mysql://kadro:${secret()}@${node.address}:${PORT}/kadro`,
      pid: () => node.child?.pid,
      state: () => stateOf(node),
      joined: () => joined(node),
      kill: () => node.child.kill('SIGKILL'),
      freeze: () => node.child.kill('SIGSTOP'),
      thaw: () => node.child.kill('SIGCONT'),
      /** stands alone, as with its network cable pulled */
      cutOff: () => asRootOf(node, "SET GLOBAL wsrep_provider_options = 'gmcast.isolate=1'"),
      backAgain: () => asRootOf(node, "SET GLOBAL wsrep_provider_options = 'gmcast.isolate=0'"),
      /** ends it in order, and leaves it down until `begin` */
      end: async () => {
        node.held = true;
        await end(node);
      },
      begin: (env = {}) => {
        node.held = false;
        node.env = env;
        return again(node);
      },
      home: node.home,
      /** takes its disk away: it begins again with nothing */
      lose: async () => {
        node.held = true;
        node.child.kill('SIGKILL');
        while (runs(node)) await wait(50);
        await node.launching;
        rmSync(node.data, { recursive: true, force: true });
        node.held = false;
        await again(node);
      },
    })),
    stop: async () => {
      stopping = true;
      await Promise.allSettled(nodes.map((n) => n.launching));
      // one after another: the last one is where the next start begins
      for (const node of [...nodes].reverse()) await end(node);
    },
  };
}

/** Ends nodes that an earlier start left running over the same folder. */
export async function endNodes(folder) {
  if (!existsSync(join(folder, 'cluster.json'))) return;
  const { nodes } = JSON.parse(readFileSync(join(folder, 'cluster.json'), 'utf8'));
  for (let n = 1; n <= nodes; n++) {
    const file = join(folder, `node-${n}`, 'mariadb.pid');
    const pid = existsSync(file) ? Number(readFileSync(file, 'utf8')) : 0;
    if (!pid || !alive(pid) || !readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(folder)) continue;
    process.kill(pid, 'SIGTERM');
    for (let i = 0; i < 60 && alive(pid); i++) await wait(250);
    if (alive(pid)) process.kill(pid, 'SIGKILL');
  }
}
