import { useState, type ReactNode } from 'react';
import { dangerOf, type HandChange } from '#core/circuit/unsafe';
import { usePerson } from '../../app/context';
import { ReasonDialog } from '../../app/ui';
import { useOrder } from '../useOrder';

/**
 * Changes a circuit by hand. Where that could hurt somebody a lead is asked for the reason first, in the dialog to be shown; anybody
 * else is told that it takes a lead.
 */
export function useByHand(): { change: (change: HandChange) => boolean; dialog: ReactNode } {
  const { order, assessment, settings, record } = useOrder();
  const { role } = usePerson();
  const [asking, setAsking] = useState<(HandChange & { why: string }) | null>(null);
  const put = ({ circuit, field, value }: HandChange, reason = '') => record({ type: 'wire.overridden', circuit, field, value, reason });
  return {
    change: (change) => {
      const why = role === 'lead' || role === 'owner' ? dangerOf(change, order, assessment, settings) : null;
      if (why === null) return put(change);
      setAsking({ ...change, why });
      return true;
    },
    dialog: (
      <ReasonDialog
        open={asking !== null}
        title="Unsafe: only a lead may pass this"
        text={asking ? `${asking.why[0]!.toUpperCase()}${asking.why.slice(1)}.` : undefined}
        action="Pass it"
        onClose={() => setAsking(null)}
        onReason={(reason) => {
          put(asking!, reason);
          setAsking(null);
        }}
      />
    ),
  };
}
