import { ImpossibleInput } from '../errors';
import type { Element } from './element';
import { factor, planElimination, substitute, entryOf } from './ldl';

/** A resistance below this is a joint without any. */
const IDEAL_OHMS = 1e-9;
const isIdeal = (e: Element): boolean =>
  (e.kind === 'V' && e.ohms < IDEAL_OHMS) || (e.kind === 'switch' && e.closed) || (e.kind === 'R' && e.ohms < IDEAL_OHMS);

/** Nodes that elements without any resistance hold together, each group one unknown. Group 0 holds ground. */
export interface Merged {
  group: Int32Array;
  groups: number;
  /** volts of each node above its group's */
  shift: Float64Array;
  ideal: Uint8Array;
  anyIdeal: boolean;
  hasIdealSource: boolean;
}

/** @throws ImpossibleInput where sources without resistance disagree: a loop of batteries, or a short across one */
export function merge(elements: readonly Element[], nodes: readonly string[], index: ReadonlyMap<string, number>): Merged {
  const parent = Int32Array.from(nodes, (_, i) => i);
  const above = new Float64Array(nodes.length);
  const find = (i: number): { root: number; by: number } => {
    let by = 0;
    let r = i;
    while (parent[r] !== r) {
      by += above[r]!;
      r = parent[r]!;
    }
    return { root: r, by };
  };
  const ideal = new Uint8Array(elements.length);
  elements.forEach((e, k) => {
    if (!isIdeal(e)) return;
    ideal[k] = 1;
    const volts = e.kind === 'V' ? e.volts : 0;
    const from = find(index.get(e.from)!);
    const to = find(index.get(e.to)!);
    if (from.root === to.root) {
      const gap = from.by - to.by - volts;
      if (Math.abs(gap) > 1e-9 * Math.max(1, Math.abs(volts)))
        throw new ImpossibleInput(
          `“${e.id}” closes a loop without any resistance in which ${Math.abs(gap).toPrecision(3)} V are left over: a short across a source, or a loop of batteries`,
          'elements',
        );
      return;
    }
    // ground's own node must stay a root, so that its volts are zero
    const [child, root, by] =
      from.root === 0 ? [to.root, from.root, from.by - to.by - volts] : [from.root, to.root, to.by - from.by + volts];
    parent[child] = root;
    above[child] = by;
  });
  const numbers = new Map<number, number>([[0, 0]]);
  const group = new Int32Array(nodes.length);
  const shift = new Float64Array(nodes.length);
  nodes.forEach((_, i) => {
    const { root, by } = find(i);
    if (!numbers.has(root)) numbers.set(root, numbers.size);
    group[i] = numbers.get(root)!;
    shift[i] = by;
  });
  return {
    group,
    groups: numbers.size,
    shift,
    ideal,
    anyIdeal: ideal.some((x) => x),
    hasIdealSource: elements.some((e, k) => ideal[k] && e.kind === 'V'),
  };
}

/**
 * Fills in the amperes of elements without resistance from what the others carry, by Kirchhoff's law within each group.
 * Where several lie in parallel they share as equal resistances would, however small.
 */
export function shareAmps(elements: readonly Element[], index: ReadonlyMap<string, number>, merged: Merged, flow: Float64Array): void {
  const n = merged.group.length;
  const out = new Float64Array(n);
  elements.forEach((e, i) => {
    if (merged.ideal[i]) return;
    out[index.get(e.from)!]! += flow[i]!;
    out[index.get(e.to)!]! -= flow[i]!;
  });
  const within = elements.flatMap((e, i) => (merged.ideal[i] ? [{ i, a: index.get(e.from)!, b: index.get(e.to)! }] : []));
  const plan = planElimination(
    n,
    within.map(({ a, b }) => [a, b] as const),
  );
  const own = new Float64Array(n);
  for (const { a, b } of within) {
    for (const k of [plan.place[a]!, plan.place[b]!]) {
      plan.diagonal[k]! += 1;
      own[k]! += 1;
    }
    plan.off[entryOf(plan, a, b)]! -= 1;
  }
  factor(plan, own);
  const x = new Float64Array(n);
  for (let k = 0; k < n; k++) x[k] = -out[plan.order[k]!]!;
  substitute(plan, x);
  for (const { i, a, b } of within) flow[i] = x[plan.place[a]!]! - x[plan.place[b]!]!;
}
