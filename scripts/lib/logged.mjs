import { spawn } from 'node:child_process';
import { closeSync, openSync } from 'node:fs';

/** Starts a process that writes what it says into a file. The file is its own then: held open here too, its disk would stay taken after it is gone. */
export function spawnLogged(file, command, args, options = {}) {
  const log = openSync(file, 'a');
  try {
    return spawn(command, args, { ...options, stdio: ['ignore', log, log] });
  } finally {
    closeSync(log);
  }
}
