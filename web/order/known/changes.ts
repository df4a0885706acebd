import { wrap } from 'comlink';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import type { KnownWork } from './known.worker';

/** What would change on an order by other sheets, a line each, worked out beside the screen. */
export async function changesBy(order: Order, now: Sheets, next: Sheets, settings: Settings): Promise<string[]> {
  const worker = new Worker(new URL('./known.worker.ts', import.meta.url), { type: 'module' });
  try {
    return await wrap<KnownWork>(worker).changes(order, now, next, settings);
  } finally {
    worker.terminate();
  }
}
