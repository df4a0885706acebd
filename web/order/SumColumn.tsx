import { chakra } from '@chakra-ui/react';
import { memo, type ReactNode } from 'react';
import { judgeUse } from '#core/verdict';
import { MarginBar } from '../marks/MarginBar';
import { VerdictMark } from '../marks/VerdictMark';
import { useOrder } from './useOrder';

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <chakra.section px="16px" py="12px" borderTopWidth="1px" borderColor="rule">
      <chakra.h2 fontSize="15px" mb="8px">
        {title}
      </chakra.h2>
      <chakra.div display="grid" gap="10px">
        {children}
      </chakra.div>
    </chakra.section>
  );
}

/** What the order adds up to, at every station: amperes, lamps, minutes, parts. */
export const SumColumn = memo(function SumColumn() {
  const { assessment: a, order } = useOrder();
  const { minutes, lamps } = a;
  const { parts } = a.fit;
  return (
    <chakra.div>
      <Part title="Amperes">
        {a.power.checks
          .filter((c) => c.margin.unit === 'A')
          .map((c) => (
            <chakra.div key={c.id}>
              <chakra.div display="flex" justifyContent="space-between" fontSize="14px" mb="2px">
                <span>{c.title}</span>
                <VerdictMark verdict={c.verdict} size={18} />
              </chakra.div>
              <MarginBar margin={c.margin} verdict={c.verdict} label={c.title} />
            </chakra.div>
          ))}
        {!a.power.checks.some((c) => c.margin.unit === 'A') && <chakra.p color="quiet">No source on board</chakra.p>}
      </Part>
      <Part title="Lamps and equipment">
        {lamps.required ? (
          <MarginBar
            margin={{ used: lamps.met, limit: lamps.required, unit: 'met' }}
            verdict={lamps.verdict}
            atLeast={false}
            label="Lamps and equipment"
          />
        ) : (
          <chakra.p color="quiet">No rule pack applies</chakra.p>
        )}
      </Part>
      <Part title="Minutes">
        <MarginBar
          margin={{ used: Math.round(minutes.spent), limit: Math.round(minutes.planned), unit: 'min' }}
          verdict={minutes.planned ? judgeUse(minutes.spent, minutes.planned, 0.9) : 'holds'}
          label="Minutes spent of planned"
        />
      </Part>
      <Part title="Parts in hand">
        {parts.needed ? (
          <MarginBar
            margin={{ used: parts.inHand, limit: parts.needed, unit: 'pieces' }}
            verdict={parts.inHand >= parts.needed ? 'holds' : 'unknown'}
            label="Parts in hand of needed"
          />
        ) : (
          <chakra.p color="quiet">No kit chosen</chakra.p>
        )}
      </Part>
      {order.status === 'sealed' && (
        <Part title="Sealed">
          <chakra.p color="quiet">What was recorded stays as it is. Additions are dated.</chakra.p>
        </Part>
      )}
    </chakra.div>
  );
});
