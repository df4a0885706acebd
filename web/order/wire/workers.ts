import { wrap, type Remote } from 'comlink';
import ELK, { type ELK as Elk } from 'elkjs/lib/elk-api';
import ElkWorker from 'elkjs/lib/elk-worker.min.js?worker';
import { mergeScans, type Scan } from '#core/harness/scan';
import type { Faults } from '#core/harness/simulate';
import type { Harness } from '#model/harness';
import type { HarnessWork } from './harness.worker';

const start = (): Worker => new Worker(new URL('./harness.worker.ts', import.meta.url), { type: 'module' });

let shows: Remote<HarnessWork> | null = null;
/** Where one state is computed: never behind a scan. */
export const showWorker = (): Remote<HarnessWork> => (shows ??= wrap<HarnessWork>(start()));

/** So many share a scan, as far as the machine has them. */
const MOST_SCANNERS = 4;
const scanners = () => Math.max(1, Math.min(MOST_SCANNERS, (navigator.hardwareConcurrency || 2) - 1));

// one proxy a worker, kept: a proxy that is collected releases its worker
let scanning: { workers: Worker[]; work: Remote<HarnessWork>[]; busy: number } | null = null;
/** Tries all states, shared among workers. A scan still under way for something older is given up. */
export async function runScan(harness: Harness, faults: Faults): Promise<Scan | string> {
  if (scanning?.busy) {
    scanning.workers.forEach((w) => w.terminate());
    scanning = null;
  }
  if (!scanning) {
    const workers = Array.from({ length: scanners() }, start);
    scanning = { workers, work: workers.map((w) => wrap<HarnessWork>(w)), busy: 0 };
  }
  const mine = scanning;
  mine.busy++;
  try {
    const parts = await Promise.all(mine.work.map((w, nth) => w.scan(harness, faults, { nth, of: mine.work.length })));
    return parts.find((p) => typeof p === 'string') ?? mergeScans(parts as Scan[]);
  } finally {
    mine.busy--;
  }
}

let elk: Elk | null = null;
/** Lays schematics out, off the main thread. */
export const layouter = (): Elk => (elk ??= new ELK({ workerFactory: () => new ElkWorker() }));
