import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { OwnerMessage } from '#model/message';
import { call, queries, type ApiError } from '../../app/api';
import { Entry, ServerAct, Sheet } from '../../app/ui';
import { H3 } from '../Station';
import { useOrder } from '../useOrder';
import { promise } from '../words';

/** What the owner was told in messages, and what could not be sent. */
export function SentMessages() {
  const { order } = useOrder();
  const { data: list = [] } = useQuery(queries.messages(order.id));
  if (!list.length) return null;
  return (
    <>
      <H3>Messages</H3>
      {list.map((m) => (
        <Sheet key={m.id} mb="8px">
          <chakra.p color="quiet" fontSize="14px">
            {m.state === 'sent'
              ? `Sent ${promise(m.sentAt!)} to ${m.address}`
              : m.state === 'waiting'
                ? `On its way${m.says && `: ${m.says}`}`
                : ''}
            {m.state === 'held' && <chakra.b color="tightText">Not sent: {m.says}</chakra.b>}
          </chakra.p>
          <p>{m.text}</p>
          {m.state === 'held' && <Release m={m} />}
        </Sheet>
      ))}
    </>
  );
}

function Release({ m }: { m: OwnerMessage }) {
  const { order } = useOrder();
  const client = useQueryClient();
  const [address, setAddress] = useState(m.address || order.phone);
  const send = useMutation<unknown, ApiError>({
    mutationFn: () => call(`/api/orders/${order.id}/messages/${m.id}/release`, { json: { address } }),
    onSettled: () => client.invalidateQueries({ queryKey: ['messages', order.id] }),
  });
  return (
    <chakra.form
      display="flex"
      gap="10px"
      mt="6px"
      alignItems="center"
      onSubmit={(e) => {
        e.preventDefault();
        send.mutate();
      }}
    >
      <Entry aria-label="Telephone or mail" maxW="260px" maxLength={40} value={address} onChange={(e) => setAddress(e.target.value)} />
      <ServerAct type="submit" disabled={address.trim().length < 3 || send.isPending}>
        Send it
      </ServerAct>
      {send.error && (
        <chakra.span role="alert" color="fails">
          {send.error.message}
        </chakra.span>
      )}
    </chakra.form>
  );
}
