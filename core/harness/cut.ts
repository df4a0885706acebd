import { ImpossibleInput } from '../errors';

/** A spool or an offcut on hand, or a length to be cut. */
export interface Length {
  id: string;
  awg: number;
  colour: string;
  lengthM: number;
}
export interface CutPlan {
  assignments: { cut: string; stock: string }[];
  /** what is left of each piece that was cut from */
  offcuts: { stock: string; lengthM: number }[];
  /** cuts that nothing on hand is long enough for */
  unmet: string[];
  /** metres left over on the pieces that were cut from */
  wasteM: number;
  optimal: boolean;
  /** no plan leaves fewer unmet; none that leaves as few wastes less than this */
  boundM: number;
}

const EPS = 1e-9;
/** Search steps, over all gauges and colours, before the best so far is taken; one of them has a share at least. */
const MOST_STEPS = 200_000;
const LEAST_STEPS = 4_000;
/** How often a search that may be stopped asks. */
const ASK_EVERY = 512;

/**
 * Takes every cut from a piece of its gauge and colour so that as few as possible go unmet and then as little as possible
 * is left over on the pieces cut from: one-dimensional cutting, by branch and bound, each gauge and colour on its own.
 * @param stop asked now and then; once it says so, the best so far is answered
 * @throws ImpossibleInput for a length of zero or less, or two of one id
 */
export function planCuts(stock: readonly Length[], cuts: readonly Length[], stop: () => boolean = () => false): CutPlan {
  for (const [path, list] of [
    ['stock', stock],
    ['cuts', cuts],
  ] as const) {
    const seen = new Set<string>();
    for (const x of list) {
      if (!(x.lengthM > 0)) throw new ImpossibleInput(`“${x.id}”: a length must be above zero`, path);
      if (seen.has(x.id)) throw new ImpossibleInput(`“${x.id}” is there twice`, path);
      seen.add(x.id);
    }
  }
  const kindOf = (x: Length) => `${x.awg} ${x.colour}`;
  const out: CutPlan = { assignments: [], offcuts: [], unmet: [], wasteM: 0, optimal: true, boundM: 0 };
  const kinds = [...new Set(cuts.map(kindOf))];
  let steps = MOST_STEPS;
  for (const [i, kind] of kinds.entries()) {
    const g = oneKind(
      stock.filter((s) => kindOf(s) === kind),
      cuts.filter((c) => kindOf(c) === kind),
      Math.max(LEAST_STEPS, steps / (kinds.length - i)),
      stop,
    );
    steps -= g.steps;
    out.assignments.push(...g.assignments);
    out.offcuts.push(...g.offcuts);
    out.unmet.push(...g.unmet);
    out.wasteM += g.wasteM;
    out.boundM += g.boundM;
    out.optimal &&= g.optimal;
  }
  return out;
}

/** Cuts that are laid on pieces of stock, what is left of all pieces, and the cuts that are laid on none. */
export interface Laid {
  laid: CutPlan['assignments'];
  left: Length[];
  open: Length[];
}

/**
 * Lays cuts on the pieces that they were laid on before, while those are there and long enough.
 * @param kept the piece of stock by the id of the cut
 */
export function layKept(stock: readonly Length[], cuts: readonly Length[], kept: ReadonlyMap<string, string>): Laid {
  const left = new Map(stock.map((s) => [s.id, { ...s }]));
  const out: Laid = { laid: [], left: [], open: [] };
  for (const c of cuts) {
    const s = left.get(kept.get(c.id) ?? '');
    if (s?.awg === c.awg && s.colour === c.colour && s.lengthM >= c.lengthM - EPS) {
      s.lengthM = Math.max(0, Number((s.lengthM - c.lengthM).toFixed(9)));
      out.laid.push({ cut: c.id, stock: s.id });
    } else out.open.push(c);
  }
  return { ...out, left: [...left.values()].filter((s) => s.lengthM > EPS) };
}

/** A plan of what was open, with what was laid before it. Only one in which nothing was laid is said to be the best there is. */
export function withLaid({ laid, left }: Laid, rest: CutPlan): CutPlan {
  if (!laid.length) return rest;
  const over = new Map([...left.map((s) => [s.id, s.lengthM] as const), ...rest.offcuts.map((o) => [o.stock, o.lengthM] as const)]);
  const assignments = [...laid, ...rest.assignments];
  const offcuts = [...new Set(assignments.map((a) => a.stock))].map((id) => ({ stock: id, lengthM: over.get(id) ?? 0 }));
  const wasteM = Number(offcuts.reduce((sum, o) => sum + o.lengthM, 0).toFixed(9));
  return { assignments, offcuts, unmet: rest.unmet, wasteM, optimal: false, boundM: 0 };
}

/** Plans cuts of which some were laid out before: those keep their pieces, and the rest is laid on what is left. */
export function planCutsKeeping(stock: readonly Length[], cuts: readonly Length[], kept: ReadonlyMap<string, string> = new Map()): CutPlan {
  const laid = layKept(stock, cuts, kept);
  return withLaid(laid, planCuts(laid.laid.length ? laid.left : stock, laid.open));
}

function oneKind(stock: readonly Length[], cuts: readonly Length[], most: number, stop: () => boolean): CutPlan & { steps: number } {
  // the thick end first: long cuts decide, short ones fill
  const order = [...cuts].sort((a, b) => b.lengthM - a.lengthM || a.id.localeCompare(b.id));
  const pieces = [...stock].sort((a, b) => a.lengthM - b.lengthM || a.id.localeCompare(b.id));
  const left = pieces.map((p) => p.lengthM);
  const touched = pieces.map(() => 0);
  const rest = new Float64Array(order.length + 1);
  for (let i = order.length - 1; i >= 0; i--) rest[i] = rest[i + 1]! + order[i]!.lengthM;
  const at = new Int32Array(order.length).fill(-1);
  let best: Int32Array | null = null;
  let bestUnmet = Infinity;
  let bestWaste = Infinity;
  let open = 0;
  let unmet = 0;
  let steps = 0;
  let stopped = false;
  const go = (i: number): void => {
    if (stopped || (bestUnmet === 0 && bestWaste <= EPS)) return;
    if (++steps > most || (steps % ASK_EVERY === 0 && best && stop())) {
      stopped = true;
      return;
    }
    if (unmet > bestUnmet || (unmet === bestUnmet && Math.max(0, open - rest[i]!) >= bestWaste - EPS)) return;
    if (i === order.length) {
      best = at.slice();
      bestUnmet = unmet;
      bestWaste = open;
      return;
    }
    const need = order[i]!.lengthM;
    const tried = new Set<string>();
    const choices = pieces
      .map((_, p) => p)
      .filter((p) => left[p]! >= need - EPS)
      .sort((a, b) => Number(touched[b]! > 0) - Number(touched[a]! > 0) || left[a]! - left[b]!);
    for (const p of choices) {
      // two pieces with as much left are the same choice
      const same = `${touched[p]! > 0} ${left[p]!.toFixed(9)}`;
      if (tried.has(same)) continue;
      tried.add(same);
      const opens = touched[p] === 0 ? left[p]! : 0;
      touched[p]!++;
      left[p]! -= need;
      open += opens - need;
      at[i] = p;
      go(i + 1);
      at[i] = -1;
      open -= opens - need;
      left[p]! += need;
      touched[p]!--;
    }
    unmet++;
    go(i + 1);
    unmet--;
  };
  go(0);
  const plan = best as Int32Array | null;
  const used = new Map<number, number>();
  const assignments: CutPlan['assignments'] = [];
  const missing: string[] = [];
  order.forEach((c, i) => {
    const p = plan ? plan[i]! : -1;
    if (p < 0) {
      missing.push(c.id);
      return;
    }
    assignments.push({ cut: c.id, stock: pieces[p]!.id });
    used.set(p, (used.get(p) ?? pieces[p]!.lengthM) - c.lengthM);
  });
  const wasteM = [...used.values()].reduce((a, b) => a + b, 0);
  return {
    assignments,
    offcuts: [...used].map(([p, m]) => ({ stock: pieces[p]!.id, lengthM: Math.max(0, Number(m.toFixed(9))) })),
    unmet: missing,
    wasteM: Math.max(0, Number(wasteM.toFixed(9))),
    optimal: !stopped,
    boundM: stopped ? 0 : Math.max(0, Number(wasteM.toFixed(9))),
    steps,
  };
}
