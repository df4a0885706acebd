import { deviceStore } from './store';

/** Longest side that is kept, pixels: a label on a fuse box can still be read. */
const SIDE = 2048;
const QUALITY = 0.85;
/** A larger file than this is no picture of a tablet’s camera. */
const MOST_BYTES = 80 * 1024 * 1024;

/** A picture that the person chose is not one, or cannot be kept, with a sentence that says so. */
export class BadPicture extends Error {}

const hex = (b: ArrayBuffer) => Array.from(new Uint8Array(b), (x) => x.toString(16).padStart(2, '0')).join('');

/**
 * A picture out of a file, upright, its longer side no longer than asked for.
 * @throws BadPicture for a file that this device cannot open as one
 */
export async function smallPicture(file: Blob, side: number): Promise<OffscreenCanvas> {
  if (file.size > MOST_BYTES) throw new BadPicture('That file is larger than 80 MB.');
  let bitmap: ImageBitmap;
  try {
    bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' });
  } catch {
    throw new BadPicture('That file is not a picture that this device can open.');
  }
  const scale = Math.min(1, side / Math.max(bitmap.width, bitmap.height));
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(bitmap.width * scale)), Math.max(1, Math.round(bitmap.height * scale)));
  canvas.getContext('2d')!.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  return canvas;
}

/**
 * Makes a picture small enough to send, keeps it on this device until it has arrived, and answers its name.
 * @throws BadPicture
 */
export async function holdPhoto(file: Blob): Promise<string> {
  const canvas = await smallPicture(file, SIDE);
  const small = await canvas.convertToBlob({ type: 'image/jpeg', quality: QUALITY });
  const id = hex(await crypto.subtle.digest('SHA-256', await small.arrayBuffer()));
  try {
    await deviceStore.putPhoto(id, small);
  } catch {
    throw new BadPicture('This device has no room for the picture.');
  }
  return id;
}

export const heldPhoto = (id: string): Promise<Blob | undefined> => deviceStore.photo(id);

/** Drops a picture that has arrived from this device. */
export const letGoPhoto = (id: string): Promise<void> => deviceStore.dropPhoto(id);
