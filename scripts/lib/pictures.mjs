// Where a shop's pictures are: beside its database, unless somebody says otherwise.
import { copyFileSync, existsSync, linkSync, mkdirSync, readdirSync } from 'node:fs';
import { join } from 'node:path';

const NAME = 'pictures';
/** What the server is told: a folder, or whatever the setting names. */
export const picturesOf = (folder) => process.env.KADRO_PICTURES ?? join(folder, NAME);

/** A second name of the same file where that can be; a copy where it cannot. */
function take(from, to) {
  try {
    linkSync(from, to);
  } catch (e) {
    if (e.code !== 'EXDEV' && e.code !== 'EPERM') throw e;
    copyFileSync(from, to);
  }
}

/**
 * Puts the pictures of all shops as they are now beneath another folder. What is only half written begins with a dot, and is left out.
 * @returns whether there were any
 */
export function takePictures(folder, to) {
  const from = picturesOf(folder);
  if (!from.startsWith('/') || !existsSync(from)) return false;
  const walk = (a, b) => {
    for (const e of readdirSync(a, { withFileTypes: true })) {
      if (e.name.startsWith('.')) continue;
      if (e.isDirectory()) walk(join(a, e.name), join(b, e.name));
      else {
        mkdirSync(b, { recursive: true });
        take(join(a, e.name), join(b, e.name));
      }
    }
  };
  walk(from, to);
  return existsSync(to);
}

/** Where one shop’s pictures lie in the folder of all. */
export const picturesBelow = (id) => (id === 'shop' ? '' : join('at', id));

/** The same for these pictures of one shop. @returns whether there were any */
export function takeThese(folder, id, photos, to, from = picturesOf(folder)) {
  if (!from.startsWith('/')) return false;
  for (const photo of photos) {
    const file = join(from, picturesBelow(id), photo.slice(0, 2), photo);
    if (!existsSync(file)) continue;
    mkdirSync(join(to, photo.slice(0, 2)), { recursive: true });
    take(file, join(to, photo.slice(0, 2), photo));
  }
  return existsSync(to);
}

/** A folder that an archive’s pictures are brought back into. */
export const folderFor = (folder) => (picturesOf(folder).startsWith('/') ? picturesOf(folder) : join(folder, NAME));

/** Pictures that an archive does not hold, as a sentence; null where it holds all. */
export const picturesElsewhere = (folder) =>
  picturesOf(folder).startsWith('s3://') ? `Its pictures are in ${picturesOf(folder)}: they are kept there, not in the archive.` : null;
