import { chakra } from '@chakra-ui/react';
import { Check, X } from 'lucide-react';
import type { EarlierFinding } from '#core/order/earlier-findings';
import { Photo } from '../app/Photo';
import { Act } from '../app/ui';
import { useOrder } from './useOrder';

/** What others found on this model before, with whether it is still so: whoever stands at the unit says. */
export function EarlierFindings({ findings, big = false }: { findings: readonly EarlierFinding[]; big?: boolean }) {
  const { order, record } = useOrder();
  const open = order.status === 'open';
  const say = (f: EarlierFinding, still: boolean) => record({ type: 'finding.judged', finding: f.key, still, text: f.text });
  const said = (f: EarlierFinding) =>
    f.outdated
      ? `outdated, says ${f.outdated.by}`
      : f.confirmed
        ? `confirmed ${f.confirmed === 1 ? 'once' : `${f.confirmed} times`}`
        : 'not confirmed yet';
  return (
    <chakra.ul listStyleType="none" p={0} aria-label="Found before">
      {findings.map((f) => (
        <chakra.li
          key={f.key}
          display="grid"
          gridTemplateColumns="minmax(0, 1fr) auto"
          gap="12px"
          alignItems="center"
          py="6px"
          borderTopWidth="1px"
          borderColor="rule"
          opacity={f.outdated ? 0.7 : 1}
        >
          <div>
            {f.text}{' '}
            <chakra.span color="quiet" fontSize="14px">
              order {f.number}, {f.by}; {said(f)}
            </chakra.span>
            {f.photo && (
              <chakra.span display="block" mt="4px">
                <Photo id={f.photo} note="as found" />
              </chakra.span>
            )}
          </div>
          <chakra.span display="inline-flex" gap="8px">
            <Act big={big} disabled={!open} onClick={() => say(f, true)} aria-label={`Still so: ${f.text}`}>
              <Check size={18} aria-hidden /> Still so
            </Act>
            <Act big={big} disabled={!open} onClick={() => say(f, false)} aria-label={`Outdated: ${f.text}`}>
              <X size={18} aria-hidden /> Outdated
            </Act>
          </chakra.span>
        </chakra.li>
      ))}
    </chakra.ul>
  );
}
