import type { ELK } from 'elkjs/lib/elk-api';
import { JOINT_WORD } from '#core/circuit/joint';
import { ImpossibleInput } from '#core/errors';
import { cutSides } from '#core/wiring/factory-cuts';
import { keptCuts } from '#core/supply/kept-cuts';
import { capRows, cutPlan, cutRows, spliceRows } from '#core/harness/cut-list';
import { schematicSvg } from '#core/harness/draw';
import { layOut, type Layout } from '#core/harness/layout';
import { schematicOf } from '#core/harness/schematic';
import { holeSheets, templateSvg, type HoleSheet } from '#core/lighting/hole-sheet';
import { handoverRows, handoverSheet, type HandoverSheet } from '#core/order/handover-sheet';
import type { OrderEvent } from '#core/events/record';
import { billRows, quoteRows } from '#core/money/rows';
import { awgName } from '#core/wire/resistance';
import { Harness, type HarnessFuse } from '#model/harness';
import { csv } from '../documents/csv';
import { handoverPdf } from '../documents/handover-pdf';
import { billPdf, quotePdf } from '../documents/money-paper';
import { aimPdf, holeSheetDxf, holeSheetPdf, mirrorOf } from '../documents/lamp-paper';
import { otherWays } from '#core/plan/other-ways';
import { bagLabelsPdf, planPdf } from '../documents/plan-paper';
import { cutListPdf, labelsPdf, schematicPdf, type Heading } from '../documents/wiring-pdf';
import type { OrderInput, WorkMemo } from './memo';

/** What of an order is put on paper or into a file, and what it is told. */
export interface PaperInput {
  x: OrderInput;
  paper: PaperName;
  /** hole sheets: of which part, and for the other side; aim: metres to the wall */
  kit?: string;
  device?: string;
  mirror?: boolean;
  distanceM?: number;
  /** a quote: which; the newest if none is named */
  revision?: number;
  /** hand-over: as sealed, or all that was recorded so far */
  sealed?: string;
  history?: OrderEvent[];
}
export interface Paper {
  type: string;
  fileName: string;
  inline: boolean;
  body: Uint8Array | string;
}

let elk: ELK | null = null;
/** An order's schematic, laid out. What does that is loaded with the first one: a server that begins has people waiting who want none. */
async function schematicLayout({ assessment }: Seen): Promise<Layout> {
  elk ??= new (await import('elkjs/lib/elk.bundled.js')).default();
  return layOut(schematicOf(assessment.wiring.harness), elk);
}

type Seen = ReturnType<WorkMemo['computed']> & { ask: PaperInput; heading: Heading };
const PDF = 'application/pdf';
const nothing = (why: string) => new ImpossibleInput(why, 'paper');

/** An order's wiring with everything its papers need. */
function wiringOf({ assessment, sheets, settings, ask }: Seen) {
  const { harness, circuits } = assessment.wiring;
  const rows = cutRows(harness, sheets.model);
  const plan = cutPlan(rows, settings.stock, keptCuts(settings.cuts, ask.x.order.id));
  const from = new Map(plan.assignments.map((a) => [a.cut, a.stock]));
  const place = (p: string | null) => sheets.model.places.find((x) => x.id === p)?.name ?? '–';
  return {
    harness,
    rows: rows.map((r) => ({
      ...r,
      circuitName: circuits.find((c) => c.id === r.circuit)?.circuit.name ?? '',
      stock: from.get(r.wire) ?? '–',
    })),
    splices: spliceRows(harness, assessment.ends, (c) => JOINT_WORD[circuits.find((x) => x.id === c)?.joint ?? 'crimp-shrink']).map(
      (s) => ({
        ...s,
        joint: s.warning ? `${s.joint}. ${s.warning}` : s.joint,
        placeName: place(s.place),
      }),
    ),
    caps: capRows(harness, assessment.ends, cutSides(assessment.sheets.kits, assessment.sheets.model)).map(
      (c) => `${c.lead} (${place(c.place)})`,
    ),
  };
}

function holeSheetOf({ ask, sheets: given, assessment }: Seen): HoleSheet {
  const list = holeSheets(ask.x.order, given);
  const plain = list.find((s) => s.kit === ask.kit && s.device === ask.device);
  if (!plain) throw nothing('No part of this order has a hole sheet of that name.');
  return ask.mirror ? mirrorOf(assessment.sheets.model, plain, { id: '', name: '' }) : plain;
}

/** The hand-over sheet: as sealed with additions and history since, or as it stands while the order is open. */
export function sheetOf({ ask, assessment, sheets }: Pick<Seen, 'ask' | 'assessment' | 'sheets'>): HandoverSheet {
  const { order } = ask.x;
  const made = handoverSheet(order, sheets, assessment, ask.history ?? []);
  return ask.sealed === undefined
    ? made
    : { ...(JSON.parse(ask.sealed) as HandoverSheet), additions: order.additions, history: made.history };
}

const work = (s: Seen) => {
  if (!s.assessment.work) throw nothing('No kit is chosen, so there is nothing to plan.');
  return s.assessment.work;
};

const shownOf = (s: Seen) => ({ heading: s.heading, shop: s.settings.shop, timeZone: s.settings.timeZone });
const quoteOf = ({ ask }: Seen) => {
  const quotes = ask.x.order.money?.quotes ?? [];
  const found = ask.revision === undefined ? quotes.at(-1) : quotes.find((q) => q.revision === ask.revision);
  if (!found) throw nothing('There is no such quote on this order.');
  return found;
};
const billOf = ({ ask }: Seen) => {
  const bill = ask.x.order.money?.bill;
  if (!bill) throw nothing('There is no bill yet.');
  return bill;
};

interface Kind {
  type: string;
  inline?: boolean;
  /** the file's name, and its ending; a part's follows the order's number */
  name: (s: Seen) => [string, string, string?];
  make: (s: Seen) => Promise<Buffer | string> | Buffer | string;
}
const kind = (type: string, name: string, ending: string, make: Kind['make'], inline = true): Kind => ({
  type,
  inline,
  name: () => [name, ending],
  make,
});
const hole = (type: string, ending: string, make: (h: HoleSheet, s: Seen) => Promise<Buffer> | string, inline: boolean): Kind => ({
  type,
  inline,
  name: (s) => ['holes', ending, s.ask.device],
  make: (s) => make(holeSheetOf(s), s),
});

const KINDS = {
  'plan.pdf': kind(PDF, 'plan', 'pdf', (s) =>
    planPdf(work(s), otherWays(s.ask.x.order, work(s), s.assessment, s.settings), s.sheets.model, s.heading, s.settings.units),
  ),
  'bag-labels.pdf': kind(PDF, 'bag-labels', 'pdf', (s) => bagLabelsPdf(work(s), s.heading)),
  'hand-over.pdf': kind(PDF, 'hand-over', 'pdf', (s) => handoverPdf(sheetOf(s), s.sheets.model, s.settings)),
  'hand-over.csv': kind('text/csv', 'hand-over', 'csv', (s) => csv(handoverRows(sheetOf(s))), false),
  'hand-over.json': kind('application/json', 'hand-over', 'json', (s) => JSON.stringify(sheetOf(s)), false),
  'holes.pdf': kind(PDF, 'holes', 'pdf', (s) => {
    const list = holeSheets(s.ask.x.order, s.sheets);
    if (!list.length) throw nothing('No part of this order has a cut-out or bolts on its sheet.');
    return holeSheetPdf(list, s.heading, s.settings.units);
  }),
  'hole.pdf': hole(PDF, 'pdf', (h, s) => holeSheetPdf([h], s.heading, s.settings.units), true),
  'hole.svg': hole('image/svg+xml', 'svg', (h, s) => templateSvg(h, `${h.name}, ${s.heading.unit}, order ${s.heading.order}`), true),
  'hole.dxf': hole('image/vnd.dxf', 'dxf', (h) => holeSheetDxf(h), false),
  'aim.pdf': kind(PDF, 'aim', 'pdf', (s) => aimPdf(s.assessment.lamps.lamps, s.ask.distanceM!, s.heading, s.settings.units)),
  'schematic.svg': kind('image/svg+xml', 'schematic', 'svg', async (s) =>
    schematicSvg(
      await schematicLayout(s),
      `${s.heading.unit}, order ${s.heading.order}: added wiring${s.heading.trial ? ` (${s.heading.trial})` : ''}`,
    ),
  ),
  'schematic.pdf': kind(PDF, 'schematic', 'pdf', async (s) => schematicPdf(await schematicLayout(s), s.heading)),
  'cut-list.pdf': kind(PDF, 'cut-list', 'pdf', (s) => {
    const w = wiringOf(s);
    return cutListPdf(w.rows, w.splices, w.caps, s.heading, s.settings.units);
  }),
  'labels.pdf': kind(PDF, 'labels', 'pdf', (s) => {
    const w = wiringOf(s);
    const fuses = w.harness.elements.filter((e): e is HarnessFuse => e.kind === 'fuse' && e.circuit !== null && e.of === null);
    return labelsPdf(w.rows, fuses, s.heading, s.settings.units);
  }),
  'cut-list.csv': kind(
    'text/csv',
    'cut-list',
    'csv',
    (s) =>
      csv(
        wiringOf(s).rows.map((r) => ({
          label: r.label,
          circuit: r.circuitName,
          colour: r.colour,
          awg: r.awg === null ? '' : awgName(r.awg),
          length_m: r.lengthM ?? '',
          from: r.from,
          from_end: r.ends[0],
          to: r.to,
          to_end: r.ends[1],
          slide_on_first: r.slideOn.join('; '),
          strip_mm: r.stripMm ?? '',
          protect: r.protect.join('; '),
          cut_from: r.stock,
        })),
        [
          'label',
          'circuit',
          'colour',
          'awg',
          'length_m',
          'from',
          'from_end',
          'to',
          'to_end',
          'slide_on_first',
          'strip_mm',
          'protect',
          'cut_from',
        ],
      ),
    false,
  ),
  'splices.csv': kind(
    'text/csv',
    'splices',
    'csv',
    (s) =>
      csv(
        wiringOf(s).splices.map((r) => ({
          where: r.at,
          place: r.placeName,
          unit_side: r.from.join(' '),
          kit_side: r.to.join(' '),
          joint: r.joint,
          tug_newtons: r.pull ? Number(r.pull.newtons.toFixed(1)) : '',
          tug_lbf: r.pull?.lbf ?? '',
        })),
        ['where', 'place', 'unit_side', 'kit_side', 'joint', 'tug_newtons', 'tug_lbf'],
      ),
    false,
  ),
  'quote.pdf': kind(PDF, 'quote', 'pdf', (s) => quotePdf(quoteOf(s), s.ask.x.order.money?.agreed ?? null, shownOf(s))),
  'quote.csv': kind('text/csv', 'quote', 'csv', (s) => csv(quoteRows(quoteOf(s), s.heading.order)), false),
  'bill.pdf': kind(PDF, 'bill', 'pdf', (s) => billPdf(billOf(s), shownOf(s))),
  'bill.csv': kind(
    'text/csv',
    'bill',
    'csv',
    (s) => csv(billRows(billOf(s), s.heading.order, s.heading.owner, s.settings.timeZone)),
    false,
  ),
  'harness.json': kind(
    'application/json',
    'harness',
    'json',
    (s) => JSON.stringify({ kadro: 'harness', format: 1, harness: Harness.parse(s.assessment.wiring.harness) }, null, 1),
    false,
  ),
} satisfies Record<string, Kind>;

export type PaperName = keyof typeof KINDS;
export const paperType = (name: PaperName): string => KINDS[name].type;

/** Puts something of an order on paper. @throws ImpossibleInput when there is nothing to put there */
export async function paperTask(memo: WorkMemo, ask: PaperInput): Promise<Paper> {
  const { order } = ask.x;
  const seen = memo.computed(ask.x);
  const { model } = seen.sheets;
  const heading: Heading = {
    order: order.number,
    unit: `${model.maker} ${model.name}`,
    identity: order.unit.identity,
    owner: order.owner,
    trial: order.trial,
  };
  const s: Seen = { ...seen, ask, heading };
  const k: Kind = KINDS[ask.paper];
  const body = await k.make(s);
  const [name, ending, part] = k.name(s);
  return {
    type: k.type,
    fileName: `${[name, order.number, part].filter(Boolean).join('-')}.${ending}`,
    inline: k.inline ?? true,
    body: typeof body === 'string' ? body : new Uint8Array(body),
  };
}
