import { failureOf, type Failure } from './failure';
import { WorkMemo } from './memo';
import { TASKS, type TaskName } from './tasks';

const memo = new WorkMemo();

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
