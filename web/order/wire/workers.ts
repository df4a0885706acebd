import { wrap, type Remote } from 'comlink';
import ELK, { type ELK as Elk } from 'elkjs/lib/elk-api';
import ElkWorker from 'elkjs/lib/elk-worker.min.js?worker';
import type { Scan } from '#core/harness/scan';
import type { Faults } from '#core/harness/simulate';
import type { Harness } from '#model/harness';
import type { HarnessWork } from './harness.worker';

const start = (): Worker => new Worker(new URL('./harness.worker.ts', import.meta.url), { type: 'module' });

let shows: Remote<HarnessWork> | null = null;
/** Where one state is computed: never behind a scan. */
export const showWorker = (): Remote<HarnessWork> => (shows ??= wrap<HarnessWork>(start()));

// one proxy a worker, kept: a proxy that is collected releases its worker
let scanning: { worker: Worker; work: Remote<HarnessWork>; busy: number } | null = null;
/** Tries all states. A scan still under way for something older is given up. */
export async function runScan(harness: Harness, faults: Faults): Promise<Scan | string> {
  if (scanning?.busy) {
    scanning.worker.terminate();
    scanning = null;
  }
  if (!scanning) {
    const worker = start();
    scanning = { worker, work: wrap<HarnessWork>(worker), busy: 0 };
  }
  const mine = scanning;
  mine.busy++;
  try {
    return await mine.work.scan(harness, faults);
  } finally {
    mine.busy--;
  }
}

let elk: Elk | null = null;
/** Lays schematics out, off the main thread. */
export const layouter = (): Elk => (elk ??= new ELK({ workerFactory: () => new ElkWorker() }));
