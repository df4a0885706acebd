/** A thing of a sheet’s list. */
interface Thing {
  id: string;
  name?: string | undefined;
  title?: string | undefined;
  when?: string | undefined;
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
const plain = (v: unknown): v is string | number => typeof v === 'string' || typeof v === 'number';
const LONGEST = 60;
/** Ends of a field’s name that tell its unit, the longer first. */
const UNITS = [
  ['Minutes', 'min'],
  ['Mm', 'mm'],
  ['Kg', 'kg'],
  ['Nm', 'N·m'],
  ['Ma', 'mA'],
  ['Ah', 'Ah'],
  ['A', 'A'],
  ['W', 'W'],
  ['V', 'V'],
] as const;

function sayChange(key: string, was: unknown, now: unknown): string {
  const unit = UNITS.find(([end]) => key.endsWith(end));
  const word = (unit ? key.slice(0, -unit[0].length) : key).replace(/[A-Z]/g, (l) => ` ${l.toLowerCase()}`);
  if (unit && typeof now === 'number') return `${word}${typeof was === 'number' ? ` ${was} ${unit[1]}; now` : ''} ${now} ${unit[1]}`;
  if (plain(was) && plain(now) && String(was).length + String(now).length < LONGEST) return `${word} ${was}; now ${now}`;
  return plain(now) && was === undefined ? `${word} ${now}` : word;
}

/** The fields of a record that are otherwise, in words; empty where none is. */
export function fieldChanges(before: object, after: object): string {
  const [was, now] = [before as Record<string, unknown>, after as Record<string, unknown>];
  const keys = [...new Set([...Object.keys(was), ...Object.keys(now)])].filter((k) => !same(was[k], now[k]));
  return keys.map((k) => sayChange(k, was[k], now[k])).join(', ');
}

/** What is otherwise in a list of things, a line each; of several of one id, each under its own choice. */
export function listChanges(word: string, before: readonly Thing[], after: readonly Thing[]): string[] {
  const alike = (a: Thing, b: Thing) => a.id === b.id && a.when === b.when;
  const said = (x: Thing) => `${word} “${x.title ?? x.name ?? x.id}”`;
  return [
    ...after.flatMap((x) => {
      const old = before.find((y) => alike(x, y));
      if (!old) return [`${said(x)}: new`];
      const fields = fieldChanges(old, x);
      return fields ? [`${said(x)}: ${fields}`] : [];
    }),
    ...before.filter((x) => !after.some((y) => alike(x, y))).map((x) => `${said(x)}: gone`),
  ];
}
