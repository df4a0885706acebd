import { imageSize } from 'image-size';
import { ImpossibleInput } from '#core/errors';

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
  if (!(found.width > 0 && found.height > 0) || Math.max(found.width, found.height) > MOST_SIDE)
    throw new ImpossibleInput(`A picture is at most ${MOST_SIDE} pixels a side.`, 'photo');
  return { type, width: found.width, height: found.height };
}
