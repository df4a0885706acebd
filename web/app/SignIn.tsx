import { chakra } from '@chakra-ui/react';
import { zodResolver } from '@hookform/resolvers/zod';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { SignIn as SignInShape, type Person } from '#model/person';
import { call, type Trouble } from './api';
import { useOutbox, usePending } from './context';
import { Act, Entry, Labelled } from './ui';

export function SignIn() {
  const client = useQueryClient();
  const outbox = useOutbox();
  const waiting = usePending().length;
  const [trouble, setTrouble] = useState<string | null>(null);
  const { register, handleSubmit, formState } = useForm({ resolver: zodResolver(SignInShape), defaultValues: { name: '', password: '' } });
  const submit = handleSubmit(async (values) => {
    setTrouble(null);
    try {
      const person = await call<Person>('/api/session', { json: values });
      client.setQueryData(['session'], person);
      await client.invalidateQueries();
      void outbox.pump();
    } catch (e) {
      setTrouble((e as Trouble).message);
    }
  });
  return (
    <chakra.main minH="100%" display="grid" placeItems="center" p="24px">
      <chakra.form onSubmit={submit} width="100%" maxW="360px" noValidate>
        <chakra.div display="flex" alignItems="center" gap="12px" mb="24px">
          <img src="/mark.svg" alt="" width={44} height={44} />
          <div>
            <chakra.h1 fontSize="28px">Kadro</chakra.h1>
            <chakra.p color="quiet">Sign in to the shop</chakra.p>
          </div>
        </chakra.div>
        <chakra.div display="grid" gap="14px">
          <Labelled label="Name" id="name" error={formState.errors.name?.message}>
            <Entry
              id="name"
              autoComplete="username"
              autoCapitalize="none"
              autoFocus
              {...register('name')}
              aria-invalid={!!formState.errors.name}
            />
          </Labelled>
          <Labelled label="Password" id="password" error={formState.errors.password?.message}>
            <Entry
              id="password"
              type="password"
              autoComplete="current-password"
              {...register('password')}
              aria-invalid={!!formState.errors.password}
            />
          </Labelled>
          {trouble && (
            <chakra.p role="alert" color="fails">
              {trouble}
            </chakra.p>
          )}
          {waiting > 0 && <chakra.p color="quiet">{waiting} recorded here and kept; they are sent once you are signed in.</chakra.p>}
          <Act look="main" type="submit" disabled={formState.isSubmitting}>
            Sign in
          </Act>
        </chakra.div>
      </chakra.form>
    </chakra.main>
  );
}
