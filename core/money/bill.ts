import { jobKey } from '#model/job';
import { LABOUR, type BillBody, type LabourKind, type QuoteBody, type QuotedOption } from '#model/money';
import type { Order } from '#model/order';
import { stepState, type Assessment } from '../order/assess';
import { Decimal, digitsOf, rate, sumOf } from './decimal';
import { agreedOption, alteredSinceAgreed, beyondAgreed, missingOfAgreed } from './order-quote';
import { hours, labourKindOf, labourLine } from './price-lines';
import { priced, together, type AskedLine, type PricedLines } from './priced';

/** Why there can be no bill, in words for who asked. */
export class NoBill extends Error {
  override readonly name = 'NoBill';
}

/** A kit or job of which nothing was done: it is agreed, and not owed. */
const undone = (order: Order, a: Pick<Assessment, 'steps'>, key: string): boolean => {
  const steps = a.steps.filter((s) => s.kit === key && s.stage !== 'unpack');
  return steps.length > 0 && steps.every((s) => stepState(order, s.id).status !== 'done');
};

/**
 * What is owed: the option that was agreed, and what was agreed besides while the work was done. Nothing else is on it, and what
 * is not is told.
 * @throws NoBill where nothing was agreed, or it was agreed in another currency
 */
export function billOf(order: Order, a: Pick<Assessment, 'steps' | 'sheets'>): Omit<BillBody, 'revision'> {
  const of = agreedOption(order);
  if (!of) throw new NoBill('Nothing was agreed yet: make a quote, and have it agreed.');
  const { quote, option } = of;
  const digits = digitsOf(quote.currency);
  const left: string[] = [];
  const parts: PricedLines[] = [quote.basis === 'time' ? byTime(order, a, quote, option) : option];
  for (const e of order.money!.extras) {
    if (!e.answer) left.push(`${e.title}: not answered yet`);
    else if (!e.answer.yes) left.push(`${e.title}: declined by ${e.answer.name}`);
    else if (undone(order, a, jobKey(e.id))) left.push(`${e.title}: agreed, and not done`);
    else if (e.currency !== quote.currency) throw new NoBill(`${e.title} was agreed in ${e.currency}, the rest in ${quote.currency}.`);
    else
      parts.push({
        ...e,
        lines: e.lines.map((l) => ({ ...l, id: `${e.id} ${l.id}`.slice(0, 80), name: `${e.title}: ${l.name}`.slice(0, 200) })),
      });
  }
  for (const name of beyondAgreed(order, a.sheets)) left.push(`${name}: on the order, and never agreed`);
  for (const name of missingOfAgreed(order))
    left.push(`${name}: agreed, and taken off the order since. It is still on this bill: quote anew to change that.`);
  for (const says of alteredSinceAgreed(order, a.sheets)) left.push(`${says}. The bill is as agreed: quote anew to change that.`);
  for (const k of option.kits)
    if (order.kits.some((x) => x.kit.id === k.id) && undone(order, a, k.id))
      left.push(`${k.name}: on this bill, and none of its steps is done.`);
  return { currency: quote.currency, ...together(parts, digits), left: left.map((l) => l.slice(0, 300)).slice(0, 60) };
}

/** The work as it was clocked, at the prices that were quoted, up to what may be billed without asking; all else as quoted. */
function byTime(order: Order, a: Pick<Assessment, 'steps'>, quote: QuoteBody, option: QuotedOption): PricedLines {
  const digits = digitsOf(quote.currency);
  const extras = new Set(order.money!.extras.map((e) => jobKey(e.id)));
  const spent = new Map<LabourKind, number>();
  for (const s of a.steps)
    if (!s.kit || !extras.has(s.kit)) spent.set(labourKindOf(s), (spent.get(labourKindOf(s)) ?? 0) + stepState(order, s.id).seconds / 60);
  const quoted = option.lines.filter((l) => l.class === 'labour');
  const worked = quoted.map((l): AskedLine => {
    const minutes = spent.get(LABOUR.find((k) => labourLine(k) === l.id)!) ?? 0;
    return { ...l, quantity: hours(minutes), says: `${Math.round(minutes)} min by the clock; ${l.quantity} h were quoted` };
  });
  // priced anew: an amount off all goes with a fixed price only
  const terms = { currency: quote.currency, taxes: quote.taxes, rounding: quote.rounding, discount: quote.discount };
  const asked = (lines: readonly Pick<AskedLine, 'quantity' | 'unitPrice'>[]) =>
    sumOf(lines.map((l) => new Decimal(l.quantity).times(l.unitPrice)));
  const most = asked(quoted).times(rate(quote.overrun, 'overrun').plus(1));
  const over = asked(worked).minus(most);
  if (over.gt(0))
    worked.push({
      id: 'over',
      class: 'labour',
      name: `Beyond ${quote.overrun} over the quote: not billed`,
      quantity: '1',
      unit: '',
      unitPrice: over.times(-1).toFixed(digits),
      says: 'nobody was asked for more',
    });
  return priced([...worked, ...option.lines.filter((l) => l.class !== 'labour')], terms);
}
