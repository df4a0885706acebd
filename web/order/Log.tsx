import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { format, isSameDay } from 'date-fns';
import { queries } from '../app/api';
import type { EventBody } from '#model/event';
import type { Verdict } from '#model/common';
import { VerdictMark } from '../marks/VerdictMark';
import { H3 } from './Station';
import { useOrder } from './useOrder';

const verdictOf = (b: EventBody): Verdict | null => (b.type === 'reading.taken' ? b.verdict : null);

/** The order's history as it was recorded, the newest first. */
export function Log() {
  const { order } = useOrder();
  const events = useQuery(queries.events(order.id)).data ?? [];
  const list = [...events].reverse();
  return (
    <>
      <H3 mt="0">Log of order {order.number}</H3>
      <chakra.ol listStyleType="none" p={0}>
        {list.map((e, i) => {
          const at = new Date(e.at);
          const newDay = i === 0 || !isSameDay(at, new Date(list[i - 1]!.at));
          return (
            <chakra.li key={e.seq}>
              {newDay && (
                <chakra.p fontWeight={700} mt="12px" borderBottomWidth="1px" borderColor="ink">
                  {format(at, 'EEEE d MMMM yyyy')}
                </chakra.p>
              )}
              <chakra.div
                display="grid"
                gridTemplateColumns="64px 70px minmax(0, 1fr) 28px"
                gap="12px"
                py="5px"
                borderBottomWidth="1px"
                borderColor="rule"
              >
                <chakra.span fontFamily="mono" color="quiet">
                  {format(at, 'HH:mm')}
                </chakra.span>
                <span>{e.by}</span>
                <chakra.span overflowWrap="anywhere">{e.says}</chakra.span>
                {verdictOf(e.body) ? <VerdictMark verdict={verdictOf(e.body)} size={18} /> : <span />}
              </chakra.div>
            </chakra.li>
          );
        })}
      </chakra.ol>
    </>
  );
}
