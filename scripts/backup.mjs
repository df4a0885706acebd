// Writes one archive of everything, or of one shop, while the shops work: database, photographs, and what opens them.
import { spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { basename, join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { writeArchive } from './lib/archive.mjs';
import { ensureDebian, ensureModules, root } from './lib/ensure.mjs';
import { CannotStart, roomLeft, runningDatabase, startMariadb } from './lib/mariadb.mjs';
import { dumpShop } from './lib/one-shop.mjs';
import { picturesElsewhere, takePictures, takeThese } from './lib/pictures.mjs';

function give(up) {
  console.error(up);
  process.exit(1);
}
let asked;
try {
  asked = parseArgs({ allowPositionals: true, options: { shop: { type: 'string' } } });
} catch (e) {
  give(`${e.message.split('.')[0]}: npm run backup -- FILE.tar.gz, or npm run backup -- FILE.tar.gz --shop ID`);
}
const only = asked.values.shop ?? null;
ensureDebian(['mariadbd', 'mariadb-backup']);
ensureModules();
const folder = process.env.KADRO_HOME ?? join(root, '.kadro');
const clustered = existsSync(join(folder, 'cluster.json'));
if (!clustered && !existsSync(join(folder, 'mariadb/mysql'))) give(`There is no shop in ${folder} to back up.`);
if (clustered && !runningDatabase(folder)) give(`The cluster in ${folder} does not run: start it, then back it up.`);
const stamp = new Date().toISOString().slice(0, 19).replace(/[:T]/g, '-');
const target = resolve(asked.positionals[0] ?? `kadro-${only ?? 'backup'}-${stamp}.tar.gz`);
if (existsSync(target)) give(`${target} is there already: name another file.`);

/** Tells the record that there is an archive, for its owner to see; an older shop has nowhere to write it. */
async function note(bytes) {
  const { createConnection } = await import('mysql2/promise');
  let c;
  try {
    c = await createConnection({ uri: db.url, timezone: 'Z' });
    const row = [randomUUID(), new Date(), bytes, basename(target).slice(0, 200)];
    const [shops] = await c.query('SELECT id, schema_name FROM kadro_directory.shops');
    for (const s of shops)
      if (!only || s.id === only)
        await c.query(`INSERT INTO \`${s.schema_name}\`.backups (id, at, bytes, file_name) VALUES (?, ?, ?, ?)`, row);
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

/** The whole database server as it is. */
function everything() {
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
  writeFileSync(join(work, 'database.json'), readFileSync(join(folder, 'database.json')), { mode: 0o600 });
  // a picture is there before the database says so, and never changes: taken after the database, all that it names are there
  const pictures = takePictures(folder, join(work, 'pictures'));
  return { what: { kadro: 'backup' }, parts: ['database.json', 'mariadb', ...(pictures ? ['pictures'] : [])] };
}

async function oneShop() {
  const { id, name, photos } = await dumpShop(db, only, work);
  const pictures = takeThese(folder, id, photos, join(work, 'pictures'));
  return { what: { kadro: 'shop', id, name }, parts: ['shop.sql', 'people.json', ...(pictures ? ['pictures'] : [])] };
}

let failed = null;
try {
  const { what, parts } = only ? await oneShop() : everything();
  const { bytes, hash } = await writeArchive(target, work, what, parts);
  await note(bytes);
  console.log(`${target}: ${(bytes / 1024 ** 2).toFixed(1)} MB, SHA-256 ${hash}`);
  console.log(picturesElsewhere(folder) ?? (only ? `It holds all of ${what.name}.` : 'It holds everything.'));
  if (!only && db.log && existsSync(db.log)) console.log(`What happens from now on is written down in ${db.log}: restore with --log.`);
  console.log(
    only
      ? 'What opens the accounts of its people is in it: keep it where nobody else reads it.'
      : 'The key to the database is in it: keep it where nobody else reads it.',
  );
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
