/** Whether a child process has not ended yet. */
export const runs = (child) => child !== null && child.exitCode === null && !child.signalCode;

/** Asks a child to end, and ends it where it takes longer than that; whoever waits for it does not wait on. */
export async function endChild(child, ms) {
  if (!runs(child)) return;
  let late;
  await new Promise((done) => {
    child.once('exit', done);
    late = setTimeout(() => {
      child.kill('SIGKILL');
      done();
    }, ms);
    child.kill('SIGTERM');
    // one that was stopped hears nothing before it goes on
    child.kill('SIGCONT');
  });
  clearTimeout(late);
}
