/** A set of people or of bays of which there is only so much: what must be done by one of them has a price. */
export interface Pool {
  members: readonly number[];
  /** how many are there, per slot */
  there: Float64Array;
}

/** More sets than this are not priced. */
const MOST_POOLS = 14;

/** Sets that some work must choose from, and their unions as far as there is room: with them, what must be shared is priced where it is short. */
export function poolsOf(sets: readonly (readonly number[])[], all: number): number[][] {
  const found = new Map<string, number[]>();
  const add = (s: readonly number[]) => {
    const sorted = [...new Set(s)].sort((a, b) => a - b);
    if (sorted.length && found.size < MOST_POOLS) found.set(sorted.join(' '), sorted);
  };
  add(Array.from({ length: all }, (_, i) => i));
  for (const s of sets) add(s);
  for (let i = 0; i < sets.length; i++) for (let k = 0; k < i; k++) add([...sets[i]!, ...sets[k]!]);
  return [...found.values()];
}

/** All of the first are in the second. */
export const within = (a: readonly number[], b: readonly number[]) => a.every((x) => b.includes(x));
