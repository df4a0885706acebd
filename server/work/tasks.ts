import { runCalculation } from '#core/calc/registry';
import { singleFaults } from '#core/fault/causes';
import { liveModel } from '#core/fault/predict';
import type { Sight } from '#core/fault/sight';
import { NO_FAULTS } from '#core/harness/simulate';
import type { Worked } from '#core/learn/learn';
import type { Pace } from '#core/learn/pace';
import { packFile } from '#core/lighting/pack';
import { quoteOptions } from '#core/money/order-quote';
import type { HandoverSheet } from '#core/order/handover-sheet';
import { ownersView, type OwnersView } from '#core/order/owners-view';
import { localDay } from '#core/quantity/say-here';
import type { Discount, OptionChange } from '#model/money';
import { demandsOf, type Demand } from '#core/supply/demand';
import { shortNeeds, type Need } from '#core/plan/needs';
import { readBundle } from '#core/sheets/bundle';
import { boxChanges } from '#core/sheets/edit-kit';
import { sheetChanges } from '#core/sheets/edit-model';
import { readSheet, type SheetRead } from '#core/sheets/read';
import { broughtUpToDate, Kit } from '#model/kit';
import { RulePack } from '#model/rule-pack';
import type { SheetKind } from '#model/sheet';
import { UnitModel } from '#model/unit-model';
import { sha256 } from '../store/chain';
import { readPicture } from '../documents/picture';
import type { OrderInput, WorkMemo } from './memo';
import { paperTask } from './papers';
import { decideTask, openTask } from './record-task';
import { soonestTask, supplyTask, weekTask } from './week-task';

/** A sheet written before a field was thought of is read with that field's default. */
const SCHEMA = { model: UnitModel, kit: Kit, rules: RulePack };

/** A fault planted in the stand-in for a unit: which, of its forms which, and how many were put right before. */
export interface Planted {
  cause: string;
  variant: number;
  mended: number;
}

const harnessOf = (memo: WorkMemo, x: OrderInput) => memo.computed(x).assessment.wiring.harness;

/** What was planted, unless it was put right since, or its part is not there any more. */
function plantedOf(memo: WorkMemo, x: OrderInput, p: Planted | null) {
  if (!p || x.order.mended.slice(p.mended).some((m) => m.cause === p.cause)) return null;
  const cause = singleFaults(harnessOf(memo, x)).find((c) => c.id === p.cause);
  const variant = cause?.variants[p.variant];
  return cause && variant ? { cause, variant } : null;
}

/** A kit on a model by a person: whose pace is asked for. */
export interface PaceAsk {
  kit: string;
  model: string;
  by: string | null;
}
/** Finished jobs that a chart shows. */
const MOST_JOBS = 400;

/** All that is computed for the server. Each is a pure function of what it is handed, but for what its thread remembers. */
export const TASKS = {
  calc: (_memo: WorkMemo, { name, input, until }: { name: string; input: unknown; until: number }) =>
    // it answers with its bound while there is time to send it
    runCalculation(name, input, () => Date.now() > until - CALC_SPARE_MS),
  decide: decideTask,
  open: openTask,
  /** options of a quote as they would be, and what nobody has priced */
  quote: (
    memo: WorkMemo,
    {
      x,
      options,
      discount,
      prices,
    }: { x: OrderInput; options: { name: string; changes: OptionChange[] }[]; discount: Discount | null; prices: Record<string, string> },
  ) => {
    const { sheets, settings } = memo.computed(x);
    return quoteOptions(x.order, sheets, settings, options, { byHand: prices, discount });
  },
  ownersView: (memo: WorkMemo, { x, sealed, at }: { x: OrderInput; sealed: string | null; at: string }): OwnersView => {
    const { sheets, settings, assessment } = memo.computed(x);
    const today = localDay(at, settings.timeZone);
    return ownersView(x.order, sheets, assessment, settings, today, sealed === null ? null : (JSON.parse(sealed) as HandoverSheet));
  },
  paper: paperTask,
  checkSheet: (_memo: WorkMemo, { text }: { text: string }): SheetRead => readSheet(text),
  readBundle: (_memo: WorkMemo, { bytes }: { bytes: Uint8Array }): ReturnType<typeof readBundle> => readBundle(bytes),
  /** what a sheet of a bundle is called, what is otherwise in it than here, and why it cannot be taken */
  compareSheet: (
    _memo: WorkMemo,
    { kind, id, text, ours }: { kind: SheetKind; id: string; text: string; ours: string | null },
  ): { name: string; changes: string[]; problems: string[] } => {
    const { sheet, problems } = readSheet(text);
    const said = problems.map((p) => `line ${p.line}${p.field ? `, ${p.field}` : ''}: ${p.message}`);
    if (!sheet) return { name: id, changes: [], problems: said };
    const name = 'maker' in sheet.sheet ? `${sheet.sheet.maker} ${sheet.sheet.name}` : sheet.sheet.name;
    if (sheet.kadro !== kind || sheet.sheet.id !== id) return { name, changes: [], problems: ['the manifest calls it something else'] };
    const was: unknown = ours === null ? null : JSON.parse(ours);
    const changes =
      was === null
        ? []
        : kind === 'model'
          ? sheetChanges(was as UnitModel, sheet.sheet as UnitModel)
          : kind === 'kit'
            ? boxChanges(was as Kit, sheet.sheet as Kit)
            : [];
    return { name, changes, problems: kind === 'rules' ? [] : said };
  },
  wholeSheet: (memo: WorkMemo, { kind, json }: { kind: SheetKind; json: string }): string =>
    memo.wholeFrom(`${kind} ${json}`, () =>
      JSON.stringify(SCHEMA[kind].parse(kind === 'kit' ? broughtUpToDate(JSON.parse(json)) : JSON.parse(json))),
    ),
  sheetFile: (_memo: WorkMemo, { kind, json }: { kind: SheetKind; json: string }): string => {
    const sheet: unknown = JSON.parse(json);
    return (
      JSON.stringify(
        { kadro: kind, format: kind === 'kit' ? 2 : 1, sheet: kind === 'rules' ? packFile(sheet as RulePack) : sheet },
        null,
        2,
      ) + '\n'
    );
  },
  /** what an order lacks of the shelf */
  short: (memo: WorkMemo, { x }: { x: OrderInput }): Need[] => [...shortNeeds(memo.computed(x).assessment.needs)],
  paces: (memo: WorkMemo, { key, jobs, asks }: { key: string; jobs: string; asks: PaceAsk[] }): Pace[] => {
    const learned = memo.learnedFrom(key, jobs);
    return asks.map((a) => learned.pace(a.kit, a.model, a.by));
  },
  /** finished jobs of some kits, the slope that was learned, and jobs far off with what explains them */
  worked: (memo: WorkMemo, { key, jobs, kits }: { key: string; jobs: string; kits: string[] }) => {
    const learned = memo.learnedFrom(key, jobs);
    const of = (JSON.parse(jobs) as Worked[]).filter((w) => kits.includes(w.kit)).slice(0, MOST_JOBS);
    return { jobs: of, slope: learned.slope, spread: learned.spread, outliers: learned.outliers(of) };
  },
  readPicture: (_memo: WorkMemo, { bytes }: { bytes: Uint8Array }) => ({
    ...readPicture(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength)),
    id: sha256(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength)),
  }),
  demands: (memo: WorkMemo, { x }: { x: OrderInput }): Demand[] => {
    const { sheets, assessment } = memo.computed(x);
    return demandsOf(x.order, sheets, assessment);
  },
  supply: supplyTask,
  week: weekTask,
  soonest: soonestTask,
  /** what a meter would show on the unit that stands in; null where the model finds no answer */
  sight: (memo: WorkMemo, { x, sight, planted }: { x: OrderInput; sight: Sight; planted: Planted | null }) => {
    const harness = harnessOf(memo, x);
    const { look } = sight;
    const lost = 'plus' in look ? [look.plus, look.minus].find((p) => !harness.nodes.some((n) => n.id === p)) : undefined;
    if (lost) return { lost, truth: null };
    const loads = new Set(harness.elements.map((e) => e.id));
    const unknown = look.kind === 'works' ? [...look.lit, ...look.dark].find((id) => !loads.has(id)) : undefined;
    if (unknown) return { lost: unknown, truth: null };
    const p = plantedOf(memo, x, planted);
    return { lost: undefined, truth: liveModel(harness).value(sight, p ? p.variant.faults : NO_FAULTS) };
  },
  planted: (memo: WorkMemo, { x, planted }: { x: OrderInput; planted: Planted | null }) => {
    const p = plantedOf(memo, x, planted);
    return p && { cause: p.cause.id, says: p.variant.says ?? p.cause.says };
  },
  /** the faults that could be planted, each with how many forms it has */
  faults: (memo: WorkMemo, { x }: { x: OrderInput }) =>
    singleFaults(harnessOf(memo, x)).map((c) => ({ id: c.id, forms: c.variants.length })),
};

/** Time left for an answer to be sent, ms. */
const CALC_SPARE_MS = 350;

export type TaskName = keyof typeof TASKS;
export type TaskInput<N extends TaskName> = N extends 'calc' ? { name: string; input: unknown } : Parameters<(typeof TASKS)[N]>[1];
export type TaskOutput<N extends TaskName> = Awaited<ReturnType<(typeof TASKS)[N]>>;
