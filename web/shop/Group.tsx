import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { groupSays, totalOf } from '#core/shop/month';
import { queries } from '../app/api';
import { shopAddress } from '../app/place';
import { FileLink } from '../app/ui';
import { ShareBar } from '../marks/ShareBar';
import { VerdictMark } from '../marks/VerdictMark';
import { H3 } from '../order/Station';
import { hours, lastDays, PeriodChoice } from './Period';

const Cell = chakra('td', { base: { textAlign: 'right', fontFamily: 'mono', py: '8px', px: '8px', whiteSpace: 'nowrap' } });
const Head = chakra('th', { base: { textAlign: 'right', fontWeight: 600, color: 'quiet', px: '8px', verticalAlign: 'bottom' } });

/** Time spent for one hour planned; none was planned where nothing was done. */
const pace = (spent: number, planned: number) => (planned ? (spent / planned).toFixed(2) : '–');

/** Figures over all shops of the groups that one owns; each shop opens its own month. */
export function Group() {
  const [[from, to], setPeriod] = useState(lastDays);
  const groups = useQuery(queries.groups).data;
  return (
    <>
      {groups?.map((g, i) => (
        <chakra.section key={g.id} aria-label={g.name} mb="20px">
          {i === 0 && (
            <PeriodChoice period={[from, to]} onPeriod={setPeriod}>
              {groups.map((x) => (
                <FileLink key={x.id} href={`/api/groups/${x.id}/figures.csv?from=${from}&to=${to}`}>
                  {groups.length > 1 ? `${x.name} as CSV` : 'As CSV'}
                </FileLink>
              ))}
            </PeriodChoice>
          )}
          <Figures group={g.id} from={from} to={to} />
        </chakra.section>
      ))}
    </>
  );
}

function Figures({ group, from, to }: { group: string; from: string; to: string }) {
  const { data, error } = useQuery({ ...queries.group(group, from, to), enabled: Boolean(from && to) });
  if (error)
    return (
      <chakra.p role="alert" color="fails">
        {error.message}
      </chakra.p>
    );
  if (!data) return null;
  const says = groupSays(data.rows);
  return (
    <>
      <H3>{data.name}</H3>
      <chakra.p display="flex" alignItems="center" gap="12px" mb="10px" fontSize="20px" fontWeight={600}>
        <VerdictMark verdict={says.verdict} size={30} /> {says.says}
      </chakra.p>
      <chakra.div overflowX="auto">
        <chakra.table width="100%" style={{ borderCollapse: 'collapse' }}>
          <thead>
            <tr>
              <Head textAlign="left!" px="0!" width="30%">
                Shop
              </Head>
              <Head>units here</Head>
              <Head>past their promise</Head>
              <Head>handed over</Head>
              <Head>by the promise</Head>
              <Head>came back</Head>
              <Head>hours spent</Head>
              <Head>for one hour planned</Head>
            </tr>
          </thead>
          <tbody>
            {data.rows.map((r) => (
              <chakra.tr key={r.id} borderTopWidth="1px" borderColor="rule">
                <td>
                  <chakra.div display="flex" alignItems="center" gap="10px">
                    <VerdictMark verdict={groupSays([r]).verdict} size={22} />
                    <chakra.a
                      href={`${shopAddress(r.id, r.first)}shop/month`}
                      display="flex"
                      alignItems="center"
                      minHeight="44px"
                      textDecoration="underline"
                    >
                      {r.name}
                    </chakra.a>
                  </chakra.div>
                </td>
                <Row of={r} />
              </chakra.tr>
            ))}
            <chakra.tr borderTopWidth="2px" borderColor="ink" fontWeight={700}>
              <td>All {data.rows.length}</td>
              <Row of={totalOf(data.rows)} />
            </chakra.tr>
          </tbody>
        </chakra.table>
      </chakra.div>
    </>
  );
}

function Row({ of: r }: { of: ReturnType<typeof totalOf> }) {
  return (
    <>
      <Cell>{r.here}</Cell>
      <Cell color={r.late ? 'fails' : undefined}>{r.late}</Cell>
      <Cell>{r.finished}</Cell>
      <Cell>{r.finished ? <ShareBar share={r.kept / r.finished} width="72px" /> : '–'}</Cell>
      <Cell>{r.back}</Cell>
      <Cell>{hours(r.spent)}</Cell>
      <Cell>{pace(r.spent, r.planned)}</Cell>
    </>
  );
}
