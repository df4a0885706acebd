import { startTransition, useEffect, useState } from 'react';

/** What is below the window is made so soon after the rest, if nothing else says when, ms. */
const AFTER_MS = 200;

/** False until what a screen begins with is painted: what lies below the window may be made then. */
export function useAfterPaint(): boolean {
  const [painted, setPainted] = useState(false);
  useEffect(() => {
    // not every browser tells when it has nothing to do
    if (!('requestIdleCallback' in window)) {
      const timer = setTimeout(() => startTransition(() => setPainted(true)), AFTER_MS);
      return () => clearTimeout(timer);
    }
    const idle = requestIdleCallback(() => startTransition(() => setPainted(true)), { timeout: AFTER_MS });
    return () => cancelIdleCallback(idle);
  }, []);
  return painted;
}
