import type { Order } from '#model/order';
import type { SheetFile, SheetKind, SheetRef } from '#model/sheet';
import { sha256 } from './chain';
import { row, rows, run, shopOf, type Store, type Tx } from './db';
import type { Workers } from '../work/workers';

export interface SheetRow {
  kind: SheetKind;
  id: string;
  revision: number;
  name: string;
  at: Date;
  by_person: string;
  /** why this revision was made, where somebody said so */
  reason: string | null;
}

/** A sheet by what it is, of one shop: two shops’ sheets of one name are never taken for each other. */
export const sheetKey = (s: Store, kind: SheetKind, ref: SheetRef): string => `${shopOf(s).id}/${kind}/${ref.id}/${ref.revision}`;

/** A revision as JSON with every default of today filled in; null where there is none. */
export async function readSheetJson(s: Store, workers: Workers, kind: SheetKind, ref: SheetRef): Promise<string | null> {
  const { memo } = shopOf(s);
  const key = sheetKey(s, kind, ref);
  const known = memo.sheets.get(key);
  if (known !== undefined) return known;
  const r = await row<{ json: string }>(s, 'SELECT json FROM sheets WHERE kind = ? AND id = ? AND revision = ?', [
    kind,
    ref.id,
    ref.revision,
  ]);
  if (!r) return null;
  const json = await workers.run('wholeSheet', { kind, json: r.json });
  memo.sheets.set(key, json);
  return json;
}

export const newestRef = async (s: Store, kind: SheetKind, id: string): Promise<SheetRef | null> => {
  const r = await row<{ revision: number | null }>(s, 'SELECT MAX(revision) revision FROM sheets WHERE kind = ? AND id = ?', [kind, id]);
  return r?.revision ? { id, revision: r.revision } : null;
};

/** The newest revision of every sheet of a kind, without what is in them. */
export const newestRefs = (s: Store, kind: SheetKind): Promise<SheetRow[]> =>
  rows<SheetRow>(
    s,
    'SELECT s.kind, s.id, s.revision, s.name, s.at, s.by_person, s.reason FROM sheets s JOIN (SELECT id, MAX(revision) revision FROM sheets WHERE kind = ? GROUP BY id) n ON n.id = s.id AND n.revision = s.revision WHERE s.kind = ? ORDER BY s.name, s.id',
    [kind, kind],
  );

/** Fingerprints of every revision of a sheet here, the oldest first. */
export async function historyOf(s: Store, kind: SheetKind, id: string): Promise<string[]> {
  const list = await rows<{ json: string }>(s, 'SELECT json FROM sheets WHERE kind = ? AND id = ? ORDER BY revision', [kind, id]);
  return list.map((r) => sha256(r.json));
}

/** A sheet was changed by somebody else since it was read. */
export class StaleSheet extends Error {
  constructor(readonly revision: number) {
    super(`the sheet is at revision ${revision} by now`);
  }
}

/**
 * Stores a sheet as the next revision; the same content again is the same revision. Two that bring a new sheet at once are
 * settled by its key: the second finds the first.
 */
export async function writeSheet(
  tx: Tx,
  file: SheetFile,
  by: string,
  reason: string | null = null,
  /** the revision that it was made from: another one by now is not written over */
  from: number | null = null,
): Promise<{ kind: SheetKind; ref: SheetRef; changed: boolean }> {
  const kind = file.kadro;
  const { id } = file.sheet;
  const json = JSON.stringify(file.sheet);
  const name = ('maker' in file.sheet ? `${file.sheet.maker} ${file.sheet.name}` : file.sheet.name).slice(0, 200);
  for (;;) {
    const last = await row<{ revision: number; json: string }>(
      tx,
      'SELECT revision, json FROM sheets WHERE kind = ? AND id = ? ORDER BY revision DESC LIMIT 1 FOR UPDATE',
      [kind, id],
    );
    if (last && last.json === json) return { kind, ref: { id, revision: last.revision }, changed: false };
    if (from !== null && (last?.revision ?? 0) !== from) throw new StaleSheet(last?.revision ?? 0);
    const revision = (last?.revision ?? 0) + 1;
    const r = await run(
      tx,
      'INSERT IGNORE INTO sheets (kind, id, revision, name, json, by_person, at, reason) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
      [kind, id, revision, name, json, by, new Date(), reason],
    );
    if (r.affectedRows === 1) return { kind, ref: { id, revision }, changed: true };
  }
}

/** Sheets by their keys, as JSON: what a computation is handed. */
export type SheetBag = Record<string, string>;

/** The sheets that an order itself names. */
export const refsOf = (order: Pick<Order, 'unit' | 'kits'>): (readonly [SheetKind, SheetRef])[] => [
  ['model', order.unit.model],
  ...order.kits.map((k) => ['kit', k.kit] as const),
];

/**
 * The sheets an order is computed with: its model and kits at the revisions it began with, and every rule pack there is,
 * the newest of each.
 * @param also further ones, such as of a kit about to be added
 */
export const sheetsOf = (
  s: Store,
  workers: Workers,
  order: Pick<Order, 'unit' | 'kits'>,
  also: readonly (readonly [SheetKind, SheetRef])[] = [],
): Promise<{ bag: SheetBag; packs: SheetRef[] }> => sheetsFor(s, workers, [...refsOf(order), ...also]);

/** These sheets, and the newest of every rule pack there is. */
export async function sheetsFor(
  s: Store,
  workers: Workers,
  refs: readonly (readonly [SheetKind, SheetRef])[],
): Promise<{ bag: SheetBag; packs: SheetRef[] }> {
  const packs = (await newestRefs(s, 'rules')).map(({ id, revision }) => ({ id, revision }));
  const wanted = [...refs, ...packs.map((ref) => ['rules', ref] as const)];
  const bag: SheetBag = {};
  for (const [kind, ref] of wanted) {
    const json = await readSheetJson(s, workers, kind, ref);
    if (json === null) throw new Error(`${kind} ${ref.id} revision ${ref.revision} is not in the sheets`);
    bag[sheetKey(s, kind, ref)] = json;
  }
  return { bag, packs };
}
