// Who listens on a port of this machine, read from /proc: no tool need be installed.
import { readdirSync, readFileSync, readlinkSync } from 'node:fs';

const LISTEN = '0A';

/** The process that listens on a TCP port, as "name (process N)"; null where it cannot be told. */
export function whoHas(port) {
  const inodes = new Set();
  for (const file of ['/proc/net/tcp', '/proc/net/tcp6'])
    try {
      for (const line of readFileSync(file, 'utf8').split('\n').slice(1)) {
        const [, local, , state, , , , , , inode] = line.trim().split(/\s+/);
        if (state === LISTEN && parseInt(local?.split(':').at(-1) ?? '', 16) === port) inodes.add(inode);
      }
    } catch {
      return null;
    }
  for (const pid of readdirSync('/proc').filter((p) => /^\d+$/.test(p)))
    try {
      for (const fd of readdirSync(`/proc/${pid}/fd`)) {
        const inode = /^socket:\[(\d+)\]$/.exec(readlinkSync(`/proc/${pid}/fd/${fd}`))?.[1];
        if (inode && inodes.has(inode)) {
          const name = readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0').filter(Boolean).slice(0, 2).join(' ');
          return `${name} (process ${pid})`;
        }
      }
    } catch {
      // another user's process, or one that has just ended
    }
  return null;
}
