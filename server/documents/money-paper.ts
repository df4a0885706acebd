import type { BillBody, OrderMoney, PricedLine } from '#model/money';
import { VERDICT_WORD } from '#core/verdict';
import { localTime } from '#core/quantity/say-here';
import { openPaper } from './paper';
import { foot, type Heading } from './wiring-pdf';

interface Shown {
  heading: Heading;
  shop: string;
  timeZone: string;
}

/** What a quote or a bill says at its foot: nobody is bound by what a program reckoned alone. */
const LOCAL = 'Prices and taxes as this shop has set them. What the law of the place says of quotes, bills and taxes has the last word.';

const amount = (l: PricedLine) => `${l.quantity}${l.unit ? ` ${l.unit}` : ''}`;
const COLUMNS = [
  { head: '', width: 46 },
  { head: 'How much', width: 13, mono: true },
  { head: 'Each', width: 14, mono: true },
  { head: 'Net', width: 14, mono: true },
  { head: 'Tax', width: 12, mono: true },
  { head: 'Comes to', width: 15, mono: true },
];

type Paper = Awaited<ReturnType<typeof openPaper>>;

/** Lines, taxes and what they come to. */
function sums(p: Paper, of: Pick<BillBody, 'lines' | 'taxes' | 'totals'>, currency: string): void {
  p.table(
    COLUMNS,
    of.lines.map((l) => [l.name, amount(l), l.unitPrice, l.net, l.tax, l.gross]),
  );
  if (Number(of.totals.discount) !== 0) p.para(`Taken off: ${of.totals.discount} ${currency}; it is within the lines above.`);
  for (const t of of.taxes) p.para(`${t.name} ${t.rate}${t.included ? ', within the prices' : ''}, of ${t.base}: ${t.tax} ${currency}`);
  p.doc.font('bold').fontSize(12);
  p.room(20);
  p.doc.text(`${of.totals.gross} ${currency}`, { align: 'right' });
}

function head(p: Paper, title: string, { heading, shop }: Shown): void {
  p.doc.font('bold').fontSize(16).text(title);
  p.doc.font('text').fontSize(10);
  p.doc.text(`${shop} · for ${heading.owner} · ${heading.unit} · ${heading.identity || 'no number'} · order ${heading.order}`);
}

/** A quote on paper: every option with its lines, what it comes to, and how it is judged. */
export async function quotePdf(q: OrderMoney['quotes'][number], agreed: OrderMoney['agreed'], shown: Shown): Promise<Buffer> {
  const p = await openPaper(`Quote ${shown.heading.order}-${q.revision}`, shown.heading.trial);
  head(p, `Quote ${shown.heading.order}-${q.revision}`, shown);
  p.para(
    `Made ${localTime(q.at, shown.timeZone)}; it stands until ${q.until}. ${
      q.basis === 'fixed'
        ? 'The price is fixed.'
        : `Work is billed by its time, up to ${q.overrun} more than is quoted; beyond that you are asked first.`
    }`,
  );
  if (q.withdrawn) p.para(`WITHDRAWN: ${q.withdrawn.reason}`);
  if (q.note) p.para(q.note);
  for (const o of q.options) {
    p.heading(`${q.options.length > 1 ? `Option ${o.id.toUpperCase()}: ` : ''}${o.name}`);
    p.para([...o.kits, ...o.jobs].map((k) => k.name).join(' · '));
    for (const [what, j] of [
      ['Charging', o.power],
      ['Wiring', o.wire],
      ['Lamps', o.lamps],
    ] as const)
      if (j.verdict)
        p.para(
          `${what}: ${j.says && j.says.startsWith(VERDICT_WORD[j.verdict]) ? j.says : `${VERDICT_WORD[j.verdict]}${j.says ? `, ${j.says}` : ''}`}.`,
        );
    sums(p, o, q.currency);
  }
  p.heading('Agreed');
  if (agreed && agreed.revision === q.revision)
    p.para(`Option ${agreed.option.toUpperCase()}, by ${agreed.name}, ${localTime(agreed.at, shown.timeZone)} (${agreed.how}).`);
  else p.para('Which option, name, day, signature: _______________________________________________');
  p.para('What turns up while the work is done is asked for before it is done, and billed only if you agree.');
  p.para(LOCAL);
  return p.finish(foot(shown.heading));
}

/** What is owed, on paper. */
export async function billPdf(b: NonNullable<OrderMoney['bill']>, shown: Shown): Promise<Buffer> {
  const number = `${shown.heading.order}-${b.revision}`;
  const p = await openPaper(`Bill ${number}`, shown.heading.trial);
  head(p, `Bill ${number}`, shown);
  p.para(`Made ${localTime(b.at, shown.timeZone)}. ${b.paid ? `Paid ${localTime(b.paid.at, shown.timeZone)}.` : 'Not paid yet.'}`);
  sums(p, b, b.currency);
  if (b.left.length) {
    p.heading('Said besides');
    for (const l of b.left) p.para(l);
  }
  p.para(LOCAL);
  return p.finish(foot(shown.heading));
}
