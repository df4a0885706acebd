import { chakra } from '@chakra-ui/react';
import { lazy, Suspense, useMemo, useState } from 'react';
import { budgetOf } from '#core/energy/remedies';
import type { Budget } from '#core/energy/budget';
import { judgeDay, type DayResult } from '#core/energy/day';
import { daysFor } from '#core/energy/templates';
import { figure } from '#core/quantity/quantity';
import type { OwnerDay } from '#model/day';
import { Choice, Labelled } from '../../app/ui';
import { VerdictMark } from '../../marks/VerdictMark';
import { Table } from '../../sheets/Table';
import { useOrder } from '../useOrder';
import { clock } from './strip';

const DayChart = lazy(() => import('./DayChart'));

/** The order as it stands beside the same without a kit, without what was agreed, or on another day. */
export function Compare({ day }: { day: OwnerDay }) {
  const { order, given, sheets, settings, assessment } = useOrder();
  const { power } = assessment;
  const choices = useMemo(() => {
    const days = [
      ...order.days,
      ...daysFor(sheets.model, power.system.winch !== null).filter((d) => !order.days.some((o) => o.id === d.id)),
    ];
    return [
      ...days.filter((d) => d.id !== day.id).map((d) => ({ id: `day:${d.id}`, name: `on “${d.name}”`, day: d })),
      ...(order.changes.length ? [{ id: 'plain', name: 'without what was agreed', day }] : []),
      ...sheets.kits.map((k) => ({ id: `without:${k.id}`, name: `without ${k.name}`, day })),
      { id: 'bare', name: 'without any kit', day },
    ];
  }, [order, sheets, day, power.system.winch]);
  const [pick, setPick] = useState('');
  const choice = choices.find((c) => c.id === pick) ?? choices[0]!;
  const mine = useMemo(() => judgeDay(power.system, day, settings), [power.system, day, settings]);
  const other = useMemo((): { budget: Budget; result: DayResult } => {
    const [kind, id] = choice.id.split(':');
    let o = order;
    let s = given;
    if (kind === 'plain') o = { ...order, changes: [] };
    if (kind === 'without' || kind === 'bare') {
      const keep = (k: string) => kind === 'without' && k !== id;
      o = {
        ...order,
        kits: order.kits.filter((k) => keep(k.kit.id)),
        overrides: order.overrides.filter((x) => keep(x.circuit.split('/')[0]!)),
      };
      s = { ...given, kits: given.kits.filter((k) => keep(k.id)) };
    }
    const budget = budgetOf({ ...o, days: [choice.day] }, s, settings);
    return { budget, result: budget.days[0]! };
  }, [choice, order, given, settings]);
  const idle = (b: Budget) => {
    const c = b.checks.find((x) => x.id === 'idle');
    return c ? (c.margin.used === null ? '?' : `${figure(c.margin.limit! - c.margin.used, 2)} A`.replace('-', '−')) : '–';
  };
  const parked = (b: Budget) => `${Math.floor(Math.min(9999, b.checks.find((x) => x.id === 'parked')!.margin.used!))} days`;
  const wh = (r: DayResult) =>
    `${Math.round(r.energy.filter((e) => !e.id.startsWith('own/') && e.id !== 'drive').reduce((a, e) => a + e.wh, 0))} Wh`;
  const least = (r: DayResult) => r.leastSoc.map((x) => `${Math.round(x * 100)} %`).join(' / ');
  const start = (r: DayResult) => (r.starts.length ? `${Math.min(...r.starts.map((x) => x.volts)).toFixed(2)} V` : '–');
  const a = { budget: power, result: mine };
  const row = (name: string, f: (x: { budget: Budget; result: DayResult }) => React.ReactNode) => [name, f(a), f(other)];
  return (
    <>
      <chakra.div maxW="420px" mb="10px">
        <Labelled label="Compare with the same" id="compare-with">
          <Choice id="compare-with" value={choice.id} onChange={(e) => setPick(e.target.value)}>
            {choices.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </Choice>
        </Labelled>
      </chakra.div>
      <Table
        heads={['', 'as it stands', choice.name]}
        rows={[
          row('the day', (x) => (
            <chakra.span display="inline-flex" gap="8px" alignItems="flex-start">
              <VerdictMark verdict={x.result.verdict} size={20} />
              <span>{x.result.says}</span>
            </chakra.span>
          )),
          row('lowest charge', (x) => least(x.result)),
          row('charge at the end', (x) => x.result.endSoc.map((y) => `${Math.round(y * 100)} %`).join(' / ')),
          row('hardest start', (x) => start(x.result)),
          row('such days in a row', (x) => (x.result.endsOnDay === null ? 'go on' : `end on day ${x.result.endsOnDay}`)),
          row('idle, everything on', (x) => idle(x.budget)),
          row('parked to the reserve', (x) => parked(x.budget)),
          row('energy of what is added', (x) => wh(x.result)),
          row('the day lasts', (x) => clock(x.result.day.phases.reduce((s, p) => s + p.minutes, 0))),
        ]}
      />
      <Suspense fallback={<chakra.div height="260px" />}>
        <DayChart
          result={mine}
          other={{ name: choice.name, result: other.result }}
          system={power.system}
          chance={null}
          reserve={power.system.starter ? settings.reserveSoc : settings.packReserveSoc}
          height={240}
          file={`compare-${order.number}`}
        />
      </Suspense>
    </>
  );
}
