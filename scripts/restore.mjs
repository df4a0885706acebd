// Brings everything back from a backup onto a machine, or into a folder, that has nothing, to a moment where it is asked for; or one
// shop, by itself, beside those that are there. Checks every hash of what it brought.
import { spawnSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { readArchive } from './lib/archive.mjs';
import { logPlace, replay } from './lib/binlog.mjs';
import { ensureDebian, ensureModules, root } from './lib/ensure.mjs';
import { build } from './build.mjs';
import { CannotStart, runningDatabase, startMariadb } from './lib/mariadb.mjs';
import { dumpShop, loadDump } from './lib/one-shop.mjs';
import { folderFor, picturesBelow, picturesOf, takeThese } from './lib/pictures.mjs';

const USAGE = `npm run restore -- FILE.tar.gz                         everything, onto a machine that has no shop
npm run restore -- FILE.tar.gz --log FOLDER [--to "2026-05-01 12:00"]   and on from there by the binary log, in UTC
npm run restore -- FILE.tar.gz --shop ID [--as NEW-ID]   one shop of it, beside those that are here`;
function give(up) {
  console.error(up);
  process.exit(1);
}
let asked;
try {
  const string = { type: 'string' };
  asked = parseArgs({ allowPositionals: true, options: { to: string, log: string, shop: string, as: string } });
} catch (e) {
  give(`${e.message.split('.')[0]}.\n${USAGE}`);
}
const { to, log, shop, as } = asked.values;
const file = asked.positionals[0] && resolve(asked.positionals[0]);
if (!file) give(`Say which archive.\n${USAGE}`);
if (!existsSync(file)) give(`${file} is not there.`);
if (to && !log) give('“--to” goes on by the binary log: say where it is with --log FOLDER.');
const until = to ? new Date(/[zZ]|[+-]\d\d:?\d\d$/.test(to) ? to : `${to.replace(' ', 'T')}Z`) : null;
if (until && Number.isNaN(until.getTime())) give(`“${to}” is no moment: write it as 2026-05-01 12:00, in UTC.`);
if (log && !existsSync(log)) give(`${log} is not there.`);
if ((log || to) && (shop || as)) give('The binary log is of everything: restore all of it elsewhere, then take one shop out of that.');
if (as && !/^[a-z][a-z0-9]{1,19}$/.test(as)) give(`“${as}”: use 2 to 20 lower-case letters or digits, beginning with a letter.`);
const folder = process.env.KADRO_HOME ?? join(root, '.kadro');
const there = existsSync(join(folder, 'mariadb')) || existsSync(join(folder, 'cluster.json'));
mkdirSync(folder, { recursive: true });
ensureDebian(['mariadbd', 'mariadb-backup']);
ensureModules();

const work = mkdtempSync(join(folder, 'restore-'));
const drop = () => rmSync(work, { recursive: true, force: true });
/** Databases that were started for this, ended with it. */
const started = [];
const start = async (at, options) => {
  const d = await startMariadb(at, options);
  started.push(d);
  return d;
};
let code = 1;
try {
  const manifest = readArchive(file, work);
  code = manifest.kadro === 'shop' || shop ? await oneShop(manifest) : await everything(manifest);
} catch (e) {
  if (!(e instanceof CannotStart)) throw e;
  console.error(e.message);
} finally {
  for (const d of started.reverse()) await d.stop();
  drop();
}
process.exit(code);

/** Runs a command of the server's over a database. */
function server(url, args, stdio = 'inherit') {
  const env = { ...process.env, KADRO_DATABASE_URL: url, KADRO_PICTURES: picturesOf(folder) };
  return spawnSync(process.execPath, [join(root, 'dist/server.mjs'), ...args], { env, stdio }).status ?? 1;
}

async function everything(manifest) {
  if (there || existsSync(folderFor(folder)))
    throw new CannotStart(`There is a shop in ${folder} already: nothing was touched. Restore into an empty folder, named by KADRO_HOME.`);
  let told = null;
  if (log) {
    const place = logPlace(join(work, 'mariadb'), log);
    const { password } = JSON.parse(readFileSync(join(work, 'database.json'), 'utf8'));
    const copy = await start(work, { fast: true });
    told = replay(place, work, { socket: copy.socket, password }, until);
    await copy.stop();
  }
  if (existsSync(join(work, 'pictures'))) cpSync(join(work, 'pictures'), folderFor(folder), { recursive: true });
  renameSync(join(work, 'database.json'), join(folder, 'database.json'));
  // last, so that an interrupted restore leaves no shop that looks whole
  renameSync(join(work, 'mariadb'), join(folder, 'mariadb'));
  for (const f of readdirSync(folder).filter((n) => n.startsWith('restore-') && join(folder, n) !== work))
    rmSync(join(folder, f), { recursive: true, force: true });
  await build();
  const database = await start(folder);
  console.log(`Brought back from ${manifest.at} (Kadro ${manifest.version}):`);
  if (told) console.log(`and on from there to ${until ? until.toISOString() : 'the end of the log'}, by ${told} of it`);
  const status = server(database.url, ['check-record']);
  if (status === 0) console.log('npm start serves it.');
  return status;
}

async function oneShop(manifest) {
  if (!there) throw new CannotStart(`There is no Kadro in ${folder} to bring a shop into: npm start makes one, or restore everything.`);
  const whole = manifest.kadro === 'backup';
  if (!whole && shop && shop !== manifest.id) throw new CannotStart(`${file} holds the shop “${manifest.id}”, not “${shop}”.`);
  const id = as ?? shop ?? manifest.id;
  if (id === 'directory') throw new CannotStart('A shop cannot be called “directory”: name another with --as.');
  await build();
  const db = runningDatabase(folder) ?? (await start(folder).then(() => runningDatabase(folder)));
  // the directory of an older shop is made by the first command over it
  if (server(db.url, ['shops'], 'ignore') !== 0) return server(db.url, ['shops']);
  let from = { name: manifest.name, id: manifest.id };
  if (whole) {
    const { password } = JSON.parse(readFileSync(join(work, 'database.json'), 'utf8'));
    const archived = await start(work, { fast: true });
    from = await dumpShop({ socket: archived.socket, password }, shop, work);
    const taken = join(work, 'taken');
    takeThese(work, shop, from.photos, taken, join(work, 'pictures'));

    rmSync(join(work, 'pictures'), { recursive: true, force: true });
    if (existsSync(taken)) renameSync(taken, join(work, 'pictures'));
  }
  await loadDump(db, id, work);
  if (existsSync(join(work, 'pictures'))) {
    if (!picturesOf(folder).startsWith('/'))
      throw new CannotStart(`Its pictures cannot be put into ${picturesOf(folder)} from here: restore where pictures lie in a folder.`);
    cpSync(join(work, 'pictures'), join(picturesOf(folder), picturesBelow(id)), { recursive: true });
  }
  const status = server(db.url, ['shops', 'take', id, from.name, join(work, 'people.json')]);
  if (status === 0) console.log(`It is at /at/${id}, as it was at ${manifest.at}.`);
  return status;
}
