import { Refused } from '#core/events/decide';
import { comingOf, isWhole } from '#core/supply/coming';
import type { Claim, SupplyInput } from '#core/supply/allocate';
import type { Demand } from '#core/supply/demand';
import type { OrderSummary } from '#core/order/summary';
import type { Order } from '#model/order';
import { Settings } from '#model/settings';
import type { Purchase, PurchaseLine, PurchaseState, ReceivedLine, ShelfMove, SupplierAnswer } from '#model/supply';
import type { Workers } from '../work/workers';
import { row, rows, run, transact, type Shop, type Store, type Tx } from './db';
import { orderInput } from './orders';
import { changeStock, moveItem, readSettings } from './settings';

interface ClaimRow {
  id: string;
  number: number;
  version: number;
  promised_at: Date;
  state: string;
  summary: string;
  demands: string | null;
}

/** What every open order still takes. What was written before a setting changed that it follows from is worked out now, and kept. */
async function readClaims(s: Store, workers: Workers): Promise<Claim[]> {
  const list = await rows<ClaimRow>(
    s,
    "SELECT id, number, version, promised_at, IF(demands IS NULL, state, '') state, summary, demands FROM orders WHERE status = 'open' ORDER BY number",
  );
  const out: Claim[] = [];
  for (const r of list) {
    let demands = r.demands && (JSON.parse(r.demands) as Demand[]);
    if (!demands) {
      demands = await workers.run('demands', { x: await orderInput(s, workers, JSON.parse(r.state) as Order) });
      await run(s, 'UPDATE orders SET demands = ? WHERE id = ? AND version = ? AND demands IS NULL', [
        JSON.stringify(demands),
        r.id,
        r.version,
      ]);
    }
    const { unitName, begun = false } = JSON.parse(r.summary) as OrderSummary;
    out.push({ order: r.id, number: r.number, unitName, promisedAt: r.promised_at.toISOString(), begun, demands });
  }
  return out;
}

interface PurchaseRow {
  id: string;
  number: number;
  version: number;
  state: PurchaseState;
  purchase_lines: string;
  answer: string | null;
  told_day: string | null;
  says: string;
  by_person: string;
  at: Date;
}
interface ReceiptRow {
  id: string;
  purchase_id: string;
  receipt_lines: string;
  by_person: string;
  at: Date;
}
const PURCHASE = 'id, number, version, state, purchase_lines, answer, told_day, says, by_person, at';
/** Purchases that a list shows beside those that are open. */
const MOST_CLOSED = 60;

async function withReceipts(s: Store, list: readonly PurchaseRow[]): Promise<Purchase[]> {
  const receipts = list.length
    ? await rows<ReceiptRow>(
        s,
        `SELECT id, purchase_id, receipt_lines, by_person, at FROM receipts WHERE purchase_id IN (${list.map(() => '?').join()}) ORDER BY at`,
        list.map((p) => p.id),
      )
    : [];
  return list.map((p) => ({
    id: p.id,
    number: p.number,
    version: p.version,
    state: p.state,
    lines: JSON.parse(p.purchase_lines) as PurchaseLine[],
    answer: p.answer === null ? null : (JSON.parse(p.answer) as SupplierAnswer[]),
    toldDay: p.told_day,
    says: p.says,
    by: p.by_person,
    at: p.at.toISOString(),
    receipts: receipts
      .filter((r) => r.purchase_id === p.id)
      .map((r) => ({ id: r.id, lines: JSON.parse(r.receipt_lines) as ReceivedLine[], by: r.by_person, at: r.at.toISOString() })),
  }));
}

/** Purchases that are open, and the latest of the others. */
export async function listPurchases(s: Store): Promise<Purchase[]> {
  const open = await rows<PurchaseRow>(s, `SELECT ${PURCHASE} FROM purchases WHERE state IN ('waiting', 'sent') ORDER BY number`);
  const ended = await rows<PurchaseRow>(
    s,
    `SELECT ${PURCHASE} FROM purchases WHERE state = 'closed' ORDER BY number DESC LIMIT ${MOST_CLOSED}`,
  );
  return withReceipts(s, [...open, ...ended]);
}

export async function readPurchase(s: Store, id: string, lock = false): Promise<Purchase | null> {
  const r = await row<PurchaseRow>(s, `SELECT ${PURCHASE} FROM purchases WHERE id = ?${lock ? ' FOR UPDATE' : ''}`, [id]);
  return r && (await withReceipts(s, [r]))[0]!;
}

/** All that the parts of the shop are worked out from. @param today by the shop’s calendar */
export async function supplyOf(s: Store, workers: Workers, today: string): Promise<SupplyInput & { purchases: Purchase[] }> {
  const [claims, purchases, { stock, shelf, levels, reserved, cuts }] = [
    await readClaims(s, workers),
    await listPurchases(s),
    await readSettings(s),
  ];
  return { claims, purchases, coming: purchases.flatMap((p) => comingOf(p, today)), settings: { stock, shelf, levels, reserved, cuts } };
}

/** An order to the supplier as it is made. `sent`: it needs no sending, somebody orders it by hand. */
export interface NewPurchase {
  id: string;
  lines: PurchaseLine[];
  toldDay: string | null;
  by: string;
  sent: boolean;
  at: Date;
}

/** Writes an order to the supplier, once by its id; one that was there stays as it is. */
export const makePurchase = (shop: Shop, p: NewPurchase): Promise<Purchase> => transact(shop, (tx) => writePurchase(tx, p));

/** The same within a transaction under way. */
export async function writePurchase(tx: Tx, p: NewPurchase): Promise<Purchase> {
  const had = await readPurchase(tx, p.id);
  if (had) return had;
  await run(tx, "INSERT INTO counters (name, value) VALUES ('purchase', 1) ON DUPLICATE KEY UPDATE value = value + 1");
  const { value } = (await row<{ value: number }>(tx, "SELECT value FROM counters WHERE name = 'purchase'"))!;
  await run(
    tx,
    "INSERT INTO purchases (id, number, version, state, purchase_lines, answer, told_day, says, tries, next_try, by_person, at) VALUES (?, ?, 1, ?, ?, NULL, ?, '', 0, ?, ?, ?)",
    [p.id, value, p.sent ? 'sent' : 'waiting', JSON.stringify(p.lines), p.toldDay, p.sent ? null : p.at, p.by, p.at],
  );
  return (await readPurchase(tx, p.id))!;
}

/** What somebody was told by telephone, or that nothing more will come; false where it was changed meanwhile. */
export const changePurchase = async (
  s: Store,
  id: string,
  version: number,
  change: { toldDay?: string | null; state?: PurchaseState },
): Promise<boolean> =>
  (
    await run(
      s,
      'UPDATE purchases SET version = version + 1, told_day = IF(?, ?, told_day), state = COALESCE(?, state) WHERE id = ? AND version = ?',
      [change.toldDay !== undefined, change.toldDay ?? null, change.state ?? null, id, version],
    )
  ).affectedRows === 1;

/** What the supplier answered. */
export const keepAnswerOf = (s: Store, id: string, answer: readonly SupplierAnswer[]): Promise<unknown> =>
  run(
    s,
    "UPDATE purchases SET version = version + 1, answer = ?, says = '', next_try = NULL, state = IF(state = 'waiting', 'sent', state) WHERE id = ? AND state IN ('waiting', 'sent')",
    [JSON.stringify(answer), id],
  );

/** @throws Refused where something that came cannot have come like that */
function checkReceived(p: Purchase, l: ReceivedLine, path: string): void {
  const line = p.lines.find((x) => x.item === l.item);
  if (!line) throw new Refused(`“${l.item}” was not ordered with order ${p.number}.`, 'input', `${path}.item`);
  if (line.unit === 'pieces' && !Number.isInteger(l.amount))
    throw new Refused(`${line.name}: count whole ones.`, 'input', `${path}.amount`);
  if (line.unit === 'm' && l.amount > MOST_M) throw new Refused(`${line.name}: at most ${MOST_M} m at once.`, 'input', `${path}.amount`);
}

/** Longest spool that a list of wire holds, metres. */
const MOST_M = 1000;

/**
 * Writes what arrived: on the shelf or as spools, with what was bought for an order kept for it. The same receipt again changes nothing.
 * @returns null where there is no such order
 * @throws Refused
 */
export const receive = (shop: Shop, purchase: string, r: { id: string; lines: ReceivedLine[]; by: string }): Promise<Purchase | null> =>
  transact(shop, async (tx) => {
    const p = await readPurchase(tx, purchase, true);
    if (!p || p.receipts.some((x) => x.id === r.id)) return p;
    if (p.state === 'closed') throw new Refused(`Order ${p.number} to the supplier is closed: count what came at Parts, Count.`);
    r.lines.forEach((l, i) => checkReceived(p, l, `lines.${i}`));
    const at = new Date();
    await run(tx, 'INSERT INTO receipts (id, purchase_id, receipt_lines, by_person, at) VALUES (?, ?, ?, ?, ?)', [
      r.id,
      purchase,
      JSON.stringify(r.lines),
      r.by,
      at,
    ]);
    for (const l of r.lines) await putAway(tx, p, l, r);
    const after = (await readPurchase(tx, purchase))!;
    await run(tx, "UPDATE purchases SET version = version + 1, state = IF(?, 'closed', state) WHERE id = ?", [isWhole(after), purchase]);
    return (await readPurchase(tx, purchase))!;
  });

async function putAway(tx: Tx, p: Purchase, l: ReceivedLine, { id, by }: { id: string; by: string }): Promise<void> {
  const [line] = p.lines.filter((x) => x.item === l.item);
  if (line!.unit === 'pieces') await moveItem(tx, l.item, l.amount, by, { why: 'received', ref: `order ${p.number}` });
  else
    await changeStock(tx, by, (stock) => {
      const [, gauge, colour] = /^(\S+) (\S+)$/.exec(l.item)!;
      const awg = gauge!.endsWith('/0') ? 1 - Number(gauge!.slice(0, -2)) : Number(gauge);
      if (stock.length >= MOST_SPOOLS)
        throw new Refused(`${MOST_SPOOLS} spools and offcuts are on the list of wire: take short ones off it first, at Shop, Stock.`);
      const taken = stock.map((s) => s.id);
      const first = `order ${p.number}, ${l.item}`;
      const name = taken.includes(first) ? `${first} ${id.slice(0, 8)}` : first;
      return [...stock, { id: name, awg, colour: colour!, lengthM: l.amount }];
    });
  const owner = p.lines.find((x) => x.item === l.item && x.order !== null)?.order;
  if (owner) await keepFor(tx, l.item, owner, by);
}

/** Keeps an item for an order before all others. */
async function keepFor(tx: Tx, item: string, order: string, by: string): Promise<void> {
  const had = await row<{ json: string }>(tx, "SELECT json FROM setting_fields WHERE field = 'reserved' FOR UPDATE");
  const list = had ? Settings.shape.reserved.parse(JSON.parse(had.json)) : [];
  if (list.some((r) => r.item === item && r.order === order)) return;
  // those of orders that are over make room
  const open = new Set((await rows<{ id: string }>(tx, "SELECT id FROM orders WHERE status = 'open'")).map((o) => o.id));
  const json = JSON.stringify([...list.filter((r) => open.has(r.order)), { item, order }]);
  await run(
    tx,
    "INSERT INTO setting_fields (field, json, version, by_person, at) VALUES ('reserved', ?, 1, ?, ?) ON DUPLICATE KEY UPDATE json = VALUES(json), version = version + 1, by_person = VALUES(by_person), at = VALUES(at)",
    [json, by, new Date()],
  );
}

/** Most spools and offcuts on the list of wire. */
const MOST_SPOOLS = 400;

/** What came onto the shelf and went from it. */
export const readStockMoves = (s: Store, item: string | null) =>
  rows<Omit<ShelfMove, 'by' | 'at'> & { by_person: string; at: Date }>(
    s,
    `SELECT item, amount, why, ref, by_person, at FROM stock_moves ${item === null ? '' : 'WHERE item = ?'} ORDER BY id DESC LIMIT 400`,
    item === null ? [] : [item],
  );
