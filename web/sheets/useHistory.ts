import { useCallback, useState } from 'react';
import { useDraft } from '../app/kept';

interface Steps<T> {
  past: T[];
  now: T;
  future: T[];
}

/** Something that is edited: every step can be taken back and made again, and the last of it survives a reload as its author's draft. */
export interface History<T> {
  now: T;
  /** whether anything was changed since it was begun or last published */
  changed: boolean;
  put: (next: T) => void;
  undo: (() => void) | null;
  redo: (() => void) | null;
  /** back to how it was begun */
  drop: () => void;
}

/** @param base what it is edited from: a draft of another base is begun anew from its own */
export function useHistory<T>(key: string, base: T): History<T> {
  const [kept, keep] = useDraft(key);
  const [steps, setSteps] = useState<Steps<T>>(() => ({ past: [], now: kept === null ? base : (JSON.parse(kept) as T), future: [] }));
  const set = useCallback(
    (s: Steps<T>, draft: T | null) => {
      setSteps(s);
      keep(draft === null ? null : JSON.stringify(draft));
    },
    [keep],
  );
  const { past, now, future } = steps;
  return {
    now,
    changed: past.length > 0 || kept !== null,
    put: (next) => set({ past: [...past, now], now: next, future: [] }, next),
    undo: past.length ? () => set({ past: past.slice(0, -1), now: past.at(-1)!, future: [now, ...future] }, past.at(-1)!) : null,
    redo: future.length ? () => set({ past: [...past, now], now: future[0]!, future: future.slice(1) }, future[0]!) : null,
    drop: () => set({ past: [], now: base, future: [] }, null),
  };
}
