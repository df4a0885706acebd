import { z } from 'zod';
import { broughtUpToDate, Kit } from './kit';
import { RulePack } from './rule-pack';
import { UnitModel } from './unit-model';

export const SheetKind = z.enum(['model', 'kit', 'rules']);
export type SheetKind = z.infer<typeof SheetKind>;

/** A stored sheet is never changed: an import of a changed one makes the next revision, and orders keep the one they began with. */
export const SheetRef = z.object({ id: z.string(), revision: z.number().int().positive() });
export type SheetRef = z.infer<typeof SheetRef>;

/** The open file format: one sheet in an envelope that says what it is. */
export const SheetFile = z.discriminatedUnion('kadro', [
  z.strictObject({ kadro: z.literal('model'), format: z.literal(1), sheet: UnitModel }),
  z.strictObject({ kadro: z.literal('kit'), format: z.literal(2), sheet: Kit }),
  z.strictObject({ kadro: z.literal('rules'), format: z.literal(1), sheet: RulePack }),
]);
export type SheetFile = z.infer<typeof SheetFile>;

/** A file of an earlier format as one of today’s; anything else is left as it is. */
export function today(file: unknown): unknown {
  if (typeof file !== 'object' || file === null) return file;
  const { kadro, format, sheet } = file as Record<string, unknown>;
  return kadro === 'kit' && format === 1 ? { kadro, format: 2, sheet: broughtUpToDate(sheet) } : file;
}

/** A rule pack's envelope, whatever is in it. */
export const RulesFile = z.strictObject({ kadro: z.literal('rules'), format: z.literal(1), sheet: z.unknown() });

/** The sheets one order is computed with. */
export interface Sheets {
  model: UnitModel;
  kits: Kit[];
  packs: RulePack[];
}
