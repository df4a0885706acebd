import { useEffect, useState } from 'react';
import type { Answer } from './harness.worker';

/** Half a beat of a flasher at 86 flashes a minute, milliseconds. */
const HALF_MS = 350;

/** The flasher's beat, where the two halves of it differ; otherwise, and for people who want no motion, always on. */
export function useBeat(answers: readonly [Answer, Answer] | null): boolean {
  const [on, setOn] = useState(true);
  const [a, b] = answers ?? [null, null];
  const differs =
    a !== null && a !== b && a.shown && b!.shown && [...a.shown.amps].some(([id, x]) => Math.abs(x - (b!.shown!.amps.get(id) ?? 0)) > 0.05);
  useEffect(() => {
    if (!differs || window.matchMedia('(prefers-reduced-motion: reduce)').matches) return;
    const timer = setInterval(() => setOn((x) => !x), HALF_MS);
    return () => {
      clearInterval(timer);
      setOn(true);
    };
  }, [differs]);
  return on;
}
