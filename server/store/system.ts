import { directoryAt, row, rows, run, type Directory, type Store } from './db';

/** How often a server says that it lives, and how long it is believed, s. */
export const SAYS_S = 15;
const BELIEVED_S = 60;
/** Servers that have been silent for so long are forgotten, days. */
const FORGET_DAYS = 1;

/** A server says that it lives. */
export const sayAlive = (d: Directory, id: string, version: string, since: Date) =>
  run(
    d,
    `INSERT INTO ${d.at}.servers (id, version, since, seen_at) VALUES (?, ?, ?, NOW(3)) ON DUPLICATE KEY UPDATE seen_at = NOW(3), version = VALUES(version)`,
    [id, version, since],
  );
/** A server that is ended in order says so. */
export const sayGone = (d: Directory, id: string) => run(d, `DELETE FROM ${d.at}.servers WHERE id = ?`, [id]);
export const forgetServers = (d: Directory) => run(d, `DELETE FROM ${d.at}.servers WHERE seen_at < NOW(3) - INTERVAL ${FORGET_DAYS} DAY`);

/** The servers that live, the oldest first. */
export const aliveServers = (s: Store): Promise<{ version: string; since: Date }[]> =>
  rows(s, `SELECT version, since FROM ${directoryAt(s)}.servers WHERE seen_at > NOW(3) - INTERVAL ${BELIEVED_S} SECOND ORDER BY since`);

/** The last archive that was written. */
export const lastBackup = (s: Store): Promise<{ at: Date; bytes: number; file: string } | null> =>
  row(s, 'SELECT at, bytes, file_name AS file FROM backups ORDER BY at DESC LIMIT 1');

/** How much the record holds: an order’s version is the number of its events. */
export async function sizeOf(s: Store): Promise<{ orders: number; events: number; pictures: number }> {
  const of = await row<{ orders: number; events: number | null; pictures: number }>(
    s,
    'SELECT COUNT(*) AS orders, SUM(version) AS events, (SELECT COUNT(*) FROM photos) AS pictures FROM orders',
  );
  return { orders: Number(of?.orders ?? 0), events: Number(of?.events ?? 0), pictures: Number(of?.pictures ?? 0) };
}
