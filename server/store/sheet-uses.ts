import type { SheetKind, SheetRef } from '#model/sheet';
import { rows, run, type Store } from './db';

/** An open order and the revision of a sheet that it has. */
export interface SheetUse {
  order: string;
  number: number;
  unitName: string;
  revision: number;
}

/** Open orders that have a sheet, and at which revision. Rule packs are judged at their newest: nobody keeps an older one. */
export async function usesOf(s: Store, kind: SheetKind, id: string): Promise<SheetUse[]> {
  if (kind === 'rules') return [];
  const list = await rows<{ id: string; number: number; model: string; kits: string; unit: string }>(
    s,
    "SELECT id, number, CONVERT(JSON_EXTRACT(state, '$.unit.model') USING utf8mb4) model, CONVERT(JSON_EXTRACT(state, '$.kits') USING utf8mb4) kits, JSON_VALUE(summary, '$.unitName') unit FROM orders WHERE status = 'open' ORDER BY number",
    [],
  );
  return list.flatMap((o) => {
    const refs = kind === 'model' ? [JSON.parse(o.model) as SheetRef] : (JSON.parse(o.kits) as { kit: SheetRef }[]).map((k) => k.kit);
    const ref = refs.find((r) => r.id === id);
    return ref ? [{ order: o.id, number: o.number, unitName: o.unit, revision: ref.revision }] : [];
  });
}

/** Sheets that are not offered any more, by kind. */
export const retiredOf = async (s: Store, kind: SheetKind): Promise<Set<string>> =>
  new Set((await rows<{ id: string }>(s, 'SELECT id FROM retired_sheets WHERE kind = ?', [kind])).map((r) => r.id));

/** Takes a sheet from what is offered, or puts it back. Said twice, it is said once. */
export const retire = (s: Store, kind: SheetKind, id: string, retired: boolean, by: string): Promise<unknown> =>
  retired
    ? run(s, 'INSERT IGNORE INTO retired_sheets (kind, id, by_person, at) VALUES (?, ?, ?, ?)', [kind, id, by, new Date()])
    : run(s, 'DELETE FROM retired_sheets WHERE kind = ? AND id = ?', [kind, id]);
