import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { UserRound } from 'lucide-react';
import { useState } from 'react';
import { queries, signIn, type ApiError } from './api';
import { useCame } from './came';
import { Act, Entry, FieldRow, Labelled, ServerAct } from './ui';

/** Who else is signed in at this bench, to go on as them by their short code. Nothing on a device of one's own. */
export function AtBench({ me, onCame }: { me: string | null; onCame?: () => void }) {
  const bench = useQuery({ ...queries.bench, retry: false }).data;
  const [who, setWho] = useState<string | null>(null);
  const others = (bench?.people ?? []).filter((p) => p.id !== me);
  if (!others.length) return null;
  const chosen = others.find((p) => p.id === who);
  return (
    <chakra.section aria-label="At this bench" my="12px">
      <chakra.p fontWeight={600} mb="8px">
        Also signed in at this bench
      </chakra.p>
      <chakra.div display="grid" gridTemplateColumns="repeat(auto-fill, minmax(130px, 1fr))" gap="8px">
        {others.map((p) => (
          <Act key={p.id} type="button" minHeight="48px" aria-pressed={p.id === who} disabled={!p.code} onClick={() => setWho(p.id)}>
            <UserRound size={18} aria-hidden /> {p.name}
          </Act>
        ))}
      </chakra.div>
      {others.some((p) => !p.code) && (
        <chakra.p color="quiet" fontSize="14px" mt="6px">
          {others
            .filter((p) => !p.code)
            .map((p) => p.name)
            .join(', ')}
          : by password, until they set a short code under Shop, My account.
        </chakra.p>
      )}
      {chosen && <Code key={chosen.id} id={chosen.id} name={chosen.name} onCame={onCame} />}
    </chakra.section>
  );
}

function Code({ id, name, onCame }: { id: string; name: string; onCame?: () => void }) {
  const [code, setCode] = useState('');
  const came = useCame();
  const client = useQueryClient();
  const go = useMutation<void, ApiError>({
    mutationFn: async () => {
      const person = await signIn('/api/bench/person', { name: id, code });
      if ('asks' in person) return;
      came(person);
      onCame?.();
    },
    // after a few wrong ones they are no longer signed in here
    onError: () => (setCode(''), client.invalidateQueries({ queryKey: queries.bench.queryKey })),
  });
  return (
    // not a form of its own: it may stand in one
    <FieldRow mt="10px" gridTemplateColumns="220px auto">
      <Labelled label={`Short code of ${name}`} id="bench-code" error={go.error?.message}>
        <Entry
          id="bench-code"
          type="password"
          inputMode="numeric"
          autoComplete="off"
          autoFocus
          fontFamily="mono"
          fontSize="20px"
          value={code}
          onChange={(e) => setCode(e.target.value)}
          onKeyDown={(e) => {
            if (e.key !== 'Enter') return;
            e.preventDefault();
            go.mutate();
          }}
        />
      </Labelled>
      <ServerAct type="button" look="main" minHeight="48px" disabled={go.isPending || !code} onClick={() => go.mutate()}>
        Go on as {name}
      </ServerAct>
    </FieldRow>
  );
}

/** Whether this device is a bench that people share; undefined before it is known. */
export const useShared = (): boolean | undefined => useQuery({ ...queries.bench, retry: false }).data?.shared;

/** On a device that is shared: lets the next one in, who leaves stays signed in. */
export function LeaveBench({ onLeave }: { onLeave: () => Promise<void> }) {
  const leave = useMutation<void, ApiError>({ mutationFn: onLeave });
  if (!useShared()) return null;
  return (
    <chakra.div my="12px">
      <ServerAct type="button" minHeight="48px" disabled={leave.isPending} onClick={() => leave.mutate()}>
        Let somebody else sign in
      </ServerAct>
      <chakra.p color="quiet" fontSize="14px">
        You stay signed in here, and come back by your short code or your password.
      </chakra.p>
      {leave.error && (
        <chakra.p role="alert" color="fails">
          {leave.error.message}
        </chakra.p>
      )}
    </chakra.div>
  );
}
