import { canonical } from '../canonical';
import type { Change, Order, Undoable } from '#model/order';

/** Actions of one person on one order that can be taken back, the last first. */
const MOST_KEPT = 5;
/** An action that changed more than this, as characters of JSON, is not kept to be taken back. */
const LARGEST = 20_000;
/** Parts of the state that are of the record itself, not of what anybody did. */
const OWN = new Set(['version', 'lastDone', 'undo']);

type Branch = Record<string, unknown>;
const isBranch = (x: unknown): x is Branch => typeof x === 'object' && x !== null && !Array.isArray(x);
const same = (a: unknown, b: unknown) => Object.is(a, b) || (a !== undefined && b !== undefined && canonical(a) === canonical(b));

/** How many items two lists have alike from one end, at most `most`. */
function alike(a: readonly unknown[], b: readonly unknown[], most: number, fromEnd: boolean): number {
  let n = 0;
  while (n < most && (fromEnd ? same(a[a.length - 1 - n], b[b.length - 1 - n]) : same(a[n], b[n]))) n++;
  return n;
}

/** What turns `after` back into `before`: leaf by leaf, and of lists only what came or went. */
function changes(before: unknown, after: unknown, path: string[] = []): Change[] {
  if (Object.is(before, after)) return [];
  if (isBranch(before) && isBranch(after)) {
    // in one order, whether a state was just made or read back from the record
    const keys = [...new Set([...Object.keys(before), ...Object.keys(after)])].sort();
    return keys.flatMap((k) => (path.length === 0 && OWN.has(k) ? [] : changes(before[k], after[k], [...path, k])));
  }
  if (Array.isArray(before) && Array.isArray(after)) {
    const head = alike(before, after, Math.min(before.length, after.length), false);
    const tail = alike(before, after, Math.min(before.length, after.length) - head, true);
    const was = before.slice(head, before.length - tail);
    const now = after.slice(head, after.length - tail);
    return was.length || now.length ? [{ path, at: head, was, now }] : [];
  }
  return same(before, after) ? [] : [{ path, was: before, now: after }];
}

const read = (from: unknown, path: readonly string[]): unknown => path.reduce<unknown>((x, k) => (isBranch(x) ? x[k] : undefined), from);

/** Where what a list got stands in it now; -1: not any more. What only went out comes in again where it was. */
function foundAt(list: readonly unknown[], now: readonly unknown[], at: number): number {
  if (!now.length) return Math.min(at, list.length);
  for (let i = 0; i + now.length <= list.length; i++) if (now.every((x, k) => same(list[i + k], x))) return i;
  return -1;
}

function written(into: unknown, path: readonly string[], value: (old: unknown) => unknown): unknown {
  const [key, ...rest] = path;
  if (key === undefined) return value(into);
  const branch: Branch = isBranch(into) ? into : {};
  const made = written(branch[key], rest, value);
  if (made !== undefined) return { ...branch, [key]: made };
  const { [key]: _, ...others } = branch;
  return others;
}

/** Whether all that an action left is as it left it: then it can be taken back without taking anything from anybody. */
export const stands = (order: Order, { back }: Undoable): boolean =>
  back.every((c) => {
    const held = read(order, c.path);
    return 'at' in c ? Array.isArray(held) && foundAt(held, c.now, c.at) >= 0 : same(held, c.now);
  });

/** The last thing that a person did on an order and may take back; null: there is none. */
export const lastOf = (order: Order, by: string): Undoable | null => order.undo?.[by]?.at(-1) ?? null;

/** The order as before that person's last action; what others did since stays. */
export function takenBack(order: Order, by: string): Order {
  const mine = order.undo?.[by] ?? [];
  const last = mine.at(-1);
  if (!last) return order;
  const restored = last.back.reduce<Order>(
    (o, c) =>
      written(o, c.path, (old) => {
        if (!('at' in c)) return c.was;
        const list = (old ?? []) as unknown[];
        const i = foundAt(list, c.now, c.at);
        return [...list.slice(0, i), ...c.was, ...list.slice(i + c.now.length)];
      }) as Order,
    order,
  );
  return { ...restored, undo: { ...order.undo, [by]: mine.slice(0, -1) } };
}

/** The order after an action, which remembers how it is taken back. */
export function remembering(before: Order, after: Order, by: string, what: Pick<Undoable, 'seq' | 'says'>): Order {
  const back = changes(before, after);
  const mine = JSON.stringify(back).length > LARGEST ? [] : [...(before.undo?.[by] ?? []), { ...what, back }].slice(-MOST_KEPT);
  return { ...after, undo: { ...before.undo, [by]: mine } };
}

/** The order after something that ends what may be taken back. */
export const forgetting = (order: Order): Order => ({ ...order, undo: {} });
