import { chakra } from '@chakra-ui/react';
import type { OtherWays } from '#core/plan/other-ways';
import { usesFishing } from '#core/plan/problem';
import type { PlanChoice } from '#model/work-plan';
import { H3 } from '../Station';
import { useOrder } from '../useOrder';

const Option = chakra('label', { base: { display: 'flex', gap: '10px', alignItems: 'center', minHeight: '44px', cursor: 'pointer' } });
const whole = (m: number) => `${Math.round(m)} min`;

/** How much comes off, and whether harnesses are tried first: what each way takes. */
export function Choices({ other }: { other: OtherWays | null }) {
  const { order, record } = useOrder();
  const { choice } = order.plan;
  const open = order.status === 'open';
  const choose = (patch: Partial<PlanChoice>) => record({ type: 'plan.chosen', choice: { ...choice, ...patch } });
  const runs: [PlanChoice['runs'], string, string][] = [
    [
      null,
      'Whichever is quicker',
      other ? `now ${usesFishing(null, other.fish, other.off) === 'fish' ? 'panels stay on' : 'panels off'}` : '',
    ],
    ['fish', 'Pull wires through under panels that can stay on', other ? whole(other.fish) : '…'],
    ['off', 'Take off every panel over a wire’s way', other ? whole(other.off) : '…'],
  ];
  return (
    <section>
      <H3>How much to take off</H3>
      <chakra.fieldset disabled={!open} border="none">
        {runs.map(([id, name, says]) => (
          <Option key={name}>
            <input type="radio" name="runs" checked={choice.runs === id} onChange={() => choose({ runs: id })} />
            <chakra.span flex="1">{name}</chakra.span>
            <chakra.span fontFamily="mono" color="quiet">
              {says}
            </chakra.span>
          </Option>
        ))}
        <Option borderTopWidth="1px" borderColor="rule">
          <input type="checkbox" checked={choice.benchTest} onChange={(e) => choose({ benchTest: e.target.checked })} />
          <chakra.span flex="1">Try harnesses on a spare battery first</chakra.span>
          <chakra.span fontFamily="mono" color="quiet">
            {other && other.benchTest > 0 ? `+${Number(other.benchTest.toFixed(1))} min` : ''}
          </chakra.span>
        </Option>
      </chakra.fieldset>
    </section>
  );
}
