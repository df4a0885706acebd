import { chakra } from '@chakra-ui/react';
import { Check, Minus, Plus } from 'lucide-react';
import { useState } from 'react';
import { ledger, shortOf, type FastenerLine } from '#core/plan/fasteners';
import type { PlannedStep } from '#core/plan/planned';
import { Act, ReasonDialog } from '../../app/ui';
import { VerdictMark } from '../../marks/VerdictMark';
import { useOrder } from '../useOrder';

/** What came out of a panel and what goes back into it, kind by kind. */
export function Fasteners({ step, sealed }: { step: PlannedStep; sealed: boolean }) {
  const { order, record } = useOrder();
  const [asking, setAsking] = useState(false);
  const lines = ledger(order, step);
  if (!lines.length) return null;
  const closing = step.stage === 'close';
  const reason = order.fasteners[step.id]?.reason;
  const short = closing ? shortOf(lines) : '';
  const counted = (l: FastenerLine) => (closing ? (l.back ?? 0) : l.out);
  const count = (counts: number[]) => record({ type: 'fasteners.counted', step: step.id, counts });
  // one less than all is one missing; one more than nothing is the first of a count
  const from = (l: FastenerLine, by: number) => (closing && l.back === null && by < 0 ? l.out : counted(l));
  const change = (i: number, by: number) => count(lines.map((l, k) => Math.max(0, from(l, by) + (k === i ? by : 0))));
  const begun = !closing || lines.some((l) => l.back !== null);
  const left = begun && lines.some((l) => l.back === null || l.back < l.out);
  return (
    <chakra.section aria-label="Fasteners" display="grid" gap="8px" mb="12px">
      {lines.map((l, i) => (
        <chakra.div
          key={`${l.kind}/${l.tool}`}
          display="grid"
          gridTemplateColumns="30px minmax(0, 1fr) auto"
          gap="12px"
          alignItems="center"
          borderTopWidth="1px"
          borderColor="rule"
          pt="8px"
        >
          {closing ? <VerdictMark verdict={l.back === null ? null : l.back < l.out ? 'fails' : 'holds'} size={26} /> : <span />}
          <span>
            <b>{l.kind}</b> <chakra.span color="quiet">{l.tool}</chakra.span>
            {!closing && l.out !== l.sheet && (
              <chakra.span color="tightText" fontSize="16px">
                {' '}
                the sheet has {l.sheet}
              </chakra.span>
            )}
          </span>
          <chakra.span display="inline-flex" gap="8px" alignItems="center">
            <Act big aria-label={`One ${l.kind} less`} disabled={sealed || from(l, -1) === 0} onClick={() => change(i, -1)}>
              <Minus size={22} aria-hidden />
            </Act>
            <chakra.span fontFamily="mono" fontSize="26px" minW="92px" textAlign="center">
              {closing && l.back === null ? '–' : counted(l)}
              {closing && <chakra.span color="quiet"> of {l.out}</chakra.span>}
            </chakra.span>
            <Act big aria-label={`One ${l.kind} more`} disabled={sealed || (closing && counted(l) >= l.out)} onClick={() => change(i, 1)}>
              <Plus size={22} aria-hidden />
            </Act>
          </chakra.span>
        </chakra.div>
      ))}
      {closing && left && (
        <chakra.div display="flex" gap="10px" flexWrap="wrap">
          <Act big disabled={sealed} onClick={() => count(lines.map((l) => l.out))}>
            <Check size={22} aria-hidden /> All back
          </Act>
          {short && !reason && (
            <Act big disabled={sealed} onClick={() => setAsking(true)}>
              Close without {short}
            </Act>
          )}
        </chakra.div>
      )}
      {reason && (
        <chakra.p color="tightText" fontWeight={600}>
          Closes without {short}: {reason}
        </chakra.p>
      )}
      <ReasonDialog
        open={asking}
        title={`Close without ${short}`}
        action="Close without"
        onClose={() => setAsking(false)}
        onReason={(why) => {
          setAsking(false);
          record({ type: 'fasteners.excused', step: step.id, reason: why });
        }}
      />
    </chakra.section>
  );
}
