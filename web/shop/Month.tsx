import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { Suspense, lazy, useCallback, useState } from 'react';
import { Link } from 'react-router';
import { may } from '#core/people/permissions';
import type { Month as Figures, MonthRow } from '#core/shop/month';
import { usePerson } from '../app/context';
import { useNameOf } from '../app/useNameOf';
import { queries } from '../app/api';
import { FileLink } from '../app/ui';
import { hours, lastDays, PeriodChoice } from './Period';
import type { Ink } from '../order/power/Chart';
import { H3 } from '../order/Station';
import { promise } from '../order/words';

const Chart = lazy(() => import('../order/power/Chart'));
/** Kits that a chart shows. */
const MOST = 12;

/** What a period came to: promises, minutes and what came back; each figure opens the orders it is made of. */
export function Month() {
  const [[from, to], setPeriod] = useState(lastDays);
  const { data: m, error } = useQuery({ ...queries.month(from, to), enabled: Boolean(from && to) });
  const sheets = useQuery(queries.sheets).data;
  const kit = (id: string) => sheets?.kits.find((k) => k.ref.id === id)?.sheet.name ?? id;
  const model = (id: string) => sheets?.models.find((x) => x.ref.id === id)?.sheet.name ?? id;
  const person = useNameOf();
  const mayBill = may(usePerson().role, 'bill.made');
  return (
    <>
      <PeriodChoice period={[from, to]} onPeriod={setPeriod}>
        <FileLink href={`/api/month.csv?from=${from}&to=${to}`}>As CSV</FileLink>
        {mayBill && <FileLink href={`/api/bills.csv?from=${from}&to=${to}`}>Bills for the books</FileLink>}
      </PeriodChoice>
      {error && (
        <chakra.p role="alert" color="fails">
          {error.message}
        </chakra.p>
      )}
      {m && !m.finished.length && (
        <chakra.p>
          Nothing was handed over from {from} to {to}.
        </chakra.p>
      )}
      {m && m.finished.length > 0 && (
        <>
          <Orders
            m={m}
            says={`${m.finished.length} handed over, ${m.kept.length} of them by the promise (${Math.round((100 * m.kept.length) / m.finished.length)} %)`}
            ids={m.finished.map((f) => f.id)}
            big
          />
          {m.late.length > 0 && (
            <Orders
              m={m}
              says={`${m.late.length} late`}
              ids={m.late.map((l) => l.id)}
              beside={(id) => `${m.late.find((l) => l.id === id)!.hours.toFixed(1)} h late`}
            />
          )}
          {m.back.length > 0 && (
            <Orders
              m={m}
              says={`${m.back.length} came back within 90 days`}
              ids={m.back}
              beside={(id) => {
                const back = m.finished.find((f) => f.id === id)!.back!;
                return `as ${back.number}, ${promise(back.openedAt)}`;
              }}
            />
          )}
          <KitChart rows={m.byKit} name={kit} />
          <Rows title="By kit" m={m} rows={m.byKit} name={kit} />
          <Rows title="By model" m={m} rows={m.byModel} name={model} />
          <Rows title="By person" m={m} rows={m.byPerson} name={person} />
        </>
      )}
    </>
  );
}

/** A figure in words that opens to its orders. */
function Orders({
  m,
  says,
  ids,
  beside,
  big = false,
}: {
  m: Figures;
  says: string;
  ids: readonly string[];
  beside?: (id: string) => string;
  big?: boolean;
}) {
  const list = m.finished.filter((f) => ids.includes(f.id));
  return (
    <chakra.details mb="4px">
      <chakra.summary cursor="pointer" fontSize={big ? '20px' : '17px'} fontWeight={600} minH="36px">
        {says}
      </chakra.summary>
      <chakra.ul
        listStyleType="none"
        p={0}
        m="2px 0 8px 18px"
        display="grid"
        gridTemplateColumns="repeat(auto-fill, minmax(330px, 1fr))"
        gap="0 20px"
      >
        {list.map((f) => (
          <li key={f.id}>
            <Link to={`/orders/${f.id}/handover`}>
              <chakra.span display="block" py="3px" _hover={{ bg: 'raised' }}>
                <chakra.span fontFamily="mono">{f.number}</chakra.span> {f.unitName}, {f.owner}
                {beside && <chakra.span color="quiet"> {beside(f.id)}</chakra.span>}
              </chakra.span>
            </Link>
          </li>
        ))}
      </chakra.ul>
    </chakra.details>
  );
}

function Rows({ title, m, rows, name }: { title: string; m: Figures; rows: readonly MonthRow[]; name: (key: string) => string }) {
  if (!rows.length) return null;
  return (
    <chakra.section aria-label={title}>
      <H3>{title}</H3>
      <chakra.div
        display="grid"
        gridTemplateColumns="minmax(0, 1fr) 90px 100px 100px 110px"
        fontSize="14px"
        color="quiet"
        textAlign="right"
      >
        <span />
        <span>orders</span>
        <span>planned, h</span>
        <span>spent, h</span>
        <span>of planned</span>
      </chakra.div>
      {rows.map((r) => (
        <chakra.details key={r.key} borderTopWidth="1px" borderColor="rule">
          <chakra.summary
            cursor="pointer"
            listStyleType="none"
            display="grid"
            gridTemplateColumns="minmax(0, 1fr) 90px 100px 100px 110px"
            minH="36px"
            alignItems="center"
            textAlign="right"
          >
            <chakra.span textAlign="left">{name(r.key)}</chakra.span>
            <chakra.span fontFamily="mono">{r.orders.length}</chakra.span>
            <chakra.span fontFamily="mono">{hours(r.planned)}</chakra.span>
            <chakra.span fontFamily="mono">{hours(r.spent)}</chakra.span>
            <chakra.span fontFamily="mono">{r.planned ? `${Math.round((100 * r.spent) / r.planned)} %` : '–'}</chakra.span>
          </chakra.summary>
          <chakra.p m="0 0 8px 12px">
            {m.finished
              .filter((f) => r.orders.includes(f.id))
              .map((f) => (
                <Link key={f.id} to={`/orders/${f.id}/handover`}>
                  <chakra.span fontFamily="mono" mr="12px" textDecoration="underline">
                    {f.number}
                  </chakra.span>
                </Link>
              ))}
          </chakra.p>
        </chakra.details>
      ))}
    </chakra.section>
  );
}

/** Minutes an order of each kit, as planned and as spent. */
function KitChart({ rows, name }: { rows: readonly MonthRow[]; name: (key: string) => string }) {
  const shown = rows.slice(0, MOST);
  const each = (r: MonthRow, of: 'planned' | 'spent') => Math.round(r[of] / r.orders.length);
  const names = shown.map((r) => name(r.key));
  const key = JSON.stringify([names, shown.map((r) => [each(r, 'planned'), each(r, 'spent')])]);
  const option = useCallback(
    (ink: Ink) => {
      const [labels, figures] = JSON.parse(key) as [string[], [number, number][]];
      const bar = (label: string, i: 0 | 1, color: string) => ({
        name: label,
        type: 'bar',
        data: figures.map((f) => f[i]),
        itemStyle: { color },
        barMaxWidth: 14,
      });
      return {
        grid: { left: 8, right: 24, top: 30, bottom: 24, containLabel: true },
        legend: { top: 0, left: 0, textStyle: { color: ink.ink, fontSize: 14 } },
        xAxis: {
          type: 'value',
          name: 'min',
          nameTextStyle: { color: ink.quiet },
          axisLabel: { color: ink.quiet },
          splitLine: { lineStyle: { color: ink.rule } },
        },
        yAxis: { type: 'category', inverse: true, data: labels, axisLabel: { color: ink.ink, fontSize: 14 }, axisTick: { show: false } },
        series: [bar('planned', 0, ink.quiet), bar('spent', 1, ink.accent)],
      };
    },
    [key],
  );
  if (!shown.length) return null;
  return (
    <Suspense fallback={null}>
      <Chart
        title="Minutes of an order, planned and spent, by kit"
        label="Minutes of an order, planned and spent, by kit"
        height={60 + 44 * shown.length}
        option={option}
        file="month"
        table={{
          heads: ['Kit', 'Planned', 'Spent'],
          rows: shown.map((r) => [name(r.key), each(r, 'planned'), each(r, 'spent')]),
          num: [1, 2],
        }}
      />
    </Suspense>
  );
}
