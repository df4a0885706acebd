import { useEffect, useRef } from 'react';

const isTyping = (t: EventTarget | null) =>
  t instanceof HTMLElement && (t.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(t.tagName));

/** The keys there are, as the list behind `?` shows them. */
export const KEY_LIST: [string, string][] = [
  ['?', 'this list'],
  ['/', 'search orders'],
  ['g then f o p s t h', 'Floor, Orders, Parts, Sheets, Tools, Shop'],
  ['1 – 8', 'stations of an order; at the Bench a digit is a reading'],
  ['j k', 'down and up a list'],
  ['Enter', 'open'],
  ['e', 'change: to the first field'],
  ['n', 'step done, next'],
  ['b', 'step back'],
  ['space', 'clock on, clock off'],
  ['r', 'take the reading'],
  ['y or 1', 'yes, where that is asked'],
  ['n or 0', 'no, where that is asked'],
  ['u', 'take back the last thing you did on this order'],
  ['x', 'write a finding'],
  ['f', 'at Lamps: beat of a flasher, held while it is lit'],
  ['p', 'at Wire: probe, two points'],
];

/**
 * Keys of a screen. They never fire while somebody types or with a modifier held. What answers `type` put the cursor where the
 * key itself is then typed.
 */
export function useKeys(keys: Record<string, ((e: KeyboardEvent) => unknown) | undefined>): void {
  const held = useRef(keys);
  useEffect(() => {
    held.current = keys;
  });
  useEffect(() => {
    const on = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || isTyping(e.target) || document.querySelector('[role=dialog][data-state=open]')) return;
      const key = e.key === ' ' ? 'space' : e.key;
      const act = held.current[key];
      if (
        !act ||
        (key === 'space' || key === 'Enter' ? e.target instanceof HTMLElement && /^(BUTTON|A|SUMMARY)$/.test(e.target.tagName) : false)
      )
        return;
      if (act(e) !== 'type') e.preventDefault();
    };
    window.addEventListener('keydown', on);
    return () => window.removeEventListener('keydown', on);
  }, []);
}

/** Two keys one after the other, the first being `g`. */
export function useGoKeys(go: Record<string, () => void>): void {
  const since = useRef(0);
  useEffect(() => {
    const on = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || isTyping(e.target)) return;
      if (e.key === 'g') since.current = Date.now();
      else if (Date.now() - since.current < 1200 && go[e.key]) {
        since.current = 0;
        e.preventDefault();
        e.stopImmediatePropagation();
        go[e.key]!();
      }
    };
    window.addEventListener('keydown', on, true);
    return () => window.removeEventListener('keydown', on, true);
  }, [go]);
}
