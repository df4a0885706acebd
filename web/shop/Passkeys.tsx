import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { format } from 'date-fns';
import { useForm } from 'react-hook-form';
import { call, queries } from '../app/api';
import { makePasskey, passkeysWork, wasPutAway } from '../app/passkey';
import { putBeside } from '../app/wrong-fields';
import { Act, Entry, FieldRow, Labelled, ServerAct } from '../app/ui';
import { H3 } from '../order/Station';

const when = (iso: string): string => format(new Date(iso), 'd MMM yyyy');

/** Devices that open one’s account by a finger, a face or a PIN. */
export function Passkeys() {
  const client = useQueryClient();
  const all = useQuery(queries.passkeys).data;
  const after = () => client.invalidateQueries({ queryKey: queries.passkeys.queryKey });
  const end = useMutation({ mutationFn: (id: string) => call(`/api/session/passkeys/${id}`, { method: 'DELETE' }), onSettled: after });
  if (!all) return null;
  return (
    <chakra.section aria-label="Passkeys" maxW="640px">
      <H3>Passkeys</H3>
      <chakra.p color="quiet" mb="8px">
        A passkey opens your account by the finger, face or PIN of a device, without a password or digits.
      </chakra.p>
      {all.length > 0 && (
        <chakra.ul listStyleType="none" p={0} m="0 0 10px">
          {all.map((p) => (
            <chakra.li key={p.id} display="flex" alignItems="center" gap="14px" borderBottomWidth="1px" borderColor="rule" minHeight="48px">
              <chakra.span flex="1" minW={0} overflowWrap="anywhere">
                <b>{p.name}</b> at {p.host}, made {when(p.at)}, {p.usedAt ? `last used ${when(p.usedAt)}` : 'not used yet'}
              </chakra.span>
              <Act look="quiet" disabled={end.isPending} onClick={() => end.mutate(p.id)} aria-label={`Take it away: ${p.name}`}>
                Take it away
              </Act>
            </chakra.li>
          ))}
        </chakra.ul>
      )}
      {passkeysWork() ? (
        <Make after={after} />
      ) : (
        <p>Passkeys are made where Kadro has an address with a name and https (or at localhost), in a browser that has them.</p>
      )}
    </chakra.section>
  );
}

function Make({ after }: { after: () => unknown }) {
  const { register, handleSubmit, formState, reset, setError } = useForm({ defaultValues: { password: '', name: '' } });
  const e = formState.errors;
  const make = useMutation<void, Error, { password: string; name: string }>({
    mutationFn: (v) => makePasskey(v.password, v.name.trim()),
    onSuccess: () => (reset(), after()),
    onError: (x) => {
      if (wasPutAway(x)) return setError('root', { message: 'The device was not asked to the end: no passkey was made.' });
      if (x.name === 'InvalidStateError') return setError('root', { message: 'This device has a passkey of yours already.' });
      if (!putBeside(x, ['password', 'name'], setError)) setError('root', { message: x.message });
    },
  });
  return (
    <chakra.form onSubmit={handleSubmit((v) => make.mutate(v))} noValidate>
      <FieldRow gridTemplateColumns="1fr 1fr auto">
        <Labelled label="My password" id="passkey-password" error={e.password?.message}>
          <Entry id="passkey-password" type="password" autoComplete="current-password" {...register('password')} />
        </Labelled>
        <Labelled label="What you call this device" id="passkey-name" error={e.name?.message}>
          <Entry
            id="passkey-name"
            {...register('name', { required: 'give it a name', maxLength: { value: 40, message: 'at most 40 letters' } })}
          />
        </Labelled>
        <ServerAct type="submit" disabled={make.isPending}>
          Make a passkey
        </ServerAct>
      </FieldRow>
      {e.root && (
        <chakra.p role="alert" color="fails" mt="6px">
          {e.root.message}
        </chakra.p>
      )}
    </chakra.form>
  );
}
