interface Kept {
  key: readonly unknown[];
  value: unknown;
}

/** How many answers each room keeps, where its asker does not say. */
const MOST = 24;

/**
 * What was computed lately, kept by whoever asks for computations: one for a screen, one for a server's thread. Each kind of answer
 * has a room of its own, bounded; what was asked for longest ago goes first. Keys are compared part by part, objects by identity.
 */
export class Memo {
  private readonly rooms = new Map<string, Kept[]>();
  /** @param times so many times as much as usual is kept, for who computes for many */
  constructor(private readonly times = 1) {}

  /** The answer kept under a key, or made now and kept. */
  once<T>(room: string, key: readonly unknown[], make: () => T, most = MOST): T {
    let kept = this.rooms.get(room);
    if (!kept) this.rooms.set(room, (kept = []));
    const at = kept.findIndex((k) => k.key.length === key.length && k.key.every((x, i) => x === key[i]));
    if (at >= 0) {
      const known = kept[at]!;
      if (at < kept.length - 1) kept.push(...kept.splice(at, 1));
      return known.value as T;
    }
    const value = make();
    kept.push({ key, value });
    if (kept.length > most * this.times) kept.shift();
    return value;
  }
}
