// Small disks, in memory, for what is tried when one is full. Only where this machine lets us mount.
import { spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, rmSync, statfsSync } from 'node:fs';
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

const remount = (folder, size) => spawnSync('mount', ['-o', `remount,size=${size}`, folder]).status === 0;

/** Fills the disk that a folder is on, to the last page: it becomes as small as what it holds, so that no memory is taken from others. */
export function fill(folder) {
  for (let tries = 0; tries < 20; tries++) {
    const { blocks, bfree, bsize } = statfsSync(folder);
    // what is written meanwhile needs its room: then once more
    if (remount(folder, (blocks - bfree) * bsize)) return;
  }
  throw new Error(`${folder} could not be filled`);
}
export const unfill = (folder) => remount(folder, SIZE);
