/** What was asked of the database again, by why: for whoever watches this server. */
class Tries {
  private readonly by = new Map<string, number>();
  again(why: unknown): void {
    const code = (why as { code?: string } | null)?.code ?? 'other';
    this.by.set(code, (this.by.get(code) ?? 0) + 1);
  }
  counts(): ReadonlyMap<string, number> {
    return this.by;
  }
}
export const tries = new Tries();
