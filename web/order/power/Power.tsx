import { chakra } from '@chakra-ui/react';
import { lazy, Suspense } from 'react';
import { Sheet } from '../../app/ui';
import { UnitDrawing, type PlaceMark } from '../../drawing/UnitDrawing';
import { MarginBar } from '../../marks/MarginBar';
import { Sum } from '../../marks/SumLines';
import { VerdictMark } from '../../marks/VerdictMark';
import { EditField } from '../EditField';
import { readWatts } from '../arrive/fields';
import { Answer, H3 } from '../Station';
import { useOrder } from '../useOrder';

const SupplyChart = lazy(() => import('./SupplyChart'));

export function Power() {
  const { sheets, assessment, record, order } = useOrder();
  const { model } = sheets;
  const { power } = assessment;
  const bursts = power.loads.filter((l) => l.burst);
  const marks: PlaceMark[] = [
    { place: model.electrical.battery.place, text: 'B', tone: 'accent', title: model.electrical.battery.name },
    ...sheets.kits.flatMap((k) =>
      k.devices
        .filter((d) => d.load && d.load.kind !== 'intermittent')
        .map((d): PlaceMark => ({ place: d.place, tone: 'tight', title: `${d.name}: ${d.load!.watts ?? '?'} W` })),
    ),
  ];
  const engine = model.electrical.source.kind !== 'none';
  return (
    <>
      <Answer
        verdict={power.verdict}
        drawing={
          engine ? (
            <Suspense fallback={<chakra.div height="260px" />}>
              <SupplyChart model={model} budget={power} />
            </Suspense>
          ) : (
            <UnitDrawing model={model} marks={marks} />
          )
        }
      >
        {power.says}.
      </Answer>
      {power.missing.length > 0 && order.status === 'open' && (
        <Sheet mb="12px" borderColor="unknown">
          <chakra.h3 fontSize="16px" mb="8px">
            Not known: tell the number and the verdict follows
          </chakra.h3>
          <chakra.div display="grid" gridTemplateColumns="repeat(auto-fit, minmax(260px, 1fr))" gap="12px">
            {power.missing.map((m) => (
              <EditField
                key={m.key}
                id={m.key}
                draft={`${order.id}.${m.key}`}
                label={m.label}
                value=""
                mono
                placeholder="24 W"
                read={(t) => {
                  const w = readWatts(t);
                  if (w === null) throw new Error('type the watts from the label or a measurement');
                  return w;
                }}
                save={(w) => record({ type: 'fact.told', key: m.key, value: w, label: m.label })}
              />
            ))}
          </chakra.div>
        </Sheet>
      )}
      <chakra.div display="grid" gridTemplateColumns="repeat(auto-fit, minmax(300px, 1fr))" gap="12px">
        {power.checks.map((c) => (
          <Sheet key={c.id}>
            <chakra.div display="flex" justifyContent="space-between" alignItems="center" mb="6px">
              <chakra.h3 fontSize="16px">{c.title}</chakra.h3>
              <VerdictMark verdict={c.verdict} word />
            </chakra.div>
            <MarginBar margin={c.margin} verdict={c.verdict} atLeast={c.atLeast} label={c.title} />
            <chakra.p mt="4px">{c.says}</chakra.p>
            <Sum lines={c.sum} />
          </Sheet>
        ))}
      </chakra.div>
      {bursts.length > 0 && (
        <>
          <H3>Bursts come from the battery</H3>
          {bursts.map((b) => (
            <p key={b.id}>
              {b.name}: {b.amps === null ? '?' : Math.round(b.amps)} A while it pulls. Engine at a fast idle, let it rest between pulls.
            </p>
          ))}
        </>
      )}
      <chakra.p mt="16px" color="quiet" fontSize="14px">
        A rule of thumb and a sheet’s figures, not a measurement: the bench proves it at idle with all on.
      </chakra.p>
    </>
  );
}
