import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { may } from '#core/people/permissions';
import { call } from '../app/api';
import { usePerson } from '../app/context';
import { ServerAct } from '../app/ui';
import { GiveToGroup } from './GiveToGroup';

interface Use {
  order: string;
  number: number;
  unitName: string;
  revision: number;
}

/** Which open orders have a sheet, at which revision; and whether it is offered for new work. */
export function Standing({ kind, id, revision, retired }: { kind: 'model' | 'kit'; id: string; revision: number; retired: boolean }) {
  const client = useQueryClient();
  const person = usePerson();
  const uses = useQuery({
    queryKey: ['uses', kind, id],
    queryFn: () => call<Use[]>(`/api/sheets/${kind}/${id}/uses`),
    staleTime: 10_000,
  }).data;
  const set = useMutation({
    mutationFn: (to: boolean) => call(`/api/sheets/${kind}/${id}/retired`, { method: 'PUT', json: { retired: to } }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['sheets'] }),
  });
  return (
    <chakra.section
      aria-label="Where it stands"
      display="flex"
      flexWrap="wrap"
      alignItems="center"
      gap="6px 12px"
      mb="10px"
      fontSize="15px"
      color="quiet"
    >
      <span>
        {retired && <chakra.b color="tightText">Not offered any more. </chakra.b>}
        {!uses
          ? ''
          : !uses.length
            ? 'No open order has it.'
            : `On ${uses.length === 1 ? 'one open order' : `${uses.length} open orders`}: `}
        {uses?.map((u, i) => (
          <span key={u.order}>
            {i ? ', ' : ''}
            <Link to={`/orders/${u.order}/arrive`}>
              <chakra.span textDecoration="underline">{u.number}</chakra.span>
            </Link>
            {u.revision !== revision ? ` at revision ${u.revision}` : ''}
          </span>
        ))}
      </span>
      {may(person.role, 'sheets.import') && <GiveToGroup kind={kind} id={id} />}
      {may(person.role, 'sheets.import') && (
        <ServerAct look="quiet" minHeight="36px" disabled={set.isPending} onClick={() => set.mutate(!retired)}>
          {retired ? 'Offer it again' : 'Offer it no more'}
        </ServerAct>
      )}
    </chakra.section>
  );
}
