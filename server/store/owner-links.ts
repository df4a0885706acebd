import { row, rows, run, type Store } from './db';
import { hashOfSecret, newSecret } from './secret-link';

/** Days that an owner’s page answers: as long as what is fitted is likely asked about. */
const LINK_DAYS = 365;
const DAY_MS = 86_400_000;

/** A page’s address as a list shows it. */
export interface OwnerLink {
  id: string;
  by: string;
  at: string;
  expires: string;
  /** when it was last looked at; null: never */
  seen: string | null;
}

/** Makes the secret address of an order’s page; those made before go on until they are withdrawn. */
export async function makeOwnerLink(s: Store, order: string, by: string, now = new Date()): Promise<{ id: string; secret: string }> {
  const { id, secret, hash } = newSecret();
  await run(s, 'INSERT INTO owner_links (id, secret_hash, order_id, by_person, at, expires_at) VALUES (?, ?, ?, ?, ?, ?)', [
    id,
    hash,
    order,
    by,
    now,
    new Date(now.getTime() + LINK_DAYS * DAY_MS),
  ]);
  return { id, secret };
}

/** Addresses of an order’s page that stand. */
export async function listOwnerLinks(s: Store, order: string): Promise<OwnerLink[]> {
  const list = await rows<{ id: string; by_person: string; at: Date; expires_at: Date; seen_at: Date | null }>(
    s,
    'SELECT id, by_person, at, expires_at, seen_at FROM owner_links WHERE order_id = ? AND withdrawn_at IS NULL AND expires_at > ? ORDER BY at',
    [order, new Date()],
  );
  return list.map((r) => ({
    id: r.id,
    by: r.by_person,
    at: r.at.toISOString(),
    expires: r.expires_at.toISOString(),
    seen: r.seen_at?.toISOString() ?? null,
  }));
}

/** Withdraws an address of an order’s page; false when it has none of that name. */
export const withdrawOwnerLink = async (s: Store, order: string, id: string): Promise<boolean> =>
  (await run(s, 'UPDATE owner_links SET withdrawn_at = ? WHERE id = ? AND order_id = ? AND withdrawn_at IS NULL', [new Date(), id, order]))
    .affectedRows === 1;

/** Whose page a secret opens; null for none, and for one that was withdrawn or is over. */
export async function orderBehind(s: Store, secret: string, now = new Date()): Promise<string | null> {
  const hash = hashOfSecret(secret);
  const r = await row<{ order_id: string; seen_at: Date | null }>(
    s,
    'SELECT order_id, seen_at FROM owner_links WHERE secret_hash = ? AND withdrawn_at IS NULL AND expires_at > ?',
    [hash, now],
  );
  // to the minute is enough: a page that is open asks again and again
  if (r && (!r.seen_at || now.getTime() - r.seen_at.getTime() > 60_000))
    await run(s, 'UPDATE owner_links SET seen_at = ? WHERE secret_hash = ?', [now, hash]);
  return r?.order_id ?? null;
}
