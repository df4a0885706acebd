import { BENCH_STAGES } from '#core/plan/planned';
import { sayInUnits, type UnitSystem } from '#core/quantity/quantity';
import { sayAssumed } from '#core/known/doubt';
import type { OtherWays } from '#core/plan/other-ways';
import { planSays, toolsOf } from '#core/plan/say-plan';
import { sayStep, stepLines } from '#core/plan/say-step';
import type { WorkPlan } from '#core/plan/work';
import { zoneName } from '#core/plan/zones';
import type { UnitModel } from '#model/unit-model';
import { labelSheet } from './label-sheet';
import { MARGIN, openPaper } from './paper';
import { foot, type Heading } from './wiring-pdf';

/** The work in its order, to be ticked off by hand. */
export async function planPdf(work: WorkPlan, other: OtherWays, model: UnitModel, h: Heading, units: UnitSystem): Promise<Buffer> {
  const { doc, width, heading, para, table, finish } = await openPaper(`Plan, order ${h.order}`, h.trial);
  doc.font('bold').fontSize(15).text(`${h.unit}: the work in its order`, MARGIN, MARGIN, { width });
  para(`Order ${h.order}, ${h.owner}, ${h.identity || 'no number'}. ${sayInUnits(planSays(work, other), units)}`);
  const assumed = sayAssumed(model);
  if (assumed) para(`${assumed}.`);
  para('The unit’s own manual comes first. Power off before panels are wired behind; nobody touches the wiring while power goes on.');
  para(`Bring: ${toolsOf(work.steps).join(', ')}.`);
  heading(`${work.steps.length} steps`);
  table(
    [
      { head: '', width: 5 },
      { head: 'Min', width: 7, mono: true },
      { head: 'At', width: 12 },
      { head: '', width: 13 },
      { head: 'Step', width: 72, leads: true },
      { head: 'Tool', width: 22 },
      { head: 'Takes', width: 9, mono: true },
      { head: 'People', width: 8, mono: true },
    ],
    work.steps.map((s) => [
      '',
      Math.round(work.at.get(s.id)!),
      zoneName(work.zone.get(s.id)!, model.kind),
      BENCH_STAGES[s.stage],
      [sayStep(s, work, units), ...stepLines(s, units)].join('\n'),
      // a size stays with its tool where a line ends
      (s.tool ?? '').replace(/(?<=\d) (mm|in) (?=\w)/g, '\u00a0$1\u00a0'),
      s.minutes,
      s.hands,
    ]),
  );
  return finish(foot(h));
}

/** A label for the bag of each panel that comes off: what is in it and how many. */
export function bagLabelsPdf(work: WorkPlan, h: Heading): Promise<Buffer> {
  const panels = [
    ...new Map(work.steps.filter((s) => s.stage === 'open' && s.panel!.fasteners.length).map((s) => [s.panel!.id, s.panel!])).values(),
  ];
  return labelSheet(
    `Bag labels, order ${h.order}`,
    h.trial,
    panels.map((p) => ({
      big: p.name,
      first: p.fasteners.map((f) => `${f.count} × ${f.kind} (${f.tool})`).join(', ') || 'no fasteners',
      second: `order ${h.order}, ${p.fasteners.reduce((n, f) => n + f.count, 0)} altogether`,
      mark: '',
    })),
    foot(h),
  );
}
