import type { How, Known } from '#model/known';
import type { UnitModel } from '#model/unit-model';

/** What each way of knowing is called. */
export const HOW_WORD: Readonly<Record<How, string>> = { assumed: 'assumed', maker: 'the maker’s', read: 'read off', measured: 'measured' };

/** The step of a pointer that names an item of a list: its id, or for a run its two ends. */
export const nameOf = (item: unknown): string | null => {
  if (typeof item !== 'object' || item === null) return null;
  const x = item as { id?: string; from?: string; to?: string };
  return x.id ?? (x.from !== undefined && x.to !== undefined ? `${x.from}..${x.to}` : null);
};

const stepsOf = (pointer: string): string[] => pointer.split('/').slice(1);

/** What stands at a pointer of a sheet; undefined where nothing does. */
export function at(sheet: unknown, pointer: string): unknown {
  let x: unknown = sheet;
  for (const step of stepsOf(pointer)) {
    if (Array.isArray(x)) x = x.find((item) => nameOf(item) === step);
    else if (typeof x === 'object' && x !== null) x = (x as Record<string, unknown>)[step];
    else return undefined;
  }
  return x;
}

/** A sheet with something else at a pointer: only what leads there is new. A field that is not there is added; an item is not. */
export function withAt<T>(sheet: T, pointer: string, value: unknown): T {
  const put = (x: unknown, steps: string[]): unknown => {
    const [step, ...rest] = steps;
    if (step === undefined) return value;
    if (Array.isArray(x)) return x.map((item: unknown) => (nameOf(item) === step ? put(item, rest) : item));
    if (typeof x === 'object' && x !== null) return { ...x, [step]: put((x as Record<string, unknown>)[step], rest) };
    return x;
  };
  return put(sheet, stepsOf(pointer)) as T;
}

/** How a value is known: by its own entry, or the nearest above it; the maker’s where there is none. */
export function howKnown(model: Pick<UnitModel, 'known'>, pointer: string): Known {
  for (let p = pointer; ; p = p.slice(0, p.lastIndexOf('/'))) {
    const k = model.known[p];
    // a spread is of the value that it stands at
    if (k) return p === pointer ? k : { ...k, spread: undefined };
    if (!p) return { how: 'maker' };
  }
}

/** Whether a sheet rests on what is only assumed of its kind. */
export const restsOnAssumed = (model: Pick<UnitModel, 'known'>): boolean => Object.values(model.known).some((k) => k.how === 'assumed');
