import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { By } from '#core/energy/remedies';
import { AGE_KEY } from '#core/energy/unit-system';
import { OwnerDay } from '#model/day';
import { queries } from '../../app/api';
import { Answer } from '../Station';
import { Tabs } from '../Tabs';
import { Later } from '../../app/Later';
import { Rests } from '../known/Rests';
import { useOrder } from '../useOrder';
import { Chances } from './Chances';
import { Compare } from './Compare';
import { DayChoice } from './DayChoice';
import { DayStrip } from './DayStrip';
import { EngineOff } from './EngineOff';
import { Measured } from './Measured';
import { Missing } from './Missing';
import { Pack, PackDrawing, RangeLost } from './Pack';
import { PhaseEditor } from './PhaseEditor';
import { BestRemedy, Remedies } from './Remedies';
import { Sums } from './Sums';
import { useChance, useRemedies } from './usePowerWork';
import { Winch } from './Winch';

const SupplyChart = lazy(() => import('./SupplyChart'));
const DayChart = lazy(() => import('./DayChart'));
const EnergyChart = lazy(() => import('./EnergyChart'));

type Tab = 'day' | 'hold' | 'sums' | 'off' | 'winch' | 'pack' | 'chance' | 'compare' | 'measured';

/** Can the unit carry it, on the days its owner describes? */
export function Power() {
  const { sheets, given, assessment, record, order, settings } = useOrder();
  const { power } = assessment;
  const { system } = power;
  const engine = system.source !== null;
  const open = order.status === 'open';
  const [params, setParams] = useSearchParams();
  const [dayId, setDayId] = useState<string | null>(null);
  const [picked, setPicked] = useState<number | null>(null);
  const [by, setBy] = useState<By>('money');
  const result = power.days.find((d) => d.day.id === dayId) ?? power.days[0]!;
  const { day } = result;
  const ageKnown = typeof order.facts[AGE_KEY] === 'number';

  const tabs = [
    ['day', 'The day'],
    ['hold', 'Make it hold'],
    ...(system.winch?.spec ? [['winch', 'Winch']] : []),
    ...(engine ? [] : [['pack', 'Range and pack']]),
    ['sums', 'Sums'],
    ...(engine ? [['off', 'Engine off']] : []),
    ['chance', 'Chances'],
    ['compare', 'Compare'],
    ['measured', 'Measured'],
  ] as [Tab, string][];
  const tab = tabs.find(([t]) => t === params.get('show'))?.[0] ?? 'day';
  const show = (t: Tab) => setParams(t === 'day' ? {} : { show: t }, { replace: true });

  const kits = useQuery(queries.sheets).data?.kits;
  const spare = useMemo(
    () => (kits ?? []).filter((k) => !order.kits.some((o) => o.kit.id === k.sheet.id)).map((k) => ({ ref: k.ref, kit: k.sheet })),
    [kits, order.kits],
  );
  const falls = power.verdict === 'fails' || power.verdict === 'tight';
  const search = useRemedies(order, given, settings, spare, by, falls && open && kits !== undefined && (tab === 'day' || tab === 'hold'));
  const chance = useChance(system, day, settings, ageKnown, result.verdict !== 'unknown' && (tab === 'day' || tab === 'chance'));

  const describe = (next: OwnerDay): boolean => {
    const r = OwnerDay.safeParse(next);
    return r.success && record({ type: 'day.described', day: r.data });
  };
  const idleRpm = system.source?.idleRpm ?? null;
  const charts = <chakra.div height="330px" />;
  return (
    <>
      <Answer verdict={power.verdict}>{power.says}.</Answer>
      <Rests station="power" />
      <Missing missing={power.missing} />
      <Tabs label="What to see of the power" tabs={tabs} on={tab} onShow={show} mark={{ hold: order.changes.length || undefined }} />
      {tab === 'day' && (
        <Later>
          {falls && open && <BestRemedy search={search} onAll={() => show('hold')} />}
          {/* on a tablet the day has the width, with the source under it */}
          <chakra.div
            display="grid"
            gridTemplateColumns={{ base: 'minmax(0, 1fr)', xl: 'minmax(0, 3fr) minmax(0, 5fr)' }}
            gap="20px"
            alignItems="start"
          >
            <Suspense fallback={charts}>
              {engine ? (
                <SupplyChart sheets={sheets} budget={power} height={320} file={`source-${order.number}`} />
              ) : (
                <div>
                  <PackDrawing />
                  <RangeLost day={day} />
                </div>
              )}
            </Suspense>
            <chakra.div minW={0} order={{ base: -1, xl: 0 }}>
              <DayChoice dayId={day.id} onPick={(id) => (setDayId(id), setPicked(null))} />
              <DayStrip
                day={day}
                result={result}
                idleRpm={idleRpm}
                picked={picked}
                onPick={(i) => setPicked(picked === i ? null : i)}
                onChange={open ? describe : null}
              />
              <Suspense fallback={<chakra.div height="190px" />}>
                <DayChart
                  result={result}
                  system={system}
                  chance={chance.chance}
                  reserve={system.starter ? settings.reserveSoc : settings.packReserveSoc}
                  height={184}
                  file={`day-${order.number}`}
                />
              </Suspense>
            </chakra.div>
          </chakra.div>
          {picked !== null && day.phases[picked] && (
            <PhaseEditor
              key={day.phases[picked].id}
              day={day}
              at={picked}
              system={system}
              result={result.phases[picked]}
              draft={`${order.id}.day.${day.id}`}
              onChange={open ? describe : null}
              onPick={setPicked}
            />
          )}
          <chakra.div mt="16px">
            <Suspense fallback={<chakra.div height="200px" />}>
              <EnergyChart result={result} file={`energy-${order.number}`} />
            </Suspense>
          </chakra.div>
        </Later>
      )}
      {tab === 'hold' && <Remedies search={search} by={by} onBy={setBy} holds={!falls} />}
      {tab === 'sums' && <Sums />}
      {tab === 'off' && <EngineOff system={system} />}
      {tab === 'winch' && system.winch?.spec && <Winch spec={system.winch.spec} />}
      {tab === 'pack' && <Pack day={day} />}
      {tab === 'chance' && <Chances state={chance} result={result} system={system} ageKnown={ageKnown} />}
      {tab === 'compare' && <Compare day={day} />}
      {tab === 'measured' && <Measured />}
    </>
  );
}
