import Papa from 'papaparse';

/** Signs with which a spreadsheet begins to compute, in every width they are written in. */
const FORMULA = /(^|[;,|\t\r\n])([\s"'\p{Cf}\p{Cc}]*)(?=[=+\-@＝＋－＠﹢﹣﹦﹫−])/gu;
const NUMBER = /^[+-]?\d+([.,]\d+)?(e[+-]?\d+)?$/i;

/**
 * A cell that no spreadsheet takes for a formula, wherever it thinks that a cell begins: it may part the line at semicolons,
 * commas or tabs of its own choice. Numbers stay numbers.
 */
export function plainCell(v: unknown): string | number | boolean | null | undefined {
  if (typeof v !== 'string') return v as number | boolean | null | undefined;
  if (NUMBER.test(v.trim())) return v;
  return v.replace(FORMULA, "$1$2'");
}

/** Rows as comma-separated values, every cell made plain, under these columns: they stand there where there is no row too. */
export const csv = (rows: readonly Record<string, unknown>[], columns?: readonly string[]): string =>
  Papa.unparse({
    fields: [...(columns ?? Object.keys(rows[0] ?? {}))],
    data: rows.map((r) => Object.fromEntries(Object.entries(r).map(([k, v]) => [k, plainCell(v)]))),
  });
