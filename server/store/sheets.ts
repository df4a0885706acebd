import { Kit } from '#model/kit';
import type { Order } from '#model/order';
import { RulePack } from '#model/rule-pack';
import type { SheetFile, SheetKind, SheetRef, Sheets } from '#model/sheet';
import { UnitModel } from '#model/unit-model';
import { row, rows, run, type Conn, type Db } from './db';

interface SheetOf {
  model: UnitModel;
  kit: Kit;
  rules: RulePack;
}
/** A sheet written before a field was thought of is read with that field's default. */
const SCHEMA = { model: UnitModel, kit: Kit, rules: RulePack };

export interface SheetRow {
  kind: SheetKind;
  id: string;
  revision: number;
  name: string;
  at: Date;
  by_person: string;
}

/** Revisions never change, so a parsed one may be kept; it can be dropped at any time. */
const kept = new Map<string, unknown>();
const KEEP = 500;

export async function readRevision<K extends SheetKind>(db: Db | Conn, kind: K, ref: SheetRef): Promise<SheetOf[K] | null> {
  const key = `${kind}/${ref.id}/${ref.revision}`;
  if (kept.has(key)) return kept.get(key) as SheetOf[K];
  const r = await row<{ json: string }>(db, 'SELECT json FROM sheets WHERE kind = ? AND id = ? AND revision = ?', [
    kind,
    ref.id,
    ref.revision,
  ]);
  if (!r) return null;
  const sheet = SCHEMA[kind].parse(JSON.parse(r.json)) as SheetOf[K];
  if (kept.size >= KEEP) kept.clear();
  kept.set(key, sheet);
  return sheet;
}

export async function readNewest<K extends SheetKind>(
  db: Db | Conn,
  kind: K,
  id: string,
): Promise<{ ref: SheetRef; sheet: SheetOf[K] } | null> {
  const r = await row<{ revision: number }>(db, 'SELECT MAX(revision) revision FROM sheets WHERE kind = ? AND id = ?', [kind, id]);
  if (!r?.revision) return null;
  const ref = { id, revision: r.revision };
  return { ref, sheet: (await readRevision(db, kind, ref))! };
}

/** The newest revision of every sheet of a kind. */
export async function listNewest<K extends SheetKind>(
  db: Db | Conn,
  kind: K,
): Promise<{ ref: SheetRef; at: Date; by: string; sheet: SheetOf[K] }[]> {
  const list = await rows<SheetRow>(
    db,
    'SELECT s.kind, s.id, s.revision, s.name, s.at, s.by_person FROM sheets s JOIN (SELECT id, MAX(revision) revision FROM sheets WHERE kind = ? GROUP BY id) n ON n.id = s.id AND n.revision = s.revision WHERE s.kind = ? ORDER BY s.name',
    [kind, kind],
  );
  return Promise.all(
    list.map(async (s) => ({
      ref: { id: s.id, revision: s.revision },
      at: s.at,
      by: s.by_person,
      sheet: (await readRevision(db, kind, s))!,
    })),
  );
}

/** Stores a sheet as the next revision; the same content again is the same revision. */
export async function writeSheet(conn: Conn, file: SheetFile, by: string): Promise<{ kind: SheetKind; ref: SheetRef; changed: boolean }> {
  const kind = file.kadro;
  const { id } = file.sheet;
  const json = JSON.stringify(file.sheet);
  const last = await row<{ revision: number; json: string }>(
    conn,
    'SELECT revision, json FROM sheets WHERE kind = ? AND id = ? ORDER BY revision DESC LIMIT 1 FOR UPDATE',
    [kind, id],
  );
  if (last && last.json === json) return { kind, ref: { id, revision: last.revision }, changed: false };
  const revision = (last?.revision ?? 0) + 1;
  const name = 'maker' in file.sheet ? `${file.sheet.maker} ${file.sheet.name}` : file.sheet.name;
  await run(conn, 'INSERT INTO sheets (kind, id, revision, name, json, by_person, at) VALUES (?, ?, ?, ?, ?, ?, ?)', [
    kind,
    id,
    revision,
    name,
    json,
    by,
    new Date(),
  ]);
  return { kind, ref: { id, revision }, changed: true };
}

/** The sheets an order is computed with: its model and kits at the revisions it began with, and every rule pack there is, the newest of each. */
export async function sheetsOf(db: Db | Conn, order: Order): Promise<Sheets> {
  const model: UnitModel | null = await readRevision(db, 'model', order.unit.model);
  if (!model) throw new Error(`model ${order.unit.model.id} revision ${order.unit.model.revision} is not in the sheets`);
  const kits: Kit[] = [];
  for (const k of order.kits) {
    const kit = await readRevision(db, 'kit', k.kit);
    if (!kit) throw new Error(`kit ${k.kit.id} revision ${k.kit.revision} is not in the sheets`);
    kits.push(kit);
  }
  const packs: RulePack[] = [];
  for (const p of await listNewest(db, 'rules')) packs.push(p.sheet);
  return { model, kits, packs };
}
