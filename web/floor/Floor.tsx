import { useUnits } from '../app/context';
import { chakra } from '@chakra-ui/react';
import { sayInUnits } from '#core/quantity/quantity';
import { useQuery } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { STATIONS, type Station } from '#model/order';
import { judgePromise } from '#core/learn/pace';
import type { ListedOrder } from '#core/order/summary';
import { queries } from '../app/api';
import { useKeys } from '../app/keys';
import { Act } from '../app/ui';
import { Silhouette } from '../drawing/UnitDrawing';
import { VerdictMark } from '../marks/VerdictMark';
import { promise, STATION_WORD } from '../order/words';

/** Units here now, by the station each stands at: who they are for, what they wait for, whether the promise holds. */
export function Floor() {
  const { data, error, isPending } = useQuery(queries.floor);
  const sheets = useQuery(queries.sheets).data;
  const settings = useQuery(queries.settings).data?.settings;
  const navigate = useNavigate();
  const [at, setAt] = useState(-1);
  const models = useMemo(() => new Map((sheets?.models ?? []).map((m) => [`${m.sheet.maker} ${m.sheet.name}`, m.sheet])), [sheets]);
  // in the order they are seen, so that j and k go down the page
  const list = STATIONS.flatMap((s) => (data?.orders ?? []).filter((o) => o.summary.station === s));
  useKeys({
    j: () => setAt(Math.min(list.length - 1, at + 1)),
    k: () => setAt(Math.max(0, at - 1)),
    Enter: () => list[at] && navigate(`/orders/${list[at].id}/${list[at].summary.station}`),
  });
  const by = (s: Station) => list.filter((o) => o.summary.station === s);
  const used = STATIONS.filter((s) => by(s).length);
  const late = list.filter((o) => Date.parse(o.promisedAt) < Date.now()).length;
  return (
    <chakra.main height="100%" overflowY="auto" p="20px">
      <chakra.div display="flex" alignItems="center" gap="16px" mb="16px">
        <chakra.div flex="1">
          <chakra.h1 fontSize="26px">{settings?.shop ?? 'Floor'}</chakra.h1>
          <chakra.p color="quiet">
            {list.length + (data?.more ?? 0)} {list.length === 1 ? 'unit' : 'units'} here
            {late ? `, ${late} past the promise` : ', every promise still ahead'}
          </chakra.p>
        </chakra.div>
        <Link to="/orders/new">
          <Act as="span" look="main">
            <Plus size={20} aria-hidden /> Take a unit in
          </Act>
        </Link>
      </chakra.div>
      {error && <chakra.p color="fails">{error.message}</chakra.p>}
      {isPending && <chakra.p color="quiet">Reading the floor …</chakra.p>}
      {data && data.more > 0 && (
        <chakra.p mb="12px" color="tightText">
          The {list.length} with the soonest promise are shown; {data.more} more are found under Orders.
        </chakra.p>
      )}
      {data && !list.length && <chakra.p>Nothing on the floor. Take a unit in.</chakra.p>}
      {used.map((s) => (
        <chakra.section key={s} display="grid" gridTemplateColumns="112px minmax(0, 1fr)" borderTopWidth="1px" borderColor="rule">
          <chakra.h2 fontSize="17px" pt="14px">
            {STATION_WORD[s]}
          </chakra.h2>
          <chakra.ul listStyleType="none" p={0} m={0}>
            {by(s).map((o) => (
              <Bay key={o.id} o={o} on={list[at]?.id === o.id} drawing={models.get(o.summary.unitName)} />
            ))}
          </chakra.ul>
        </chakra.section>
      ))}
    </chakra.main>
  );
}

function Bay({ o, on, drawing }: { o: ListedOrder; on: boolean; drawing?: Parameters<typeof Silhouette>[0]['model'] }) {
  const units = useUnits();
  const { summary: s } = o;
  const late = Date.parse(o.promisedAt) < Date.now();
  const left = o.left;
  const until = (Date.parse(o.promisedAt) - Date.now()) / 60_000;
  // what waits for a part is nobody's minutes: its promise hangs on the part
  const verdict = late ? null : s.waitsFor.startsWith('parts:') ? 'fails' : left?.minutes ? judgePromise(left, until) : null;
  return (
    <chakra.li borderTopWidth="1px" borderColor="rule" _first={{ borderTopWidth: 0 }} bg={on ? 'accentWash' : undefined}>
      <Link to={`/orders/${o.id}/${s.station}`}>
        <chakra.span
          display="grid"
          gridTemplateColumns="104px minmax(170px, 1.2fr) minmax(150px, 1.4fr) 132px 172px"
          gap="14px"
          alignItems="center"
          py="8px"
          px="8px"
          minH="72px"
          _hover={{ bg: 'raised' }}
        >
          {drawing ? <Silhouette model={drawing} width={104} height={56} /> : <span />}
          <chakra.span minW={0}>
            <chakra.b display="block">{s.unitName}</chakra.b>
            <chakra.span color="quiet">
              <chakra.span fontFamily="mono">{o.number}</chakra.span> {s.owner}
              {s.assignee ? ` · ${s.assignee}` : ''}
            </chakra.span>
          </chakra.span>
          <chakra.span minW={0} lineClamp={3} title={s.waitsFor}>
            {sayInUnits(s.waitsFor, units)}
          </chakra.span>
          <chakra.span display="flex" gap="3px" aria-label="Stations" role="img">
            {STATIONS.filter((x) => x !== 'plan' && x !== 'handover').map((x) => (
              <VerdictMark key={x} verdict={s.stations[x].verdict} size={18} />
            ))}
          </chakra.span>
          <chakra.span textAlign="right">
            <chakra.span display="block" fontWeight={late ? 700 : 600} color={late ? 'fails' : 'ink'}>
              {verdict && <VerdictMark verdict={verdict} size={16} />} {promise(o.promisedAt)}
              {late && ', late'}
            </chakra.span>
            <chakra.span color="quiet" fontSize="14px">
              {s.minutes.planned
                ? left && left.minutes >= 1 && s.station !== 'handover'
                  ? `${Math.round(left.low)} to ${Math.round(left.high)} min left`
                  : 'work done'
                : 'nothing planned'}
            </chakra.span>
          </chakra.span>
        </chakra.span>
      </Link>
    </chakra.li>
  );
}
