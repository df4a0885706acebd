import { row, rows, run, type Store } from './db';
import { hashOfSecret, newSecret } from './secret-link';

/** A calendar’s address as a list shows it: the secret itself is told once and kept nowhere. */
export interface CalendarLink {
  id: string;
  /** `shop`, `bay:ID` or `person:ID` */
  whose: string;
  by: string;
  at: string;
}

/** Makes a secret address; what is kept of it is its hash. */
export async function makeCalendar(s: Store, whose: string, by: string): Promise<{ id: string; secret: string }> {
  const { id, secret, hash } = newSecret();
  await run(s, 'INSERT INTO calendars (id, secret_hash, whose, by_person, at) VALUES (?, ?, ?, ?, ?)', [id, hash, whose, by, new Date()]);
  return { id, secret };
}

export async function listCalendars(s: Store): Promise<CalendarLink[]> {
  const list = await rows<{ id: string; whose: string; by_person: string; at: Date }>(
    s,
    'SELECT id, whose, by_person, at FROM calendars WHERE withdrawn_at IS NULL ORDER BY at',
  );
  return list.map((r) => ({ id: r.id, whose: r.whose, by: r.by_person, at: r.at.toISOString() }));
}

/** Withdraws an address; false when there was none. */
export const withdrawCalendar = async (s: Store, id: string): Promise<boolean> =>
  (await run(s, 'UPDATE calendars SET withdrawn_at = ? WHERE id = ? AND withdrawn_at IS NULL', [new Date(), id])).affectedRows === 1;

/** Whose calendar a secret opens; null for none, and for one that was withdrawn. */
export const calendarBehind = async (s: Store, secret: string): Promise<string | null> =>
  (await row<{ whose: string }>(s, 'SELECT whose FROM calendars WHERE secret_hash = ? AND withdrawn_at IS NULL', [hashOfSecret(secret)]))
    ?.whose ?? null;
