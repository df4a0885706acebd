import { useCallback, useState } from 'react';
import { useOutbox, usePerson } from './context';
import { readKept, writeKept } from './storage';

/** Where a person's draft is kept: nobody else on this device sees it. */
export const draftKey = (person: string, key: string): string => `draft.${person}.${key}`;

/** Text that is being typed and survives a reload, a lost network or a dead server, until it is dropped. It is its author's. */
export function useDraft(key: string): [string | null, (v: string | null) => void] {
  const outbox = useOutbox();
  const at = draftKey(usePerson().id, key);
  const [held, setHeld] = useState<{ at: string; value: string | null }>(() => ({ at, value: readKept<string | null>(at, null) }));
  const value = held.at === at ? held.value : readKept<string | null>(at, null);
  const set = useCallback(
    (v: string | null) => {
      if (!writeKept(at, v)) outbox.noRoom();
      setHeld({ at, value: v });
    },
    [at, outbox],
  );
  return [value, set];
}
