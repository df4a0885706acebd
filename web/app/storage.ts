const PREFIX = 'kadro.';

export function readKept<T>(key: string, fallback: T): T {
  try {
    const text = localStorage.getItem(PREFIX + key);
    return text === null ? fallback : (JSON.parse(text) as T);
  } catch {
    return fallback;
  }
}

/** Keeps something small on this device; false where there is no room for it. */
export function writeKept(key: string, value: unknown): boolean {
  try {
    if (value === undefined || value === null || value === '') localStorage.removeItem(PREFIX + key);
    else localStorage.setItem(PREFIX + key, JSON.stringify(value));
    return true;
  } catch {
    return false;
  }
}
