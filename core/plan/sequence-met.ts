import type { Compiled } from './sequence-compile';
import type { State } from './sequence-state';

interface Entry {
  done: Int32Array;
  /** minutes beside those of the tasks done */
  beside: number;
  zone: number;
  state: State;
}

/**
 * The states met in a search, as far as none of them is beaten by another. A state beats one with the same panels off and
 * the same power that has done nothing more and has spent no less on panels, power and moves: what leads from the one to
 * the end leads there from the other, with what is done already left out. Standing in another zone costs one move.
 */
export class Met {
  private readonly kept = new Map<number, Entry[]>();

  /** `alike`: tasks that both must have done, or neither: those on which more depends than what comes after them. */
  constructor(
    private readonly c: Compiled,
    private readonly alike: Int32Array | null = null,
  ) {}

  private of(s: State): { list: Entry[]; it: Entry } {
    let beside = s.minutes;
    for (let i = 0; i < s.done.length; i++) if (s.done[i]) beside -= this.c.tasks[i]!.minutes;
    const key = s.off * 2 + (s.powered ? 1 : 0);
    let list = this.kept.get(key);
    if (!list) this.kept.set(key, (list = []));
    return { list, it: { done: bitsOf(s.done), beside, zone: s.zone, state: s } };
  }

  private beats(a: Entry, b: Entry): boolean {
    const beside = a.beside + (a.zone === b.zone ? 0 : this.c.moveMinutes);
    return beside <= b.beside + 1e-9 && holds(a.done, b.done, this.alike);
  }

  /** Whether one that was met beats it, or is the same. */
  beaten(s: State): boolean {
    const { list, it } = this.of(s);
    for (const e of list) if (this.beats(e, it)) return true;
    return false;
  }

  /** Keeps a state that none beats; those that it beats are marked, and forgotten. */
  keep(s: State): void {
    const { list, it } = this.of(s);
    let n = 0;
    for (const e of list) {
      if (this.beats(it, e)) e.state.beaten = true;
      else list[n++] = e;
    }
    list.length = n;
    list.push(it);
  }
}

/** Thirty-two flags to a number. */
export function bitsOf(flags: Uint8Array): Int32Array {
  const out = new Int32Array((flags.length + 31) >> 5);
  for (let i = 0; i < flags.length; i++) if (flags[i]) out[i >> 5]! |= 1 << (i & 31);
  return out;
}

/** Whether everything in `b` is in `a`, and what must be alike is. */
function holds(a: Int32Array, b: Int32Array, alike: Int32Array | null): boolean {
  for (let i = 0; i < a.length; i++) {
    if (b[i]! & ~a[i]!) return false;
    if (alike && (a[i]! ^ b[i]!) & alike[i]!) return false;
  }
  return true;
}
