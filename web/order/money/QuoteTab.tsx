import { useState } from 'react';
import { useOrder } from '../useOrder';
import { MakeQuote } from './MakeQuote';
import { StandingQuote } from './StandingQuote';

/** The quote that stands, or a new one in the making. */
export function QuoteTab() {
  const { order } = useOrder();
  const newest = order.money?.quotes.at(-1);
  const stands = newest !== undefined && !newest.withdrawn;
  const [anew, setAnew] = useState(false);
  const open = order.status === 'open';
  if (stands && !anew) return <StandingQuote quote={newest} onAnew={open ? () => setAnew(true) : undefined} />;
  if (!open) return <p>No quote was made.</p>;
  return <MakeQuote onDone={() => setAnew(false)} onLeave={stands ? () => setAnew(false) : undefined} />;
}
