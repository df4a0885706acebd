import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call, queries, type ApiError } from '../app/api';
import { Act, Choice, ServerAct } from '../app/ui';
import { promise } from '../order/words';
import { inShop } from '../app/place';

/** Secret addresses under which other calendars read the week: made here, told once, withdrawn here. */
export function Calendars() {
  const client = useQueryClient();
  const { data: list = [], error } = useQuery(queries.calendars);
  const week = useQuery(queries.week).data;
  const [whose, setWhose] = useState('shop');
  const after = () => client.invalidateQueries({ queryKey: ['calendars'] });
  const make = useMutation<{ id: string; path: string }, ApiError>({
    mutationFn: () => call('/api/calendars', { json: { whose } }),
    onSettled: after,
  });
  const withdraw = useMutation<unknown, ApiError, string>({
    mutationFn: (id) => call(`/api/calendars/${id}`, { method: 'DELETE' }),
    onSettled: after,
  });
  const named = (w: string) => {
    const [of, id] = w.split(':');
    if (of === 'shop') return 'the whole shop';
    return (of === 'bay' ? week?.bays : week?.people)?.find((x) => x.id === id)?.name ?? id!;
  };
  const trouble = error ?? make.error ?? withdraw.error;
  return (
    <>
      <chakra.p color="quiet">Whoever has an address sees that calendar, until it is withdrawn. It is told once.</chakra.p>
      {list.map((c) => (
        <chakra.div key={c.id} display="flex" gap="12px" alignItems="center" minH="40px">
          <chakra.b minW="160px">{named(c.whose)}</chakra.b>
          <chakra.span color="quiet">
            made {promise(c.at)} by {c.by}
          </chakra.span>
          <Act type="button" look="quiet" disabled={withdraw.isPending} onClick={() => withdraw.mutate(c.id)}>
            Withdraw
          </Act>
        </chakra.div>
      ))}
      <chakra.div display="flex" gap="10px" alignItems="center" mt="6px">
        <Choice width="240px" aria-label="Whose calendar" value={whose} onChange={(e) => setWhose(e.target.value)}>
          <option value="shop">the whole shop</option>
          {week?.bays.map((b) => (
            <option key={b.id} value={`bay:${b.id}`}>
              {b.name}
            </option>
          ))}
          {week?.people.map((p) => (
            <option key={p.id} value={`person:${p.id}`}>
              {p.name}
            </option>
          ))}
        </Choice>
        <ServerAct type="button" disabled={make.isPending} onClick={() => make.mutate()}>
          Make an address
        </ServerAct>
      </chakra.div>
      {make.data && (
        <chakra.p role="status" fontFamily="mono" fontSize="14px" overflowWrap="anywhere" mt="6px">
          {location.origin}
          {inShop(make.data.path)}
        </chakra.p>
      )}
      {trouble && (
        <chakra.p role="alert" color="fails">
          {trouble.message}
        </chakra.p>
      )}
    </>
  );
}
