import type { Settings } from '#model/settings';
import { isWire, type SupplyKind } from '#model/supply';
import { readItem } from './item-name';
import { layKept, planCuts, withLaid, type CutPlan, type Length } from '../harness/cut';
import type { Coming } from './coming';
import { wireItem, type Demand } from './demand';

/** An open order with what it still takes. */
export interface Claim {
  order: string;
  number: number;
  unitName: string;
  promisedAt: string;
  begun: boolean;
  demands: readonly Demand[];
}
export interface SupplyInput {
  claims: readonly Claim[];
  settings: Pick<Settings, 'stock' | 'shelf' | 'levels' | 'reserved' | 'cuts'>;
  coming: readonly Coming[];
}

/** What an order gets of an item, and from where. */
export interface Share {
  order: string;
  need: number;
  /** of the shelf */
  kept: number;
  /** of what is on order */
  coming: number;
  /** the day all of it is here; null while some is not on order, or its day is not known. Only where some is missing */
  day: string | null;
  /** nothing is on order for some of it */
  lacks: number;
  holds: boolean;
}
/** An item over all orders. */
export interface SupplyRow {
  item: string;
  kind: SupplyKind;
  name: string;
  unit: 'm' | 'pieces';
  need: number;
  /** on the shelf; null where nobody counted */
  have: number | null;
  onOrder: number;
  /** what no shelf and no order to the supplier covers; 0 where nobody counted */
  lacks: number;
  least: number | null;
  /** what should be ordered now: what is lacking, and up to the level that is kept */
  suggest: number;
  price?: number;
  shares: Share[];
}
/** What an order waits for. */
export interface Waiting {
  order: string;
  /** what comes last, and by name */
  name: string;
  /** the day all of it is here; null: the work stands still, and no day is known */
  day: string | null;
}
/** The wire of all orders, cut together. */
export interface WeekCuts {
  plan: CutPlan;
  rows: (Length & { order: string; wire: string; stock: string | null })[];
  /** metres left over on pieces cut from, if each order is cut by itself in turn */
  aloneWasteM: number;
}
export interface Supply {
  rows: SupplyRow[];
  waiting: Waiting[];
  cuts: WeekCuts;
}

const cm = (m: number) => Number(m.toFixed(2));
/** Less wire than this is no lack, metres. */
const EPS = 0.005;
const SEPARATOR = '\n';
/** After every day there is. */
const LAST_DAY = '9999-99-99';

/** Who is served first: what was begun, then what is promised first. */
const inTurn = (claims: readonly Claim[]): Claim[] =>
  [...claims].sort((a, b) => Number(b.begun) - Number(a.begun) || a.promisedAt.localeCompare(b.promisedAt) || a.number - b.number);

interface Taker {
  claim: Claim;
  own: readonly Demand[];
  need: number;
}
/** Who takes an item, in turn; those that it is kept for before all others. */
function takersOf(item: string, turn: readonly Claim[], reserved: Settings['reserved']): Taker[] {
  const first = (c: Claim) => reserved.some((r) => r.item === item && r.order === c.order);
  return [...turn.filter(first), ...turn.filter((c) => !first(c))].flatMap((claim) => {
    const own = claim.demands.filter((x) => x.item === item);
    return own.length ? [{ claim, own, need: own.reduce((s, x) => s + x.amount, 0) }] : [];
  });
}

/** A cut of an order under a name that no other order has. */
const cutId = (order: string, wire: string): string => `${order}${SEPARATOR}${wire}`;
const lengths = ({ claim, own }: Pick<Taker, 'claim' | 'own'>): Length[] =>
  own.flatMap((d) => d.cuts.map((x) => ({ ...x, id: cutId(claim.order, x.id) })));

/**
 * The wire of all orders from the spools on hand. What was laid out before keeps its pieces; the rest is cut together where all of it
 * can be had, which wastes least, and where it cannot, who comes first is served first.
 * @param takers of each item of wire
 */
function cutAll(takers: readonly (readonly Taker[])[], { stock, cuts: kept }: SupplyInput['settings'], stop: () => boolean): WeekCuts {
  const all = takers.flat().flatMap(lengths);
  const laid = layKept(stock, all, new Map(kept.map((c) => [cutId(c.order, c.wire), c.stock])));
  const together = planCuts(laid.left, laid.open, stop);
  const plan = withLaid(laid, together.unmet.length ? oneByOne(takers, laid.left, laid.open, stop) : together);
  const from = new Map(plan.assignments.map((a) => [a.cut, a.stock]));
  return {
    plan,
    aloneWasteM: oneByOne(takers, stock, all, stop).wasteM,
    rows: all.map((c) => {
      const [order, wire] = c.id.split(SEPARATOR) as [string, string];
      return { ...c, order, wire, stock: from.get(c.id) ?? null };
    }),
  };
}

/** Those of some cuts laid out order by order, each from what those before it left. */
function oneByOne(takers: readonly (readonly Taker[])[], stock: readonly Length[], cuts: readonly Length[], stop: () => boolean): CutPlan {
  const asked = new Set(cuts.map((c) => c.id));
  const left = new Map(stock.map((s) => [s.id, s]));
  const out: CutPlan = { assignments: [], offcuts: [], unmet: [], wasteM: 0, optimal: false, boundM: 0 };
  for (const t of takers.flat()) {
    const p = planCuts(
      [...left.values()].filter((s) => s.lengthM > 0),
      lengths(t).filter((c) => asked.has(c.id)),
      stop,
    );
    out.assignments.push(...p.assignments);
    out.unmet.push(...p.unmet);
    for (const o of p.offcuts) left.set(o.stock, { ...left.get(o.stock)!, lengthM: o.lengthM });
  }
  out.offcuts = [...new Set(out.assignments.map((a) => a.stock))].map((id) => ({ stock: id, lengthM: left.get(id)!.lengthM }));
  out.wasteM = out.offcuts.reduce((sum, o) => sum + o.lengthM, 0);
  return out;
}

/** What an order gets of what is on order, by what is missing: what was bought for it first, then what comes first. */
function shareOfComing(order: string, missing: number, due: Coming[]): Pick<Share, 'coming' | 'day' | 'lacks'> {
  let open = missing;
  const days: (string | null)[] = [];
  for (const x of [...due.filter((y) => y.order === order), ...due.filter((y) => y.order === null)]) {
    const n = Math.min(open, x.amount);
    if (n <= EPS) continue;
    x.amount -= n;
    open -= n;
    days.push(x.day);
  }
  const lacks = open > EPS ? cm(open) : 0;
  const last = days
    .map((d) => d ?? LAST_DAY)
    .sort()
    .at(-1);
  return { coming: cm(missing - open), lacks, day: lacks || last === undefined || last === LAST_DAY ? null : last };
}

/**
 * What every open order gets of shelf, spools and what is on order: what is kept for an order first, then who is in turn. What is
 * bought for an order is that order’s. An item that nobody counted lacks nothing: it is counted first.
 * @param stop asked now and then while wire is laid out; see `harness.cut`
 */
export function allocate({ claims, settings, coming }: SupplyInput, stop: () => boolean = () => false): Supply {
  const turn = inTurn(claims);
  const shelf = new Map(settings.shelf.map((s) => [s.id, s.have]));
  const levels = new Map(settings.levels.map((l) => [l.item, l]));
  const items = new Map<string, Demand>();
  for (const c of turn) for (const d of c.demands) if (!items.has(d.item)) items.set(d.item, d);
  const takers = new Map([...items.keys()].map((item) => [item, takersOf(item, turn, settings.reserved)]));
  const wires = [...items.values()].filter((d) => d.unit === 'm').map((d) => takers.get(d.item)!);
  const cuts = cutAll(wires, settings, stop);
  const unmet = new Set(cuts.plan.unmet);
  const rows = [...items.values()].map((d) => {
    const wire = d.unit === 'm';
    const counted = wire ? settings.stock.length > 0 : shelf.has(d.item) || d.missing;
    const have = wire ? onHand(settings.stock, d.item) : (shelf.get(d.item) ?? 0);
    let left = have;
    const due = coming.filter((x) => x.item === d.item).map((x) => ({ ...x }));
    // the earliest first; what has no day last
    due.sort((a, b) => (a.day ?? LAST_DAY).localeCompare(b.day ?? LAST_DAY));
    const shares = takers.get(d.item)!.map((t): Share => {
      const { claim, own, need } = t;
      const missing = wire ? lengths(t).reduce((s, x) => s + (unmet.has(x.id) ? x.lengthM : 0), 0) : Math.max(0, need - left);
      left = Math.max(0, left - need);
      // of what nobody counted only what was bought for this order is known
      const asked = counted ? missing : due.some((x) => x.order === claim.order) ? need : 0;
      return {
        order: claim.order,
        need: cm(need),
        kept: counted ? cm(need - missing) : 0,
        ...shareOfComing(claim.order, asked, due),
        holds: own.some((x) => x.holds),
      };
    });
    return rowOf(d, shares, counted ? have : null, coming, levels.get(d.item));
  });
  // what is kept at hand and no order takes
  for (const l of settings.levels)
    if (!items.has(l.item)) {
      const wire = isWire(l.item);
      const have = wire ? onHand(settings.stock, l.item) : (shelf.get(l.item) ?? null);
      rows.push(rowOf({ item: l.item, ...readItem(l.item), unit: wire ? 'm' : 'pieces' }, [], have, coming, l));
    }
  return { rows: rows.sort(byKind), waiting: turn.flatMap((c) => waitingOf(c, rows)), cuts };
}

/** Every item that is counted in pieces: what orders take or a level is kept of, and what else lies on the shelf. */
export const countedItems = (rows: readonly SupplyRow[], shelf: Settings['shelf']): { item: string; name: string }[] => [
  ...rows.filter((r) => r.unit === 'pieces').map((r) => ({ item: r.item, name: r.name })),
  ...shelf.filter((s) => !rows.some((r) => r.item === s.id)).map((s) => ({ item: s.id, name: readItem(s.id).name })),
];

const onHand = (stock: readonly Length[], item: string) =>
  cm(stock.filter((s) => wireItem(s.awg, s.colour) === item).reduce((sum, s) => sum + s.lengthM, 0));

function rowOf(
  d: Pick<Demand, 'item' | 'kind' | 'name' | 'unit' | 'price'>,
  shares: Share[],
  have: number | null,
  coming: readonly Coming[],
  level: Settings['levels'][number] | undefined,
): SupplyRow {
  const need = cm(shares.reduce((s, x) => s + x.need, 0));
  const lacks = cm(shares.reduce((s, x) => s + x.lacks, 0));
  const onOrder = cm(coming.filter((x) => x.item === d.item).reduce((s, x) => s + x.amount, 0));
  const after = (have ?? 0) + onOrder - need;
  const suggest = Math.max(lacks, level && have !== null && after < level.least ? level.upTo - after : 0);
  return {
    item: d.item,
    kind: d.kind,
    name: d.name,
    unit: d.unit,
    need,
    have,
    onOrder,
    lacks,
    least: level?.least ?? null,
    suggest: d.unit === 'm' ? cm(suggest) : Math.ceil(suggest),
    ...(d.price !== undefined && { price: d.price }),
    shares,
  };
}

const ORDER: readonly SupplyKind[] = ['buy', 'part', 'wire', 'fuse', 'relay', 'end'];
const byKind = (a: SupplyRow, b: SupplyRow) =>
  ORDER.indexOf(a.kind) - ORDER.indexOf(b.kind) || a.name.localeCompare(b.name, 'en', { numeric: true });

/** What an order waits for: what nothing is known of before what comes last. Nothing where it can begin. */
function waitingOf(c: Claim, rows: readonly SupplyRow[]): Waiting[] {
  const open = rows.flatMap((r) => r.shares.flatMap((s) => (s.order === c.order && (s.lacks || s.coming) ? [{ name: r.name, ...s }] : [])));
  const last =
    open.find((s) => s.holds && s.day === null) ?? open.filter((s) => s.day !== null).sort((a, b) => b.day!.localeCompare(a.day!))[0];
  return last ? [{ order: c.order, name: last.name, day: last.day }] : [];
}
