import { setPriority } from 'node:os';
import { workerData as raw } from 'node:worker_threads';
import { failureOf, type Failure } from './failure';
import { WorkMemo } from './memo';
import { TASKS, type TaskName } from './tasks';

const memo = new WorkMemo();

// Piscina hands its own data first and ours second; on Linux a thread has a priority of its own
const { nice = 0 } = ((Array.isArray(raw) ? raw[1] : raw) ?? {}) as { nice?: number };
try {
  setPriority(nice);
} catch {
  // where it may not be changed, all are equal
}

/** A thread of the pool: does one task, and answers what it came to or what went wrong, as plain data. */
export default async function work({
  name,
  input,
  until,
}: {
  name: TaskName;
  input: object;
  until: number;
}): Promise<{ value: unknown } | { failure: Failure }> {
  try {
    return { value: await (TASKS[name] as (m: WorkMemo, i: object) => unknown)(memo, { ...input, until }) };
  } catch (e) {
    return { failure: failureOf(e) };
  }
}
