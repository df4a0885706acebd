import { randomUUID } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import { row, run, type Directory, type Shop } from './db';

/** How long a server that died keeps the others waiting, and how often a living one says that it lives, ms. */
const LEASE_MS = 6000;
const RENEW_MS = 1500;
const LOOK_MS = 200;

const TABLE =
  'CREATE TABLE IF NOT EXISTS leases (name VARCHAR(40) NOT NULL PRIMARY KEY, holder CHAR(36) NOT NULL, until_at DATETIME(3) NOT NULL)';

/** The lease was taken over: whoever held it was silent too long. What they were about to do is another's now. */
export class LeaseLost extends Error {
  override readonly name = 'LeaseLost';
}

/**
 * Does `work` while no other server does the same: the others wait, and go on once it is done. One that dies in the middle
 * holds it for a few seconds only. The database's clock alone counts, and a row is seen by every node of a cluster.
 * @param work is given a check that throws LeaseLost if another took over meanwhile
 */
export async function withLease<T>(shop: Shop | Directory, name: string, work: (held: () => void) => Promise<T>): Promise<T> {
  const holder = randomUUID();
  await run(shop, TABLE);
  const ms = LEASE_MS * 1000;
  for (;;) {
    await run(
      shop,
      `INSERT INTO leases (name, holder, until_at) VALUES (?, ?, NOW(3) + INTERVAL ${ms} MICROSECOND)
       ON DUPLICATE KEY UPDATE holder = IF(until_at < NOW(3), VALUES(holder), holder), until_at = IF(holder = VALUES(holder), VALUES(until_at), until_at)`,
      [name, holder],
    );
    const now = await row<{ holder: string }>(shop, 'SELECT holder FROM leases WHERE name = ?', [name]);
    if (now?.holder === holder) break;
    await pause(LOOK_MS);
  }
  let lost = false;
  const renewing = setInterval(() => {
    run(shop, `UPDATE leases SET until_at = NOW(3) + INTERVAL ${ms} MICROSECOND WHERE name = ? AND holder = ?`, [name, holder]).then(
      (r) => (lost ||= r.affectedRows === 0),
      () => undefined,
    );
  }, RENEW_MS);
  try {
    return await work(() => {
      if (lost) throw new LeaseLost(`another server took over “${name}”`);
    });
  } finally {
    clearInterval(renewing);
    await run(shop, 'DELETE FROM leases WHERE name = ? AND holder = ?', [name, holder]).catch(() => undefined);
  }
}
