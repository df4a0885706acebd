import { findNodeAtLocation, parseTree, printParseErrorCode, type ParseError } from 'jsonc-parser';
import type { z } from 'zod';
import { RulesFile, SheetFile, today } from '#model/sheet';
import { readPack } from '../lighting/pack';

/** One thing wrong with a sheet file: the line it stands on (from 1), the field, and what is wrong. */
export interface SheetProblem {
  line: number;
  field: string;
  message: string;
}

/** No sheet is nested deeper. */
const DEEPEST = 40;

/** Where a text opens more brackets than any sheet has, outside of its strings; −1 where it does not. */
function tooDeepAt(text: string): number {
  let depth = 0;
  let quoted = false;
  for (let i = 0; i < text.length; i++) {
    const c = text[i];
    if (quoted) {
      if (c === '\\') i++;
      else if (c === '"') quoted = false;
    } else if (c === '"') quoted = true;
    else if (c === '{' || c === '[') {
      if (++depth > DEEPEST) return i;
    } else if (c === '}' || c === ']') depth--;
  }
  return -1;
}

const lineAt = (text: string, offset: number) => text.slice(0, offset).split('\n').length;

function describe(issue: z.core.$ZodIssue): string {
  if (issue.code === 'invalid_type' && issue.input === undefined) return 'is missing';
  if (issue.code === 'unrecognized_keys') return `is not a field of this format`;
  if (issue.code === 'invalid_value') return `must be one of ${issue.values.map(String).join(', ')}`;
  return issue.message
    .replace(/^Invalid input: /, '')
    .replace(/^Too small: /, '')
    .replace(/^Too big: /, '');
}

/** Each thing that is wrong with a sheet, by the path to it and in words. */
export const sheetIssues = (error: z.ZodError): { path: PropertyKey[]; message: string }[] =>
  error.issues.flatMap((issue) => {
    const paths = issue.code === 'unrecognized_keys' ? issue.keys.map((k) => [...issue.path, k]) : [issue.path];
    return paths.map((path) => ({ path, message: describe(issue) }));
  });

/** What reading a sheet file came to. A rule pack with bad items is read all the same: `problems` then names them. */
export type SheetRead = { sheet: SheetFile; problems: SheetProblem[] } | { sheet: null; problems: SheetProblem[] };

/**
 * Reads a sheet file's text. Every problem names its line and field, so that the file can be mended and read again.
 * @param most how many problems to list
 */
export function readSheet(text: string, most = 20): SheetRead {
  const deep = tooDeepAt(text);
  if (deep >= 0)
    return {
      sheet: null,
      problems: [{ line: lineAt(text, deep), field: '', message: `nested more than ${DEEPEST} deep: this is no sheet` }],
    };
  const errors: ParseError[] = [];
  const tree = parseTree(text, errors, { allowTrailingComma: false, disallowComments: true });
  if (errors.length || !tree)
    return {
      sheet: null,
      problems: (errors.length ? errors : [{ error: 1, offset: 0, length: 0 }]).slice(0, most).map((e) => ({
        line: lineAt(text, e.offset),
        field: '',
        message: `not JSON here: ${printParseErrorCode(e.error)
          .replace(/([A-Z])/g, ' $1')
          .trim()
          .toLowerCase()}`,
      })),
    };
  const raw: unknown = JSON.parse(text);
  const given = today(raw);
  const parsed = SheetFile.safeParse(given, { reportInput: true });
  if (parsed.success) return { sheet: parsed.data, problems: [] };
  const problems = sheetIssues(parsed.error).map(({ path: of, message }) => {
    // in a kit of the first format what it contains is its box
    const path = given !== raw && of[1] === 'contents' ? [of[0]!, 'box', ...of.slice(2)] : of;
    let node = undefined;
    for (let n = path.length; n >= 0 && !node; n--) node = findNodeAtLocation(tree, path.slice(0, n) as (string | number)[]);
    return { line: lineAt(text, (node ?? tree).offset), field: path.join('.'), message };
  });
  return { sheet: partOfPack(raw, parsed.error.issues), problems: problems.slice(0, most) };
}

/** A rule pack whose mistakes are all in single items, with those set aside; null for anything else. */
function partOfPack(raw: unknown, issues: readonly z.core.$ZodIssue[]): SheetFile | null {
  const file = RulesFile.safeParse(raw);
  if (!file.success || issues.some((i) => i.path[0] !== 'sheet' || i.path[1] !== 'items' || typeof i.path[2] !== 'number')) return null;
  try {
    return { kadro: 'rules', format: 1, sheet: readPack(file.data.sheet) };
  } catch {
    return null;
  }
}
