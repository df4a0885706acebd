// The database's binary log: what happened since a backup, to be done again up to a moment.
import { spawnSync } from 'node:child_process';
import { closeSync, existsSync, openSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { CannotStart } from './mariadb.mjs';

/**
 * Where a copy of the database stands in a log.
 * @throws CannotStart where the log does not go on from there
 */
export function logPlace(copy, folder) {
  const info = ['mariadb_backup_binlog_info', 'xtrabackup_binlog_info'].map((n) => join(copy, n)).find((f) => existsSync(f));
  const [name, position] = info ? readFileSync(info, 'utf8').trim().split(/\s+/) : [];
  if (!name) throw new CannotStart('This backup was taken of a database that wrote no log: it cannot be gone on from.');
  const all = readdirSync(folder)
    .filter((f) => /\.\d{6}$/.test(f))
    .sort();
  const files = all.filter((f) => f.slice(-6) >= name.slice(-6));
  if (files[0]?.slice(-6) !== name.slice(-6))
    throw new CannotStart(
      `The log in ${folder} does not go on from this backup, which stands in ${name}: there are ${all.join(', ') || 'none'}.`,
    );
  files.forEach((f, i) => {
    if (Number(f.slice(-6)) !== Number(files[0].slice(-6)) + i) throw new CannotStart(`A file of the log is missing before ${f}.`);
  });
  return { files: files.map((f) => join(folder, f)), position: Number(position) };
}

/** What a command said last. */
const lastLine = (r) =>
  String(r.stderr || r.error)
    .trim()
    .split('\n')
    .at(-1);

/**
 * Does again what a log holds from a place on.
 * @param work a folder for what is read of it: a log may be larger than the memory
 * @param until the moment that it ends before; null: all of it
 * @returns how much was done again, in words
 */
export function replay({ files, position }, work, { socket, password }, until) {
  const stop = until ? [`--stop-datetime=${until.toISOString().slice(0, 19).replace('T', ' ')}`] : [];
  const env = { ...process.env, MYSQL_PWD: password, TZ: 'UTC' };
  const sql = join(work, 'log.sql');
  const out = openSync(sql, 'w', 0o600);
  const read = spawnSync('mariadb-binlog', ['--no-defaults', `--start-position=${position}`, ...stop, ...files], {
    stdio: ['ignore', out, 'pipe'],
    env,
  });
  closeSync(out);
  const { size } = statSync(sql);
  // a file that was being written when the machine fell ends in the middle of something: what is whole before it is done
  if (read.status !== 0 && !size) throw new CannotStart(`The log could not be read: ${lastLine(read)}`);
  const back = openSync(sql, 'r');
  const done = spawnSync('mariadb', ['--no-defaults', `--socket=${socket}`, '--user=root'], { stdio: [back, 'ignore', 'pipe'], env });
  closeSync(back);
  rmSync(sql);
  if (done.status !== 0) throw new CannotStart(`The log could not be done again: ${lastLine(done)}`);
  return `${(size / 1024).toFixed(0)} kB`;
}
