import { chakra } from '@chakra-ui/react';
import { useEffect, useState } from 'react';

const mmss = (s: number) => `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`;

/** Time on a step: what is kept, and what runs since. */
export function Clock({ seconds, since, minutes }: { seconds: number; since: string | null; minutes: number }) {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (!since) return;
    setNow(Date.now());
    const t = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(t);
  }, [since]);
  const total = seconds + (since ? Math.max(0, (now - Date.parse(since)) / 1000) : 0);
  return (
    <chakra.span fontFamily="mono" fontVariantNumeric="tabular-nums" color={total / 60 > minutes ? 'tightText' : 'ink'} role="timer">
      {mmss(total)} of {minutes}:00
    </chakra.span>
  );
}
