import { chakra } from '@chakra-ui/react';
import { together } from '#core/learn/pace';
import { leftByKit } from '#core/order/summary';
import type { WorkCost } from '#core/plan/work-base';
import { workDoubt } from '#core/known/doubt';
import { sayInUnits } from '#core/quantity/quantity';
import { planSays, toolsOf } from '#core/plan/say-plan';
import { FileLink, PaperLink } from '../../app/ui';
import { UnitDrawing } from '../../drawing/UnitDrawing';
import { Answer, H3 } from '../Station';
import { Later } from '../../app/Later';
import { Rests } from '../known/Rests';
import { useOrder } from '../useOrder';
import { useOtherWays } from './useOtherWays';
import { Choices } from './Choices';
import { Learned } from './Learned';
import { Needs } from './Needs';
import { PanelBars } from './PanelBars';
import { StepList } from './StepList';

const whole = (m: number) => `${Math.round(m)} min`;

/** One tear-down for all kits: in which order, how long, and what it saves. */
export function Plan() {
  const { order, sheets, assessment, paces, settings } = useOrder();
  const { work } = assessment;
  const other = useOtherWays();
  if (!work)
    return (
      <Answer verdict={null} drawing={<UnitDrawing model={sheets.model} />}>
        No kit is chosen, so there is nothing to plan.
      </Answer>
    );
  const left = together(leftByKit(order, assessment).flatMap(({ kit, minutes }) => (paces[kit] ? [{ minutes, pace: paces[kit] }] : [])));
  const off = work.steps.filter((s) => s.stage === 'open');
  const doubt = workDoubt(sheets.model, work.steps, work.cost.minutes);
  const ways: [string, WorkCost | null][] = [
    ['All kits in one go', work.cost],
    ['One kit after another', other && other.apart],
  ];
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
        {sayInUnits(planSays(work, other), settings.units)}
      </Answer>
      <Rests />
      <Later>
        {off.length > 0 && (
          <>
            <H3>Panels, from off to on</H3>
            <PanelBars work={work} model={sheets.model} />
          </>
        )}
        <chakra.div display="grid" gridTemplateColumns="minmax(0, 1fr) minmax(0, 1fr)" gap="32px">
          <section>
            <H3>What one tear-down saves</H3>
            <chakra.table width="100%" fontSize="16px">
              <thead>
                <chakra.tr color="quiet" fontSize="14px" textAlign="right">
                  <th />
                  <chakra.th fontWeight={400}>time</chakra.th>
                  <chakra.th fontWeight={400}>panels off</chakra.th>
                  <chakra.th fontWeight={400}>power off</chakra.th>
                  <chakra.th fontWeight={400}>moves</chakra.th>
                </chakra.tr>
              </thead>
              <tbody>
                {ways.map(([name, c]) => (
                  <chakra.tr key={name} borderTopWidth="1px" borderColor="rule" textAlign="right" fontFamily="mono">
                    <chakra.th textAlign="left" fontWeight={400} fontFamily="body" py="6px">
                      {name}
                    </chakra.th>
                    <td>{c ? whole(c.minutes) : '…'}</td>
                    <td>{c?.panelsOff}</td>
                    <td>{c?.powerOff}</td>
                    <td>{c?.moves}</td>
                  </chakra.tr>
                ))}
              </tbody>
            </chakra.table>
            {doubt && (
              <chakra.p mt="8px">
                Its panels are known only by its kind: in one go it may take {Math.round(doubt[0])} to {whole(doubt[1])}.
              </chakra.p>
            )}
            {left.minutes > 0 && (
              <chakra.p mt="8px">
                As this shop works, {whole(left.minutes)} are still to do: eight of ten such take {Math.round(left.low)} to{' '}
                {whole(left.high)}.
              </chakra.p>
            )}
          </section>
          <Choices other={other} />
        </chakra.div>
        <chakra.p mt="16px">
          <chakra.span color="quiet">Bring</chakra.span> {toolsOf(work.steps).join(', ')}
        </chakra.p>
        <chakra.p mt="8px" display="flex" gap="8px" flexWrap="wrap">
          <FileLink href={`/api/orders/${order.id}/plan.pdf`} target="_blank">
            Plan on paper
          </FileLink>
          <FileLink href={`/api/orders/${order.id}/bag-labels.pdf`} target="_blank">
            Bag labels
          </FileLink>
          <PaperLink to={`/orders/${order.id}/paper/plan`}>Print it here</PaperLink>
        </chakra.p>
        <H3>The work in its order</H3>
        <StepList />
        <Needs />
        <Learned />
      </Later>
    </>
  );
}
