import type { Compiled } from './schedule-problem';
import type { Shifts } from './shifts';

/** Time in which somebody works, as slots of equal length one after another; nights are none. */
export interface SlotTime {
  count: number;
  /** the step of each slot */
  at: Int32Array;
  /** the first slot at or after each step */
  from: Int32Array;
  /** slots in which each person works */
  people: Int32Array[];
}

/** @param step minutes of a slot; @param until none is needed after it */
export function slotsOf(c: Compiled, step: number, until: number): SlotTime {
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

/** Slots in which crews work, one crew after another, each with −1 behind it. */
export interface CrewSlots {
  list: Int32Array;
  /** by crew, the place of each slot in the list, −1 where it does not work, and where its slots end */
  crews: readonly { place: Int32Array; end: number }[];
}

/** When crews work: of those that work at the same times only one. */
export function crewSlots({ count, people }: SlotTime, crews: readonly (readonly number[])[]): CrewSlots {
  const lists = new Map<string, readonly number[]>();
  for (const who of crews) {
    const [a, b] = who.map((w) => people[w]!);
    const other = b && new Set(b);
    const list = [...a!].filter((s) => !other || other.has(s));
    lists.set(list.join(), list);
  }
  const list: number[] = [];
  const found = [...lists.values()].map((slots) => {
    const place = new Int32Array(count).fill(-1);
    for (const s of slots) place[s] = list.push(s) - 1;
    return { place, end: list.push(-1) - 1 };
  });
  return { list: Int32Array.from(list), crews: found };
}

/** How a task may be done, by the slot in which it begins: each set of slots that some crew could do it in, once. */
export interface Ways {
  start: Int32Array;
  /** where its slots begin in the list of crews */
  from: Int32Array;
  /** the step at which it and its wait are over, and the first slot from then on */
  over: Int32Array;
  next: Int32Array;
}
export const NO_WAYS: Ways = { start: new Int32Array(), from: new Int32Array(), over: new Int32Array(), next: new Int32Array() };

const overAt = ({ at }: SlotTime, { list }: CrewSlots, place: number, length: number, wait: number): number =>
  (length ? at[list[place + length - 1]!]! + 1 : at[list[place]!]!) + wait;
/** The first slot at or after a step. */
export const slotAt = ({ from, count }: SlotTime, step: number): number => (step < from.length ? from[step]! : count);

/** The first slot from which what comes after a task may be done, if that is ready at a slot. */
export function soonest(time: SlotTime, of: CrewSlots, length: number, wait: number, ready: number): number {
  let best = time.count;
  for (const { place, end } of of.crews) {
    let s = ready;
    while (s < time.count && place[s]! < 0) s++;
    if (s < time.count && place[s]! + length <= end) best = Math.min(best, slotAt(time, overAt(time, of, place[s]!, length, wait)));
  }
  return best;
}

/** All ways to do a task that is ready at a slot, so that what comes after it may be done at `latest` or before. */
export function waysOf(time: SlotTime, of: CrewSlots, length: number, wait: number, ready: number, latest: number): Ways {
  const { list } = of;
  const start: number[] = [];
  const from: number[] = [];
  const over: number[] = [];
  const next: number[] = [];
  const same = (p: number, q: number) => {
    for (let x = length - 1; x > 0; x--) if (list[p + x] !== list[q + x]) return false;
    return true;
  };
  for (let s = ready; s < time.count && s <= latest; s++) {
    const first = from.length;
    for (const { place, end } of of.crews) {
      const p = place[s]!;
      if (p < 0 || p + length > end) continue;
      const r = overAt(time, of, p, length, wait);
      const n = slotAt(time, r);
      if (n > latest) continue;
      let known = false;
      for (let o = first; o < from.length && !known; o++) known = over[o] === r && same(from[o]!, p);
      if (known) continue;
      start.push(s);
      from.push(p);
      over.push(r);
      next.push(n);
    }
  }
  return { start: Int32Array.from(start), from: Int32Array.from(from), over: Int32Array.from(over), next: Int32Array.from(next) };
}
