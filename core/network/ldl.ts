/**
 * Sparse LDLᵀ of a symmetric matrix whose shape stays and whose figures change: the elimination is planned once, in
 * minimum-degree order, and then only arithmetic is left. A tree-like harness fills in nothing.
 */
export interface Plan {
  n: number;
  /** row in elimination order → node */
  order: Int32Array;
  /** node → row in elimination order */
  place: Int32Array;
  /** for each row, where its later neighbours begin in `column` and `off` */
  start: Int32Array;
  column: Int32Array;
  /** for each pair of a row's later neighbours, the entry of the matrix that it changes; −1−row for a diagonal */
  target: Int32Array;
  off: Float64Array;
  diagonal: Float64Array;
}

/** @param pairs which nodes are joined; nodes are numbered 0 … n − 1 */
export function planElimination(n: number, pairs: Iterable<readonly [number, number]>): Plan {
  const near: Set<number>[] = Array.from({ length: n }, () => new Set());
  for (const [a, b] of pairs)
    if (a !== b) {
      near[a]!.add(b);
      near[b]!.add(a);
    }
  const order = new Int32Array(n);
  const place = new Int32Array(n).fill(-1);
  const later: number[][] = [];
  const left = new Set(near.keys());
  for (let k = 0; k < n; k++) {
    let best = -1;
    for (const v of left) if (best < 0 || near[v]!.size < near[best]!.size) best = v;
    left.delete(best);
    order[k] = best;
    place[best] = k;
    const around = [...near[best]!];
    later.push(around);
    for (const a of around) {
      near[a]!.delete(best);
      for (const b of around) if (a !== b) near[a]!.add(b);
    }
  }
  const start = new Int32Array(n + 1);
  for (let k = 0; k < n; k++) start[k + 1] = start[k]! + later[k]!.length;
  const column = new Int32Array(start[n]!);
  const at = new Map<number, number>();
  later.forEach((list, k) => {
    const rows = list.map((v) => place[v]!).sort((a, b) => a - b);
    rows.forEach((r, i) => {
      column[start[k]! + i] = r;
      at.set(k * n + r, start[k]! + i);
    });
  });
  const target: number[] = [];
  for (let k = 0; k < n; k++)
    for (let i = start[k]!; i < start[k + 1]!; i++)
      for (let j = i; j < start[k + 1]!; j++) target.push(i === j ? -1 - column[i]! : at.get(column[i]! * n + column[j]!)!);
  return {
    n,
    order,
    place,
    start,
    column,
    target: Int32Array.from(target),
    off: new Float64Array(start[n]!),
    diagonal: new Float64Array(n),
  };
}

/** Where the entry of two nodes stands in `off`; −1 when they are not joined. */
export function entryOf(plan: Plan, a: number, b: number): number {
  const [i, j] = [Math.min(plan.place[a]!, plan.place[b]!), Math.max(plan.place[a]!, plan.place[b]!)];
  for (let p = plan.start[i]!; p < plan.start[i + 1]!; p++) if (plan.column[p] === j) return p;
  return -1;
}

/** A pivot this small a part of its node's own conductance is rounding: nothing joins the node's island to ground. */
const FLOATING = 1e-13;

/**
 * Turns the matrix in `off` and `diagonal` into its factors, in place. An island that nothing joins to ground keeps its
 * last node where it is.
 * @param own each row's conductance before the elimination
 * @returns how many islands float
 */
export function factor(plan: Plan, own: Float64Array): number {
  const { n, start, target, off, diagonal } = plan;
  let floating = 0;
  let t = 0;
  for (let k = 0; k < n; k++) {
    const d = diagonal[k]!;
    const from = start[k]!;
    const to = start[k + 1]!;
    const floats = Math.abs(d) <= FLOATING * own[k]!;
    if (floats) floating++;
    const inverse = floats ? 0 : 1 / d;
    diagonal[k] = inverse;
    for (let i = from; i < to; i++) {
      const li = off[i]! * inverse;
      for (let j = i; j < to; j++) {
        const where = target[t++]!;
        const change = li * off[j]!;
        if (where < 0) diagonal[-1 - where]! -= change;
        else off[where]! -= change;
      }
    }
    for (let i = from; i < to; i++) off[i]! *= inverse;
  }
  return floating;
}

/** Solves with the factors, in place; `x` is in elimination order. */
export function substitute(plan: Plan, x: Float64Array): void {
  const { n, start, column, off, diagonal } = plan;
  for (let k = 0; k < n; k++) {
    const xk = x[k]!;
    if (xk !== 0) for (let i = start[k]!; i < start[k + 1]!; i++) x[column[i]!]! -= off[i]! * xk;
  }
  for (let k = n - 1; k >= 0; k--) {
    let s = x[k]! * diagonal[k]!;
    for (let i = start[k]!; i < start[k + 1]!; i++) s -= off[i]! * x[column[i]!]!;
    x[k] = s;
  }
}
