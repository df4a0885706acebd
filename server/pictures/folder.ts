import { randomUUID } from 'node:crypto';
import { access, mkdir, open, readFile, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { PictureStore } from './store';

const isMissing = (e: unknown): boolean => (e as NodeJS.ErrnoException).code === 'ENOENT';

/** Makes what was done in a folder last: a name that was put into it is there after a power cut. */
async function settle(folder: string): Promise<void> {
  const handle = await open(folder, 'r');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}

/** Pictures in a folder of this machine, or in one that several share: a file each, in subfolders by the first two signs of its hash. */
export class PictureFolder implements PictureStore {
  readonly where: string;
  constructor(private readonly folder: string) {
    this.where = `the folder ${folder}`;
  }

  private fileOf(id: string): { folder: string; file: string } {
    const folder = join(this.folder, id.slice(0, 2));
    return { folder, file: join(folder, id) };
  }

  async put(id: string, _type: string, bytes: Buffer): Promise<void> {
    const { folder, file } = this.fileOf(id);
    if (
      await access(file).then(
        () => true,
        () => false,
      )
    )
      return;
    await mkdir(folder, { recursive: true });
    // whole or not at all: under another name until all of it is on the disk
    const part = join(folder, `.${id}.${randomUUID()}`);
    try {
      const handle = await open(part, 'wx', 0o600);
      try {
        await handle.writeFile(bytes);
        await handle.sync();
      } finally {
        await handle.close();
      }
      await rename(part, file);
      await settle(folder);
      await settle(this.folder);
    } catch (e) {
      await rm(part, { force: true });
      throw e;
    }
  }

  get(id: string): Promise<Buffer | null> {
    return readFile(this.fileOf(id).file).catch((e: unknown) => {
      if (isMissing(e)) return null;
      throw e;
    });
  }

  async remove(id: string): Promise<void> {
    await rm(this.fileOf(id).file, { force: true });
  }
}
