import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { rows, run, type Directory, type Shop } from './db';
import { withLease } from './lease';

/** The statements of a migration, in turn. */
const statementsOf = (sql: string): string[] =>
  sql
    .replace(/^--.*$/gm, '')
    .split(/;\s*$/m)
    .map((s) => s.trim())
    .filter(Boolean);

/**
 * Applies the numbered migrations that have not run yet, one server at a time. The database commits each definition by
 * itself, so each statement is written to be repeated: one that was interrupted anywhere is simply run again, whole.
 * @param before is told each statement before it runs; what it throws stops there, as a crash would
 */
export async function migrate(
  shop: Shop | Directory,
  folder: string,
  before: (statement: string) => void = () => undefined,
): Promise<string[]> {
  return withLease(shop, 'migrate', async (held) => {
    const done: string[] = [];
    await run(shop, 'CREATE TABLE IF NOT EXISTS migrations (name VARCHAR(80) NOT NULL PRIMARY KEY, at DATETIME(3) NOT NULL)');
    const had = new Set((await rows<{ name: string }>(shop, 'SELECT name FROM migrations')).map((m) => m.name));
    for (const name of readdirSync(folder)
      .filter((f) => f.endsWith('.sql'))
      .sort()) {
      if (had.has(name)) continue;
      for (const statement of statementsOf(readFileSync(join(folder, name), 'utf8'))) {
        held();
        before(statement);
        await run(shop, statement);
      }
      await run(shop, 'INSERT IGNORE INTO migrations (name, at) VALUES (?, ?)', [name, new Date()]);
      done.push(name);
    }
    return done;
  });
}
