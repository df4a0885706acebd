// Writes one archive of the whole shop (database, photographs, and the key to it) while the shop works.
import { spawnSync } from 'node:child_process';
import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, existsSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync, chmodSync } from 'node:fs';
import { basename, join, resolve } from 'node:path';
import { ensureDebian, ensureModules, root } from './lib/ensure.mjs';
import { CannotStart, roomLeft, runningDatabase, startMariadb } from './lib/mariadb.mjs';
import { picturesElsewhere, takePictures } from './lib/pictures.mjs';

function give(up) {
  console.error(up);
  process.exit(1);
}
ensureDebian(['mariadbd', 'mariadb-backup']);
ensureModules();
const folder = process.env.KADRO_HOME ?? join(root, '.kadro');
const clustered = existsSync(join(folder, 'cluster.json'));
if (!clustered && !existsSync(join(folder, 'mariadb/mysql'))) give(`There is no shop in ${folder} to back up.`);
if (clustered && !runningDatabase(folder)) give(`The cluster in ${folder} does not run: start it, then back it up.`);
const stamp = new Date().toISOString().slice(0, 19).replace(/[:T]/g, '-');
const target = resolve(process.argv[2] ?? `kadro-backup-${stamp}.tar.gz`);
if (existsSync(target)) give(`${target} is there already: name another file.`);

/** Tells the record that there is an archive, for its owner to see; an older shop has nowhere to write it. */
async function note(bytes) {
  const { createConnection } = await import('mysql2/promise');
  let c;
  try {
    c = await createConnection({ uri: db.url, timezone: 'Z' });
    const row = [randomUUID(), new Date(), bytes, basename(target).slice(0, 200)];
    await c.query('INSERT INTO backups (id, at, bytes, file_name) VALUES (?, ?, ?, ?)', row);
  } catch {
    // the archive is written all the same
  } finally {
    c?.destroy();
  }
}

let own = null;
if (!runningDatabase(folder))
  try {
    own = await startMariadb(folder);
  } catch (e) {
    if (!(e instanceof CannotStart)) throw e;
    give(e.message);
  }
const db = runningDatabase(folder);
const work = mkdtempSync(join(folder, 'backup-'));
let failed = null;
try {
  const copy = join(work, 'mariadb');
  const size = Number(spawnSync('du', ['-sb', db.data], { encoding: 'utf8' }).stdout.split('\t')[0]);
  if (roomLeft(folder) < size * 1.2)
    throw new CannotStart(`A copy takes about ${Math.ceil(size / 1024 ** 2)} MB beside ${folder}: make room.`);
  const as = ['--no-defaults', `--target-dir=${copy}`];
  const run = (args) => {
    const r = spawnSync('mariadb-backup', args, { encoding: 'utf8', maxBuffer: 1 << 28, env: { ...process.env, MYSQL_PWD: db.password } });
    if (r.status !== 0)
      throw new CannotStart(`The database could not be copied: ${(r.stderr ?? String(r.error)).trim().split('\n').at(-1)}`);
  };
  run([...as, '--backup', `--datadir=${db.data}`, `--socket=${db.socket}`, '--user=root', `--password=${db.password}`]);
  run([...as, '--prepare']);
  writeFileSync(
    join(work, 'manifest.json'),
    JSON.stringify(
      {
        kadro: 'backup',
        format: 1,
        at: new Date().toISOString(),
        version: JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')).version,
      },
      null,
      2,
    ),
  );
  writeFileSync(join(work, 'database.json'), readFileSync(join(folder, 'database.json')), { mode: 0o600 });
  // a picture is there before the database says so, and never changes: taken after the database, all that it names are there
  const parts = ['manifest.json', 'database.json', 'mariadb', ...(takePictures(folder, join(work, 'pictures')) ? ['pictures'] : [])];
  const part = `${target}.part`;
  const tar = spawnSync('tar', ['-C', work, '-czf', part, ...parts], { encoding: 'utf8' });
  if (tar.status !== 0) {
    rmSync(part, { force: true });
    throw new CannotStart(`The archive could not be written: ${tar.stderr.trim().split('\n').at(-1)}`);
  }
  // it holds the key to the database
  chmodSync(part, 0o600);
  spawnSync('mv', [part, target]);
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(target)) hash.update(chunk);
  await note(statSync(target).size);
  console.log(`${target}: ${(statSync(target).size / 1024 ** 2).toFixed(1)} MB, SHA-256 ${hash.digest('hex')}`);
  console.log(picturesElsewhere(folder) ?? 'It holds everything.');
  console.log('The key to the database is in it: keep it where nobody else reads it.');
} catch (e) {
  failed = e;
} finally {
  rmSync(work, { recursive: true, force: true });
  await own?.stop();
}
if (failed) {
  if (!(failed instanceof CannotStart)) throw failed;
  give(failed.message);
}
