import { join } from 'node:path';
import { directoryAt, row, rows, run, shopOf, type Directory, type InDirectory, type Shop, type Store } from './db';
import { migrate } from './migrate';

/** The shop that is at the address itself. */
export const FIRST_SHOP = 'shop';

/** A shop as the directory has it. */
export interface ShopRow {
  id: string;
  /** as it calls itself */
  name: string;
  /** its database */
  schema: string;
  group: string | null;
}
const COLUMNS = 'id, name, schema_name AS `schema`, group_id AS `group`';

/** Makes a database where there is none of that name. */
export const createDatabase = (s: Shop | Directory, schema: string) =>
  run(s, `CREATE DATABASE IF NOT EXISTS \`${schema}\` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);

/** Makes the directory where there is none, and brings it up to date. `first`: any shop whose connections reach it. */
export async function prepareDirectory(first: Shop, migrations: string): Promise<void> {
  const { directory } = first;
  await createDatabase(first, directory.schema);
  await migrate(directory, join(migrations, 'directory'));
  await nameShop(directory, { id: first.id, name: '', schema: first.schema });
}

/** Puts a shop into the directory; one that is there stays as it is. @returns whether it was put there */
export async function nameShop(d: InDirectory, s: { id: string; name: string; schema: string }): Promise<boolean> {
  const r = await run(d, `INSERT IGNORE INTO ${directoryAt(d)}.shops (id, name, schema_name, at) VALUES (?, ?, ?, ?)`, [
    s.id,
    s.name,
    s.schema,
    new Date(),
  ]);
  return r.affectedRows === 1;
}

/** All shops, the first one first. */
export const listShops = (d: InDirectory): Promise<ShopRow[]> =>
  rows<ShopRow>(d, `SELECT ${COLUMNS} FROM ${directoryAt(d)}.shops ORDER BY id = '${FIRST_SHOP}' DESC, name, id`);

export const findShop = (d: InDirectory, id: string): Promise<ShopRow | null> =>
  row<ShopRow>(d, `SELECT ${COLUMNS} FROM ${directoryAt(d)}.shops WHERE id = ?`, [id]);

/** The directory knows a shop by the name that the shop gives itself. */
export const renameShop = (s: Store, name: string) =>
  run(s, `UPDATE ${directoryAt(s)}.shops SET name = ? WHERE id = ?`, [name, shopOf(s).id]);

/** The shops where somebody works, with what they are there. */
export const shopsOf = (d: InDirectory, account: string): Promise<(ShopRow & { role: string })[]> =>
  rows(
    d,
    `SELECT s.id, s.name, s.schema_name AS \`schema\`, s.group_id AS \`group\`, m.role FROM ${directoryAt(d)}.members m
     JOIN ${directoryAt(d)}.shops s ON s.id = m.shop WHERE m.account = ? AND m.ended_at IS NULL ORDER BY s.id = '${FIRST_SHOP}' DESC, s.name, s.id`,
    [account],
  );

/** Where the tables of people stood before there was a directory: what they hold is taken into it once. */
export async function adoptPeople(shop: Shop, d: Directory): Promise<void> {
  const had = new Set(
    (await rows<{ t: string }>(shop, 'SELECT table_name t FROM information_schema.tables WHERE table_schema = ?', [shop.schema])).map(
      (r) => r.t,
    ),
  );
  if (!had.has('people')) return;
  const columns = new Set(
    (
      await rows<{ c: string }>(
        shop,
        "SELECT column_name c FROM information_schema.columns WHERE table_schema = ? AND table_name = 'people'",
        [shop.schema],
      )
    ).map((r) => r.c),
  );
  // a shop that was last served by a much older program has fewer columns
  const of = (column: string, otherwise: string) => (columns.has(column) ? column : otherwise);
  await run(
    shop,
    `INSERT IGNORE INTO ${d.at}.accounts (id, password_hash, code_hash, code_until, at)
     SELECT id, password_hash, ${of('code_hash', 'NULL')}, ${of('code_until', 'NULL')}, created_at FROM people`,
  );
  await run(
    shop,
    `INSERT IGNORE INTO ${d.at}.members (shop, account, name, role, version, ended_at, at)
     SELECT ?, id, name, role, ${of('version', '1')}, ${of('ended_at', 'NULL')}, created_at FROM people`,
    [shop.id],
  );
  if (had.has('rights_log') && !(await row(d, `SELECT id FROM ${d.at}.rights_log WHERE shop = ? LIMIT 1`, [shop.id])))
    await run(
      shop,
      `INSERT INTO ${d.at}.rights_log (shop, at, by_person, person, says) SELECT ?, at, by_person, person, says FROM rights_log ORDER BY id`,
      [shop.id],
    );
}

/** Makes a group, or gives it another name; `owner` sees figures of all its shops, beside who did before. */
export async function makeGroup(d: InDirectory, g: { id: string; name: string }, owner: string): Promise<void> {
  const at = directoryAt(d);
  await run(d, `INSERT INTO ${at}.shop_groups (id, name, at) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE name = VALUES(name)`, [
    g.id,
    g.name,
    new Date(),
  ]);
  await run(d, `INSERT IGNORE INTO ${at}.group_owners (group_id, account) VALUES (?, ?)`, [g.id, owner]);
}

/** Puts a shop into a group; false where there is no such group. */
export async function giveGroup(d: InDirectory, shop: string, group: string): Promise<boolean> {
  const at = directoryAt(d);
  if (!(await row(d, `SELECT id FROM ${at}.shop_groups WHERE id = ?`, [group]))) return false;
  await run(d, `UPDATE ${at}.shops SET group_id = ? WHERE id = ?`, [group, shop]);
  return true;
}
export const endGroup = (d: InDirectory, shop: string) => run(d, `UPDATE ${directoryAt(d)}.shops SET group_id = NULL WHERE id = ?`, [shop]);

/** The groups that somebody owns, each with its shops. */
export async function groupsOf(d: InDirectory, account: string): Promise<{ id: string; name: string; shops: ShopRow[] }[]> {
  const at = directoryAt(d);
  const groups = await rows<{ id: string; name: string }>(
    d,
    `SELECT g.id, g.name FROM ${at}.group_owners o JOIN ${at}.shop_groups g ON g.id = o.group_id WHERE o.account = ? ORDER BY g.name`,
    [account],
  );
  if (!groups.length) return [];
  const all = await listShops(d);
  return groups.map((g) => ({ ...g, shops: all.filter((s) => s.group === g.id) }));
}
