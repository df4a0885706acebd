import { chakra } from '@chakra-ui/react';
import { BENCH_STAGES } from '#core/plan/planned';
import { sayAssumed } from '#core/known/doubt';
import { planSays, toolsOf } from '#core/plan/say-plan';
import { sayStep, stepLines } from '#core/plan/say-step';
import { zoneName } from '#core/plan/zones';
import { sayInUnits } from '#core/quantity/quantity';
import { useOtherWays } from '../plan/useOtherWays';
import { useOrder } from '../useOrder';
import { Head, Table, Top } from './Paper';

/** The work in its order, to be ticked off by hand. */
export function PlanPaper({ title }: { title: string }) {
  const { sheets, assessment, settings } = useOrder();
  const other = useOtherWays();
  const { work } = assessment;
  const assumed = sayAssumed(sheets.model);
  return (
    <>
      <Top title={title} />
      {work ? (
        <>
          <p>{sayInUnits(planSays(work, other), settings.units)}</p>
          {assumed && <p>{assumed}.</p>}
          <p>The unit’s own manual comes first. Power off before panels are wired behind; nobody touches the wiring while power goes on.</p>
          <p>Bring: {toolsOf(work.steps).join(', ')}.</p>
          <Head>{work.steps.length} steps</Head>
          <Table
            head={['', 'Min', 'At', '', 'Step', 'Tool', 'Takes', 'People']}
            rows={work.steps.map((s) => [
              <chakra.span key="box" display="inline-block" width="12px" height="12px" borderWidth="1px" borderColor="ink" />,
              Math.round(work.at.get(s.id)!),
              zoneName(work.zone.get(s.id)!, sheets.model.kind),
              BENCH_STAGES[s.stage],
              <div key="step">
                <b>{sayStep(s, work, settings.units)}</b>
                {stepLines(s, settings.units).map((l) => (
                  <div key={l}>{l}</div>
                ))}
              </div>,
              s.tool ?? '',
              s.minutes,
              s.hands,
            ])}
          />
        </>
      ) : (
        <p>No kit is chosen yet: nothing is planned.</p>
      )}
    </>
  );
}
