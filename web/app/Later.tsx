import { startTransition, useEffect, useState, type ReactNode } from 'react';

/** Whether what was shown at first is painted, so that what takes longer may follow. */
export function useLater(): boolean {
  const [on, setOn] = useState(false);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const frame = requestAnimationFrame(() => (timer = setTimeout(() => startTransition(() => setOn(true)))));
    return () => {
      cancelAnimationFrame(frame);
      clearTimeout(timer);
    };
  }, []);
  return on;
}

/** What stands under a station's answer: drawn once that is painted, so that the answer never waits for it. */
export const Later = ({ children }: { children: ReactNode }) => (useLater() ? children : null);
