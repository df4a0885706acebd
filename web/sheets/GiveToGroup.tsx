import { useMutation, useQuery } from '@tanstack/react-query';
import { chakra } from '@chakra-ui/react';
import { call, queries, type ApiError } from '../app/api';
import { SHOP_ID } from '../app/place';
import { ServerAct } from '../app/ui';

/** Gives a sheet to all shops of a group that one owns; nothing for who owns none that this shop is of. */
export function GiveToGroup({ kind, id }: { kind: string; id: string }) {
  const groups = useQuery(queries.groups).data ?? [];
  const first = useQuery(queries.shops).data?.find((s) => s.first)?.id;
  const mine = groups.filter((g) => g.shops.length > 1 && g.shops.includes(SHOP_ID ?? first ?? ''));
  const give = useMutation<{ shop: string; became: string }[], ApiError, string>({
    mutationFn: (group) => call(`/api/groups/${group}/sheets`, { json: { kind, id } }),
  });
  if (!mine.length) return null;
  return (
    <>
      {mine.map((g) => (
        <ServerAct key={g.id} look="quiet" minHeight="36px" disabled={give.isPending} onClick={() => give.mutate(g.id)}>
          Give it to all of {g.name}
        </ServerAct>
      ))}
      {give.data && <chakra.span role="status">{give.data.map((d) => `${d.shop}: ${d.became}`).join('; ')}</chakra.span>}
      {give.error && (
        <chakra.span role="alert" color="fails">
          {give.error.message}
        </chakra.span>
      )}
    </>
  );
}
