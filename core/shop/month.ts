import type { Verdict } from '#model/common';

/** A kit’s share of an order that was handed over: planned and spent minutes, and by whom. */
export interface FinishedWork {
  /** empty: the unit’s own work */
  kit: string;
  by: string;
  planned: number;
  spent: number;
}
export interface Finished {
  id: string;
  number: number;
  unitName: string;
  model: string;
  owner: string;
  promisedAt: string;
  sealedAt: string;
  work: FinishedWork[];
  findings: number;
  mended: number;
  /** the order with which the same unit came back within 90 days */
  back: { id: string; number: number; openedAt: string } | null;
}

/** One figure of a period, and the orders it is made of. */
export interface MonthRow {
  key: string;
  orders: string[];
  planned: number;
  spent: number;
}
export interface Month {
  finished: Finished[];
  kept: string[];
  late: { id: string; hours: number }[];
  back: string[];
  byKit: MonthRow[];
  byModel: MonthRow[];
  byPerson: MonthRow[];
}

const HOUR = 3_600_000;

/**
 * What a period comes to: promises kept, minutes planned and spent by kit, model and person, and what came back.
 * @param only a person who sees their own times, null for who sees everybody’s
 */
export function monthOf(finished: readonly Finished[], only: string | null): Month {
  const table = (key: (f: Finished, w: FinishedWork) => string | null): MonthRow[] => {
    const rows = new Map<string, MonthRow>();
    for (const f of finished)
      for (const w of f.work) {
        const k = key(f, w);
        if (k === null) continue;
        const row = rows.get(k) ?? { key: k, orders: [], planned: 0, spent: 0 };
        rows.set(k, row);
        if (!row.orders.includes(f.id)) row.orders.push(f.id);
        row.planned += w.planned;
        row.spent += w.spent;
      }
    return [...rows.values()].sort((a, b) => b.spent - a.spent);
  };
  const after = (f: Finished) => Date.parse(f.sealedAt) - Date.parse(f.promisedAt);
  return {
    finished: [...finished],
    kept: finished.filter((f) => after(f) <= 0).map((f) => f.id),
    late: finished.filter((f) => after(f) > 0).map((f) => ({ id: f.id, hours: after(f) / HOUR })),
    back: finished.filter((f) => f.back).map((f) => f.id),
    byKit: table((_, w) => w.kit || null),
    byModel: table((f) => f.model),
    byPerson: table((_, w) => (only === null || w.by === only ? w.by : null)),
  };
}

/** What a period came to, in figures. */
export interface PeriodFigures {
  finished: number;
  kept: number;
  back: number;
  /** minutes */
  planned: number;
  spent: number;
}
export const figuresOf = (m: Month): PeriodFigures => ({
  finished: m.finished.length,
  kept: m.kept.length,
  back: m.back.length,
  planned: m.byModel.reduce((n, r) => n + r.planned, 0),
  spent: m.byModel.reduce((n, r) => n + r.spent, 0),
});

/** A shop of a group, and what a period came to there. */
export interface ShopFigures extends PeriodFigures {
  id: string;
  name: string;
  /** it is at the address itself */
  first: boolean;
  /** units that are there now, and how many of them are past their promise */
  here: number;
  late: number;
}
/** All shops of a group together. */
export function totalOf(shops: readonly ShopFigures[]): Omit<ShopFigures, 'id' | 'name' | 'first'> {
  const sum = (of: 'here' | 'late' | keyof PeriodFigures) => shops.reduce((n, s) => n + s[of], 0);
  return {
    here: sum('here'),
    late: sum('late'),
    finished: sum('finished'),
    kept: sum('kept'),
    back: sum('back'),
    planned: sum('planned'),
    spent: sum('spent'),
  };
}

/** What to look at first in a group, in words: promises that are past, the shop with most of them first. */
export function groupSays(shops: readonly Pick<ShopFigures, 'name' | 'late'>[]): { verdict: Verdict; says: string } {
  const past = shops.filter((s) => s.late).sort((a, b) => b.late - a.late);
  const units = past.reduce((n, s) => n + s.late, 0);
  if (!units) return { verdict: 'holds', says: 'No unit is past its promise.' };
  const where = past.map((s) => `${s.late} in ${s.name}`).join(', ');
  return {
    verdict: 'fails',
    says: units === 1 ? `One unit is past its promise: in ${past[0]!.name}.` : `${units} units are past their promise: ${where}.`,
  };
}

/** The period as rows, one for each kit’s share of an order: what an accountant’s or an owner’s own table begins with. */
export const monthRows = (m: Pick<Month, 'finished'>, only: string | null) =>
  m.finished.flatMap((f) =>
    (f.work.length ? f.work : [{ kit: '', by: '', planned: 0, spent: 0 }]).map((w) => ({
      order: f.number,
      unit: f.unitName,
      promised: f.promisedAt,
      handed_over: f.sealedAt,
      in_time: Date.parse(f.sealedAt) <= Date.parse(f.promisedAt) ? 'yes' : 'no',
      kit: w.kit || 'the unit itself',
      by: only === null || w.by === only ? w.by : '',
      planned_min: Math.round(w.planned * 10) / 10,
      spent_min: Math.round(w.spent * 10) / 10,
      findings: f.findings,
      came_back: f.back?.number ?? '',
    })),
  );
