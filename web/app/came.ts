import { useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import type { Person } from '#model/person';
import { useOutbox } from './context';

/** What follows once somebody has signed in here: nothing that the last person saw is shown to the next, and what the new one recorded is sent. */
export function useCame(): (person: Person) => void {
  const client = useQueryClient();
  const outbox = useOutbox();
  return useCallback(
    (person) => {
      client.removeQueries({ predicate: (q) => q.queryKey[0] !== 'session' });
      client.setQueryData(['session'], person);
      outbox.signedIn(person.id);
    },
    [client, outbox],
  );
}
