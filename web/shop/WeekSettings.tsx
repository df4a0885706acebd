import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { queries } from '../app/api';
import { H3 } from '../order/Station';
import { Calendars } from './Calendars';
import { HolidaysIn, Off } from './DaysOff';
import { HoursOf } from './HoursOf';
import { Bays, Rota } from './Roster';
import { useSetting } from './useSetting';

/** Said of a list that is kept whole: that it is kept, or why not. */
const Kept = ({ saved, error }: { saved: boolean; error: string | null }) =>
  error ? (
    <chakra.p role="alert" color="fails">
      {error}
    </chakra.p>
  ) : saved ? (
    <chakra.p role="status" color="holds">
      Saved
    </chakra.p>
  ) : null;

/** The shop’s week: hours, days closed, bays, and who works on what when. Each list is kept as soon as it is changed. */
export function WeekSettings({ locked }: { locked: boolean }) {
  const hours = useSetting('hours');
  const closed = useSetting('closed');
  const bays = useSetting('bays');
  const roster = useSetting('roster');
  const people = (useQuery(queries.people).data ?? []).filter((p) => !p.ended);
  if (!hours.value || !closed.value || !bays.value || !roster.value) return null;
  return (
    <>
      <Effect />
      <H3>Open</H3>
      <HoursOf name="shop" value={hours.value} onChange={hours.save} locked={locked} />
      <Kept saved={hours.saved} error={hours.error} />
      <H3>Closed besides</H3>
      <Off name="the shop" act="Closed" value={closed.value} onChange={closed.save} locked={locked} />
      {!locked && <HolidaysIn value={closed.value} onChange={closed.save} />}
      <Kept saved={closed.saved} error={closed.error} />
      <H3>Bays</H3>
      <Bays value={bays.value} onChange={bays.save} locked={locked} />
      <Kept saved={bays.saved} error={bays.error} />
      <H3>Who works on what</H3>
      {people.map((p) => (
        <Rota key={p.id} person={p} roster={roster.value!} onChange={roster.save} locked={locked} />
      ))}
      <Kept saved={roster.saved} error={roster.error} />
      {!locked && (
        <>
          <H3>Calendars</H3>
          <Calendars />
        </>
      )}
    </>
  );
}

/** What the week comes to as it stands: each change is seen here. */
function Effect() {
  const { data: week, isFetching, error } = useQuery(queries.week);
  const floor = useQuery(queries.floor).data;
  if (error) return <chakra.p color="fails">{error.message}</chakra.p>;
  if (!week) return null;
  const held = week.promises.filter((p) => p.verdict === 'holds').length;
  const number = (id: string) => floor?.orders.find((o) => o.id === id)?.number ?? '';
  return (
    <chakra.section aria-label="What follows" bg="accentWash" borderRadius="kadro" p="10px 14px" my="8px" opacity={isFetching ? 0.6 : 1}>
      <b>
        {held} of {week.promises.length} promises hold
      </b>
      {week.lateMin >= 1 && `, ${Math.round(week.lateMin / 6) / 10} h of lateness together`}
      {week.less < 0.001 ? '; no week costs less. ' : `; another could cost ${Math.ceil(100 * week.less)} % less at most. `}
      {week.unplanned.map((u) => `${number(u.order)} has no place: ${u.why}. `)}
      <Link to="/floor">
        <chakra.span textDecoration="underline">See it on the Floor</chakra.span>
      </Link>
    </chakra.section>
  );
}
