// Where a shop's pictures are: beside its database, unless somebody says otherwise.
import { copyFileSync, existsSync, linkSync, mkdirSync, readdirSync } from 'node:fs';
import { join } from 'node:path';

const NAME = 'pictures';
/** What the server is told: a folder, or whatever the setting names. */
export const picturesOf = (folder) => process.env.KADRO_PICTURES ?? join(folder, NAME);

/**
 * Puts a shop's pictures as they are now beneath another folder, as second names of the same files where that can be. What is only half
 * written begins with a dot, and is left out.
 * @returns whether there were any
 */
export function takePictures(folder, to) {
  const from = picturesOf(folder);
  if (!from.startsWith('/') || !existsSync(from)) return false;
  for (const group of readdirSync(from)) {
    mkdirSync(join(to, group), { recursive: true });
    for (const name of readdirSync(join(from, group)).filter((n) => !n.startsWith('.')))
      try {
        linkSync(join(from, group, name), join(to, group, name));
      } catch (e) {
        if (e.code !== 'EXDEV' && e.code !== 'EPERM') throw e;
        copyFileSync(join(from, group, name), join(to, group, name));
      }
  }
  return existsSync(to);
}

/** A folder that an archive’s pictures are brought back into. */
export const folderFor = (folder) => (picturesOf(folder).startsWith('/') ? picturesOf(folder) : join(folder, NAME));

/** Pictures that an archive does not hold, as a sentence; null where it holds all. */
export const picturesElsewhere = (folder) =>
  picturesOf(folder).startsWith('s3://') ? `Its pictures are in ${picturesOf(folder)}: they are kept there, not in the archive.` : null;
