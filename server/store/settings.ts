import type { ShelfMove } from '#model/supply';
import { DEFAULT_SETTINGS, judgesOrders, Settings } from '#model/settings';
import { piecesBy, spoolsAfter, type StockMove } from '#core/plan/used';
import { wireItem } from '#core/supply/demand';
import { row, rows, run, shopOf, transact, type Shop, type Store, type Tx } from './db';
import { renameShop } from './shops';

type Field = Exclude<keyof Settings, 'shelf'>;
interface FieldRow {
  field: string;
  json: string;
  version: number;
}
interface ShelfRow {
  item: string;
  have: number;
  version: number;
}
const isField = (f: string): f is Field => f in Settings.shape && f !== 'shelf';

/** Settings, and the version of each that was ever set; 0 for those that stand as they came. */
export interface KeptSettings {
  settings: Settings;
  versions: Record<string, number>;
}

export async function readKeptSettings(s: Store): Promise<KeptSettings> {
  // both at once: no work begins without them
  const all = await rows<FieldRow & ShelfRow>(
    s,
    'SELECT field, json, version, NULL item, NULL have FROM setting_fields UNION ALL (SELECT NULL, NULL, version, item, have FROM shelf) ORDER BY item, field',
  );
  const fields: FieldRow[] = all.filter((r) => r.item === null);
  const shelf: ShelfRow[] = all.filter((r) => r.item !== null);
  const { settings, versions } = fieldsOf(s, fields);
  return { settings: { ...settings, shelf: shelf.map((r) => ({ id: r.item, have: r.have, version: r.version })) }, versions };
}

/** What is set, from its rows. Each request asks, and seldom has anything changed: the same rows are read once. */
function fieldsOf(s: Store, fields: readonly FieldRow[]): KeptSettings {
  const { made } = shopOf(s).memo;
  const key = JSON.stringify(fields.map((f) => [f.field, f.json, f.version]));
  const known = made.get('settings');
  if (known?.key === key) return known.value as KeptSettings;
  const settings: Settings = { ...DEFAULT_SETTINGS };
  const versions: Record<string, number> = {};
  for (const f of fields) {
    if (!isField(f.field)) continue;
    const read = Settings.shape[f.field].safeParse(JSON.parse(f.json));
    // one that no longer can be is as it came: a shop never stops for one figure
    if (read.success) (settings as Record<string, unknown>)[f.field] = read.data;
    versions[f.field] = f.version;
  }
  const value: KeptSettings = { settings, versions };
  made.set('settings', { key, value });
  return value;
}

export const readSettings = async (s: Store): Promise<Settings> => (await readKeptSettings(s)).settings;

/** Somebody else changed the same setting or count meanwhile. */
export class StaleSetting extends Error {
  override readonly name = 'StaleSetting';
  constructor(
    readonly field: string,
    readonly current: { value: unknown; version: number },
  ) {
    super('stale setting');
  }
}

/**
 * Changes single settings, each only if it still stands at the version that it was changed on; all of them or none.
 * @throws StaleSetting
 */
export const changeSettings = (
  shop: Shop,
  changes: readonly { field: string; value: unknown; version: number }[],
  by: string,
): Promise<KeptSettings> =>
  transact(shop, async (tx) => {
    for (const { field, value, version } of [...changes].sort((a, b) => (a.field < b.field ? -1 : 1))) {
      const had = await row<FieldRow>(tx, 'SELECT field, json, version FROM setting_fields WHERE field = ? FOR UPDATE', [field]);
      if ((had?.version ?? 0) !== version)
        throw new StaleSetting(field, { value: had ? JSON.parse(had.json) : DEFAULT_SETTINGS[field as Field], version: had?.version ?? 0 });
      const json = JSON.stringify(value);
      // two that set it for the first time at once: the row's key lets one through
      const r = had
        ? await run(
            tx,
            'UPDATE setting_fields SET json = ?, version = version + 1, by_person = ?, at = ? WHERE field = ? AND version = ?',
            [json, by, new Date(), field, version],
          )
        : await run(tx, 'INSERT IGNORE INTO setting_fields (field, json, version, by_person, at) VALUES (?, ?, 1, ?, ?)', [
            field,
            json,
            by,
            new Date(),
          ]);
      if (r.affectedRows !== 1) throw new StaleSetting(field, { value: null, version: version + 1 });
    }
    const named = changes.find((c) => c.field === 'shop');
    if (named) await renameShop(tx, String(named.value));
    // what open orders take is worked out anew by whoever asks next
    if (changes.some((c) => judgesOrders(c.field))) await run(tx, "UPDATE orders SET demands = NULL WHERE status = 'open'");
    return readKeptSettings(tx);
  });

/** Sets settings that were never set, several at once. */
export async function beginSettings(s: Store, settings: Partial<Settings>, by: string): Promise<void> {
  const { shelf = [], ...fields } = settings;
  const at = new Date();
  for (const [field, value] of Object.entries(fields))
    await run(s, 'INSERT IGNORE INTO setting_fields (field, json, version, by_person, at) VALUES (?, ?, 1, ?, ?)', [
      field,
      JSON.stringify(value),
      by,
      at,
    ]);
  for (const { id, have } of shelf)
    await run(s, 'INSERT IGNORE INTO shelf (item, have, version, by_person, at) VALUES (?, ?, 1, ?, ?)', [id, have, by, at]);
}

/** Settings from before each stood by itself, brought to where they stand now. Repeated, it changes nothing. */
export async function bringSettings(shop: Shop): Promise<void> {
  const old = await row<{ json: string }>(shop, 'SELECT json FROM settings WHERE id = 1');
  if (!old) return;
  const read = Settings.safeParse(JSON.parse(old.json));
  // what cannot be read stays where it is: nothing of it is lost
  if (!read.success) return;
  await transact(shop, async (tx) => {
    await beginSettings(tx, read.data, 'kadro');
    await run(tx, 'DELETE FROM settings WHERE id = 1');
  });
}

export interface ShelfCount {
  id: string;
  have: number;
  version: number;
}

/** Most of one item that a shelf holds. */
const MOST = 9999;

/**
 * Counts an item on the shelf anew, if it still stands at the version it was counted on.
 * @throws StaleSetting
 */
export const countShelf = (shop: Shop, item: string, have: number, version: number, by: string): Promise<ShelfCount> =>
  transact(shop, async (tx) => {
    const at = new Date();
    const before = await row<{ have: number }>(tx, 'SELECT have FROM shelf WHERE item = ?', [item]);
    const r = version
      ? await run(tx, 'UPDATE shelf SET have = ?, version = version + 1, by_person = ?, at = ? WHERE item = ? AND version = ?', [
          have,
          by,
          at,
          item,
          version,
        ])
      : await run(tx, 'INSERT IGNORE INTO shelf (item, have, version, by_person, at) VALUES (?, ?, 1, ?, ?)', [item, have, by, at]);
    if (r.affectedRows === 1) {
      await note(tx, item, have - (before?.have ?? 0), by, { why: 'counted', ref: String(have) });
      return { id: item, have, version: version + 1 };
    }
    const now = await row<ShelfRow>(tx, 'SELECT item, have, version FROM shelf WHERE item = ?', [item]);
    throw new StaleSetting(item, { value: now?.have ?? null, version: now?.version ?? 0 });
  });

/** Why an item came onto the shelf or went from it, and what that was. */
export interface MoveReason {
  why: ShelfMove['why'];
  ref: string;
}

const note = (tx: Tx, item: string, amount: number, by: string, { why, ref }: MoveReason): Promise<unknown> =>
  amount === 0
    ? Promise.resolve()
    : run(tx, 'INSERT INTO stock_moves (item, amount, why, ref, by_person, at) VALUES (?, ?, ?, ?, ?, ?)', [
        item,
        Number(amount.toFixed(3)),
        why,
        ref,
        by,
        new Date(),
      ]);

/** Takes what an order used off spools and shelf, or puts it back, with the event that says so. */
export async function moveStock(tx: Tx, moves: readonly StockMove[], by: string, ref: string): Promise<void> {
  const why = (back: boolean) => (back ? ('put back' as const) : ('used' as const));
  for (const m of moves.flatMap((x) => piecesBy(x) ?? [])) await moveItem(tx, m.id, m.by, by, { why: why(m.by > 0), ref });
  if (!moves.some((m) => m.taken.of === 'spool')) return;
  await changeStock(tx, by, (stock) => spoolsAfter(stock, moves));
  for (const { taken, back } of moves)
    if (taken.of === 'spool')
      await note(tx, wireItem(taken.awg, taken.colour), back ? taken.lengthM : -taken.lengthM, by, { why: why(back), ref });
}

/** Changes the spools on hand within a transaction. */
export async function changeStock(tx: Tx, by: string, change: (stock: Settings['stock']) => Settings['stock']): Promise<void> {
  const had = await row<FieldRow>(tx, "SELECT field, json, version FROM setting_fields WHERE field = 'stock' FOR UPDATE");
  const stock = had ? Settings.shape.stock.parse(JSON.parse(had.json)) : [];
  await run(
    tx,
    `INSERT INTO setting_fields (field, json, version, by_person, at) VALUES ('stock', ?, 1, ?, ?)
     ON DUPLICATE KEY UPDATE json = VALUES(json), version = version + 1, by_person = VALUES(by_person), at = VALUES(at)`,
    [JSON.stringify(change(stock)), by, new Date()],
  );
}

/** Takes from the shelf or puts there; what is done at once by several adds up. Never below nothing. */
export const moveOnShelf = (shop: Shop, item: string, by: number, person: string): Promise<ShelfCount> =>
  transact(shop, async (tx) => {
    await moveItem(tx, item, by, person, { why: 'moved', ref: '' });
    const now = (await row<ShelfRow>(tx, 'SELECT item, have, version FROM shelf WHERE item = ?', [item]))!;
    return { id: now.item, have: now.have, version: now.version };
  });

/** The same within a transaction, with why it moves. */
export async function moveItem(tx: Tx, item: string, by: number, person: string, reason: MoveReason): Promise<void> {
  await run(
    tx,
    `INSERT INTO shelf (item, have, version, by_person, at) VALUES (?, GREATEST(0, ?), 1, ?, ?)
     ON DUPLICATE KEY UPDATE have = LEAST(${MOST}, GREATEST(0, have + ?)), version = version + 1, by_person = VALUES(by_person), at = VALUES(at)`,
    [item, by, person, new Date(), by],
  );
  await note(tx, item, by, person, reason);
}
