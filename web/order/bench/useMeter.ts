import { useEffect, useState } from 'react';
import type { Sight } from '#core/fault/sight';
import { inShop } from '../../app/place';

export interface Sample {
  /** null: an open way */
  value: number | null;
  steady: boolean;
}

/** The bench meter’s figures as they come, while it is on. `trouble` when it cannot be reached. */
export function useMeter(order: string, sight: Sight | null, on: boolean): { sample: Sample | null; trouble: boolean } {
  const [sample, setSample] = useState<Sample | null>(null);
  const [trouble, setTrouble] = useState(false);
  const put = sight && JSON.stringify(sight);
  useEffect(() => {
    setSample(null);
    setTrouble(false);
    if (!on || !put) return;
    const source = new EventSource(inShop(`/api/orders/${order}/meter?sight=${encodeURIComponent(put)}`));
    source.onmessage = (e) => setSample(JSON.parse(e.data as string) as Sample);
    source.onerror = () => {
      // a stream that ended by itself has told its last figure
      source.close();
      setSample((s) => {
        if (!s) setTrouble(true);
        return s;
      });
    };
    return () => source.close();
  }, [order, put, on]);
  return { sample, trouble };
}
