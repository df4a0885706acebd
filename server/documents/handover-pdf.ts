import { unitView } from '#core/drawing/view';
import { sayFitted, type HandoverSheet } from '#core/order/handover-sheet';
import { sayLots } from '#core/order/lots';
import { showQuantity, showUnit, type UnitSystem } from '#core/quantity/quantity';
import { showReading } from '#core/quantity/reading-units';
import { localTime, sayHere } from '#core/quantity/say-here';
import type { ReadingUnit } from '#model/kit';
import { VERDICT_WORD } from '#core/verdict';
import type { Settings } from '#model/settings';
import type { UnitModel } from '#model/unit-model';
import { MARGIN, openPaper } from './paper';

const num = (x: number | null) => (x === null ? '–' : String(Number(x.toPrecision(4))));
/** A reading or a limit in the shop's units. */
const show = (x: number | null, unit: ReadingUnit, units: UnitSystem): string => (x === null ? '–' : showReading(x, unit, units));

/** How close the owner's page is set so that it stays one page: its text, its drawing, points, and the open points it has room for. */
const SET = [
  { text: 9, drawing: 112, open: 4 },
  { text: 8.3, drawing: 92, open: 3 },
  { text: 7.6, drawing: 76, open: 1 },
];

/**
 * The hand-over sheet as paper: US Letter, black on white, readable when photocopied. The first page is the owner's; the rest is
 * for whoever works on the unit next.
 */
export async function handoverPdf(sheet: HandoverSheet, model: UnitModel, settings: ForPaper): Promise<Buffer> {
  let paper: Paper | null = null;
  for (const set of SET) if (!paper?.onePage) paper = await setSheet(sheet, model, settings, set);
  return paper!.finish();
}

type ForPaper = Pick<Settings, 'shop' | 'units' | 'timeZone'>;
interface Paper {
  /** the owner's part takes no more than a page */
  onePage: boolean;
  finish: () => Promise<Buffer>;
}

async function setSheet(
  sheet: HandoverSheet,
  model: UnitModel,
  { shop, units, timeZone }: ForPaper,
  set: (typeof SET)[number],
): Promise<Paper> {
  const when = (iso: string | null) => (iso ? localTime(iso, timeZone) : '–');
  const said = (text: string) => sayHere(text, { units, timeZone });
  const { doc, width, room, heading, para, table, finish } = await openPaper(
    `Hand-over ${sheet.order.number}`,
    sheet.order.trial ?? null,
    'portrait',
    set.text,
  );

  doc
    .font('bold')
    .fontSize(16)
    .text(`${sheet.unit.maker} ${sheet.unit.model}`, MARGIN, MARGIN, { width: width - 190 });
  doc
    .font('text')
    .fontSize(9)
    .text(`${sheet.unit.year}, build ${sheet.unit.build} · ${sheet.unit.systemV} V`, { width: width - 190 });
  doc
    .font('mono')
    .fontSize(10)
    .text(sheet.unit.identity || 'no number', { width: width - 190 });
  doc
    .font('text')
    .fontSize(8)
    .text(sheet.unit.identityCheck, { width: width - 190 });
  doc
    .font('text')
    .fontSize(9)
    .text(sheet.unit.meter === null ? '' : showUnit(Math.round(sheet.unit.meter), sheet.unit.meterUnit, units, 6), { width: width - 190 });
  const left = doc.y;
  doc
    .font('bold')
    .fontSize(12)
    .text(`Order ${sheet.order.number}`, MARGIN + width - 180, MARGIN, { width: 180, align: 'right' });
  doc
    .font('text')
    .fontSize(9)
    .text(shop, { width: 180, align: 'right' })
    .text(`For ${sheet.order.owner}`, { width: 180, align: 'right' })
    .text(`Taken in ${when(sheet.order.openedAt)}`, { width: 180, align: 'right' });
  doc.text(sheet.order.sealedAt ? `Handed over ${when(sheet.order.sealedAt)}` : 'Not handed over yet', { width: 180, align: 'right' });
  doc.y = Math.max(left, doc.y) + 6;
  doc.x = MARGIN;

  // the unit with the places of feeds and fuses
  const view = unitView(model, 'side');
  const scale = Math.min((width * 0.62) / view.box.w, set.drawing / view.box.h);
  const top = doc.y;
  doc.save().translate(MARGIN, top).scale(scale).translate(-view.box.x, -view.box.y);
  for (const s of view.shapes) {
    doc.path(s.d).lineWidth((s.role === 'body' || s.role === 'frame' ? 1 : 0.5) / scale);
    if (s.role === 'ghost')
      doc
        .dash(3 / scale, {})
        .stroke('#777')
        .undash();
    else if (s.role === 'frame' || s.role === 'detail') doc.stroke('#333');
    else doc.fillAndStroke('white', 'black');
  }
  doc.restore();
  const feeds = [...new Map(sheet.circuits.filter((c) => c.feed).map((c) => [c.feed!, c])).values()];
  feeds.slice(0, 9).forEach((c, i) => {
    const at = model.powerPoints.find((p) => p.name === c.feed);
    const place = model.places.find((p) => p.id === at?.place);
    if (place) {
      const [x, y] = view.at(place);
      // two points at one place stand beside each other
      const beside = feeds.slice(0, i).filter((f) => model.powerPoints.find((p) => p.name === f.feed)?.place === place.id).length;
      const px = MARGIN + (x - view.box.x) * scale + beside * 13;
      const py = top + (y - view.box.y) * scale;
      doc
        .circle(px, py, 6)
        .fillAndStroke('white', 'black')
        .fillColor('black')
        .font('bold')
        .fontSize(8)
        .text(String(i + 1), px - 5, py - 4, { width: 10, align: 'center' });
    }
    doc
      .font('text')
      .fontSize(8.5)
      .fillColor('black')
      .text(`${i + 1}  ${c.feed}`, MARGIN + width * 0.66, top + 4 + i * 13, { width: width * 0.34, ellipsis: true, height: 12 });
  });
  doc.x = MARGIN;
  doc.y = Math.max(top + view.box.h * scale, top + feeds.length * 13) + 4;

  // the owner's page
  heading('Fitted');
  para(sayFitted(sheet));
  if (sheet.lots) para(`Serial and lot numbers: ${sayLots(sheet.lots)}`);
  if (sheet.forTheOwner.length) {
    heading('How to use it');
    sheet.forTheOwner.forEach((t) => para(`· ${said(t)}`));
  }
  const fused = sheet.circuits.filter((c) => c.fuseA !== null);
  if (fused.length) {
    heading('Fuses');
    table(
      [
        { head: '', width: 5 },
        { head: 'Guards', width: 36 },
        { head: 'Fuse', width: 22, mono: true },
        { head: 'Fed from', width: 40 },
      ],
      fused.map((c) => [
        c.feed === null ? '' : feeds.findIndex((f) => f.feed === c.feed) + 1 || '',
        c.circuit,
        `${c.fuseA} A ${c.fuseColour}`,
        c.feed,
      ]),
    );
  }
  heading('What to expect');
  para(`${said(sheet.power.says)}.`);
  (sheet.power.days ?? []).forEach((d) => para(`${d.title}: ${said(d.says)}.`));
  // sheets sealed before open points were shown have none
  const open = sheet.open ?? [];
  if (open.length) {
    heading(open.length === 1 ? 'One point is open' : `${open.length} points are open`);
    open.slice(0, set.open).forEach((p) => para(`${VERDICT_WORD[p.verdict]}: ${said(p.says)}`));
    if (open.length > set.open) para(`and ${open.length - set.open} more, in the appendix`);
  }
  heading('Cautions');
  (sheet.ownerCautions ?? sheet.cautions).forEach((t) => para(`· ${t}`));
  room(90);
  heading('Received, with every control shown');
  if (sheet.signature) {
    const y = doc.y + 2;
    // the pad is 600 by 200
    doc.save().translate(MARGIN, y).scale(0.3).path(sheet.signature.strokes).lineWidth(5).lineCap('round').stroke('black').restore();
    doc.y = y + 62;
    para(`${sheet.signature.name}, ${when(sheet.signature.at)}`);
  } else para('Not signed.');

  const onePage = doc.bufferedPageRange().count === 1;
  doc.addPage();
  doc.font('bold').fontSize(13).text('For the next installer', MARGIN, MARGIN);
  heading(`Power: ${VERDICT_WORD[sheet.power.verdict]}`);
  sheet.power.checks.forEach((c) => para(`${c.title}: ${VERDICT_WORD[c.verdict]}, ${said(c.says)}`));
  // sheets sealed before owners' days were simulated have none
  (sheet.power.days ?? []).forEach((d) => para(`${d.title}, simulated: ${VERDICT_WORD[d.verdict]}, ${said(d.says)}`));
  (sheet.power.agreed ?? []).forEach((c) => para(`Agreed: ${c.says} (${c.by})`));
  (sheet.power.measured ?? []).forEach((m) => para(`Measured: ${said(m)}`));
  heading('Feeds and fuses');
  table(
    [
      { head: 'Circuit', width: 22 },
      { head: 'Feed', width: 26 },
      { head: 'How', width: 10 },
      { head: 'AWG', width: 7, mono: true },
      { head: 'One way', width: 13, mono: true },
      { head: 'Fuse', width: 16, mono: true },
      { head: 'Drop %', width: 9, mono: true },
      { head: 'By hand', width: 22 },
    ],
    sheet.circuits.map((c) => [
      c.circuit,
      c.feed,
      c.mode === 'relay' ? `relay, ${c.trigger ?? 'keyed'}` : c.mode === 'plug' ? 'plug to pull' : 'direct',
      c.awg,
      c.oneWayM === null ? null : showQuantity(c.oneWayM, 'length', units),
      c.fuseA === null ? null : `${c.fuseA} A ${c.fuseColour}`,
      num(c.dropPct),
      c.byHand.map((o) => `${o.field} ${o.value} (${o.by}${o.reason ? `: ${o.reason}` : ''})`).join('; ') || '',
    ]),
  );
  heading('Splices');
  table(
    [
      { head: 'Circuit', width: 24 },
      { head: 'Kit colour', width: 14, mono: true },
      { head: 'Unit colour', width: 14, mono: true },
      { head: 'Joint', width: 20 },
      { head: 'At', width: 30 },
      { head: 'Holds', width: 12, mono: true },
    ],
    sheet.splices.map((x) => [
      x.circuit,
      x.kitColour,
      x.unitColour ?? '–',
      x.joint.replaceAll('-', ' '),
      x.place,
      x.pullN === null ? null : show(x.pullN, 'N', units),
    ]),
  );
  heading('Readings');
  table(
    [
      { head: 'Step', width: 34 },
      { head: 'Reading', width: 26 },
      { head: 'Read', width: 13, mono: true },
      { head: 'Expected', width: 20, mono: true },
      { head: 'Verdict', width: 12 },
      { head: 'Who', width: 9 },
      { head: 'When', width: 18, mono: true },
    ],
    sheet.steps.flatMap((s) =>
      s.readings.length
        ? s.readings.map((r) => [
            s.title + (s.status === 'skipped' ? ` (skipped: ${s.reason})` : ''),
            said(r.label),
            show(r.value, r.unit, units),
            r.unit === 'yes'
              ? 'yes'
              : r.high === null
                ? `at least ${show(r.low, r.unit, units)}`
                : `${show(r.low, r.unit, units)} to ${show(r.high, r.unit, units)}`,
            r.verdict ? VERDICT_WORD[r.verdict] : '–',
            r.by ?? '–',
            when(r.at),
          ])
        : s.status === 'skipped'
          ? [[`${s.title} (skipped: ${s.reason})`, '', '', '', '', s.by, when(s.at)]]
          : [],
    ),
  );
  if (open.length > set.open) {
    heading('Open points');
    open.forEach((p) => para(`${VERDICT_WORD[p.verdict]}: ${said(p.says)}`));
  }
  const passed = sheet.proofs.filter((p) => p.state === 'overridden');
  if (passed.length) {
    heading('Passed without proof');
    passed.forEach((p) => para(`${p.title}: ${p.says}`));
  }
  for (const p of sheet.lamps) {
    heading(p.pack);
    p.items.forEach((i) => {
      const of = (x: number) => said(`${num(x)} ${i.unit}`);
      const figure =
        i.figure === null || i.figure === undefined ? '' : `; ${of(i.figure)}${i.limit === null ? '' : `, limit ${of(i.limit)}`}`;
      para(`${i.verdict === null ? 'Not applicable' : VERDICT_WORD[i.verdict]}: ${i.title}, ${said(i.says)}${figure} (${i.source})`);
    });
    para(`Edition: ${p.edition}.`);
  }
  // sheets sealed before fasteners were counted have none
  if (sheet.closedShort?.length) {
    heading('Closed without all fasteners');
    sheet.closedShort.forEach((c) => para(`${c.panel}: ${c.short}. ${c.by}: ${c.reason}`));
  }
  if (sheet.findings.length) {
    heading('Found on this unit');
    sheet.findings.forEach((f) => para(`${when(f.at)} ${f.by}: ${f.text}`));
  }
  heading('Cautions at work');
  sheet.cautions.forEach((t) => para(`· ${t}`));
  heading(`Time: ${num(sheet.minutes.spent)} minutes spent, ${num(sheet.minutes.planned)} planned`);
  para(
    [...new Set(sheet.steps.filter((s) => s.by).map((s) => s.by))]
      .map((by) => `${by}: ${sheet.steps.filter((s) => s.by === by && s.status === 'done').length} steps`)
      .join(', ') || 'No steps done yet.',
  );
  if (sheet.additions.length) {
    heading('Added after sealing');
    sheet.additions.forEach((a) => para(`${when(a.at)} ${a.by}: ${a.text}`));
  }
  return { onePage, finish: () => finish(`Order ${sheet.order.number} · ${sheet.unit.maker} ${sheet.unit.model} · times in ${timeZone}`) };
}
