import { chakra } from '@chakra-ui/react';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { call, queries, type ApiError } from '../app/api';
import { useShared } from '../app/AtBench';
import { ServerAct } from '../app/ui';
import { H3 } from '../order/Station';

/** Makes this device a bench that people share, or one of one’s own again. */
export function SharedDevice() {
  const client = useQueryClient();
  const shared = useShared();
  const set = useMutation<unknown, ApiError, boolean>({
    mutationFn: (on) => call('/api/bench', { method: on ? 'PUT' : 'DELETE', json: on ? {} : undefined }),
    onSuccess: () => client.invalidateQueries({ queryKey: queries.bench.queryKey }),
  });
  if (shared === undefined) return null;
  return (
    <chakra.section aria-label="This device" maxW="640px">
      <H3>This device</H3>
      <chakra.p color="quiet" mb="8px">
        {shared
          ? 'It is shared at the bench: who signs in here stays signed in while others work, and comes back by a short code. Once it is not shared any more, the others are signed out of it.'
          : 'It is yours alone. Shared at the bench, who signs in here stays signed in while others work, and comes back by a short code.'}
      </chakra.p>
      <ServerAct type="button" disabled={set.isPending} onClick={() => set.mutate(!shared)}>
        {shared ? 'Stop sharing this device' : 'Share this device at the bench'}
      </ServerAct>
      {set.error && (
        <chakra.p role="alert" color="fails">
          {set.error.message}
        </chakra.p>
      )}
    </chakra.section>
  );
}
