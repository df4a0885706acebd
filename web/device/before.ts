import { openDB } from 'idb';
import type { Row } from './row';
import type { DeviceStore } from './store';

const OLD_QUEUE = 'kadro.outbox';

/** What an older version of the program kept on this device, brought to where it is kept now. Answers how much of it could not be read. */
export async function bringOld(store: DeviceStore): Promise<number> {
  let aside = 0;
  const text = localStorage.getItem(OLD_QUEUE);
  if (text !== null) {
    let list: unknown;
    try {
      list = JSON.parse(text);
    } catch {
      list = null;
    }
    if (!Array.isArray(list)) {
      await store.putAside(text);
      aside++;
    } else
      for (const p of list as Record<string, unknown>[]) {
        if (p?.state === 'sent') continue;
        // `read` looks at each when it is next read, and sets aside what is none
        const { clash: _c, version: _v, ...row } = (p ?? {}) as unknown as Row;
        await store.add({ ...row, aheadMs: null, state: 'waiting' });
      }
    localStorage.removeItem(OLD_QUEUE);
  }
  if ((await indexedDB.databases?.())?.some((d) => d.name === 'kadro')) {
    const old = await openDB('kadro');
    if (old.objectStoreNames.contains('photos'))
      for (const id of (await old.getAllKeys('photos')) as string[]) {
        await store.putPhoto(id, (await old.get('photos', id)) as Blob);
        await old.delete('photos', id);
      }
    old.close();
  }
  return aside;
}
