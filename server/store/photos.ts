import { ImpossibleInput } from '#core/errors';
import type { RunOptions, Workers } from '../work/workers';
import { orAway } from '../pictures/store';
import { row, rows, run, type Shop, type Store } from './db';

/** What a server takes: the screen makes larger ones smaller before it sends them. */
export const MOST_BYTES = 8 * 1024 * 1024;

/**
 * Keeps a picture under the hash of its bytes; one that is there already stays as it is. The bytes are where they last before the
 * database says that there is such a picture.
 * @throws ImpossibleInput when the bytes are no picture, or not those that were named
 */
export async function keepPhoto(
  shop: Shop,
  workers: Workers,
  id: string,
  bytes: Buffer,
  by: string,
  options: RunOptions = {},
): Promise<void> {
  const found = await workers.run('readPicture', { bytes }, options);
  if (found.id !== id) throw new ImpossibleInput('The picture was damaged on its way: send it again.', 'photo');
  if (shop.pictures) await orAway(shop.pictures.where, shop.pictures.put(id, found.type, bytes));
  await run(shop, 'INSERT IGNORE INTO photos (id, type, width, height, bytes, by_person, at) VALUES (?, ?, ?, ?, ?, ?, ?)', [
    id,
    found.type,
    found.width,
    found.height,
    shop.pictures ? null : bytes,
    by,
    new Date(),
  ]);
}

export const hasPhoto = async (s: Store, id: string): Promise<boolean> =>
  (await row<{ one: number }>(s, 'SELECT 1 one FROM photos WHERE id = ?', [id])) !== null;

/** A picture; null where there is none of that name, or where its bytes are gone. */
export async function readPhoto(shop: Shop, id: string): Promise<{ type: string; bytes: Buffer } | null> {
  const p = await row<{ type: string; bytes: Buffer | null }>(shop, 'SELECT type, bytes FROM photos WHERE id = ?', [id]);
  const { pictures } = shop;
  const bytes = p && (p.bytes ?? (pictures && (await orAway(pictures.where, pictures.get(id)))));
  return p && bytes && { type: p.type, bytes };
}

/**
 * Moves what lies in the database into the store of pictures, one after another; repeated, or done by several at once, it is the same.
 * @param going asked before each: false leaves the rest for another time
 * @returns how many were moved
 */
export async function movePhotos(shop: Shop, going: () => boolean = () => true): Promise<number> {
  if (!shop.pictures) return 0;
  let moved = 0;
  for (const { id } of await rows<{ id: string }>(shop, 'SELECT id FROM photos WHERE bytes IS NOT NULL')) {
    if (!going()) break;
    const p = await row<{ type: string; bytes: Buffer | null }>(shop, 'SELECT type, bytes FROM photos WHERE id = ?', [id]);
    if (!p?.bytes) continue;
    await shop.pictures.put(id, p.type, p.bytes);
    await run(shop, 'UPDATE photos SET bytes = NULL WHERE id = ?', [id]);
    moved++;
  }
  return moved;
}
