import { chakra } from '@chakra-ui/react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { call, queries } from '../app/api';
import { putBeside } from '../app/wrong-fields';
import { Entry, FieldRow, Labelled, ServerAct } from '../app/ui';
import { H3 } from '../order/Station';

/** One’s own short code for benches that several people share. */
export function ShortCode() {
  const client = useQueryClient();
  const on = useQuery(queries.benchCode).data?.on;
  const [says, setSays] = useState<string | null>(null);
  const { register, handleSubmit, reset, setError, formState } = useForm({ defaultValues: { password: '', code: '' } });
  const e = formState.errors;
  const set = (code: string | null) => async (v: { password: string }) => {
    setSays(null);
    try {
      await call('/api/session/bench-code', { method: 'PUT', json: { password: v.password, code } });
      reset();
      setSays(code === null ? 'It is taken away.' : 'It is set.');
      await client.invalidateQueries({ queryKey: queries.benchCode.queryKey });
    } catch (err) {
      const t = err as Error;
      if (!putBeside(t, ['password', 'code'], setError)) setSays(t.message);
    }
  };
  if (on === undefined) return null;
  return (
    <chakra.form onSubmit={handleSubmit((v) => set(v.code)(v))} noValidate maxW="640px" aria-label="Short code">
      <H3>Short code for the bench</H3>
      <chakra.p color="quiet" mb="8px">
        {on ? 'You have one. ' : ''}On a tablet that several people share it brings you back to where you are signed in.
      </chakra.p>
      <FieldRow gridTemplateColumns="220px 220px auto auto">
        <Labelled label="My password" id="short-password" error={e.password?.message}>
          <Entry id="short-password" type="password" autoComplete="current-password" {...register('password')} />
        </Labelled>
        <Labelled label="Four to eight digits" id="short-code" error={e.code?.message}>
          <Entry id="short-code" type="password" inputMode="numeric" autoComplete="off" fontFamily="mono" {...register('code')} />
        </Labelled>
        <ServerAct type="submit" disabled={formState.isSubmitting}>
          Set it
        </ServerAct>
        {on && (
          <ServerAct type="button" look="quiet" disabled={formState.isSubmitting} onClick={() => void handleSubmit(set(null))()}>
            Take it away
          </ServerAct>
        )}
      </FieldRow>
      {says && (
        <chakra.p role="status" mt="6px">
          {says}
        </chakra.p>
      )}
    </chakra.form>
  );
}
