/** All that comes before a task, near or far. */
export function allBefore(tasks: readonly { id: string; after: readonly string[] }[], id: string): Set<string> {
  const byId = new Map(tasks.map((t) => [t.id, t]));
  const out = new Set<string>();
  const visit = (x: string) =>
    byId.get(x)?.after.forEach((a) => {
      if (out.has(a)) return;
      out.add(a);
      visit(a);
    });
  visit(id);
  return out;
}
