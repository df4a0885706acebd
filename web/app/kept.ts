import { useCallback, useState } from 'react';

const PREFIX = 'kadro.';

export function readKept<T>(key: string, fallback: T): T {
  try {
    const text = localStorage.getItem(PREFIX + key);
    return text === null ? fallback : (JSON.parse(text) as T);
  } catch {
    return fallback;
  }
}

export function writeKept(key: string, value: unknown): void {
  try {
    if (value === undefined || value === null || value === '') localStorage.removeItem(PREFIX + key);
    else localStorage.setItem(PREFIX + key, JSON.stringify(value));
  } catch {
    // a full or forbidden store costs the draft, not the work
  }
}

/** Text that is being typed and survives a reload, a lost network or a dead server, until it is dropped. */
export function useDraft(key: string): [string | null, (v: string | null) => void] {
  const [held, setHeld] = useState<{ key: string; value: string | null }>(() => ({
    key,
    value: readKept<string | null>(`draft.${key}`, null),
  }));
  const value = held.key === key ? held.value : readKept<string | null>(`draft.${key}`, null);
  const set = useCallback(
    (v: string | null) => {
      writeKept(`draft.${key}`, v);
      setHeld({ key, value: v });
    },
    [key],
  );
  return [value, set];
}
