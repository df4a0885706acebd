import { useSyncExternalStore } from 'react';
import { readKept, writeKept } from './storage';

export type Scheme = 'light' | 'dark';

export const currentScheme = (): Scheme =>
  readKept<Scheme | null>('scheme', null) ?? (window.matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light');

const watchers = new Set<() => void>();
/** The scheme that is on the page, for parts that must be told it. */
export const useScheme = (): Scheme =>
  useSyncExternalStore(
    (f) => {
      watchers.add(f);
      return () => watchers.delete(f);
    },
    () => (document.documentElement.classList.contains('dark') ? 'dark' : 'light'),
  );

/** Puts the light or dark scheme on the page and remembers it on this device. */
export function putScheme(s: Scheme, remember: boolean): void {
  document.documentElement.classList.remove('light', 'dark');
  document.documentElement.classList.add(s);
  document.documentElement.style.colorScheme = s;
  if (remember) writeKept('scheme', s);
  watchers.forEach((f) => f());
}
