import { z } from 'zod';
import { broughtUpToDate, Kit } from '#model/kit';
import { RulePack } from '#model/rule-pack';
import { SheetFile, today, type SheetKind } from '#model/sheet';
import { UnitModel } from '#model/unit-model';
import { ImpossibleInput } from '../errors';
import { sheetIssues } from '../sheets/read';

/** A sheet as its file's JSON: the whole file, or what stands under its `sheet`. */
export const GivenSheet = z.looseObject({});

const SCHEMA = { model: UnitModel, kit: Kit, rules: RulePack } as const;
export interface SheetTrouble {
  path: string;
  message: string;
}

/** What kind of sheet a bare one is, by what only that kind has. */
export function kindOf(value: Record<string, unknown>): SheetKind {
  const kadro = SheetFile.options.map((o) => o.shape.kadro.value).find((k) => k === value.kadro);
  if (kadro) return kadro;
  return 'electrical' in value || 'places' in value ? 'model' : 'items' in value ? 'rules' : 'kit';
}

/** Reads a sheet, whole or bare; every problem with its path within what was given. */
export function readGiven(value: Record<string, unknown>, kind: SheetKind): { sheet: unknown; problems: SheetTrouble[] } {
  const whole = 'kadro' in value;
  if (whole && value.kadro !== kind)
    return { sheet: null, problems: [{ path: 'kadro', message: `is “${String(value.kadro)}”: a sheet of kind “${kind}” is asked for` }] };
  const given = whole ? today(value) : kind === 'kit' ? broughtUpToDate(value) : value;
  const parsed = (whole ? SheetFile : SCHEMA[kind]).safeParse(given, { reportInput: true });
  if (parsed.success) return { sheet: whole ? (parsed.data as SheetFile).sheet : parsed.data, problems: [] };
  return { sheet: null, problems: sheetIssues(parsed.error).map(({ path, message }) => ({ path: path.join('.'), message })) };
}

/**
 * A sheet that must be sound.
 * @param at its path in the input
 * @throws ImpossibleInput naming the first problem and its path
 */
export function soundSheet<K extends SheetKind>(value: Record<string, unknown>, kind: K, at: string): z.infer<(typeof SCHEMA)[K]> {
  const { sheet, problems } = readGiven(value, kind);
  const [first] = problems;
  if (first)
    throw new ImpossibleInput(`${at}${first.path ? `.${first.path}` : ''}: ${first.message}`, first.path ? `${at}.${first.path}` : at);
  return sheet as z.infer<(typeof SCHEMA)[K]>;
}
