// Asks after a server's health in a thread of its own, so that who loads the server does not slow the watch.
import { parentPort, workerData } from 'node:worker_threads';

let going = true;
parentPort.on('message', () => (going = false));
const all = [];
const faults = [];
while (going) {
  const began = performance.now();
  try {
    const r = await fetch(`${workerData.base}/api/health`, { signal: AbortSignal.timeout(10_000) });
    await r.text();
    if (r.status !== 200) faults.push(r.status);
  } catch (e) {
    faults.push(String(e));
  }
  all.push(performance.now() - began);
  await new Promise((r) => setTimeout(r, 100));
}
all.sort((a, b) => a - b);
parentPort.postMessage({ most: all.at(-1) ?? 0, p99: all[Math.floor(all.length * 0.99)] ?? 0, asked: all.length, faults });
