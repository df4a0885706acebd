import Big from 'big.js';
import { LABOUR, type LabourKind } from '#model/money';
import type { Kit } from '#model/kit';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Assessment } from '../order/assess';
import type { BenchStage, PlannedStep } from '../plan/planned';
import type { Need } from '../plan/needs';
import { Decimal, digitsOf, rate, sumOf } from './decimal';
import type { AskedLine } from './priced';

export const LABOUR_WORDS: Record<LabourKind, string> = {
  open: 'Taking apart and closing',
  mount: 'Mounting',
  wire: 'Wiring',
  prove: 'Checks and proofs',
};

/** What the line of a kind of work is called. */
export const labourLine = (kind: LabourKind): string => `labour ${kind}`;

/** What kind of work a stage of the bench is. */
const KIND_OF: Record<BenchStage, LabourKind> = {
  'make-safe': 'open',
  open: 'open',
  close: 'open',
  tie: 'open',
  unpack: 'mount',
  mount: 'mount',
  find: 'wire',
  wire: 'wire',
  'power-up': 'wire',
  'bench-test': 'prove',
  prove: 'prove',
};
export const labourKindOf = (s: Pick<PlannedStep, 'stage'>): LabourKind => KIND_OF[s.stage];

/** Something that nobody has put a price on. */
export interface Unpriced {
  key: string;
  name: string;
}

/** By what the price of a part is found: a wire by its gauge, all else by its name on the shelf. */
export const priceKey = (n: Pick<Need, 'kind' | 'id'>): string =>
  n.kind === 'wire' ? `wire-${n.id.split(' ')[0]!.replace('/', '-')}` : n.id;

/** An hour of a kind of work, in the shop’s currency. */
export const perHour = (settings: Settings, kind: LabourKind): string =>
  settings.priceBook.labour[kind] ?? new Decimal(settings.labourPerHour).toFixed();

/** Hours as they are billed, to the hundredth. */
export const hours = (minutes: number): string => new Decimal(minutes).div(60).toFixed(2);

/** What has a price, and what has none yet. */
interface Found {
  lines: AskedLine[];
  unpriced: Unpriced[];
}

/**
 * What an order comes to, line by line, before taxes: its work as planned, by kind; its kits; what is taken off the shelf or bought;
 * small things; fees. The order must be as it is before any work is done (see `quotable`).
 * @param byHand prices given for this once, by key
 * @throws ImpossibleInput where the currency is none, or a price cannot be read
 */
export function linesOf(
  order: Order,
  a: Pick<Assessment, 'steps' | 'needs' | 'minutes' | 'sheets'>,
  settings: Settings,
  byHand: Readonly<Record<string, string>> = {},
): Found {
  const digits = digitsOf(settings.currency);
  const labour = labourLines(a, settings);
  const kits = kitLines(order, a.sheets.kits, settings, byHand, digits);
  const parts = partLines(a.needs, settings, byHand, digits);
  return {
    lines: [...labour, ...kits.lines, ...parts.lines, ...chargeLines(labour, settings.charges, digits)],
    unpriced: [...kits.unpriced, ...parts.unpriced],
  };
}

type ByHand = Readonly<Record<string, string>>;
/** One of something, such as a kit. */
const one = (line: Omit<AskedLine, 'quantity' | 'unit'>): AskedLine => ({ ...line, quantity: '1', unit: '' });

/** The kits that are sold, and what an option of their boxes costs besides. */
function kitLines(order: Order, kits: readonly Kit[], settings: Settings, byHand: ByHand, digits: number): Found {
  const price = new Map(settings.priceBook.kits.map((k) => [k.kit, k.price]));
  const out: Found = { lines: [], unpriced: [] };
  for (const k of kits) {
    // parts of this order alone are no kit that is sold
    if (!order.kits.some((o) => o.kit.id === k.id)) continue;
    const unitPrice = byHand[k.id] ?? price.get(k.id);
    if (unitPrice === undefined) out.unpriced.push({ key: k.id, name: k.name });
    else out.lines.push(one({ id: `kit ${k.id}`, class: 'kits', name: k.name, unitPrice, says: 'the kit as it is sold' }));
    for (const v of k.variants) {
      const o = v.options.find((x) => x.id === (order.variants?.[k.id]?.[v.id] ?? v.options[0]!.id));
      if (o?.price)
        out.lines.push(
          one({
            id: `kit ${k.id} ${v.id}`,
            class: 'kits',
            name: `${k.name}: ${o.name}`,
            unitPrice: new Decimal(o.price).toFixed(digits),
            says: `${v.name}, as the box’s sheet prices it`,
          }),
        );
    }
  }
  return out;
}

/** What is taken off the shelf or bought: wire by its gauge, all ends on one line, as nobody reads twenty of them. */
function partLines(needs: readonly Need[], { priceBook: book }: Settings, byHand: ByHand, digits: number): Found {
  const costOf = new Map(book.parts.map((p) => [p.id, p.cost]));
  const unpriced = new Map<string, Unpriced>();
  const sold = (n: Need): Decimal | null => {
    const key = priceKey(n);
    if (byHand[key] !== undefined) return new Decimal(byHand[key]);
    const cost = n.price ?? costOf.get(key) ?? costOf.get(n.kind);
    if (cost !== undefined) return new Decimal(cost).times(rate(book.markUp[n.kind] ?? '0', 'markUp').plus(1)).round(digits);
    unpriced.set(key, { key, name: n.name });
    return null;
  };
  const pieces: AskedLine[] = [];
  const wires = new Map<string, { name: string; metres: Decimal; price: Decimal }>();
  let [ends, count] = [new Decimal(0), 0];
  for (const n of needs) {
    const price = sold(n);
    if (!price) continue;
    if (n.kind === 'end') [ends, count] = [ends.plus(price.times(n.need)), count + n.need];
    else if (n.kind === 'wire') {
      const had = wires.get(priceKey(n));
      const metres = new Decimal(n.need).plus(had?.metres ?? 0);
      wires.set(priceKey(n), { name: `Wire, ${n.name.split(',')[0]}`, metres, price });
    } else
      pieces.push({
        id: `part ${n.id}`.slice(0, 80),
        class: 'parts',
        name: n.name,
        quantity: String(n.need),
        unit: '',
        unitPrice: price.toFixed(digits),
        says: `${n.price === undefined ? 'what it costs' : 'as its sheet prices it'}, mark-up ${book.markUp[n.kind] ?? 'none'}`,
      });
  }
  const metres = [...wires].map(([id, w]): AskedLine => ({
    id,
    class: 'parts',
    name: w.name,
    // a decimetre that is begun is cut
    quantity: w.metres.round(1, Big.roundUp).toFixed(1),
    unit: 'm',
    unitPrice: w.price.toFixed(digits),
    says: 'as laid along the runs, with slack',
  }));
  const terminals = one({
    id: 'ends',
    class: 'parts',
    name: `Terminals and ends, ${count}`,
    unitPrice: ends.toFixed(digits),
    says: `${count} ${count === 1 ? 'piece' : 'pieces'}, each at its price`,
  });
  return { lines: [...pieces, ...metres, ...(ends.gt(0) ? [terminals] : [])], unpriced: [...unpriced.values()] };
}

/** The work as planned, by kind: every hand that it takes, and the ways between. */
function labourLines(a: Pick<Assessment, 'steps' | 'minutes'>, settings: Settings): AskedLine[] {
  const minutes = new Map<LabourKind, { minutes: number; steps: number }>();
  const add = (kind: LabourKind, m: number, steps: number) => {
    const had = minutes.get(kind) ?? { minutes: 0, steps: 0 };
    minutes.set(kind, { minutes: had.minutes + m, steps: had.steps + steps });
  };
  for (const s of a.steps) add(labourKindOf(s), s.minutes * s.hands, 1);
  const moves = a.minutes.planned - a.steps.reduce((sum, s) => sum + s.minutes, 0);
  if (moves > 0) add('open', moves, 0);
  return LABOUR.flatMap((kind) => {
    const m = minutes.get(kind);
    if (!m || m.minutes < 0.3) return [];
    return {
      id: labourLine(kind),
      class: 'labour' as const,
      name: LABOUR_WORDS[kind],
      quantity: hours(m.minutes),
      unit: 'h' as const,
      unitPrice: perHour(settings, kind),
      says: `${m.steps} ${m.steps === 1 ? 'step' : 'steps'}, ${Math.round(m.minutes)} min as planned${kind === 'open' && moves > 0 ? `, ${Math.round(moves)} of them on the way from place to place` : ''}`,
    };
  });
}

/** Small things that nobody counts, as a share of the work; and fees. */
function chargeLines(labour: readonly AskedLine[], charges: Settings['charges'], digits: number): AskedLine[] {
  const out: AskedLine[] = [];
  const { rate: share, most } = charges.supplies;
  const work = sumOf(labour.map((l) => new Decimal(l.quantity).times(l.unitPrice)));
  const uncapped = work.times(rate(share, 'charges.supplies.rate')).round(digits);
  const capped = most !== null && uncapped.gt(most) ? new Decimal(most) : uncapped;
  if (capped.gt(0))
    out.push(
      one({
        id: 'supplies',
        class: 'supplies',
        name: 'Shop supplies',
        unitPrice: capped.toFixed(digits),
        says: `${share} of the work${most !== null ? `, at most ${most}` : ''}`,
      }),
    );
  for (const f of charges.fees)
    out.push(one({ id: `fee ${f.name}`, class: 'fees', name: f.name, unitPrice: f.amount, says: 'a fee of the shop' }));
  return out;
}
