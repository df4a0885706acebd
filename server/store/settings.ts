import { DEFAULT_SETTINGS, Settings } from '#model/settings';
import { row, run, type Conn, type Db } from './db';

export async function readSettings(db: Db | Conn): Promise<Settings> {
  const r = await row<{ json: string }>(db, 'SELECT json FROM settings WHERE id = 1');
  return r ? Settings.parse(JSON.parse(r.json)) : DEFAULT_SETTINGS;
}

export const writeSettings = (db: Db | Conn, s: Settings) => run(db, 'REPLACE INTO settings (id, json) VALUES (1, ?)', [JSON.stringify(s)]);
