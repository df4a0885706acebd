import Papa from 'papaparse';
import { ImpossibleInput } from '../errors';

/** A table as it was pasted or read from a file: its first row where that has names, and the others. */
export interface ReadTable {
  heads: string[] | null;
  rows: string[][];
}

/** What one column of a kind of table holds. */
export interface TableColumn {
  /** for a person to choose by */
  name: string;
  /** what its head most likely says */
  head: RegExp;
  /** what its cells look like where no heads say so */
  cells?: RegExp;
}

/**
 * A kind of table: its columns, the one without which a row is nothing, and what a row comes to. `line` is given the cells that are
 * not empty, and throws ImpossibleInput for what cannot be.
 */
export interface TableKind<C extends string, L> {
  columns: Readonly<Record<C, TableColumn>>;
  key: C;
  line: (cells: Partial<Record<C, string>>, key: string) => L;
}

/** A row that cannot be, and why. */
export interface BadRow {
  row: number;
  says: string;
}

/** A column that nothing is taken from. */
export const NO_COLUMN = 'nothing';
export type Columns<C extends string> = (C | typeof NO_COLUMN)[];

const MOST_ROWS = 500;
const MOST_CHARS = 200_000;
const MOST_KEY = 80;
/** Signs with which a cell would be a formula in a spreadsheet. */
const FORMULA = /^[=+@\t\r]|^-(?![\d.,]+\s*\S{0,2}$)/;

const columnsOf = <C extends string>(kind: TableKind<C, unknown>): [C, TableColumn][] => Object.entries(kind.columns) as [C, TableColumn][];

/**
 * A table out of pasted text: commas, semicolons or tabs, as they come.
 * @param kind tells a row of heads from one of figures
 * @throws ImpossibleInput for one without rows, or a size that no list of a unit or a box has
 */
export function readTable<C extends string>(text: string, kind: TableKind<C, unknown>): ReadTable {
  if (text.length > MOST_CHARS) throw new ImpossibleInput('that is longer than any such list', 'table');
  const { data, errors } = Papa.parse<string[]>(text.trim(), { skipEmptyLines: 'greedy' });
  // one column has no delimiter to find: that is no mistake
  const wrong = errors.find((e) => e.type !== 'Delimiter');
  if (wrong) throw new ImpossibleInput(`row ${(wrong.row ?? 0) + 1}: ${wrong.message}`, 'table');
  const all = data.map((r) => r.map((c) => c.trim()));
  if (!all.length) throw new ImpossibleInput('there is nothing in it', 'table');
  if (all.length > MOST_ROWS) throw new ImpossibleInput(`${all.length} rows: no such list holds so many`, 'table');
  const named = all[0]!.some((c) => columnsOf(kind).some(([, k]) => k.head.test(c))) && !all[0]!.some((c) => /^-?\d+([.,]\d+)?$/.test(c));
  return { heads: named ? all[0]! : null, rows: named ? all.slice(1) : all };
}

/** What each column most likely holds, by its head or by what stands in it; a person has the last word. */
export function guessColumns<C extends string>(t: ReadTable, kind: TableKind<C, unknown>): Columns<C> {
  const width = Math.max(...t.rows.map((r) => r.length), t.heads?.length ?? 0);
  const left = new Map(columnsOf(kind));
  const guess: Columns<C> = Array.from({ length: width }, (_, i) => {
    const head = t.heads?.[i] ?? '';
    const cells = t.rows.map((r) => r[i] ?? '');
    const fits = ([, k]: [C, TableColumn]) => (t.heads ? k.head.test(head) : !!k.cells && cells.every((c) => k.cells!.test(c)));
    const found = [...left].find(fits)?.[0];
    if (found === undefined) return NO_COLUMN;
    left.delete(found);
    return found;
  });
  // the widest column of words is what the things are
  if (left.has(kind.key)) {
    const words = guess.map((g, i) => (g === NO_COLUMN ? t.rows.reduce((n, r) => n + (r[i] ?? '').replace(/[\d.,]/g, '').length, 0) : -1));
    const most = words.indexOf(Math.max(...words));
    if (words[most]! > 0) guess[most] = kind.key;
  }
  return guess;
}

export const isBad = (l: unknown): l is BadRow => typeof l === 'object' && l !== null && 'says' in l && 'row' in l;

/**
 * The lines of a table by its columns; a row that cannot be is told, and the others stand.
 * @throws ImpossibleInput where no column says what the things are
 */
export function tableLines<C extends string, L>(t: ReadTable, kind: TableKind<C, L>, columns: Columns<C>): (L | BadRow)[] {
  if (!columns.includes(kind.key)) throw new ImpossibleInput(`say which column tells ${kind.columns[kind.key].name}`, 'columns');
  return t.rows.map((r, i) => {
    const row = i + (t.heads ? 2 : 1);
    const cells: Partial<Record<C, string>> = {};
    columns.forEach((c, k) => {
      if (c !== NO_COLUMN && r[k]) cells[c] = r[k];
    });
    const key = cells[kind.key]?.slice(0, MOST_KEY);
    if (!key) return { row, says: `row ${row} says not ${kind.columns[kind.key].name}` };
    const formula = Object.values<string | undefined>(cells).find((c) => c && FORMULA.test(c));
    if (formula) return { row, says: `row ${row}, “${formula.slice(0, 20)}”, is a formula, not a thing` };
    try {
      return kind.line(cells, key);
    } catch (e) {
      if (!(e instanceof ImpossibleInput)) throw e;
      return { row, says: `row ${row}, ${key}: ${e.message}` };
    }
  });
}
