import { useCallback, useState } from 'react';
import { merge } from '#core/sheets/merge';
import { useDraft } from '../app/kept';

interface Steps<T> {
  past: T[];
  now: T;
  future: T[];
}

/** A draft as it is kept: what it was begun from, and what it is by now. */
interface Draft<T> {
  base: T;
  now: T;
}

/** Something that is edited: every step can be taken back and made again, and the last of it survives a reload as its author's draft. */
export interface History<T> {
  now: T;
  /** whether anything was changed since it was begun or last published */
  changed: boolean;
  /**
   * Where what the draft was begun from has become another meanwhile: the draft was put onto that, and these are the pointers that
   * were changed there too, of which the draft's stand. Null: it has not.
   */
  moved: string[] | null;
  put: (next: T) => void;
  undo: (() => void) | null;
  redo: (() => void) | null;
  /** back to how it was begun */
  drop: () => void;
}

function begun<T>(kept: string | null, base: T): { now: T; moved: string[] | null } {
  if (kept === null) return { now: base, moved: null };
  const draft = JSON.parse(kept) as Draft<T>;
  if (JSON.stringify(draft.base) === JSON.stringify(base)) return { now: draft.now, moved: null };
  const { value, both } = merge(draft.base, draft.now, base);
  return { now: value, moved: both };
}

/** @param base what it is edited from, as it is now */
export function useHistory<T>(key: string, base: T): History<T> {
  const [kept, keep] = useDraft(key);
  const [first] = useState(() => begun(kept, base));
  const [moved, setMoved] = useState(first.moved);
  const [steps, setSteps] = useState<Steps<T>>({ past: [], now: first.now, future: [] });
  const set = useCallback(
    (s: Steps<T>, now: T | null) => {
      setSteps(s);
      keep(now === null ? null : JSON.stringify({ base, now } satisfies Draft<T>));
    },
    [keep, base],
  );
  const { past, now, future } = steps;
  return {
    now,
    changed: past.length > 0 || kept !== null,
    moved,
    put: (next) => set({ past: [...past, now], now: next, future: [] }, next),
    undo: past.length ? () => set({ past: past.slice(0, -1), now: past.at(-1)!, future: [now, ...future] }, past.at(-1)!) : null,
    redo: future.length ? () => set({ past: [...past, now], now: future[0]!, future: future.slice(1) }, future[0]!) : null,
    drop: () => {
      setMoved(null);
      set({ past: [], now: base, future: [] }, null);
    },
  };
}
