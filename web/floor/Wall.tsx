import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { sayInUnits } from '#core/quantity/quantity';
import { queries } from '../app/api';
import { useLive } from '../app/live';
import { SignIn } from '../app/SignIn';
import { Act } from '../app/ui';
import { VerdictMark } from '../marks/VerdictMark';
import { promise, sayDay } from '../order/words';
import { shortName } from './Hold';
import { useFloor } from './useFloor';
import { WeekPicture } from './WeekPicture';

/** Promises that have room on the wall. */
const SHOWN = 6;

/** The floor on a screen on the wall: read at three metres, touched by nobody. */
export function Wall() {
  const session = useQuery(queries.session);
  if (session.isPending) return null;
  return session.data ? <Inside /> : <SignIn />;
}

function Inside() {
  useLive();
  const { list, orders, models, settings, week } = useFloor();
  const [now, setNow] = useState(() => new Date());
  useEffect(() => {
    const t = setInterval(() => setNow(new Date()), 10_000);
    return () => clearInterval(t);
  }, []);
  return (
    <chakra.main
      data-part="page"
      data-at="/wall"
      height="100vh"
      overflow="hidden"
      p="20px 28px"
      bg="paper"
      display="flex"
      flexDirection="column"
    >
      <chakra.div display="flex" alignItems="baseline" gap="20px" mb="6px">
        <chakra.h1 fontSize="40px" flex="1">
          {settings?.shop}
        </chakra.h1>
        <chakra.span fontFamily="mono" fontSize="40px">
          {now.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}
        </chakra.span>
        <Link to="/floor">
          <Act as="span" look="quiet">
            Back to the floor
          </Act>
        </Link>
      </chakra.div>
      {!week && <chakra.p fontSize="24px">Planning the week …</chakra.p>}
      {week && <WeekPicture week={week} orders={orders} models={models} at={null} large />}
      <chakra.ul listStyleType="none" p={0} m="12px 0 0" fontSize="24px" display="grid" gridTemplateColumns="1fr 1fr" gap="4px 32px">
        {list.slice(0, SHOWN).map((o) => {
          const p = week?.promises.find((x) => x.order === o.id);
          const late = Date.parse(o.promisedAt) < now.getTime();
          const part = week?.parts.find((x) => x.order === o.id);
          return (
            <chakra.li key={o.id} display="flex" gap="12px" alignItems="center" whiteSpace="nowrap" overflow="hidden">
              {p ? <VerdictMark verdict={p.verdict} size={28} /> : <chakra.span width="28px" flex="none" />}
              <b>{shortName(o)}</b>
              <chakra.span color={late && p ? 'fails' : 'ink'} overflow="hidden" textOverflow="ellipsis">
                {p || !week
                  ? `${late ? 'late since ' : ''}${promise(o.promisedAt)}${part?.day ? `, waits for ${part.name}: ${sayDay(part.day)}` : ''}`
                  : sayInUnits(o.summary.waitsFor, settings?.units ?? 'imperial')}
              </chakra.span>
            </chakra.li>
          );
        })}
      </chakra.ul>
    </chakra.main>
  );
}
