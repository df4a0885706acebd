import { createHash } from 'node:crypto';
import { addBusinessDays } from 'date-fns/addBusinessDays';
import { addDays } from 'date-fns/addDays';
import { format } from 'date-fns/format';
import { isWeekend } from 'date-fns/isWeekend';
import type { Need } from '#core/plan/needs';
import type { SupplierAnswer } from '#model/supply';
import { row, run, type Shop } from '../store/db';
import { OutOfReach } from '../outside/out-of-reach';
import type { Asked, Supplier } from '../outside/supplier';

/** Prices a piece or a metre by kind, in the shop’s currency: invented, like the supplier. */
const PRICE: Record<Need['kind'], number> = { wire: 1.1, fuse: 4.5, relay: 14, end: 0.45, part: 60, buy: 9 };
/** What is sold by the pack: wire by ten metres, ends by ten. */
const PACK: Partial<Record<Need['kind'], number>> = { wire: 10, end: 10 };
/** Days by which a late delivery is late. */
const LATE_DAYS = 2;

const turnOf = (text: string): number => createHash('sha256').update(text).digest()[0]!;
const packed = (kind: Need['kind'], amount: number): number => {
  const pack = PACK[kind] ?? 1;
  return Math.ceil(amount / pack) * pack;
};
const iso = (d: Date) => format(d, 'yyyy-MM-dd');
const workday = (d: Date): Date => (isWeekend(d) ? workday(addDays(d, 1)) : d);

interface Held {
  today: string;
  lines: Asked[];
}

/**
 * A supplier that stands in for a real one: a catalogue of everything, one order in four late, one in four in two deliveries, decided
 * by the order’s own name. What it accepted under a name it has once, however often it is asked.
 * @param loses whether an answer is lost on its way back, after the order was taken
 */
export function standInSupplier(shop: Shop, loses: (ref: string) => boolean = () => false): Supplier {
  const answerTo = (ref: string, { today, lines }: Held, asOf: string): SupplierAnswer[] => {
    const turn = turnOf(ref) % 4;
    const begin = new Date(`${today}T12:00:00`);
    return lines.map((l, i): SupplierAnswer => {
      const amount = packed(l.kind, l.amount);
      const each = l.price ?? PRICE[l.kind] * (0.8 + (turnOf(l.item) % 40) / 100);
      const said = addBusinessDays(begin, 1 + (turnOf(l.item) % 4));
      // that it is late is told when it should have come
      const late = turn === 1 && iso(said) <= asOf;
      const day = iso(late ? workday(addDays(said, LATE_DAYS)) : said);
      const short = turn === 2 && i === 0 && amount > 1 && iso(said) <= asOf;
      const first = short ? (l.unit === 'm' ? PACK.wire! : 1) : amount;
      return {
        item: l.item,
        comes:
          short && first < amount
            ? [
                { day, amount: first },
                { day: iso(workday(addDays(said, LATE_DAYS + 1))), amount: amount - first },
              ]
            : [{ day, amount }],
        price: (amount * each).toFixed(2),
      };
    });
  };
  return {
    quote: (lines, today) => Promise.resolve(answerTo('', { today, lines: [...lines] }, today)),
    async place(ref, lines, today) {
      await run(shop, 'INSERT IGNORE INTO standin_supplier (ref, json, at) VALUES (?, ?, ?)', [
        ref,
        JSON.stringify({ today, lines } satisfies { today: string; lines: readonly Asked[] }),
        new Date(),
      ]);
      if (loses(ref)) throw new OutOfReach('the supplier did not answer in time');
      return (await this.ask(ref, today))!;
    },
    async ask(ref, today) {
      const held = await row<{ json: string }>(shop, 'SELECT json FROM standin_supplier WHERE ref = ?', [ref]);
      return held && answerTo(ref, JSON.parse(held.json) as Held, today);
    },
  };
}
