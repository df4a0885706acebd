/** Times when somebody works, in order, apart from one another: minutes on one clock. */
export interface Shifts {
  from: Float64Array;
  to: Float64Array;
}

/** Puts stretches in order, joins those that touch, and leaves out what lies before `now`. */
export function shiftsOf(stretches: readonly (readonly [number, number])[], now: number): Shifts {
  const sorted = stretches
    .map(([from, to]) => [Math.max(from, now), to] as const)
    .filter(([from, to]) => to > from)
    .sort((a, b) => a[0] - b[0]);
  const joined: [number, number][] = [];
  for (const [from, to] of sorted) {
    const last = joined.at(-1);
    if (last && from <= last[1]) last[1] = Math.max(last[1], to);
    else joined.push([from, to]);
  }
  return { from: Float64Array.from(joined, (s) => s[0]), to: Float64Array.from(joined, (s) => s[1]) };
}

/** When both work. */
export function bothWork(a: Shifts, b: Shifts): Shifts {
  const out: [number, number][] = [];
  let i = 0;
  let j = 0;
  while (i < a.from.length && j < b.from.length) {
    const from = Math.max(a.from[i]!, b.from[j]!);
    const to = Math.min(a.to[i]!, b.to[j]!);
    if (to > from) out.push([from, to]);
    if (a.to[i]! < b.to[j]!) i++;
    else j++;
  }
  return { from: Float64Array.from(out, (s) => s[0]), to: Float64Array.from(out, (s) => s[1]) };
}

/** The first shift that ends after t, or how many there are. */
export function shiftAt(s: Shifts, t: number): number {
  let low = 0;
  let high = s.to.length;
  while (low < high) {
    const mid = (low + high) >> 1;
    if (s.to[mid]! > t) high = mid;
    else low = mid + 1;
  }
  return low;
}

/** The first minute from t on at which there is work, Infinity if none is left. */
export function firstWork(s: Shifts, t: number): number {
  const k = shiftAt(s, t);
  return k < s.from.length ? Math.max(t, s.from[k]!) : Infinity;
}

/** When work begun at t (within a shift) is done: it pauses where a shift ends. Infinity if the shifts do not hold it. */
export const doneAt = (s: Shifts, t: number, minutes: number): number => doneFrom(s, shiftAt(s, t), t, minutes);

/** The same for who knows which shift that is, the first that ends after t. */
export function doneFrom(s: Shifts, shift: number, t: number, minutes: number): number {
  let left = minutes;
  let at = t;
  for (let k = shift; k < s.from.length; k++) {
    at = Math.max(at, s.from[k]!);
    const here = s.to[k]! - at;
    if (left <= here) return at + left;
    left -= here;
  }
  return Infinity;
}

/** The latest begin, within a shift, of work that is done at t or before: it pauses where a shift ends. −Infinity if no shifts before hold it. */
export function begunBy(s: Shifts, t: number, minutes: number): number {
  let left = minutes;
  let k = shiftAt(s, t);
  if (k === s.from.length || s.from[k]! >= t) k--;
  for (; k >= 0; k--) {
    const at = Math.min(t, s.to[k]!);
    const here = at - s.from[k]!;
    if (left <= here) return at - left;
    left -= here;
  }
  return -Infinity;
}
