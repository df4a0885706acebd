import { chakra, QrCode } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useForm, type UseFormSetError } from 'react-hook-form';
import { call, queries, type ApiError } from '../app/api';
import { putBeside } from '../app/wrong-fields';
import { Act, Entry, FieldRow, Labelled, ServerAct } from '../app/ui';
import { H3 } from '../order/Station';

/** What one’s own account asks for beside the password: nothing, or the digits of an authenticator. */
export function SecondFactor() {
  const client = useQueryClient();
  const on = useQuery(queries.secondFactor).data?.on;
  const [spare, setSpare] = useState<string[] | null>(null);
  const after = () => client.invalidateQueries({ queryKey: ['second-factor'] });
  if (on === undefined) return null;
  return (
    <chakra.section aria-label="Second factor" maxW="640px">
      <H3>Second factor</H3>
      {spare && <Spare codes={spare} onDone={() => setSpare(null)} />}
      {on ? <End after={after} /> : <Begin after={(codes) => (setSpare(codes), after())} />}
    </chakra.section>
  );
}

/** Told once: what opens the account when the telephone is gone. */
function Spare({ codes, onDone }: { codes: readonly string[]; onDone: () => void }) {
  return (
    <chakra.div role="status" borderWidth="2px" borderColor="accent" borderRadius="kadro" p="14px" mb="12px">
      <chakra.p mb="8px">
        It is on. Write these down and keep them apart from your telephone: each opens your account once, instead of the digits. They are
        not told again.
      </chakra.p>
      <chakra.ul listStyleType="none" p={0} m={0} display="grid" gridTemplateColumns="repeat(4, auto)" gap="4px 18px" fontFamily="mono">
        {codes.map((c) => (
          <li key={c}>
            {c.slice(0, 5)} {c.slice(5)}
          </li>
        ))}
      </chakra.ul>
      <Act mt="10px" onClick={onDone}>
        I have them
      </Act>
    </chakra.div>
  );
}

interface Asked {
  password: string;
  second: string;
}

const told =
  (setError: UseFormSetError<Asked>, or: keyof Asked) =>
  (x: ApiError): void => {
    if (!putBeside(x, ['password', 'second'], setError)) setError(or, { message: x.message });
  };

function Begin({ after }: { after: (spare: string[]) => void }) {
  const { register, handleSubmit, formState, reset, setError } = useForm<Asked>({ defaultValues: { password: '', second: '' } });
  const e = formState.errors;
  const begin = useMutation<{ secret: string; uri: string }, ApiError, string>({
    mutationFn: (password) => call('/api/session/second', { json: { password } }),
    onError: told(setError, 'password'),
  });
  const end = useMutation<{ spare: string[] }, ApiError, string>({
    mutationFn: (second) => call('/api/session/second', { method: 'PUT', json: { second } }),
    onSuccess: ({ spare }) => (reset(), begin.reset(), after(spare)),
    onError: told(setError, 'second'),
  });
  const made = begin.data;
  if (!made)
    return (
      <chakra.form onSubmit={handleSubmit((v) => begin.mutate(v.password))} noValidate>
        <chakra.p color="quiet" mb="8px">
          With it a sign-in asks for six digits that an authenticator on your telephone shows, beside the password.
        </chakra.p>
        <FieldRow gridTemplateColumns="220px auto">
          <Labelled label="My password" id="second-password" error={e.password?.message}>
            <Entry id="second-password" type="password" autoComplete="current-password" {...register('password')} />
          </Labelled>
          <ServerAct type="submit" disabled={begin.isPending}>
            Begin
          </ServerAct>
        </FieldRow>
      </chakra.form>
    );
  return (
    <chakra.form onSubmit={handleSubmit((v) => end.mutate(v.second))} noValidate display="flex" gap="20px" alignItems="center">
      <QrCode.Root value={made.uri} encoding={{ ecc: 'M' }} flex="none">
        <QrCode.Frame bg="white" p="8px" borderRadius="kadro" width="180px" height="180px">
          <QrCode.Pattern fill="black" />
        </QrCode.Frame>
      </QrCode.Root>
      <div>
        <chakra.p mb="6px">Read this with an authenticator, or type the key into it:</chakra.p>
        <chakra.p fontFamily="mono" overflowWrap="anywhere" mb="10px">
          {made.secret.match(/.{1,4}/g)!.join(' ')}
        </chakra.p>
        <FieldRow gridTemplateColumns="220px auto">
          <Labelled label="Digits that it shows" id="second-digits" error={e.second?.message}>
            <Entry id="second-digits" fontFamily="mono" autoComplete="one-time-code" autoFocus {...register('second')} />
          </Labelled>
          <ServerAct type="submit" disabled={end.isPending}>
            Turn it on
          </ServerAct>
        </FieldRow>
      </div>
    </chakra.form>
  );
}

function End({ after }: { after: () => void }) {
  const { register, handleSubmit, formState, setError } = useForm<Asked>({ defaultValues: { password: '', second: '' } });
  const e = formState.errors;
  const drop = useMutation<unknown, ApiError, Asked>({
    mutationFn: (v) => call('/api/session/second/end', { json: v }),
    onSuccess: after,
    onError: told(setError, 'second'),
  });
  return (
    <chakra.form onSubmit={handleSubmit((v) => drop.mutate(v))} noValidate>
      <chakra.p mb="8px">A sign-in asks for the digits of your authenticator.</chakra.p>
      <FieldRow gridTemplateColumns="1fr 1fr auto">
        <Labelled label="My password" id="end-password" error={e.password?.message}>
          <Entry id="end-password" type="password" autoComplete="current-password" {...register('password')} />
        </Labelled>
        <Labelled label="Digits, or a spare code" id="end-digits" error={e.second?.message}>
          <Entry id="end-digits" fontFamily="mono" autoComplete="one-time-code" {...register('second')} />
        </Labelled>
        <ServerAct type="submit" disabled={drop.isPending}>
          Take it away
        </ServerAct>
      </FieldRow>
    </chakra.form>
  );
}
