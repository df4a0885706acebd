import { mayBeside } from '#core/people/beside';
import { withPin } from '#core/shop/pins';
import { usePerson, useUnits } from '../app/context';
import { chakra } from '@chakra-ui/react';
import { sayInUnits } from '#core/quantity/quantity';
import { Plus } from 'lucide-react';
import { format } from 'date-fns';
import { lazy, Suspense, useState, type CSSProperties } from 'react';
import { Link, useNavigate } from 'react-router';
import { STATIONS } from '#model/order';
import { judgePromise } from '#core/learn/pace';
import type { ListedOrder } from '#core/order/summary';
import type { Week, WeekPromise } from '#core/shop/week';
import { useKeys } from '../app/keys';
import { useNameOf } from '../app/useNameOf';
import { colourOf, fontOf } from '../app/theme';
import { Act } from '../app/ui';
import { useAfterPaint } from '../app/useAfterPaint';
import { Silhouette } from '../drawing/UnitDrawing';
import { VerdictMark } from '../marks/VerdictMark';
import { promise, sayDay, STATION_WORD } from '../order/words';
import { useSetting } from '../shop/useSetting';
import { ChanceBar } from './ChanceBar';
import { useFloor } from './useFloor';

// what needs the week planned is loaded while that is done
const WeekPicture = lazy(async () => ({ default: (await import('./WeekPicture')).WeekPicture }));
const Placed = lazy(async () => ({ default: (await import('./Placed')).Placed }));

/** Promises that are in the window beneath bays and people, about. */
function rowsInView({ bays, people }: Pick<Week, 'bays' | 'people'>): number {
  const [row, above, bay, person] = [72, 160, 54, 32];
  return Math.max(2, Math.ceil((window.innerHeight - above - bay * bays.length - person * people.length) / row));
}

/** Units here now: where they stand and will stand, who works on what, and whether the promises hold. */
export function Floor() {
  const {
    floor: { data, error, isPending },
    list,
    orders,
    models,
    settings,
    week,
    planning,
    noWeek,
  } = useFloor();
  const navigate = useNavigate();
  const [at, setAt] = useState(-1);
  const [picked, setPicked] = useState<string | null>(null);
  useKeys({
    j: () => setAt(Math.min(list.length - 1, at + 1)),
    k: () => setAt(Math.max(0, at - 1)),
    Enter: () => list[at] && navigate(`/orders/${list[at].id}/${list[at].summary.station}`),
  });
  const late = list.filter((o) => Date.parse(o.promisedAt) < Date.now()).length;
  const slipping =
    week?.promises.filter((p) => p.verdict !== 'holds' && Date.parse(orders.get(p.order)?.promisedAt ?? '') > Date.now()).length ?? 0;
  const pins = useSetting('pins');
  const lead = mayBeside(usePerson().role, 'settings.change');
  const nameOf = useNameOf();
  const inView = rowsInView(week ?? { bays: [], people: [] });
  const rows = useAfterPaint() ? list : list.slice(0, inView);
  const chosen = picked ? orders.get(picked) : undefined;
  const limit = settings?.promiseChance ?? 0.8;
  return (
    <chakra.main height="100%" overflowY="auto" p="20px">
      <chakra.div display="flex" alignItems="center" gap="12px" mb="10px">
        <chakra.div flex="1">
          <chakra.h1 fontSize="26px">{settings?.shop ?? 'Floor'}</chakra.h1>
          <chakra.p color="quiet">
            {list.length + (data?.more ?? 0)} {list.length === 1 ? 'unit' : 'units'} here
            {late ? `, ${late} past the promise` : ', every promise still ahead'}
            {slipping > 0 && `, ${slipping} that may not hold`}
            {week && planning && `; as planned at ${format(week.now, 'HH:mm')}, planned anew now …`}
          </chakra.p>
        </chakra.div>
        <Link to="/wall">
          <Act as="span" look="quiet">
            For the wall
          </Act>
        </Link>
        <Link to="/orders/when">
          <Act as="span">When could I have it?</Act>
        </Link>
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
      {week && list.length > 0 && (
        <Suspense fallback={null}>
          <WeekPicture
            week={week}
            orders={orders}
            models={models}
            at={picked}
            onPick={(id) => setPicked(id === picked ? null : id)}
            onMove={lead && pins.value ? (order, bay) => pins.save(withPin(pins.value!, order, { bay })) : undefined}
          />
          {pins.error && (
            <chakra.p role="alert" color="fails">
              {pins.error}
            </chakra.p>
          )}
          {chosen && <Placed key={chosen.id} o={chosen} week={week} orders={orders} limit={limit} />}
        </Suspense>
      )}
      {!week && planning && list.length > 0 && <chakra.p color="quiet">Planning the week …</chakra.p>}
      {!week && noWeek && <chakra.p color="quiet">The week is not planned now: {noWeek.message}</chakra.p>}
      {list.length > 0 && (
        <chakra.section mt="16px">
          <chakra.h2 fontSize="17px" mb="2px">
            Promises
          </chakra.h2>
          <chakra.ul listStyleType="none" p={0} m={0}>
            {rows.map((o, i) => (
              <Row
                key={o.id}
                o={o}
                installer={o.summary.assignee && nameOf(o.summary.assignee)}
                below={i >= inView}
                on={list[at]?.id === o.id}
                drawing={models.get(o.summary.unitName)}
                promised={week?.promises.find((p) => p.order === o.id)}
                unplanned={week?.unplanned.find((p) => p.order === o.id)?.why}
                part={week?.parts.find((p) => p.order === o.id)}
                limit={limit}
              />
            ))}
          </chakra.ul>
        </chakra.section>
      )}
    </chakra.main>
  );
}

// without a style sheet each: there are as many rows as units
const CELL: CSSProperties = { minWidth: 0 };
const LINE: CSSProperties = { display: 'block' };
const QUIET: CSSProperties = { color: colourOf('quiet') };
const MONO: CSSProperties = { fontFamily: fontOf('mono') };
const MARKS: CSSProperties = { display: 'flex', gap: 3 };
const RIGHT: CSSProperties = { textAlign: 'right' };
const BELOW: CSSProperties = { contentVisibility: 'auto', containIntrinsicSize: 'auto 72px' };

function Row({
  o,
  installer,
  below,
  on,
  drawing,
  promised,
  unplanned,
  part,
  limit,
}: {
  o: ListedOrder;
  /** on whose bench it is */
  installer: string | null;
  /** it is laid out once it is scrolled to */
  below: boolean;
  on: boolean;
  drawing?: Parameters<typeof Silhouette>[0]['model'];
  promised?: WeekPromise;
  unplanned?: string;
  part?: Week['parts'][number];
  limit: number;
}) {
  const units = useUnits();
  const { summary: s } = o;
  const waits = unplanned ?? (part?.day ? `waits for ${part.name}, here ${sayDay(part.day)}` : s.waitsFor);
  const late = Date.parse(o.promisedAt) < Date.now();
  const left = o.left;
  const until = (Date.parse(o.promisedAt) - Date.now()) / 60_000;
  // without a week that was planned, by the minutes alone; what waits for a part is nobody's minutes: its promise hangs on the part
  const verdict = promised ? null : late ? null : s.part ? 'fails' : left?.minutes ? judgePromise(left, until) : null;
  return (
    <chakra.li
      borderTopWidth="1px"
      borderColor="rule"
      _first={{ borderTopWidth: 0 }}
      bg={on ? 'accentWash' : undefined}
      style={below ? BELOW : undefined}
    >
      <Link to={`/orders/${o.id}/${s.station}`}>
        <chakra.span
          display="grid"
          gridTemplateColumns="104px minmax(170px, 1.1fr) minmax(150px, 1.5fr) 132px 190px"
          gap="14px"
          alignItems="center"
          py="8px"
          px="8px"
          minH="72px"
          _hover={{ bg: 'raised' }}
        >
          {drawing ? <Silhouette model={drawing} width={104} height={56} /> : <span />}
          <span style={CELL}>
            <b style={LINE}>{s.unitName}</b>
            <span style={QUIET}>
              <span style={MONO}>{o.number}</span> {s.owner}
              {installer ? ` · ${installer}` : ''}
            </span>
          </span>
          <chakra.span minW={0} lineClamp={3} title={waits}>
            <b>{STATION_WORD[s.station]}:</b> {sayInUnits(waits, units)}
          </chakra.span>
          <span style={MARKS} aria-label="Stations" role="img">
            {STATIONS.filter((x) => x !== 'plan' && x !== 'handover').map((x) => (
              <VerdictMark key={x} verdict={s.stations[x].verdict} size={18} />
            ))}
          </span>
          <span style={RIGHT}>
            <span style={{ ...LINE, fontWeight: late ? 700 : 600, color: colourOf(late ? 'fails' : 'ink') }}>
              {verdict && <VerdictMark verdict={verdict} size={16} />} {promise(o.promisedAt)}
              {late && ', late'}
            </span>
            {promised && !late && <ChanceBar p={promised} limit={limit} />}
            <span style={{ ...LINE, ...QUIET, fontSize: 14 }}>
              {promised && late && promised.likely !== null && `likely ${promise(new Date(promised.likely).toISOString())}, `}
              {s.minutes.planned
                ? left && left.minutes >= 1 && s.station !== 'handover'
                  ? `${Math.round(left.low)} to ${Math.round(left.high)} min left`
                  : 'work done'
                : 'nothing planned'}
            </span>
          </span>
        </chakra.span>
      </Link>
    </chakra.li>
  );
}
