import type { Verdict } from '#model/common';
import type { OrderCommand } from '../events/registry';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import { planWiring } from '../wiring/plan';
import { agreedSheets, changedSheets } from '../order/agreed';
import { applyEvent } from '../events/apply';
import { RANK } from '../verdict';
import { powerBudget, type Budget } from './budget';
import { partsOf, type Part, type SpareKit } from './remedy-parts';

export type By = 'money' | 'minutes' | 'watts';

/** What would make it hold: the exact change, what it costs, and the verdict before and after. */
export interface Remedy {
  id: string;
  title: string;
  commands: OrderCommand[];
  money: number;
  minutes: number;
  watts: number;
  after: { verdict: Verdict; says: string; idleA: number | null; leastSoc: number; startV: number | null };
}

export interface RemedySearch {
  before: Remedy['after'];
  found: Remedy[];
  tried: number;
  /** all combinations of up to three changes were looked at */
  complete: boolean;
}

/** Combinations beyond which the search gives up. */
const MOST = 220;

/** How far a budget is from holding, to tell whether a change helps at all. */
function badness(b: Budget, s: Settings): number {
  let x = RANK[b.verdict] * 10;
  for (const c of b.checks) {
    if (c.margin.used === null || c.margin.limit === null) continue;
    const over = c.atLeast ? c.margin.limit - c.margin.used : c.margin.used - c.margin.limit * s.tightShare;
    x += Math.max(0, over) / (Math.abs(c.margin.limit) + 1);
  }
  for (const d of b.days) {
    x += RANK[d.verdict] + Math.max(0, s.reserveSoc - Math.min(...d.leastSoc)) * 2;
    if (b.system.starter) for (const st of d.starts) x += Math.max(0, b.system.starter.leastVolts + s.crankSpareV - st.volts) * 0.2;
    if (d.endsOnDay !== null) x += 2 / d.endsOnDay;
  }
  return x;
}

const afterOf = (b: Budget): Remedy['after'] => {
  const idle = b.checks.find((c) => c.id === 'idle');
  return {
    verdict: b.verdict,
    says: b.says,
    idleA: idle && idle.margin.used !== null ? idle.margin.limit! - idle.margin.used : null,
    leastSoc: Math.min(...b.days.flatMap((d) => d.leastSoc)),
    startV: b.system.starter ? Math.min(...b.days.flatMap((d) => d.starts.map((x) => x.volts))) : null,
  };
};

/** An order with commands carried out, as they will be when the remedy is taken. */
export function withCommands(
  order: Order,
  sheets: Sheets,
  commands: readonly OrderCommand[],
  brings: readonly SpareKit[],
): { order: Order; sheets: Sheets } {
  let o = order;
  let s = sheets;
  for (const c of commands) {
    const spare = c.type === 'kit.added' ? brings.find((b) => b.kit.id === c.kit) : undefined;
    if (spare) s = { ...s, kits: [...s.kits, spare.kit] };
    const body = spare ? { type: 'kit.added' as const, kit: spare.ref, name: spare.kit.name } : c;
    o = applyEvent(o, o.id, { seq: o.version, doneAt: o.openedAt, by: '', body: body as never });
  }
  return { order: o, sheets: s };
}

export function budgetOf(order: Order, given: Sheets, settings: Settings): Budget {
  const sheets = agreedSheets(order, given);
  return powerBudget(order, sheets, planWiring(order, sheets, settings), settings, changedSheets(order, given).model);
}

/**
 * Searches what would make an order hold, cheapest first: each change alone, then pairs and threes of those that help. Every find was
 * computed exactly as the order will be once it is taken.
 * @param by what counts as cheap: money, minutes of work, or watts that the owner gives up
 */
export function searchRemedies(order: Order, given: Sheets, settings: Settings, spare: readonly SpareKit[], by: By): RemedySearch {
  const base = budgetOf(order, given, settings);
  const before = afterOf(base);
  if (base.verdict === 'holds') return { before, found: [], tried: 0, complete: true };
  const parts = partsOf({ order, given, budget: base, settings, spare });
  const cost = (p: Pick<Part, By>) => p[by] + 1e-3 * (p.money + p.minutes + p.watts);
  const start = badness(base, settings);
  const found: Remedy[] = [];
  let tried = 0;
  let complete = true;
  const attempt = (set: readonly Part[]): number | null => {
    if (tried >= MOST) {
      complete = false;
      return null;
    }
    tried++;
    const commands = set.flatMap((p) => p.commands);
    const after = withCommands(
      order,
      given,
      commands,
      set.flatMap((p) => p.brings ?? []),
    );
    const b = budgetOf(after.order, after.sheets, settings);
    if (RANK[b.verdict] < RANK[base.verdict])
      found.push({
        id: set.map((p) => p.title).join(' + '),
        title: set.map((p) => p.title).join('; '),
        commands,
        money: set.reduce((a, p) => a + p.money, 0),
        minutes: set.reduce((a, p) => a + p.minutes, 0),
        watts: set.reduce((a, p) => a + p.watts, 0),
        after: afterOf(b),
      });
    return badness(b, settings);
  };
  const helps: { part: Part; left: number }[] = [];
  for (const p of [...parts].sort((a, b) => cost(a) - cost(b))) {
    const left = attempt([p]);
    if (left === null) break;
    if (left < start - 1e-6) helps.push({ part: p, left });
  }
  const enough = (set: readonly Part[]) =>
    found.some((f) => f.after.verdict === 'holds' && f.id.split(' + ').every((t) => set.some((p) => p.title === t)));
  const tryAll = (sets: Part[][]) => {
    for (const set of sets.sort((a, b) => a.reduce((x, p) => x + cost(p), 0) - b.reduce((x, p) => x + cost(p), 0)))
      if (!enough(set) && attempt(set) === null) return;
  };
  const pairs: Part[][] = [];
  const triples: Part[][] = [];
  const list = helps.sort((a, b) => a.left - b.left).map((h) => h.part);
  for (let i = 0; i < list.length; i++)
    for (let j = i + 1; j < list.length; j++) {
      if (list[i]!.group === list[j]!.group) continue;
      pairs.push([list[i]!, list[j]!]);
      for (let k = j + 1; k < Math.min(list.length, 9); k++)
        if (list[k]!.group !== list[i]!.group && list[k]!.group !== list[j]!.group) triples.push([list[i]!, list[j]!, list[k]!]);
    }
  tryAll(pairs);
  if (!found.some((f) => f.after.verdict === 'holds')) tryAll(triples);
  found.sort((a, b) => RANK[a.after.verdict] - RANK[b.after.verdict] || cost(a) - cost(b));
  return { before, found: dropDearer(found).slice(0, 12), tried, complete };
}

/** A find that contains another one with as good a verdict only costs more. */
const dropDearer = (found: readonly Remedy[]): Remedy[] =>
  found.filter((f) => {
    const parts = f.id.split(' + ');
    return !found.some(
      (g) =>
        g !== f &&
        RANK[g.after.verdict] <= RANK[f.after.verdict] &&
        g.id.split(' + ').length < parts.length &&
        g.id.split(' + ').every((t) => parts.includes(t)),
    );
  });
