import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { format, isSameDay } from 'date-fns';
import { Download } from 'lucide-react';
import { useState } from 'react';
import { sayMessage } from '#core/messages/due';
import { named } from '#core/people/named';
import { sayHere } from '#core/quantity/say-here';
import { queries } from '../app/api';
import { Act, FileLink, ReasonDialog } from '../app/ui';
import { Photo } from '../app/Photo';
import type { EventBody } from '#core/events/registry';
import type { OwnerMessage } from '#model/message';
import type { Verdict } from '#model/common';
import { VerdictMark } from '../marks/VerdictMark';
import { H3 } from './Station';
import { useOrder } from './useOrder';

/** What arrives later than this after it was done says when it was received. */
const LATE_MS = 60_000;

const verdictOf = (b: EventBody): Verdict | null => (b.type === 'reading.taken' ? b.verdict : null);

/** A message to the owner as a line among what was recorded. */
const asLine = (m: OwnerMessage) => ({
  id: m.id,
  seq: 0,
  by: 'kadro',
  doneAt: m.sentAt ?? m.at,
  recordedAt: m.sentAt ?? m.at,
  says: sayMessage(m),
});

/** The order's history as it was recorded, the newest first. */
export function Log() {
  const { order, record } = useOrder();
  const { units, timeZone } = useOrder().settings;
  const [cancelling, setCancelling] = useState(false);
  const events = useQuery(queries.events(order.id)).data ?? [];
  // as it was done; what was recorded elsewhere meanwhile falls in between
  const messages = useQuery(queries.messages(order.id)).data ?? [];
  const list = [...events, ...messages.map(asLine)].sort((a, b) => b.doneAt.localeCompare(a.doneAt) || b.seq - a.seq);
  return (
    <>
      <chakra.div display="flex" alignItems="center" gap="16px">
        <chakra.div flex="1">
          <H3 mt="0">Log of order {order.number}</H3>
        </chakra.div>
        {order.status === 'open' && <Act onClick={() => setCancelling(true)}>Cancel the order</Act>}
        <FileLink href={`/api/orders/${order.id}/history.json`} download={`history-${order.number}.json`}>
          <Download size={18} aria-hidden /> JSON
        </FileLink>
      </chakra.div>
      {order.cancelled && (
        <chakra.p mb="8px" fontWeight={600} color="tightText">
          Cancelled by {order.cancelled.by}: {order.cancelled.reason}
        </chakra.p>
      )}
      <ReasonDialog
        open={cancelling}
        title={`Cancel order ${order.number}`}
        text="It leaves the floor. What was recorded stays, and it can be reopened."
        action="Cancel it"
        onClose={() => setCancelling(false)}
        onReason={(reason) => {
          setCancelling(false);
          record({ type: 'order.cancelled', reason });
        }}
      />
      <chakra.ol listStyleType="none" p={0}>
        {list.map((e, i) => {
          const at = new Date(e.doneAt);
          const received = new Date(e.recordedAt);
          const late = received.getTime() - at.getTime() > LATE_MS;
          const newDay = i === 0 || !isSameDay(at, new Date(list[i - 1]!.doneAt));
          return (
            <chakra.li key={'id' in e ? e.id : e.seq}>
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
                <span>{named(e.by)}</span>
                <chakra.div overflowWrap="anywhere">
                  {sayHere(e.says, { units, timeZone })}
                  {late && (
                    <chakra.span color="quiet" fontSize="14px" display="block">
                      received {format(received, isSameDay(at, received) ? 'HH:mm' : 'd MMM, HH:mm')}
                    </chakra.span>
                  )}
                  {'body' in e && 'photo' in e.body && e.body.photo && <Photo id={e.body.photo} />}
                </chakra.div>
                {'body' in e && verdictOf(e.body) ? <VerdictMark verdict={verdictOf(e.body)} size={18} /> : <span />}
              </chakra.div>
            </chakra.li>
          );
        })}
      </chakra.ol>
    </>
  );
}
