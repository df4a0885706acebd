import { z } from 'zod';
import { Slug, words } from '#model/common';
import { jobKey, type Job } from '#model/job';
import {
  Amount,
  BillBody,
  Discount,
  ExtraBody,
  HowAgreed,
  LABOUR,
  NO_MONEY,
  OptionChange,
  QuoteBody,
  type Agreement,
  type OrderMoney,
} from '#model/money';
import type { Order } from '#model/order';
import { CLIENT } from '#model/person';
import { changeKey } from '#model/power-change';
import { ImpossibleInput } from '../errors';
import { billOf, NoBill } from '../money/bill';
import { agreedOption, withOption } from '../money/order-quote';
import { hours, LABOUR_WORDS, labourLine, perHour } from '../money/price-lines';
import { priced } from '../money/priced';
import { freeId } from '../slug';
import { ALL, DESK, event, ForTheRecord, Refused, type Context } from './definition';
import { refuseBegun } from './fit';
import { possible } from './power';
import { reason, stepId } from './shapes';

/** Of one order: beyond these something is going in circles. */
const MOST_QUOTES = 60;
const MOST_EXTRAS = 40;
const MOST_QUESTIONS = 100;

const name = words(80);
const strokes = z.string().min(10, 'the signature is empty').max(60_000, 'the signature is too long').nullable();
const photo = z
  .string()
  .regex(/^[0-9a-f]{64}$/)
  .nullable();

const moneyOf = (order: Order): OrderMoney => order.money ?? NO_MONEY;
const withMoney = (order: Order, patch: Partial<OrderMoney>): Order => ({ ...order, money: { ...moneyOf(order), ...patch } });

/** What cannot be priced is said to who asked, as any other refusal. */
function sayImpossible<T>(work: () => T): T {
  try {
    return work();
  } catch (e) {
    if (e instanceof ImpossibleInput) throw new Refused(`${e.message[0]!.toUpperCase()}${e.message.slice(1)}.`, 'input', e.path);
    if (e instanceof NoBill) throw new Refused(e.message);
    throw e;
  }
}

/**
 * Somebody agrees or declines: the unit’s owner by their own page and by nothing else, whoever works here for one who signs or told them.
 * @throws Refused
 */
function refuseHow({ how, strokes: drawn }: { how: Agreement['how']; strokes: string | null }, c: Context): void {
  if ((how === 'page') !== (c.role === CLIENT))
    throw new Refused('By the page only the unit’s owner agrees, and nobody else by anything but it.', 'input', 'how');
  if (how === 'signed' && drawn === null) throw new Refused('Have it signed, or say that they told you.', 'input', 'strokes');
}

const HOW_WORDS: Record<Agreement['how'], string> = { signed: 'signed for', page: 'on their page', told: 'told' };
const saidHow = (e: { name: string; how: Agreement['how'] }) => `${e.name}, ${HOW_WORDS[e.how]}`;

/** The newest quote, if it is the one that is meant and stands. @throws Refused */
function standing(order: Order, revision: number, c: Context): QuoteBody {
  const { quotes } = moneyOf(order);
  const quote = quotes.find((q) => q.revision === revision);
  if (!quote) throw new Refused('There is no such quote on this order.', 'input', 'revision');
  if (quote.withdrawn) throw new Refused(`Quote ${revision} was withdrawn: ${quote.withdrawn.reason}`);
  const newest = quotes.at(-1)!;
  if (newest.revision !== revision)
    throw new Refused(`Quote ${newest.revision} has taken the place of quote ${revision}: look at that one.`);
  if (!c.known.today) throw new ForTheRecord('today');
  if (c.known.today > quote.until) throw new Refused(`Quote ${revision} stood until ${quote.until}: make a new one.`);
  return quote;
}

/**
 * What an option has otherwise must be possible on this order, as if it were done.
 * @throws Refused
 */
function otherwise(change: OptionChange, order: Order, c: Context): OptionChange {
  switch (change.kind) {
    case 'power':
      return { ...change, change: possible(change.change, c.sheets) };
    case 'unpower':
      if (!order.changes.some((x) => changeKey(x.change) === change.key))
        throw new Refused(`“${change.label}”: that was not agreed on this order.`, 'input', 'options');
      return change;
    case 'without':
      if (!order.kits.some((k) => k.kit.id === change.kit)) throw new Refused('That kit is not on this order.', 'input', 'options');
      return change;
    case 'variant': {
      const kit = c.sheets.kits.find((k) => k.id === change.kit);
      if (!kit?.variants.find((v) => v.id === change.variant)?.options.some((o) => o.id === change.option))
        throw new Refused('That choice is not in the box of a chosen kit.', 'input', 'options');
      return change;
    }
  }
}

export const moneyEvents = [
  event({
    type: 'quote.made',
    may: ALL,
    records: { quote: QuoteBody },
    asks: {
      basis: z.enum(['fixed', 'time']),
      options: z
        .array(z.strictObject({ name, changes: z.array(OptionChange).max(12) }))
        .min(1)
        .max(4),
      discount: Discount.nullable(),
      note: z.string().trim().max(600),
      /** prices for this once, by what they are of */
      prices: z.record(z.string().max(80), Amount),
    },
    decide: (command, order, c) => {
      const { basis, discount, note } = command;
      const { currency, charges } = c.settings;
      if (!order.kits.length && !order.jobs?.length) throw new Refused('Choose kits or jobs first: there is nothing to quote.');
      if (moneyOf(order).quotes.length >= MOST_QUOTES)
        throw new Refused(`${MOST_QUOTES} quotes were made for this order: that is the most.`);
      if (discount && 'amount' in discount && basis === 'time')
        throw new Refused('An amount off goes with a fixed price: take a share off instead.', 'input', 'discount');
      const asked = command.options.map((o) => ({ ...o, changes: o.changes.map((x) => otherwise(x, order, c)) }));
      // whole orders are computed for it, at the record’s day
      const { quote, today } = c.known;
      if (!quote || !today) throw new ForTheRecord('a quote');
      const made = sayImpossible(() => quote({ ...command, options: asked }));
      const [lacks] = made.unpriced;
      if (lacks)
        throw new Refused(
          `There is no price for ${made.unpriced
            .map((u) => u.name)
            .slice(0, 4)
            .join(', ')}${made.unpriced.length > 4 ? ` and ${made.unpriced.length - 4} more` : ''}: give one here, or in the price book.`,
          'input',
          `prices.${lacks.key}`,
        );
      const empty = asked.find((_, i) => !made.options.some((o) => o.id === 'abcd'[i]));
      if (empty) throw new Refused(`“${empty.name}” comes to nothing: there is no work in it, and no part.`, 'input', 'options');
      const day = new Date(`${today}T12:00:00Z`);
      day.setUTCDate(day.getUTCDate() + charges.quoteDays);
      return {
        type: 'quote.made',
        quote: {
          revision: (moneyOf(order).quotes.at(-1)?.revision ?? 0) + 1,
          basis,
          currency,
          until: day.toISOString().slice(0, 10),
          overrun: charges.overrun,
          rounding: charges.rounding,
          taxes: charges.taxes,
          discount,
          note,
          options: made.options,
        },
      };
    },
    apply: (order, { quote }, stamp) => withMoney(order, { quotes: [...moneyOf(order).quotes, { ...quote, ...stamp }] }),
    touches: () => ['money.quote'],
    says: ({ quote: q }) =>
      `Quote ${q.revision}, until ${q.until}: ${q.options.map((o) => `${o.name} ${o.totals.gross} ${q.currency}`).join('; ')}`,
  }),
  event({
    type: 'quote.withdrawn',
    may: ALL,
    records: { revision: z.number().int().min(1).max(999), reason },
    decide: (command, order) => {
      const { quotes, agreed } = moneyOf(order);
      const quote = quotes.find((q) => q.revision === command.revision);
      if (!quote) throw new Refused('There is no such quote on this order.', 'input', 'revision');
      if (quote.withdrawn) throw new Refused(`Quote ${command.revision} is withdrawn already.`);
      if (agreed?.revision === command.revision)
        throw new Refused(`Quote ${command.revision} was agreed by ${agreed.name}: it cannot be withdrawn.`);
      return command;
    },
    apply: (order, e, stamp) =>
      withMoney(order, {
        quotes: moneyOf(order).quotes.map((q) => (q.revision === e.revision ? { ...q, withdrawn: { ...stamp, reason: e.reason } } : q)),
      }),
    touches: () => ['money.quote'],
    says: (e) => `Quote ${e.revision} withdrawn, because ${e.reason}`,
  }),
  event({
    type: 'quote.agreed',
    may: [...ALL, CLIENT],
    records: {
      revision: z.number().int().min(1).max(999),
      option: z.string().regex(/^[a-d]$/),
      how: HowAgreed,
      name,
      strokes,
      title: words(160),
    },
    asks: { revision: z.number().int().min(1).max(999), option: z.string().regex(/^[a-d]$/), how: HowAgreed, name, strokes },
    decide: (command, order, c) => {
      const { agreed } = moneyOf(order);
      if (agreed?.revision === command.revision)
        throw new Refused(`Quote ${command.revision} was agreed already, by ${agreed.name}. A change of mind is a new quote.`);
      refuseHow(command, c);
      const quote = standing(order, command.revision, c);
      const option = quote.options.find((o) => o.id === command.option);
      if (!option) throw new Refused('That is no option of this quote.', 'input', 'option');
      for (const kit of option.kits)
        if (!order.kits.some((k) => k.kit.id === kit.id))
          throw new Refused(`${kit.name} was taken off the order since this was quoted: a new quote is needed.`);
      for (const change of option.changes)
        if (change.kind === 'without' || change.kind === 'variant') refuseBegun(change.kit, order, c, 'before it is agreed without');
      return { ...command, title: `${option.name}, ${option.totals.gross} ${quote.currency}` };
    },
    apply: (order, { revision, option, how, name, strokes }, stamp) => {
      const now = withMoney(order, { agreed: { revision, option, how, name, strokes, ...stamp } });
      // what was agreed is what is done
      return withOption(now, agreedOption(now)!.option.changes, stamp);
    },
    touches: () => ['money.quote', 'kits'],
    says: (e) => `Agreed: quote ${e.revision}, ${e.title} (${saidHow(e)})`,
  }),
  event({
    type: 'quote.declined',
    may: [...ALL, CLIENT],
    records: { revision: z.number().int().min(1).max(999), name, reason: z.string().trim().max(300) },
    decide: (command, order, c) => {
      if (moneyOf(order).agreed?.revision === command.revision) throw new Refused(`Quote ${command.revision} was agreed already.`);
      standing(order, command.revision, c);
      return command;
    },
    apply: (order, { revision, name, reason: why }, stamp) =>
      withMoney(order, {
        declined: [...moneyOf(order).declined.filter((d) => d.revision !== revision), { revision, name, reason: why, ...stamp }],
      }),
    touches: () => ['money.quote'],
    says: (e) => `Declined: quote ${e.revision}, by ${e.name}${e.reason ? `, because ${e.reason}` : ''}`,
  }),
  event({
    type: 'extra.asked',
    may: ALL,
    records: { extra: ExtraBody },
    asks: {
      title: words(120),
      why: words(400),
      place: Slug,
      minutes: z.number().min(0).max(600),
      labour: z.enum(LABOUR),
      powerOff: z.boolean(),
      question: words(120),
      parts: ExtraBody.shape.parts,
      photo,
      step: stepId.nullable(),
    },
    decide: ({ type, ...asked }, order, c) => {
      const { settings } = c;
      const { extras } = moneyOf(order);
      if (!c.sheets.model.places.some((p) => p.id === asked.place)) throw new Refused('That place is not on this unit.', 'input', 'place');
      if (asked.minutes === 0 && !asked.parts.length) throw new Refused('Say what it takes: minutes, parts, or both.', 'input', 'minutes');
      if (extras.length >= MOST_EXTRAS) throw new Refused(`${MOST_EXTRAS} things turned up on this order: that is the most.`);
      if (asked.photo && c.known.hasPhoto && !c.known.hasPhoto(asked.photo))
        throw new Refused('That picture has not arrived.', 'input', 'photo');
      const work =
        asked.minutes > 0
          ? [
              {
                id: labourLine(asked.labour),
                class: 'labour' as const,
                name: LABOUR_WORDS[asked.labour],
                quantity: hours(asked.minutes),
                unit: 'h' as const,
                unitPrice: perHour(settings, asked.labour),
                says: `${asked.minutes} min`,
              },
            ]
          : [];
      const things = asked.parts.map((p, i) => ({
        id: `part ${i + 1}`,
        class: 'parts' as const,
        name: p.name,
        quantity: String(p.quantity),
        unit: '' as const,
        unitPrice: p.price,
        says: 'as it was said when it turned up',
      }));
      const { currency, charges } = settings;
      const p = sayImpossible(() =>
        priced([...work, ...things], { currency, taxes: charges.taxes, rounding: charges.rounding, discount: null }),
      );
      const id = freeId(asked.title, [...extras.map((e) => e.id), ...(order.jobs ?? []).map((j) => j.id)]);
      return { type, extra: { ...asked, id, currency, ...p } };
    },
    apply: (order, { extra }, stamp) => withMoney(order, { extras: [...moneyOf(order).extras, { ...extra, ...stamp, answer: null }] }),
    touches: (c) => [`extra.${'extra' in c ? c.extra.title : c.title}`],
    says: ({ extra: e }) => `Turned up: ${e.title}, ${e.totals.gross} ${e.currency}, because ${e.why}`.slice(0, 900),
  }),
  event({
    type: 'extra.answered',
    may: [...ALL, CLIENT],
    records: { id: Slug, yes: z.boolean(), how: HowAgreed, name, reason: z.string().trim().max(300), strokes, title: words(120) },
    asks: { id: Slug, yes: z.boolean(), how: HowAgreed, name, reason: z.string().trim().max(300), strokes },
    decide: (command, order, c) => {
      const extra = moneyOf(order).extras.find((e) => e.id === command.id);
      if (!extra) throw new Refused('Nothing of that name turned up on this order.', 'input', 'id');
      if (extra.answer?.yes) throw new Refused(`“${extra.title}” was agreed already, by ${extra.answer.name}.`);
      refuseHow(command, c);
      return { ...command, title: extra.title };
    },
    apply: (order, { id, yes, how, name, reason: why, strokes }, stamp) => {
      const { extras } = moneyOf(order);
      const extra = extras.find((e) => e.id === id)!;
      const answered = withMoney(order, {
        extras: extras.map((e) => (e.id === id ? { ...e, answer: { yes, how, name, reason: why, strokes, ...stamp } } : e)),
      });
      if (!yes || extra.minutes === 0) return answered;
      // only now is it work: nothing is done that was not agreed
      const { title, place, minutes, powerOff, question, why: text } = extra;
      const job: Job = { id, title, place, minutes, text, powerOff, question };
      return { ...answered, jobs: [...(order.jobs ?? []).filter((j) => j.id !== id), job] };
    },
    touches: (c) => [`extra.${c.id}`],
    says: (e) => `${e.yes ? 'Agreed' : 'Declined'}: ${e.title} (${saidHow(e)})${e.reason ? `, because ${e.reason}` : ''}`,
  }),
  event({
    type: 'extra.withdrawn',
    may: ALL,
    records: { id: Slug, title: words(120) },
    asks: { id: Slug },
    decide: (command, order, c) => {
      const extra = moneyOf(order).extras.find((e) => e.id === command.id);
      if (!extra) throw new Refused('Nothing of that name turned up on this order.', 'input', 'id');
      refuseBegun(jobKey(extra.id), order, c, 'before it is taken back');
      return { ...command, title: extra.title };
    },
    apply: (order, { id }) => ({
      ...withMoney(order, { extras: moneyOf(order).extras.filter((e) => e.id !== id) }),
      jobs: (order.jobs ?? []).filter((j) => j.id !== id),
    }),
    touches: (c) => [`extra.${c.id}`],
    says: (e) => `Not asked for after all: ${e.title}`,
  }),
  event({
    type: 'bill.made',
    may: DESK,
    takenWhen: ['open', 'sealed'],
    records: { bill: BillBody },
    asks: {},
    decide: (_command, order, c) => {
      const { bill } = moneyOf(order);
      if (bill?.paid) throw new Refused('The bill is paid: it stays as it is.');
      return { type: 'bill.made', bill: { revision: (bill?.revision ?? 0) + 1, ...sayImpossible(() => billOf(order, c.assessment)) } };
    },
    apply: (order, { bill }, stamp) => withMoney(order, { bill: { ...bill, ...stamp, paid: null } }),
    touches: () => ['money.bill'],
    says: ({ bill: b }) => `Bill ${b.revision}: ${b.totals.gross} ${b.currency}`,
  }),
  event({
    type: 'bill.marked',
    may: DESK,
    takenWhen: ['open', 'sealed'],
    records: { paid: z.boolean() },
    decide: (command, order) => {
      const { bill } = moneyOf(order);
      if (!bill) throw new Refused('There is no bill yet.');
      if ((bill.paid !== null) === command.paid)
        throw new Refused(command.paid ? 'It is marked as paid already.' : 'It is not marked as paid.');
      return command;
    },
    apply: (order, { paid }, stamp) => withMoney(order, { bill: { ...moneyOf(order).bill!, paid: paid ? stamp : null } }),
    touches: () => ['money.bill'],
    says: (e) => (e.paid ? 'Bill marked as paid' : 'Bill marked as owing again'),
  }),
  event({
    type: 'question.asked',
    may: [...ALL, CLIENT],
    takenWhen: ['open', 'sealed'],
    records: { id: z.string().regex(/^q\d{1,3}$/), text: words(600) },
    asks: { text: words(600) },
    decide: ({ type, text }, order) => {
      const asked = order.questions ?? [];
      if (asked.length >= MOST_QUESTIONS) throw new Refused(`${MOST_QUESTIONS} questions were asked here: telephone instead.`);
      if (asked.some((q) => q.text === text && !q.answer)) throw new Refused('That was asked already, and is not answered yet.');
      return { type, id: `q${asked.length + 1}`, text };
    },
    apply: (order, { id, text }, { at }) => ({ ...order, questions: [...(order.questions ?? []), { id, text, at, answer: null }] }),
    touches: () => ['questions'],
    says: (e) => `The owner asks: ${e.text}`,
  }),
  event({
    type: 'question.answered',
    may: ALL,
    takenWhen: ['open', 'sealed'],
    records: { id: z.string().regex(/^q\d{1,3}$/), text: words(600), photo },
    decide: (command, order, c) => {
      const q = order.questions?.find((x) => x.id === command.id);
      if (!q) throw new Refused('There is no such question.', 'input', 'id');
      if (command.photo && c.known.hasPhoto && !c.known.hasPhoto(command.photo))
        throw new Refused('That picture has not arrived.', 'input', 'photo');
      return command;
    },
    apply: (order, { id, text, photo: picture }, stamp) => ({
      ...order,
      questions: (order.questions ?? []).map((q) => (q.id === id ? { ...q, answer: { text, photo: picture, ...stamp } } : q)),
    }),
    touches: (c) => [`question.${c.id}`],
    says: (e) => `Answered: ${e.text}`,
  }),
] as const;
