// Brings a shop back from a backup onto a machine, or into a folder, that has none, and checks every hash of it.
import { spawnSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { ensureDebian, ensureModules, root } from './lib/ensure.mjs';
import { build } from './build.mjs';
import { CannotStart, startMariadb } from './lib/mariadb.mjs';
import { folderFor, picturesOf } from './lib/pictures.mjs';

function give(up) {
  console.error(up);
  process.exit(1);
}
const file = process.argv[2] && resolve(process.argv[2]);
if (!file) give('Say which archive: npm run restore -- kadro-backup-….tar.gz');
if (!existsSync(file)) give(`${file} is not there.`);
const folder = process.env.KADRO_HOME ?? join(root, '.kadro');
if (existsSync(join(folder, 'mariadb')) || existsSync(folderFor(folder)) || existsSync(join(folder, 'cluster.json')))
  give(`There is a shop in ${folder} already: nothing was touched. Restore into an empty folder, named by KADRO_HOME.`);
mkdirSync(folder, { recursive: true });
ensureDebian(['mariadbd']);
ensureModules();

const work = mkdtempSync(join(folder, 'restore-'));
const drop = () => rmSync(work, { recursive: true, force: true });
const listed = spawnSync('tar', ['-tzf', file], { encoding: 'utf8', maxBuffer: 1 << 28 });
const names = listed.stdout?.split('\n').filter(Boolean) ?? [];
if (listed.status !== 0 || !names.includes('manifest.json')) {
  drop();
  give(`${file} is not a backup of Kadro, or it is damaged.`);
}
// nothing of an archive climbs out of its folder
if (names.some((n) => n.startsWith('/') || n.split('/').includes('..'))) {
  drop();
  give(`${file} holds names that lead out of its folder: it is not a backup of Kadro.`);
}
const tar = spawnSync('tar', ['-C', work, '-xzf', file, '--no-same-owner'], { encoding: 'utf8' });
let manifest = null;
try {
  manifest = JSON.parse(readFileSync(join(work, 'manifest.json'), 'utf8'));
} catch {
  manifest = null;
}
if (tar.status !== 0 || manifest?.kadro !== 'backup' || !existsSync(join(work, 'mariadb/mysql'))) {
  drop();
  give(`${file} is damaged: ${tar.stderr?.trim().split('\n').at(-1) || 'something of it is missing'}.`);
}
if (manifest.format > 1) {
  drop();
  give(`${file} was written by a newer version of Kadro (${manifest.version}): restore it with that one.`);
}
if (existsSync(join(work, 'pictures'))) cpSync(join(work, 'pictures'), folderFor(folder), { recursive: true });
renameSync(join(work, 'database.json'), join(folder, 'database.json'));
// last, so that an interrupted restore leaves no shop that looks whole
renameSync(join(work, 'mariadb'), join(folder, 'mariadb'));
drop();
for (const f of readdirSync(folder).filter((n) => n.startsWith('restore-'))) rmSync(join(folder, f), { recursive: true, force: true });

await build();
let database;
try {
  database = await startMariadb(folder);
} catch (e) {
  if (!(e instanceof CannotStart)) throw e;
  give(e.message);
}
console.log(`Brought back from ${manifest.at} (Kadro ${manifest.version}):`);
const r = spawnSync(process.execPath, [join(root, 'dist/server.mjs'), 'check-record'], {
  env: { ...process.env, KADRO_DATABASE_URL: database.url, KADRO_PICTURES: picturesOf(folder) },
  stdio: 'inherit',
});
await database.stop();
if (r.status === 0) console.log('npm start serves it.');
process.exit(r.status ?? 1);
