import { makeSheet } from '#core/archetype/make-sheet';
import { ImpossibleInput } from '#core/errors';
import { parseQuantity, type QuantityKind, type UnitSystem } from '#core/quantity/quantity';
import { SheetBegun } from '#model/sheet-begun';
import type { UnitModel } from '#model/unit-model';

/** What is typed of a unit that nobody has a sheet for. */
export interface BegunForm {
  body: string;
  maker: string;
  name: string;
  lengthMm: string;
  widthMm: string;
  heightMm: string;
  wheelbaseMm: string;
  capacityAh: string;
  sourceA: string;
}
export const NO_UNIT: BegunForm = {
  body: '',
  maker: '',
  name: '',
  lengthMm: '',
  widthMm: '',
  heightMm: '',
  wheelbaseMm: '',
  capacityAh: '',
  sourceA: '',
};
export type Figure = keyof SheetBegun['figures'];
export const FIGURES: Record<Figure, { name: string; kind: QuantityKind; unit: string }> = {
  lengthMm: { name: 'Length', kind: 'smallLength', unit: '' },
  widthMm: { name: 'Width', kind: 'smallLength', unit: '' },
  heightMm: { name: 'Height', kind: 'smallLength', unit: '' },
  wheelbaseMm: { name: 'Wheelbase', kind: 'smallLength', unit: '' },
  capacityAh: { name: 'Battery, as its label says', kind: 'plain', unit: 'Ah' },
  sourceA: { name: 'Source at working speed, as its plate says', kind: 'plain', unit: 'A' },
};

/** A sheet as it would be begun, or what stands in the way by field; neither while no body is chosen. */
export interface Begun {
  begun: SheetBegun | null;
  model: UnitModel | null;
  errors: Partial<Record<keyof BegunForm | 'year', string>>;
}

/** Reads what is typed of a unit. @param whole whether fields that must be filled in are told where they are empty */
export function readBegun(form: BegunForm, year: string, units: UnitSystem, whole: boolean): Begun {
  const errors: Begun['errors'] = {};
  if (!form.body) return { begun: null, model: null, errors: whole ? { body: 'choose the body nearest to it' } : {} };
  const figures: SheetBegun['figures'] = {};
  for (const key of Object.keys(FIGURES) as Figure[]) {
    const { kind, unit } = FIGURES[key];
    const text = form[key].trim().replace(new RegExp(`\\s*${unit}$`, 'i'), '');
    if (!text) continue;
    try {
      figures[key] = Number(parseQuantity(text, kind, units).toPrecision(6));
    } catch (e) {
      errors[key] = (e as Error).message;
    }
  }
  for (const key of ['maker', 'name'] as const) if (whole && !form[key].trim()) errors[key] = 'must not be empty';
  // the drawing does not wait for its name
  const read = SheetBegun.safeParse({
    body: form.body,
    maker: form.maker.trim() || 'Unknown',
    name: form.name.trim() || 'Unit',
    year: Number(year) || new Date().getFullYear(),
    figures,
  });
  if (!read.success) {
    for (const i of read.error.issues) errors[i.path.at(-1) as keyof BegunForm] ??= i.message;
    return { begun: null, model: null, errors };
  }
  try {
    const model = makeSheet(read.data, { at: new Date(0).toISOString(), by: 'nobody' });
    return { begun: Object.keys(errors).length ? null : read.data, model, errors };
  } catch (e) {
    if (!(e instanceof ImpossibleInput)) throw e;
    errors[(e.path ?? 'body') as keyof BegunForm] ??= e.message;
    return { begun: null, model: null, errors };
  }
}
