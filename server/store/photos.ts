import { imageSize } from 'image-size';
import { ImpossibleInput } from '#core/errors';
import { sha256 } from './chain';
import { row, run, type Conn, type Db } from './db';

/** What a server takes: the screen makes larger ones smaller before it sends them. */
export const MOST_BYTES = 8 * 1024 * 1024;
const MOST_SIDE = 12_000;
const TYPES: Record<string, string> = { jpg: 'image/jpeg', png: 'image/png', webp: 'image/webp' };

/** What a file truly is, by its own bytes. @throws ImpossibleInput when it is no picture of a kind that is kept */
export function readPicture(bytes: Buffer): { type: string; width: number; height: number } {
  let found: { width: number; height: number; type?: string };
  try {
    found = imageSize(bytes);
  } catch {
    throw new ImpossibleInput('That file is not a picture.', 'photo');
  }
  const type = TYPES[found.type ?? ''];
  if (!type) throw new ImpossibleInput('Pictures are kept as JPEG, PNG or WebP.', 'photo');
  if (Math.max(found.width, found.height) > MOST_SIDE)
    throw new ImpossibleInput(`A picture is at most ${MOST_SIDE} pixels a side.`, 'photo');
  return { type, width: found.width, height: found.height };
}

/**
 * Keeps a picture under the hash of its bytes; one that is there already stays as it is.
 * @throws ImpossibleInput when the bytes are no picture, or not those that were named
 */
export async function keepPhoto(db: Db | Conn, id: string, bytes: Buffer, by: string, at = new Date()): Promise<void> {
  const { type, width, height } = readPicture(bytes);
  if (sha256(bytes) !== id) throw new ImpossibleInput('The picture was damaged on its way: send it again.', 'photo');
  await run(db, 'INSERT IGNORE INTO photos (id, type, width, height, bytes, by_person, at) VALUES (?, ?, ?, ?, ?, ?, ?)', [
    id,
    type,
    width,
    height,
    bytes,
    by,
    at,
  ]);
}

export const hasPhoto = async (db: Db | Conn, id: string): Promise<boolean> =>
  (await row<{ one: number }>(db, 'SELECT 1 one FROM photos WHERE id = ?', [id])) !== null;

export const readPhoto = (db: Db | Conn, id: string): Promise<{ type: string; bytes: Buffer } | null> =>
  row<{ type: string; bytes: Buffer }>(db, 'SELECT type, bytes FROM photos WHERE id = ?', [id]);
