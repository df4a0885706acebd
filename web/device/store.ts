import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { SHOP_ID } from '../app/place';
import type { Row } from './row';

interface Schema extends DBSchema {
  commands: { key: number; value: Row };
  photos: { key: string; value: { id: string; bytes: Blob } };
  /** what the server answered last, for when it cannot be reached */
  answers: { key: string; value: { at: string; answer: unknown } };
  /** what could not be read, as it was found */
  aside: { key: number; value: { at: string; what: unknown } };
}

/** Each shop has its own: nothing that was recorded in one is sent to another, or shown there. */
const NAME = SHOP_ID ? `kadro-device-${SHOP_ID}` : 'kadro-device';

/** What this browser keeps until the record has it. Every write is done once the disk has it. */
export class DeviceStore {
  private db: Promise<IDBPDatabase<Schema>> | null = null;
  private open(): Promise<IDBPDatabase<Schema>> {
    this.db ??= openDB<Schema>(NAME, 2, {
      upgrade(db, from) {
        if (from < 1) {
          db.createObjectStore('commands', { keyPath: 'n', autoIncrement: true });
          db.createObjectStore('photos', { keyPath: 'id' });
          db.createObjectStore('aside', { autoIncrement: true });
        }
        db.createObjectStore('answers');
      },
      // another tab brings a newer shape: let it, and open anew when asked
      blocking: () => void this.close(),
      terminated: () => (this.db = null),
    }).catch((e: unknown) => {
      this.db = null;
      throw e;
    });
    return this.db;
  }

  /** The queue in its order, and how many rows could not be read and were set aside whole. */
  async read(): Promise<{ rows: Row[]; setAside: number }> {
    const db = await this.open();
    const [keys, values] = await Promise.all([db.getAllKeys('commands'), db.getAll('commands')]);
    const rows: Row[] = [];
    let setAside = 0;
    if (!keys.length) return { rows, setAside };
    // all that may happen to an order comes with it: not loaded for an empty queue, the usual one
    const { Row: shape } = await import('./row');
    for (const [i, value] of values.entries()) {
      const read = shape.safeParse(value);
      if (read.success) {
        rows.push(read.data as Row);
        continue;
      }
      const tx = db.transaction(['commands', 'aside'], 'readwrite');
      await tx.objectStore('aside').add({ at: new Date().toISOString(), what: value });
      await tx.objectStore('commands').delete(keys[i]!);
      await tx.done;
      setAside++;
    }
    return { rows, setAside };
  }

  /** Adds a row at the end of the queue; answers its place. */
  async add(row: Row): Promise<number> {
    const db = await this.open();
    const tx = db.transaction('commands', 'readwrite', { durability: 'strict' });
    const n = await tx.store.add(row);
    await tx.done;
    return n;
  }
  /** Changes a row where it stands; nothing where it is gone. */
  async change(n: number, change: Partial<Row>): Promise<void> {
    const db = await this.open();
    const tx = db.transaction('commands', 'readwrite');
    const row = await tx.store.get(n);
    if (row) await tx.store.put({ ...row, ...change });
    await tx.done;
  }
  async drop(n: number): Promise<void> {
    await (await this.open()).delete('commands', n);
  }

  /** Puts something that could not be read beside the queue, as it was found. */
  async putAside(what: unknown): Promise<void> {
    await (await this.open()).add('aside', { at: new Date().toISOString(), what });
  }
  async readAside(): Promise<{ at: string; what: unknown }[]> {
    return (await this.open()).getAll('aside');
  }
  async dropAside(): Promise<void> {
    await (await this.open()).clear('aside');
  }

  async putPhoto(id: string, bytes: Blob): Promise<void> {
    await (await this.open()).put('photos', { id, bytes });
  }
  async photo(id: string): Promise<Blob | undefined> {
    return (await (await this.open()).get('photos', id))?.bytes;
  }
  async dropPhoto(id: string): Promise<void> {
    await (await this.open()).delete('photos', id);
  }

  async putAnswer(key: string, answer: unknown): Promise<void> {
    await (await this.open()).put('answers', { at: new Date().toISOString(), answer }, key);
  }
  /** What was answered last, and when; undefined: never, or somebody signed out since. */
  async answer(key: string): Promise<{ at: string; answer: unknown } | undefined> {
    return (await this.open()).get('answers', key);
  }
  async dropAnswers(): Promise<void> {
    await (await this.open()).clear('answers');
  }

  async close(): Promise<void> {
    const open = this.db;
    this.db = null;
    (await open)?.close();
  }
}

export const deviceStore = new DeviceStore();
