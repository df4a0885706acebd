// One archive of what is kept: written whole or not at all, and read without letting anything out of its folder.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { chmodSync, createReadStream, existsSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './ensure.mjs';
import { CannotStart } from './mariadb.mjs';

/** The newest form of an archive that this program writes and reads. */
const FORMAT = 1;

/**
 * Writes what lies in a folder as one archive, with a manifest that says what it is.
 * @param what is in the manifest, beside its form and when it was written
 * @param parts names in the folder
 * @returns its size, and the SHA-256 of its bytes
 */
export async function writeArchive(target, work, what, parts) {
  const version = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')).version;
  writeFileSync(join(work, 'manifest.json'), JSON.stringify({ ...what, format: FORMAT, at: new Date().toISOString(), version }, null, 2));
  const part = `${target}.part`;
  const tar = spawnSync('tar', ['-C', work, '-czf', part, 'manifest.json', ...parts], { encoding: 'utf8' });
  if (tar.status !== 0) {
    rmSync(part, { force: true });
    throw new CannotStart(`The archive could not be written: ${tar.stderr.trim().split('\n').at(-1)}`);
  }
  // it holds what opens the shop
  chmodSync(part, 0o600);
  spawnSync('mv', [part, target]);
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(target)) hash.update(chunk);
  return { bytes: statSync(target).size, hash: hash.digest('hex') };
}

/** Unpacks an archive into a folder and answers its manifest. @throws CannotStart where it is none, is damaged, or is of a newer program */
export function readArchive(file, work) {
  const listed = spawnSync('tar', ['-tzf', file], { encoding: 'utf8', maxBuffer: 1 << 28 });
  const names = listed.stdout?.split('\n').filter(Boolean) ?? [];
  if (listed.status !== 0 || !names.includes('manifest.json')) throw new CannotStart(`${file} is not a backup of Kadro, or it is damaged.`);
  // nothing of an archive climbs out of its folder
  if (names.some((n) => n.startsWith('/') || n.split('/').includes('..')))
    throw new CannotStart(`${file} holds names that lead out of its folder: it is not a backup of Kadro.`);
  const tar = spawnSync('tar', ['-C', work, '-xzf', file, '--no-same-owner'], { encoding: 'utf8' });
  let manifest = null;
  try {
    manifest = JSON.parse(readFileSync(join(work, 'manifest.json'), 'utf8'));
  } catch {
    manifest = null;
  }
  const whole = manifest?.kadro === 'backup' ? 'mariadb/mysql' : manifest?.kadro === 'shop' ? 'shop.sql' : null;
  if (tar.status !== 0 || !whole || !existsSync(join(work, whole)))
    throw new CannotStart(`${file} is damaged: ${tar.stderr?.trim().split('\n').at(-1) || 'something of it is missing'}.`);
  if (manifest.format > FORMAT)
    throw new CannotStart(`${file} was written by a newer version of Kadro (${manifest.version}): restore it with that one.`);
  return manifest;
}
