import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense } from 'react';
import { queries } from '../../app/api';
import { useNameOf } from '../../app/useNameOf';
import { H3 } from '../Station';
import { useOrder } from '../useOrder';

const WorkedChart = lazy(() => import('./WorkedChart'));

const LISTED = 5;

/** What kits of this order took on finished ones beside what was planned, and what explains those far off. */
export function Learned() {
  const { order, assessment, paces } = useOrder();
  const { data } = useQuery(queries.worked(order.id));
  const { kits, model } = assessment.sheets;
  const name = (id: string) => (id === '' ? 'Panels, power and proofs' : (kits.find((k) => k.id === id)?.name ?? id));
  const nameOf = useNameOf();
  const who = order.assignee ? nameOf(order.assignee) : 'anyone here';
  return (
    <>
      <H3>What this shop takes</H3>
      <chakra.table width="100%" fontSize="16px" maxW="860px">
        <thead>
          <chakra.tr color="quiet" fontSize="14px" textAlign="right">
            <th />
            <chakra.th fontWeight={400}>beside the sheet, for {who}</chakra.th>
            <chakra.th fontWeight={400}>eight of ten</chakra.th>
            <chakra.th fontWeight={400}>jobs seen</chakra.th>
          </chakra.tr>
        </thead>
        <tbody>
          {['', ...kits.map((k) => k.id)].map((id) => {
            const p = paces[id];
            return p ? (
              <chakra.tr key={id} borderTopWidth="1px" borderColor="rule" textAlign="right" fontFamily="mono">
                <chakra.th textAlign="left" fontWeight={400} fontFamily="body" py="6px">
                  {name(id)}
                </chakra.th>
                <td>{`× ${p.factor.toFixed(2)}`}</td>
                <td>{`${p.low.toFixed(2)} to ${p.high.toFixed(2)}`}</td>
                <td>{p.own && p.own !== p.jobs ? `${p.jobs}, ${p.own} by ${who}` : p.jobs}</td>
              </chakra.tr>
            ) : null;
          })}
        </tbody>
      </chakra.table>
      {data && data.jobs.length > 0 && (
        <>
          <chakra.p mt="8px" color="quiet" fontSize="15px">
            Each doubling of jobs takes {Math.round(data.slope * 100)} % of the time before. Where few were seen, the shop’s own mean is
            believed; the next {model.name} teaches more.
          </chakra.p>
          <Suspense fallback={<chakra.div height="300px" />}>
            <WorkedChart jobs={data.jobs} outliers={data.outliers} name={name} />
          </Suspense>
          <chakra.ul listStyleType="none" p={0} mt="8px" maxW="860px" aria-label="Jobs far off">
            {data.outliers.slice(0, LISTED).map((o) => (
              <chakra.li
                key={`${o.worked.order}/${o.worked.kit}`}
                display="grid"
                gridTemplateColumns="64px minmax(0, 1fr) 190px minmax(0, 1fr)"
                gap="12px"
                py="5px"
                borderTopWidth="1px"
                borderColor="rule"
              >
                <chakra.span fontFamily="mono">{o.worked.order}</chakra.span>
                <span>
                  {name(o.worked.kit)}, {o.worked.by}
                </span>
                <chakra.span fontFamily="mono">
                  {Math.round(o.worked.spent)} of {Math.round(o.worked.planned)} min
                </chakra.span>
                <chakra.span color="quiet">{o.why}</chakra.span>
              </chakra.li>
            ))}
          </chakra.ul>
        </>
      )}
    </>
  );
}
