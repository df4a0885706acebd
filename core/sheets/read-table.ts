import Papa from 'papaparse';
import { ImpossibleInput } from '../errors';

/** A table as it was pasted or read from a file: its first row where that has names, and the others. */
export interface ReadTable {
  heads: string[] | null;
  rows: string[][];
}

/** What a column of a table may hold. */
export type Column = 'item' | 'count' | 'torqueNm' | 'nothing';

const MOST_ROWS = 500;
const MOST_CHARS = 200_000;
/** Signs with which a cell would be a formula in a spreadsheet. */
const FORMULA = /^[=+\-@\t\r]/;

const NAMES: Record<Exclude<Column, 'nothing'>, RegExp> = {
  count: /^(count|qty|quantity|pcs|pieces|how many|number|no\.?|#|×|x)$/i,
  torqueNm: /(torque|n·?m)/i,
  item: /(item|part|description|what|name|content)/i,
};

/**
 * A table out of pasted text: commas, semicolons or tabs, as they come.
 * @throws ImpossibleInput for one without rows, or a size that no box has
 */
export function readTable(text: string): ReadTable {
  if (text.length > MOST_CHARS) throw new ImpossibleInput('that is longer than any list of a box', 'table');
  const { data, errors } = Papa.parse<string[]>(text.trim(), { skipEmptyLines: 'greedy' });
  // one column has no delimiter to find: that is no mistake
  const wrong = errors.find((e) => e.type !== 'Delimiter');
  if (wrong) throw new ImpossibleInput(`row ${(wrong.row ?? 0) + 1}: ${wrong.message}`, 'table');
  const all = data.map((r) => r.map((c) => c.trim()));
  if (!all.length) throw new ImpossibleInput('there is nothing in it', 'table');
  if (all.length > MOST_ROWS) throw new ImpossibleInput(`${all.length} rows: no box holds so many kinds of things`, 'table');
  const named = all[0]!.some((c) => Object.values(NAMES).some((n) => n.test(c))) && !all[0]!.some((c) => /^\d+$/.test(c));
  return { heads: named ? all[0]! : null, rows: named ? all.slice(1) : all };
}

/** What each column most likely holds, by its name or by what stands in it; a person has the last word. */
export function guessColumns(t: ReadTable): Column[] {
  const width = Math.max(...t.rows.map((r) => r.length), t.heads?.length ?? 0);
  const taken = new Set<Column>();
  const take = (c: Exclude<Column, 'nothing'>): Column => (taken.has(c) ? 'nothing' : (taken.add(c), c));
  const guess = Array.from({ length: width }, (_, i): Column => {
    const head = t.heads?.[i] ?? '';
    const by = (['count', 'torqueNm', 'item'] as const).find((k) => NAMES[k].test(head));
    if (by) return take(by);
    if (t.heads) return 'nothing';
    const cells = t.rows.map((r) => r[i] ?? '');
    return cells.every((c) => /^\d{1,3}( ?[×x])?$/.test(c)) ? take('count') : 'nothing';
  });
  // the widest column of words is what the things are
  if (!taken.has('item')) {
    const words = guess.map((g, i) => (g === 'nothing' ? t.rows.reduce((n, r) => n + (r[i] ?? '').replace(/[\d.,]/g, '').length, 0) : -1));
    const most = words.indexOf(Math.max(...words));
    if (words[most]! > 0) guess[most] = 'item';
  }
  return guess;
}

/** A line of a box’s contents out of a table, or what is wrong with its row. */
export type TableLine = { item: string; count: number; torqueNm?: number } | { row: number; says: string };

/** The lines of a table by its columns; a row that cannot be is told, and the others stand. */
export function tableLines(t: ReadTable, columns: readonly Column[]): TableLine[] {
  const at = (c: Column) => columns.indexOf(c);
  if (at('item') < 0) throw new ImpossibleInput('say which column tells what the things are', 'columns');
  return t.rows.map((r, i): TableLine => {
    const row = i + (t.heads ? 2 : 1);
    const item = (r[at('item')] ?? '').slice(0, 80);
    if (!item) return { row, says: `row ${row} says not what it is` };
    if (FORMULA.test(item)) return { row, says: `row ${row}, “${item.slice(0, 20)}”, is a formula, not a thing` };
    const said = at('count') < 0 ? '1' : (r[at('count')] ?? '').replace(/ ?[×x]$/, '');
    const count = Number(said);
    if (!/^\d+$/.test(said) || count < 1 || count > 999) return { row, says: `row ${row}, ${item}: “${said}” is not a count` };
    const torque = at('torqueNm') < 0 ? '' : (r[at('torqueNm')] ?? '').replace(',', '.');
    if (!torque) return { item, count };
    const torqueNm = Number(/^[\d.]+/.exec(torque)?.[0]);
    if (!(torqueNm > 0) || torqueNm > 1000) return { row, says: `row ${row}, ${item}: “${torque}” is not a torque in N·m` };
    return { item, count, torqueNm };
  });
}
