import { nameOf } from '../known/pointer';

/** A sheet into which two people's changes went, and where both had changed the same: there the first one's stands. */
export interface Merged<T> {
  value: T;
  /** pointers, as `known` has them */
  both: string[];
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
const isRecord = (x: unknown): x is Record<string, unknown> => typeof x === 'object' && x !== null && !Array.isArray(x);

/** The items of a list by their names; null for a list whose items have none, or not each its own. */
function named(list: unknown): Map<string, unknown> | null {
  if (!Array.isArray(list)) return null;
  const out = new Map(list.map((x: unknown) => [nameOf(x) ?? '', x]));
  return out.size === list.length && !out.has('') ? out : null;
}

/**
 * What I made of a sheet put onto what it has become meanwhile: field by field, and item by item where a list's items have names.
 * @param base what both began with
 */
export function merge<T>(base: T, mine: T, theirs: T): Merged<T> {
  const both: string[] = [];
  const value = put(base, mine, theirs, '', both) as T;
  return { value, both };
}

function put(base: unknown, mine: unknown, theirs: unknown, at: string, both: string[]): unknown {
  if (same(mine, base)) return theirs;
  if (same(theirs, base) || same(mine, theirs)) return mine;
  if (isRecord(mine) && isRecord(theirs)) {
    const was = isRecord(base) ? base : {};
    const out: Record<string, unknown> = {};
    for (const key of new Set([...Object.keys(theirs), ...Object.keys(mine)])) {
      const x = put(was[key], mine[key], theirs[key], `${at}/${key}`, both);
      // a field that is undefined is left out
      if (x !== undefined) out[key] = x;
    }
    return out;
  }
  const [was, my, their] = [named(base ?? []), named(mine), named(theirs)];
  if (was && my && their) {
    // mine are in their places where nobody else moved or added any
    const order = same([...was.keys()], [...their.keys()]) ? [...my.keys(), ...their.keys()] : [...their.keys(), ...my.keys()];
    return [...new Set(order)].flatMap((name) => {
      const x = put(was.get(name), my.get(name), their.get(name), `${at}/${name}`, both);
      return x === undefined ? [] : [x];
    });
  }
  both.push(at);
  return mine;
}
