import { setPriority } from 'node:os';
import { workerData as raw } from 'node:worker_threads';
import { runCalculation } from '#core/calc/registry';
import { failureOf, type Failure } from './failure';

/** Time left for an answer to be sent, ms. */
const SPARE_MS = 350;

// Piscina hands its own data first and ours second; on Linux a thread has a priority of its own
const { nice = 0 } = ((Array.isArray(raw) ? raw[1] : raw) ?? {}) as { nice?: number };
try {
  setPriority(nice);
} catch {
  // where it may not be changed, all are equal
}

/** A thread for calculations alone: it begins quickly, because one that was ended for its time must be replaced at once. */
export default function work({
  input,
  until,
}: {
  input: { name: string; input: unknown };
  until: number;
}): { value: unknown } | { failure: Failure } {
  try {
    // it answers with its bound while there is time to send it
    return { value: runCalculation(input.name, input.input, () => Date.now() > until - SPARE_MS) };
  } catch (e) {
    return { failure: failureOf(e) };
  }
}
