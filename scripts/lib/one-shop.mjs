// One shop taken out of a database server, and put into another, by itself: its database as SQL, its people, its pictures.
import { spawnSync } from 'node:child_process';
import { openSync, closeSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { CannotStart } from './mariadb.mjs';

const FIRST = 'shop';

const asking = async (db, work) => {
  const { createConnection } = await import('mysql2/promise');
  const c = await createConnection({ socketPath: db.socket, user: 'root', password: db.password, timezone: 'Z', dateStrings: true });
  try {
    return await work(c);
  } finally {
    c.destroy();
  }
};

/**
 * Writes shop.sql and people.json of one shop into a folder.
 * @param db a database that runs: its socket and password
 * @returns what the directory says of it, and the names of its pictures
 */
export async function dumpShop(db, id, work) {
  const at = await asking(db, async (c) => {
    const [[shop]] = await c
      .query('SELECT id, name, schema_name AS `schema` FROM kadro_directory.shops WHERE id = ?', [id])
      .catch(() => [[]]);
    if (!shop) throw new CannotStart(`There is no shop “${id}” there: npm run shops says which there are.`);
    const [members] = await c.query(
      'SELECT account, name, role, version, ended_at, at FROM kadro_directory.members WHERE shop = ? ORDER BY account',
      [id],
    );
    const [accounts] = await c.query(
      'SELECT id, password_hash, at, otp_secret, otp_step, otp_spare, bench_code, passkey_handle FROM kadro_directory.accounts WHERE id IN (SELECT account FROM kadro_directory.members WHERE shop = ?) ORDER BY id',
      [id],
    );
    const [passkeys] = await c.query(
      'SELECT id_hash, account, host, credential, HEX(public_key) AS public_key, counter, transports, name, at, used_at FROM kadro_directory.passkeys WHERE account IN (SELECT account FROM kadro_directory.members WHERE shop = ?) ORDER BY id_hash',
      [id],
    );
    const [rights] = await c.query('SELECT at, by_person, person, says FROM kadro_directory.rights_log WHERE shop = ? ORDER BY id', [id]);
    writeFileSync(join(work, 'people.json'), JSON.stringify({ members, accounts, passkeys, rights }, null, 1), { mode: 0o600 });
    return shop;
  });
  const out = openSync(join(work, 'shop.sql'), 'w', 0o600);
  const dump = spawnSync(
    'mariadb-dump',
    [
      '--no-defaults',
      `--socket=${db.socket}`,
      '--user=root',
      '--single-transaction',
      '--hex-blob',
      '--skip-lock-tables',
      '--skip-dump-date',
      '--no-tablespaces',
      at.schema,
    ],
    { stdio: ['ignore', out, 'pipe'], encoding: 'utf8', env: { ...process.env, MYSQL_PWD: db.password } },
  );
  closeSync(out);
  if (dump.status !== 0)
    throw new CannotStart(`The shop could not be copied: ${(dump.stderr ?? String(dump.error)).trim().split('\n').at(-1)}`);
  const photos = await asking(db, async (c) => (await c.query(`SELECT id FROM \`${at.schema}\`.photos`))[0].map((r) => r.id));
  return { ...at, photos };
}

/** What a shop’s database is called beside the first one. */
export const schemaOf = (id) => (id === FIRST ? 'kadro' : `kadro_${id}`);

/**
 * Makes a shop’s database from shop.sql. Nothing of what is there is written over.
 * @throws CannotStart where there is one of that name
 */
export async function loadDump(db, id, work) {
  const schema = schemaOf(id);
  const had = await asking(db, async (c) => {
    const [[shop]] = await c.query('SELECT id FROM kadro_directory.shops WHERE id = ?', [id]);
    if (shop) return true;
    // left by one that was interrupted: nobody has seen it
    await c.query(`DROP DATABASE IF EXISTS \`${schema}\``);
    await c.query(`CREATE DATABASE \`${schema}\` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
    return false;
  });
  if (had) throw new CannotStart(`There is a shop “${id}” already: nothing was touched. Name another with --as.`);
  const sql = openSync(join(work, 'shop.sql'), 'r');
  const r = spawnSync('mariadb', ['--no-defaults', `--socket=${db.socket}`, '--user=root', schema], {
    stdio: [sql, 'ignore', 'pipe'],
    encoding: 'utf8',
    env: { ...process.env, MYSQL_PWD: db.password },
  });
  closeSync(sql);
  if (r.status !== 0) throw new CannotStart(`The shop could not be brought back: ${r.stderr.trim().split('\n').at(-1)}`);
}
