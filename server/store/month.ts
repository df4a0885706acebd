import type { OrderSummary } from '#core/order/summary';
import type { Finished } from '#core/shop/month';
import { rows, type Store } from './db';

/** What came back within so many days is told. */
const BACK_DAYS = 90;
const DAY = 86_400_000;
const MOST = 5000;

/** Orders handed over from one moment to another, with what their kits took and whether the unit came back. */
export async function finishedIn(s: Store, from: Date, to: Date): Promise<Finished[]> {
  const list = await rows<{ id: string; number: number; model: string; promised_at: Date; summary: string; sealed_at: Date }>(
    s,
    `SELECT o.id, o.number, o.model, o.promised_at, o.summary, MAX(COALESCE(e.done_at, e.at)) sealed_at
     FROM order_events e JOIN orders o ON o.id = e.order_id
     WHERE e.type = 'order.sealed' AND o.status = 'sealed' AND COALESCE(e.done_at, e.at) >= ? AND COALESCE(e.done_at, e.at) < ?
     GROUP BY o.id ORDER BY sealed_at LIMIT ${MOST}`,
    [from, to],
  );
  if (!list.length) return [];
  const numbers = list.map((o) => o.number);
  const worked = await rows<{
    number: number;
    kit: string;
    by_person: string;
    planned: number;
    spent: number;
    findings: number;
    mended: number;
  }>(s, `SELECT number, kit, by_person, planned, spent, findings, mended FROM worked WHERE number BETWEEN ? AND ?`, [
    Math.min(...numbers),
    Math.max(...numbers),
  ]);
  const later = await rows<{ id: string; number: number; opened_at: Date; identity: string | null }>(
    s,
    "SELECT id, number, opened_at, JSON_VALUE(summary, '$.identity') identity FROM orders WHERE opened_at >= ? AND opened_at < ? ORDER BY opened_at",
    [from, new Date(to.getTime() + BACK_DAYS * DAY)],
  );
  const byNumber = new Map<number, typeof worked>();
  for (const w of worked) byNumber.set(w.number, [...(byNumber.get(w.number) ?? []), w]);
  return list.map((o) => {
    const summary = JSON.parse(o.summary) as OrderSummary;
    const own = byNumber.get(o.number) ?? [];
    const back =
      summary.identity &&
      later.find(
        (x) =>
          x.identity === summary.identity &&
          x.id !== o.id &&
          x.opened_at > o.sealed_at &&
          x.opened_at.getTime() < o.sealed_at.getTime() + BACK_DAYS * DAY,
      );
    return {
      id: o.id,
      number: o.number,
      unitName: summary.unitName,
      model: o.model,
      owner: summary.owner,
      promisedAt: o.promised_at.toISOString(),
      sealedAt: o.sealed_at.toISOString(),
      work: own.map((w) => ({ kit: w.kit, by: w.by_person, planned: w.planned, spent: w.spent })),
      findings: own.reduce((n, w) => n + w.findings, 0),
      mended: own.reduce((n, w) => n + w.mended, 0),
      back: back ? { id: back.id, number: back.number, openedAt: back.opened_at.toISOString() } : null,
    };
  });
}
