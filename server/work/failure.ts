/** What went wrong in a thread, as plain data that crosses to the one that asked. */
export interface Failure {
  name: string;
  message: string;
  why?: 'role' | 'state' | 'input';
  path?: string;
  stack?: string;
}

export function failureOf(e: unknown): Failure {
  const x = e as Failure;
  return {
    name: x?.name ?? 'Error',
    message: x?.message ?? String(e),
    ...(x?.why && { why: x.why }),
    ...(x?.path !== undefined && { path: x.path }),
    ...(x?.stack && { stack: x.stack }),
  };
}
