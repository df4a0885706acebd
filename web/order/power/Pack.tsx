import { chakra } from '@chakra-ui/react';
import { lazy, Suspense, useCallback, useMemo } from 'react';
import { drivingRange, RETURN_RATIO, tappedOn } from '#core/energy/cart';
import type { OwnerDay } from '#model/day';
import { figure, showUnit } from '#core/quantity/quantity';
import { useUnits } from '../../app/context';
import { UnitDrawing, type PlaceMark } from '../../drawing/UnitDrawing';
import { MarginBar } from '../../marks/MarginBar';
import { Table } from '../../sheets/Table';
import { H3 } from '../Station';
import { useOrder } from '../useOrder';
import type { Ink } from './Chart';

const Chart = lazy(() => import('./Chart'));

/** What the added loads cost a pack: range, and what would come of tapping some of its batteries. */
export function Pack({ day }: { day: OwnerDay }) {
  const { sheets, settings, assessment, order } = useOrder();
  const { system } = assessment.power;
  const tapped = useMemo(() => tappedOn(system, day, sheets.model, settings.packReserveSoc), [system, day, sheets.model, settings]);
  const option = useCallback(
    (ink: Ink) => {
      const line = (name: string, color: string, data: [number, number][], type: 'solid' | 'dashed') => ({
        name,
        type: 'line',
        symbol: 'none',
        lineStyle: { color, width: 2.5, type },
        itemStyle: { color },
        data,
      });
      return {
        grid: { left: 44, right: 18, top: 28, bottom: 38 },
        legend: { top: 0, textStyle: { color: ink.ink, fontSize: 13 }, itemHeight: 8 },
        tooltip: { valueFormatter: (v: unknown) => `${Number(v).toFixed(1)} %` },
        xAxis: {
          type: 'value',
          min: 1,
          max: 30,
          name: 'day',
          nameLocation: 'middle',
          nameGap: 22,
          nameTextStyle: { color: ink.ink },
          axisLabel: { color: ink.ink },
          splitLine: { show: false },
        },
        yAxis: {
          type: 'value',
          min: 0,
          max: 100,
          axisLabel: { color: ink.ink, formatter: '{value} %' },
          splitLine: { lineStyle: { color: ink.rule } },
        },
        series: [
          line(
            'the rest of the pack, evening',
            ink.accent,
            (tapped?.month.days ?? []).map((d) => [d.day, d.rest * 100]),
            'solid',
          ),
          line(
            'the tapped batteries, evening',
            ink.fails,
            (tapped?.month.days ?? []).map((d) => [d.day, d.tapped * 100]),
            'dashed',
          ),
        ],
      };
    },
    [tapped],
  );
  return (
    <>
      <RangeLost day={day} />
      {tapped && (
        <>
          <H3>
            If {tapped.batteries === 1 ? 'one battery' : `${tapped.batteries} batteries`} of the pack were tapped for it, over a month
          </H3>
          <p>
            A tap at {tapped.tapV} V takes {figure(tapped.tapAh, 2)} Ah a day more from{' '}
            {tapped.batteries === 1 ? 'that battery' : 'those batteries'} than from the rest, and the charger sends the same through all.{' '}
            <b>
              {tapped.month.underOn === null
                ? tapped.month.lackAh < 0.5
                  ? 'On this day’s driving the charger’s surplus makes it up.'
                  : `After 30 days ${tapped.batteries === 1 ? 'it lacks' : 'they lack'} ${figure(tapped.month.lackAh, 2)} Ah more than the rest.`
                : `On day ${tapped.month.underOn} ${tapped.batteries === 1 ? 'it falls' : 'they fall'} under the ${Math.round(settings.packReserveSoc * 100)} % that a pack should keep.`}
            </b>{' '}
            {tapped.tapV > 14 && 'At that voltage 12 V lamps also live short lives: a reducer is needed even on a tap.'}
          </p>
          <Suspense fallback={<chakra.div height="220px" />}>
            <Chart
              title="Charge at each evening, if tapped"
              label="Charge of tapped batteries and of the rest over a month"
              height={210}
              option={option}
              file={`tap-${order.number}`}
              table={{
                heads: ['day', 'tapped', 'the rest'],
                num: [0, 1, 2],
                rows: tapped.month.days.map((d) => [d.day, `${(d.tapped * 100).toFixed(1)} %`, `${(d.rest * 100).toFixed(1)} %`]),
              }}
            />
          </Suspense>
          <Table
            heads={['', '']}
            num={[1]}
            rows={[
              ['driving takes, of every battery, a day', `${figure(tapped.driveAh)} Ah`],
              ['the tap takes besides', `${figure(tapped.tapAh)} Ah`],
              ['put back by charging', `${RETURN_RATIO} × driving (common practice, no source)`],
            ]}
          />
        </>
      )}
      <chakra.p mt="10px" color="quiet" fontSize="14px">
        A traction pack can kill: isolate it as its maker says, one hand, insulated tools, and no rings.
      </chakra.p>
    </>
  );
}

/** What is added costs so much of a pack's range. */
export function RangeLost({ day }: { day: OwnerDay }) {
  const { settings, assessment } = useOrder();
  const { system } = assessment.power;
  const units = useUnits();
  const distance = (km: number) => showUnit(km, 'km', units, 3);
  const range = useMemo(() => drivingRange(system, day, settings.packReserveSoc), [system, day, settings]);
  if (!range) return null;
  return (
    <>
      <chakra.p fontSize="18px" fontWeight={700} mb="6px">
        {range.lostKm < 0.05
          ? 'No range is lost to what is added on this day.'
          : `${distance(range.lostKm)} of range lost, ${figure(range.lostPct, 2)} %: ${distance(range.withKm)} instead of ${distance(range.plainKm)} on a full pack.`}
      </chakra.p>
      <MarginBar
        margin={{ used: range.dayKm, limit: range.withKm, unit: 'km' }}
        verdict={range.dayKm <= range.withKm * 0.8 ? 'holds' : range.dayKm <= range.withKm ? 'tight' : 'fails'}
        label="The day’s driving of what a full pack drives"
      />
      <chakra.p color="quiet" fontSize="14px" mt="4px">
        {Math.round(range.usableWh)} Wh down to {Math.round(settings.packReserveSoc * 100)} %, {system.drive!.whPerKm} Wh a kilometre (model
        sheet), {figure(range.addedW, 2)} W added while driving “{day.name}”.
      </chakra.p>
    </>
  );
}

/** The pack and what hangs on it, on the unit. */
export function PackDrawing() {
  const { sheets } = useOrder();
  const { model } = sheets;
  const marks: PlaceMark[] = [
    { place: model.electrical.battery.place, text: 'B', tone: 'accent', title: model.electrical.battery.name },
    ...sheets.kits.flatMap((k) =>
      k.devices
        .filter((d) => d.load && d.load.kind !== 'intermittent')
        .map((d): PlaceMark => ({ place: d.place, tone: 'tight', title: `${d.name}: ${d.load!.watts ?? '?'} W` })),
    ),
  ];
  return <UnitDrawing model={model} marks={marks} />;
}
