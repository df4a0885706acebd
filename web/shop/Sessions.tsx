import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { format } from 'date-fns';
import type { OpenSession } from '#model/system';
import { call, queries } from '../app/api';
import { Act } from '../app/ui';
import { H3 } from '../order/Station';

const DEVICE: Record<OpenSession['device'], string> = {
  computer: 'A computer',
  tablet: 'A tablet',
  telephone: 'A telephone',
  unknown: 'A device',
};
const when = (iso: string): string => format(new Date(iso), 'd MMM HH:mm');
/** What was begun with an older version of Kadro has no times. */
const since = (s: OpenSession): string => (s.begunAt ? `since ${when(s.begunAt)}` : 'since before that was noted');

/** Where somebody is signed in, to be ended one by one: a tablet that was left somewhere, a machine of another shop. */
export function Sessions() {
  const client = useQueryClient();
  const all = useQuery(queries.sessions).data ?? [];
  const end = useMutation({
    mutationFn: (id: string) => call(`/api/session/all/${id}`, { method: 'DELETE' }),
    onSettled: () => client.invalidateQueries({ queryKey: ['sessions'] }),
  });
  const others = all.filter((s) => !s.here);
  return (
    <chakra.section aria-label="Where you are signed in" mt="18px" maxW="900px">
      <H3>Where you are signed in</H3>
      {all.map((s) => (
        <chakra.div
          key={s.id}
          display="grid"
          gridTemplateColumns="minmax(0, 1fr) 150px"
          gap="12px"
          alignItems="center"
          minH="52px"
          borderBottomWidth="1px"
          borderColor="rule"
        >
          <span>
            <b>
              {DEVICE[s.device]}
              {s.here && ', this one'}
            </b>
            {s.address && ` at ${s.address}`}, {since(s)}
            {s.seenAt && `, last seen ${when(s.seenAt)}`}
          </span>
          {s.here ? (
            <span />
          ) : (
            <Act onClick={() => end.mutate(s.id)} disabled={end.isPending} aria-label={`Sign out there: ${DEVICE[s.device]}, ${since(s)}`}>
              Sign out there
            </Act>
          )}
        </chakra.div>
      ))}
      {others.length > 1 && (
        <Act look="quiet" onClick={() => end.mutate('others')} disabled={end.isPending}>
          Sign out everywhere else
        </Act>
      )}
      {end.error && (
        <chakra.p role="alert" color="fails">
          {end.error.message}
        </chakra.p>
      )}
    </chakra.section>
  );
}
