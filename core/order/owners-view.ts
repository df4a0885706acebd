import type { Order } from '#model/order';
import { NO_MONEY, type OrderMoney, type QuotedOption } from '#model/money';
import type { Sheets } from '#model/sheet';
import type { Settings } from '#model/settings';
import type { Verdict } from '#model/common';
import { unitView } from '../drawing/view';
import { agreedOption } from '../money/order-quote';
import { showReading } from '../quantity/reading-units';
import { localDay, plainTime, sayHere } from '../quantity/say-here';
import { stepState, type Assessment } from './assess';
import { sayLots } from './lots';
import { handoverSheet, type HandoverSheet } from './handover-sheet';

type Priced = Pick<QuotedOption, 'lines' | 'taxes' | 'totals'>;
/** What an owner is shown of something priced: no more than what they pay for. */
const priceOf = ({ lines, taxes, totals }: Priced) => ({
  lines: lines.map((l) => ({ name: l.name, quantity: l.quantity, unit: l.unit, gross: l.gross })),
  taxes: taxes.map((t) => ({ name: t.name, rate: t.rate, included: t.included, tax: t.tax })),
  totals,
});

/** A verdict in words for somebody who is no installer. */
const LAY: Record<Verdict, string> = {
  holds: 'is fine',
  tight: 'is just enough',
  fails: 'is not enough',
  unknown: 'is not known yet',
};

const judged = (o: QuotedOption): { verdict: Verdict; says: string }[] => {
  const { power, wire, lamps } = o;
  return [
    ...(power.verdict ? [{ verdict: power.verdict, says: `Charging ${LAY[power.verdict]}` }] : []),
    ...(wire.verdict && wire.verdict !== 'holds' ? [{ verdict: wire.verdict, says: `Wiring ${LAY[wire.verdict]}` }] : []),
    ...(lamps.verdict && lamps.verdict !== 'holds'
      ? [
          {
            verdict: lamps.verdict,
            says: `What the road or the water asks of lamps is not all ${lamps.verdict === 'fails' ? 'met' : 'proved yet'}`,
          },
        ]
      : []),
  ];
};

/** How far the work is, for somebody who is no installer. */
function stateOf(order: Order, a: Assessment): { state: 'waits' | 'works' | 'done' | 'over' | 'cancelled'; says: string } {
  if (order.status === 'cancelled') return { state: 'cancelled', says: 'This order was cancelled.' };
  if (order.status === 'sealed') return { state: 'over', says: 'Handed over.' };
  const settled = a.steps.filter((s) => stepState(order, s.id).status !== 'todo').length;
  if (!a.steps.length) return { state: 'waits', says: 'What is to be done is being worked out.' };
  if (settled === a.steps.length) return { state: 'done', says: 'The work is done. It waits to be handed over.' };
  if (!settled && !order.clocks.length) return { state: 'waits', says: `Planned: ${a.steps.length} steps. Work has not begun.` };
  return { state: 'works', says: `Being worked on: ${settled} of ${a.steps.length} steps are done.` };
}

/** The newest quote that stands, with what it says of charging and lamps. */
function quoteOf(order: Order, money: OrderMoney, today: string) {
  const q = money.quotes.at(-1);
  if (!q || q.withdrawn || order.status !== 'open') return null;
  const declined = money.declined.find((d) => d.revision === q.revision);
  return {
    revision: q.revision,
    basis: q.basis,
    currency: q.currency,
    until: q.until,
    overdue: today > q.until,
    overrun: q.overrun,
    note: q.note,
    declined: declined ? { name: declined.name, reason: declined.reason } : null,
    options: q.options.map((o) => ({
      id: o.id,
      name: o.name,
      kits: [...o.kits, ...o.jobs].map((k) => k.name),
      minutes: o.minutes,
      judged: judged(o),
      ...priceOf(o),
    })),
  };
}

const extraOf = (e: OrderMoney['extras'][number]) => ({
  id: e.id,
  title: e.title,
  why: e.why,
  photo: e.photo,
  minutes: e.minutes,
  currency: e.currency,
  ...priceOf(e),
  answer: e.answer && { yes: e.answer.yes, name: e.answer.name, at: e.answer.at },
});

/** What is where, for the owner of the unit: fuses as numbers on its drawing. */
function mapOf(sheets: Sheets, sheet: HandoverSheet) {
  const view = unitView(sheets.model, 'side');
  const fused = sheet.circuits.filter((c) => c.fuseA !== null && c.feed !== null);
  const feeds = [...new Set(fused.map((c) => c.feed!))];
  return {
    box: view.box,
    shapes: view.shapes.map((s) => ({ d: s.d, role: s.role })),
    feeds: feeds.map((feed, i) => {
      const point = sheets.model.powerPoints.find((p) => p.name === feed);
      const place = sheets.model.places.find((p) => p.id === point?.place);
      return { n: i + 1, name: feed, at: place ? view.at(place) : null };
    }),
    /** serial and lot numbers of what was fitted, in words */
    numbers: sayLots(sheet.lots ?? []),
    fuses: fused.map((c) => ({
      n: feeds.indexOf(c.feed!) + 1,
      circuit: c.circuit,
      fuse: `${c.fuseA} A${c.fuseColour ? `, ${c.fuseColour}` : ''}`,
    })),
  };
}

/**
 * What the owner of a unit sees on their page: this order and nothing else of the shop; no step of the bench, no name of who works.
 * @param sealed the sheet as it was sealed, once it was
 * @param today by the shop’s calendar
 */
export function ownersView(order: Order, sheets: Sheets, a: Assessment, settings: Settings, today: string, sealed: HandoverSheet | null) {
  const money = order.money ?? NO_MONEY;
  const of = agreedOption(order);
  const said = (text: string) => sayHere(text, settings);
  const sheet = order.status === 'sealed' ? (sealed ?? handoverSheet(order, sheets, a, [])) : null;
  return {
    shop: settings.shop,
    number: order.number,
    trial: order.trial,
    unit: `${sheets.model.maker} ${sheets.model.name}`,
    identity: order.unit.identity,
    year: order.unit.year,
    owner: order.owner,
    ...stateOf(order, a),
    promised: order.status === 'open' ? plainTime(order.promisedAt, settings.timeZone) : null,
    late: order.status === 'open' && localDay(order.promisedAt, settings.timeZone) < today,
    kits: [...a.sheets.kits.map((k) => k.name), ...(order.jobs ?? []).map((j) => j.title)],
    quote: quoteOf(order, money, today),
    agreed:
      of && money.agreed
        ? {
            revision: of.quote.revision,
            option: of.option.id,
            name: of.option.name,
            gross: of.option.totals.gross,
            currency: of.quote.currency,
            by: money.agreed.name,
            at: plainTime(money.agreed.at, settings.timeZone),
          }
        : null,
    extras: money.extras.map(extraOf),
    bill: money.bill && { currency: money.bill.currency, paid: money.bill.paid !== null, ...priceOf(money.bill) },
    questions: (order.questions ?? []).map((q) => ({
      id: q.id,
      text: q.text,
      at: plainTime(q.at, settings.timeZone),
      answer: q.answer && { text: q.answer.text, photo: q.answer.photo, at: plainTime(q.answer.at, settings.timeZone) },
    })),
    sheet: sheet && {
      sealedAt: plainTime(sheet.order.sealedAt ?? order.sealedAt!, settings.timeZone),
      map: mapOf(a.sheets, sheet),
      forTheOwner: sheet.forTheOwner.map(said),
      expect: [sheet.power.says, ...sheet.power.days.map((d) => `${d.title}: ${d.says}`)].map(said),
      cautions: sheet.ownerCautions.map(said),
      open: sheet.open.map((p) => said(p.says)),
      measured: sheet.steps
        .filter((s) => s.status === 'done')
        .flatMap((s) =>
          s.readings
            .filter((r) => r.value !== null && r.unit !== 'yes')
            .map((r) => ({ label: r.label, value: showReading(r.value!, r.unit, settings.units) })),
        ),
      additions: sheet.additions.map((x) => ({ at: plainTime(x.at, settings.timeZone), text: said(x.text) })),
    },
  };
}
export type OwnersView = ReturnType<typeof ownersView>;

/** Pictures that an owner’s page may show: of what turned up, and of answers. No other of the shop. */
export const ownersPhotos = (order: Order): Set<string> =>
  new Set([...(order.money?.extras ?? []).flatMap((e) => e.photo ?? []), ...(order.questions ?? []).flatMap((q) => q.answer?.photo ?? [])]);
