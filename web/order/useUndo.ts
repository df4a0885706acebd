import { useCallback, useMemo } from 'react';
import { lastOf } from '#core/events/undo';
import { usePerson } from '../app/context';
import type { OpenOrder } from './useOrder';

/** The last thing this person did on an order, to be taken back; null: there is nothing, or the order is not open. */
export function useUndo({
  order,
  record,
}: OpenOrder): { says: string; /** the step it was done at */ step: string | null; run: () => boolean } | null {
  const person = usePerson();
  const last = order.status === 'open' ? lastOf(order, person.id) : null;
  const says = last?.says;
  const step = useMemo(() => last?.back.map((c) => c.path).find(([part]) => part === 'steps' || part === 'fasteners')?.[1] ?? null, [last]);
  const run = useCallback(() => says !== undefined && record({ type: 'action.undone', says }), [record, says]);
  return says === undefined ? null : { says, step, run };
}
