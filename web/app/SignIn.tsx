import { chakra } from '@chakra-ui/react';
import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { useForm } from 'react-hook-form';
import { CodeSignIn, SignIn as SignInShape } from '#model/person';
import { signIn, type ApiError } from './api';
import { AtBench } from './AtBench';
import { useCame } from './came';
import { useAbout, useOutbox, usePending } from './context';
import { OtherShops } from './OtherShops';
import { passkeysWork, signInByPasskey, wasPutAway } from './passkey';
import { Act, Entry, Labelled } from './ui';

/** Signs in by password, or by a code from the owner that sets a new one. */
export function SignIn() {
  usePending();
  const others = useOutbox().ofOthers();
  const [byCode, setByCode] = useState(false);
  const { shop } = useAbout();
  return (
    <chakra.main minH="100%" display="grid" placeItems="center" p="24px">
      <chakra.div width="100%" maxW="360px">
        <chakra.div display="flex" alignItems="center" gap="12px" mb="24px">
          <img src="/mark.svg" alt="" width={44} height={44} />
          <div>
            <chakra.h1 fontSize="28px">Kadro</chakra.h1>
            <chakra.p color="quiet">{byCode ? 'Set a new password' : `Sign in to ${shop ?? 'the shop'}`}</chakra.p>
          </div>
        </chakra.div>
        {byCode ? <ByCode /> : <ByPassword />}
        {!byCode && passkeysWork() && <ByPasskey />}
        <Act look="quiet" mt="8px" width="100%" onClick={() => setByCode(!byCode)}>
          {byCode ? 'Sign in with a password' : 'I have a code from the owner'}
        </Act>
        <AtBench me={null} />
        <OtherShops />
        {others.map((o) => (
          <chakra.p key={o.by} color="quiet" mt="12px">
            {o.n} recorded here by {o.by} {o.n === 1 ? 'is' : 'are'} kept, and sent once {o.by} signs in.
          </chakra.p>
        ))}
      </chakra.div>
    </chakra.main>
  );
}

/** What follows from a sign-in, or what was wrong with it. */
function useSigned(path: string) {
  const came = useCame();
  const [trouble, setTrouble] = useState<string | null>(null);
  const [second, setSecond] = useState(false);
  const submit = async (values: object) => {
    setTrouble(null);
    try {
      const person = await signIn(path, values);
      if ('asks' in person) return setSecond(true);
      came(person);
    } catch (e) {
      setTrouble((e as ApiError).message);
    }
  };
  return { trouble, second, submit };
}

function Fields({ children, trouble, busy, action }: { children: ReactNode; trouble: string | null; busy: boolean; action: string }) {
  return (
    <chakra.div display="grid" gap="14px">
      {children}
      {trouble && (
        <chakra.p role="alert" color="fails">
          {trouble}
        </chakra.p>
      )}
      <Act look="main" type="submit" disabled={busy}>
        {action}
      </Act>
    </chakra.div>
  );
}

function ByPassword() {
  const { trouble, second, submit } = useSigned('/api/session');
  const { register, handleSubmit, formState } = useForm({ resolver: zodResolver(SignInShape), defaultValues: { name: '', password: '' } });
  const e = formState.errors;
  return (
    <form onSubmit={handleSubmit(submit)} noValidate>
      <Fields trouble={trouble} busy={formState.isSubmitting} action="Sign in">
        <Labelled label="Name" id="name" error={e.name?.message}>
          <Entry id="name" autoComplete="username" autoCapitalize="none" autoFocus {...register('name')} aria-invalid={!!e.name} />
        </Labelled>
        <Labelled label="Password" id="password" error={e.password?.message}>
          <Entry id="password" type="password" autoComplete="current-password" {...register('password')} aria-invalid={!!e.password} />
        </Labelled>
        {second && (
          <Labelled label="Six digits of your authenticator, or a spare code" id="second" error={e.second?.message}>
            <Entry
              id="second"
              fontFamily="mono"
              fontSize="20px"
              autoComplete="one-time-code"
              autoFocus
              {...register('second')}
              aria-invalid={!!e.second}
            />
          </Labelled>
        )}
      </Fields>
    </form>
  );
}

function ByPasskey() {
  const came = useCame();
  const go = useMutation({ mutationFn: signInByPasskey, onSuccess: came });
  return (
    <>
      <Act mt="12px" width="100%" disabled={go.isPending} onClick={() => go.mutate()}>
        Sign in with a passkey
      </Act>
      {go.error && !wasPutAway(go.error) && (
        <chakra.p role="alert" color="fails" mt="6px">
          {go.error.message}
        </chakra.p>
      )}
    </>
  );
}

function ByCode() {
  const { trouble, submit } = useSigned('/api/session/code');
  const { register, handleSubmit, formState } = useForm({
    resolver: zodResolver(CodeSignIn),
    defaultValues: { name: '', code: '', password: '' },
  });
  const e = formState.errors;
  return (
    <form onSubmit={handleSubmit(submit)} noValidate>
      <Fields trouble={trouble} busy={formState.isSubmitting} action="Set it and sign in">
        <Labelled label="Name" id="code-name" error={e.name?.message}>
          <Entry id="code-name" autoComplete="username" autoCapitalize="none" autoFocus {...register('name')} aria-invalid={!!e.name} />
        </Labelled>
        <Labelled label="Code" id="code" error={e.code?.message}>
          <Entry id="code" fontFamily="mono" autoComplete="one-time-code" {...register('code')} aria-invalid={!!e.code} />
        </Labelled>
        <Labelled label="New password, 8 characters or more" id="new-password" error={e.password?.message}>
          <Entry id="new-password" type="password" autoComplete="new-password" {...register('password')} aria-invalid={!!e.password} />
        </Labelled>
      </Fields>
    </form>
  );
}
