import type { Compiled } from './schedule-problem';
import type { Shifts } from './shifts';

/** The first place in a list, in order, that is not below x. */
export function firstFrom(list: Int32Array, x: number): number {
  let low = 0;
  let high = list.length;
  while (low < high) {
    const mid = (low + high) >> 1;
    if (list[mid]! < x) low = mid + 1;
    else high = mid;
  }
  return low;
}

/**
 * Time in which somebody works, as slots of equal length one after another; nights are none.
 * @param step minutes of a slot; @param until none is needed after it
 * @returns `at` the step of each slot, `from` the first slot at or after each step, `people` the slots in which each works
 */
export function slotsOf(c: Compiled, step: number, until: number) {
  const end = Math.max(0, ...c.people.map((p) => p.to.at(-1) ?? 0));
  const steps = Math.ceil(Math.min(end, until + 2 * step) / step);
  const stretchesOf = (p: Shifts, k: number): [number, number] => [
    Math.max(0, Math.floor(p.from[k]! / step + 1e-9)),
    Math.min(steps, Math.ceil(p.to[k]! / step - 1e-9)),
  ];
  const works = new Uint8Array(steps);
  for (const p of c.people)
    for (let k = 0; k < p.from.length; k++) {
      const [a, b] = stretchesOf(p, k);
      works.fill(1, Math.min(a, b), b);
    }
  const from = new Int32Array(steps + 1);
  let count = 0;
  for (let t = 0; t < steps; t++) {
    from[t] = count;
    if (works[t]) count++;
  }
  from[steps] = count;
  const at = new Int32Array(count);
  for (let t = 0; t < steps; t++) if (works[t]) at[from[t]!] = t;
  const people = c.people.map((p) => {
    const list: number[] = [];
    let past = 0;
    for (let k = 0; k < p.from.length; k++) {
      const [a, b] = stretchesOf(p, k);
      for (let t = Math.max(past, a); t < b; t++) list.push(from[t]!);
      past = Math.max(past, b);
    }
    return Int32Array.from(list);
  });
  return { at, from, count, people };
}
