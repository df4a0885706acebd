import { ImpossibleInput } from '#core/errors';
import type { RunOptions, Workers } from '../work/workers';
import { row, run, type Store } from './db';

/** What a server takes: the screen makes larger ones smaller before it sends them. */
export const MOST_BYTES = 8 * 1024 * 1024;

/**
 * Keeps a picture under the hash of its bytes; one that is there already stays as it is.
 * @throws ImpossibleInput when the bytes are no picture, or not those that were named
 */
export async function keepPhoto(
  s: Store,
  workers: Workers,
  id: string,
  bytes: Buffer,
  by: string,
  options: RunOptions = {},
): Promise<void> {
  const found = await workers.run('readPicture', { bytes }, options);
  if (found.id !== id) throw new ImpossibleInput('The picture was damaged on its way: send it again.', 'photo');
  await run(s, 'INSERT IGNORE INTO photos (id, type, width, height, bytes, by_person, at) VALUES (?, ?, ?, ?, ?, ?, ?)', [
    id,
    found.type,
    found.width,
    found.height,
    bytes,
    by,
    new Date(),
  ]);
}

export const hasPhoto = async (s: Store, id: string): Promise<boolean> =>
  (await row<{ one: number }>(s, 'SELECT 1 one FROM photos WHERE id = ?', [id])) !== null;

export const readPhoto = (s: Store, id: string): Promise<{ type: string; bytes: Buffer } | null> =>
  row<{ type: string; bytes: Buffer }>(s, 'SELECT type, bytes FROM photos WHERE id = ?', [id]);
