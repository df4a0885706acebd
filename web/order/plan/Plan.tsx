import { chakra } from '@chakra-ui/react';
import { Users } from 'lucide-react';
import { Link } from 'react-router';
import { stepState } from '#core/order/assess';
import { BENCH_STAGES, type BenchStage } from '#core/plan/planned';
import { UnitDrawing } from '../../drawing/UnitDrawing';
import { Answer, H3 } from '../Station';
import { useOrder } from '../useOrder';

export function Plan() {
  const { order, sheets, assessment } = useOrder();
  const { steps, panels, minutes } = assessment;
  const off = steps.filter((s) => s.stage === 'open');
  const saved = panels.apart - panels.merged;
  let t = 0;
  const at = new Map(steps.map((s) => [s.id, (t += s.minutes) - s.minutes]));
  const total = Math.max(1, minutes.planned);
  const stages = [...new Set(steps.map((s) => s.stage))];
  return (
    <>
      <Answer
        verdict={assessment.stations.plan.verdict}
        drawing={
          <UnitDrawing
            model={sheets.model}
            marks={off.map((s, i) => ({ place: s.place ?? '', text: String(i + 1), tone: 'accent', title: s.panel!.name }))}
          />
        }
      >
        {!steps.length
          ? 'No kit is chosen, so there is nothing to plan.'
          : `${steps.length} steps, ${Math.round(minutes.planned)} minutes; each panel off once${saved > 0 ? `, ${Math.round(saved)} minutes less than kit by kit` : ''}.`}
      </Answer>
      {off.length > 0 && (
        <>
          <H3>Panels, from off to on</H3>
          <chakra.div display="grid" gridTemplateColumns="170px minmax(0, 1fr)" gap="6px 12px" alignItems="center">
            {off.map((s, i) => {
              const on = steps.find((x) => x.id === `shut/${s.panel!.id}`)!;
              const [a, b] = [(at.get(s.id)! / total) * 100, ((at.get(on.id)! + on.minutes) / total) * 100];
              return (
                <chakra.div key={s.id} display="contents">
                  <span>
                    {i + 1} · {s.panel!.name} {s.hands === 2 && <Users size={14} aria-label="two people" />}
                  </span>
                  <chakra.div position="relative" height="22px" bg="sunk" borderRadius="3px">
                    <chakra.div
                      position="absolute"
                      top="4px"
                      bottom="4px"
                      left={`${a}%`}
                      width={`${b - a}%`}
                      bg="accent"
                      borderRadius="3px"
                      title={`off at ${Math.round(at.get(s.id)!)} min, on at ${Math.round(at.get(on.id)! + on.minutes)} min`}
                    />
                  </chakra.div>
                </chakra.div>
              );
            })}
            <span />
            <chakra.div display="flex" justifyContent="space-between" fontFamily="mono" fontSize="13px" color="quiet">
              <span>0</span>
              <span>{Math.round(total / 2)} min</span>
              <span>{Math.round(total)} min</span>
            </chakra.div>
          </chakra.div>
          <chakra.p mt="8px" color="quiet">
            Panel work: {Math.round(panels.merged)} min merged, {Math.round(panels.apart)} min kit by kit.
          </chakra.p>
        </>
      )}
      {stages.map((stage) => (
        <chakra.section key={stage}>
          <H3>{BENCH_STAGES[stage as BenchStage]}</H3>
          <chakra.ol listStyleType="none" p={0} borderTopWidth="1px" borderColor="rule">
            {steps
              .filter((s) => s.stage === stage)
              .map((s) => {
                const st = stepState(order, s.id);
                return (
                  <chakra.li key={s.id} borderBottomWidth="1px" borderColor="rule">
                    <Link to={`/orders/${order.id}/bench?step=${encodeURIComponent(s.id)}`}>
                      <chakra.span
                        display="grid"
                        gridTemplateColumns="60px minmax(0, 1fr) 170px 64px"
                        gap="12px"
                        py="10px"
                        minH="44px"
                        _hover={{ bg: 'sunk' }}
                      >
                        <chakra.span color={st.status === 'todo' ? 'quiet' : 'holds'}>
                          {st.status === 'todo' ? 'to do' : st.status}
                        </chakra.span>
                        <span>
                          {s.title} {s.hands === 2 && <Users size={14} aria-label="two people" />}
                        </span>
                        <chakra.span color="quiet" fontSize="14px" overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap">
                          {s.tool ?? ''}
                        </chakra.span>
                        <chakra.span fontFamily="mono" textAlign="right">
                          {s.minutes} min
                        </chakra.span>
                      </chakra.span>
                    </Link>
                  </chakra.li>
                );
              })}
          </chakra.ol>
        </chakra.section>
      ))}
    </>
  );
}
