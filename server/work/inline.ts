import { WorkMemo } from './memo';
import { TASKS } from './tasks';
import type { Workers } from './workers';

/** Computes in this thread: for what runs before anybody is served, and for tests. */
export function inlineWorkers(): Workers {
  const memo = new WorkMemo();
  return {
    run: async (name, input) => (await (TASKS[name] as (m: WorkMemo, i: object) => unknown)(memo, { ...input, until: Infinity })) as never,
    ready: async () => undefined,
    waiting: () => 0,
    close: async () => undefined,
  };
}
