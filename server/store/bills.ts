import { billRows, dayOfBill } from '#core/money/rows';
import type { Order } from '#model/order';
import { rows, type Store } from './db';
import { readSettings } from './settings';

/** Rows of every bill that stands and was made in a period, by the shop’s calendar. @param from, to as `2026-03-31`, both within */
export async function listBills(s: Store, from: string, to: string) {
  const { timeZone } = await readSettings(s);
  // no place is more than a day off the clock of the world
  const list = await rows<{ state: string }>(
    s,
    `SELECT state FROM orders WHERE id IN (SELECT order_id FROM order_events WHERE type = 'bill.made' AND done_at >= ? - INTERVAL 1 DAY AND done_at < ? + INTERVAL 2 DAY) ORDER BY number`,
    [from, to],
  );
  return list.flatMap((r) => {
    const { money, number, owner } = JSON.parse(r.state) as Order;
    const bill = money?.bill;
    const day = bill && dayOfBill(bill, timeZone);
    return day && day >= from && day <= to ? billRows(bill, number, owner, timeZone) : [];
  });
}
