// Small disks, in memory, for what is tried when one is full. Only where this machine lets us mount.
import { spawnSync } from 'node:child_process';
import { closeSync, mkdirSync, openSync, readdirSync, rmSync, writeSync } from 'node:fs';
import { join } from 'node:path';

const SIZE = '1500m';

/** Puts a disk of its own under each folder. @returns how to take them away; null where that is not allowed here */
export function mountSmall(folders) {
  const mounted = [];
  // a disk is asked about by the name of its device, which begins with a slash
  for (const f of folders) {
    mkdirSync(f, { recursive: true });
    if (spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${SIZE}`, '/kadro-trial', f]).status !== 0) break;
    mounted.push(f);
  }
  const drop = () => {
    for (const f of mounted) {
      // emptied first: a file that somebody still has open keeps its own room only
      for (const name of readdirSync(f)) rmSync(join(f, name), { recursive: true, force: true });
      spawnSync('umount', ['-l', f]);
    }
  };
  if (mounted.length === folders.length) return drop;
  drop();
  return null;
}

const BALLAST = 'ballast';
/** Fills the disk that a folder is on, to the last byte. */
export function fill(folder) {
  const file = openSync(join(folder, BALLAST), 'w');
  const some = Buffer.alloc(4 << 20);
  let size = some.length;
  while (size >= 1)
    try {
      writeSync(file, some, 0, size);
    } catch {
      size = Math.floor(size / 2);
    }
  closeSync(file);
}
export const unfill = (folder) => rmSync(join(folder, BALLAST), { force: true });
