import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { whyOf } from '#core/plan/whys';
import type { PlannedStep } from '#core/plan/planned';
import { readKept, writeKept } from '../../app/storage';
import { useOrder } from '../useOrder';

/** Whether whys stand open on this device, once somebody said. */
const WHY_OPEN = 'bench.why';

/** Why a step is done: open for who has not done such a kit before, folded away for who has, or as they left it. */
export function Why({ step }: { step: PlannedStep }) {
  const { paces } = useOrder();
  const why = whyOf(step);
  const mine = step.kit ? (paces[step.kit]?.own ?? 0) : Math.max(0, ...Object.values(paces).map((p) => p.own));
  const [open, setOpen] = useState<boolean | null>(() => readKept<boolean | null>(WHY_OPEN, null));
  if (!why) return null;
  const shown = open ?? mine === 0;
  return (
    <chakra.details
      // folded, it stands beside the tool: a line less above the pad
      css={{ '&[open]': { flex: '1 0 100%' } }}
      fontSize="17px"
      color="quiet"
      open={shown}
      onToggle={(e) => {
        const now = e.currentTarget.open;
        if (now === shown) return;
        setOpen(now);
        writeKept(WHY_OPEN, now);
      }}
    >
      <chakra.summary cursor="pointer" fontWeight={600}>
        Why
      </chakra.summary>
      {shown && why}
    </chakra.details>
  );
}
