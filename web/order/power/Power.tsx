import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { bandKeys } from '#core/circuit/load';
import type { By } from '#core/energy/remedies';
import { daysFor } from '#core/energy/templates';
import { AGE_KEY, type MissingDraw } from '#core/energy/unit-system';
import { OwnerDay } from '#model/day';
import { queries } from '../../app/api';
import { Choice, Act, Sheet } from '../../app/ui';
import { UnitDrawing, type PlaceMark } from '../../drawing/UnitDrawing';
import { MarginBar } from '../../marks/MarginBar';
import { Sum } from '../../marks/SumLines';
import { VerdictMark } from '../../marks/VerdictMark';
import { readWatts } from '../arrive/fields';
import { EditField } from '../EditField';
import { Answer } from '../Station';
import { Tabs } from '../Tabs';
import { useOrder } from '../useOrder';
import { Chances } from './Chances';
import { Compare } from './Compare';
import { DayStrip } from './DayStrip';
import { EngineOff } from './EngineOff';
import { Measured } from './Measured';
import { Pack, RangeLost } from './Pack';
import { PhaseEditor } from './PhaseEditor';
import { BestRemedy, Remedies } from './Remedies';
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
    ['sums', 'Sums'],
    ...(engine ? [['off', 'Engine off']] : [['pack', 'Range and pack']]),
    ...(system.winch?.spec ? [['winch', 'Winch']] : []),
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
  const chance = useChance(system, day, settings, ageKnown, tab === 'day' || tab === 'chance');

  const describe = (next: OwnerDay): boolean => {
    const r = OwnerDay.safeParse(next);
    return r.success && record({ type: 'day.described', day: r.data });
  };
  const idleRpm = system.source?.idleRpm ?? null;
  const charts = <chakra.div height="330px" />;
  const cableOhms = cableOf(assessment.wiring.circuits, system.winch?.load ?? '');
  return (
    <>
      <Answer verdict={power.verdict}>{power.says}.</Answer>
      <Missing missing={power.missing} />
      <Tabs label="What to see of the power" tabs={tabs} on={tab} onShow={show} mark={{ hold: order.changes.length || undefined }} />
      {tab === 'day' && (
        <>
          {falls && open && <BestRemedy search={search} onAll={() => show('hold')} />}
          <chakra.div display="grid" gridTemplateColumns="minmax(0, 3fr) minmax(0, 5fr)" gap="20px" alignItems="start">
            <Suspense fallback={charts}>
              {engine ? (
                <SupplyChart sheets={sheets} budget={power} height={320} file={`source-${order.number}`} />
              ) : (
                <>
                  <PackDrawing />
                  <RangeLost day={day} />
                </>
              )}
            </Suspense>
            <chakra.div minW={0}>
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
        </>
      )}
      {tab === 'hold' && <Remedies search={search} by={by} onBy={setBy} holds={!falls} />}
      {tab === 'sums' && <Sums />}
      {tab === 'off' && <EngineOff system={system} />}
      {tab === 'winch' && system.winch?.spec && <Winch spec={system.winch.spec} cableOhms={cableOhms} />}
      {tab === 'pack' && <Pack day={day} />}
      {tab === 'chance' && <Chances state={chance} result={result} system={system} ageKnown={ageKnown} />}
      {tab === 'compare' && <Compare day={day} />}
      {tab === 'measured' && <Measured />}
    </>
  );
}

/** Ohms of the cable that feeds a load, there and back, from its planned drop at peak. */
function cableOf(circuits: ReturnType<typeof useOrder>['assessment']['wiring']['circuits'], load: string): number {
  const c = circuits.find((x) => x.circuit.devices.some((d) => `${x.kit.id}/${d}` === load));
  return c?.dropV && c.load.peakA ? c.dropV / c.load.peakA : 0;
}

/** Draws that nobody knows, each asked for once: one figure, or a band. */
function Missing({ missing }: { missing: MissingDraw[] }) {
  const { order, record } = useOrder();
  if (!missing.length || order.status !== 'open') return null;
  return (
    <Sheet mb="12px" borderColor="unknown">
      <chakra.h3 fontSize="16px" mb="8px">
        Not known: tell the number, or a band, and the verdict follows
      </chakra.h3>
      <chakra.div display="grid" gridTemplateColumns="repeat(auto-fit, minmax(260px, 1fr))" gap="12px">
        {missing.map((m) => (
          <EditField
            key={m.key}
            id={m.key}
            draft={`${order.id}.${m.key}`}
            label={m.label}
            value=""
            mono
            placeholder="24 W, or 20 to 40 W"
            read={(t): number | [number, number] => {
              const band = /^(.+?)\s*(?:to|–|-|\.\.)\s*(.+)$/.exec(t.trim());
              const [a, b] = band ? [readWatts(band[1]!), readWatts(band[2]!)] : [readWatts(t), null];
              if (a === null || (band && b === null))
                throw new Error('type the watts from the label or a measurement, or a band such as 20 to 40 W');
              if (b !== null && b <= a) throw new Error('the band is upside down: the lower figure first');
              return b === null ? a : [a, b];
            }}
            save={(w) => {
              if (typeof w === 'number') return record({ type: 'fact.told', key: m.key, value: w, label: m.label });
              const [low, high] = bandKeys(m.key);
              return (
                record({ type: 'fact.told', key: low, value: w[0], label: `${m.label}, at least` }) &&
                record({ type: 'fact.told', key: high, value: w[1], label: `${m.label}, at most` })
              );
            }}
          />
        ))}
      </chakra.div>
    </Sheet>
  );
}

/** The owner's days: which one is shown, and others to describe. */
function DayChoice({ dayId, onPick }: { dayId: string; onPick: (id: string) => void }) {
  const { order, assessment, sheets, record } = useOrder();
  const { power } = assessment;
  const open = order.status === 'open';
  const templates = daysFor(sheets.model, power.system.winch !== null).filter((d) => !order.days.some((x) => x.id === d.id));
  const shown = power.days.find((d) => d.day.id === dayId)!;
  const add = (id: string) => {
    const day = templates.find((d) => d.id === id);
    if (day && record({ type: 'day.described', day })) onPick(day.id);
  };
  return (
    <chakra.div display="flex" flexWrap="wrap" gap="6px" alignItems="center" mb="8px" pl="44px" pr="44px">
      {power.days.map((d) => (
        <Act
          key={d.day.id}
          on={d.day.id === dayId}
          aria-pressed={d.day.id === dayId}
          minHeight="36px"
          px="8px"
          onClick={() => onPick(d.day.id)}
        >
          <VerdictMark verdict={d.verdict} size={18} />
          {d.day.name}
        </Act>
      ))}
      {open && (
        <Choice
          aria-label="Describe another day"
          width="auto"
          flex="0 1 150px"
          minHeight="36px"
          fontSize="15px"
          value=""
          onChange={(e) => add(e.target.value)}
        >
          <option value="">{power.dayAssumed ? 'another day' : 'one more day'}</option>
          {templates
            .filter((t) => t.id !== dayId || !power.dayAssumed)
            .map((t) => (
              <option key={t.id} value={t.id}>
                {t.name}
              </option>
            ))}
        </Choice>
      )}
      {open && !power.dayAssumed && (
        <Act look="quiet" minHeight="36px" onClick={() => record({ type: 'day.dropped', id: dayId })}>
          Take off
        </Act>
      )}
      <chakra.p flex="1 0 100%" fontSize="14px" color="quiet">
        {power.dayAssumed && 'The usual day for this kind of unit: touch a phase to make it the owner’s. '}
        {!power.says.includes(shown.says) && `${shown.says.charAt(0).toUpperCase()}${shown.says.slice(1)}.`}
      </chakra.p>
    </chakra.div>
  );
}

function PackDrawing() {
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

/** Each question with its margin and its arithmetic: the rule of thumb beside the simulated days. */
function Sums() {
  const { assessment, settings } = useOrder();
  const { power } = assessment;
  return (
    <chakra.div display="grid" gridTemplateColumns="repeat(auto-fit, minmax(300px, 1fr))" gap="12px">
      {power.days.map((d) => (
        <Sheet key={d.day.id}>
          <chakra.div display="flex" justifyContent="space-between" alignItems="center" mb="6px">
            <chakra.h3 fontSize="16px">Simulated: {d.day.name}</chakra.h3>
            <VerdictMark verdict={d.verdict} word />
          </chakra.div>
          <MarginBar
            margin={{
              used: Math.min(...d.leastSoc) * 100,
              limit: (power.system.starter ? settings.reserveSoc : settings.packReserveSoc) * 100,
              unit: '%',
            }}
            verdict={d.verdict}
            atLeast
            label={`Lowest charge on ${d.day.name}`}
          />
          <chakra.p mt="4px">{d.says}</chakra.p>
          <Sum lines={d.sum} />
        </Sheet>
      ))}
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
  );
}
