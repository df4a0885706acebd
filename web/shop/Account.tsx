import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { call } from '../app/api';
import { putBeside } from '../app/wrong-fields';
import { Act, Entry, FieldRow, Labelled } from '../app/ui';
import { H3 } from '../order/Station';
import { Passkeys } from './Passkeys';
import { SecondFactor } from './SecondFactor';
import { Sessions } from './Sessions';
import { SharedDevice } from './SharedDevice';
import { ShortCode } from './ShortCode';

/** What opens one’s own account, and where it is open. */
export const Account = () => (
  <>
    <OwnPassword />
    <ShortCode />
    <SharedDevice />
    <Passkeys />
    <SecondFactor />
    <Sessions />
  </>
);

function OwnPassword() {
  const [says, setSays] = useState<string | null>(null);
  const { register, handleSubmit, reset, setError, formState } = useForm({ defaultValues: { old: '', password: '' } });
  const e = formState.errors;
  const submit = handleSubmit(async (v) => {
    setSays(null);
    try {
      await call('/api/session/password', { method: 'PUT', json: v });
      reset();
      setSays('Your password is changed; other devices are signed out.');
    } catch (err) {
      const t = err as Error;
      if (!putBeside(t, ['old', 'password'], setError)) setSays(t.message);
    }
  });
  return (
    <chakra.form onSubmit={submit} noValidate maxW="640px">
      <H3>My password</H3>
      <FieldRow gridTemplateColumns="1fr 1fr auto">
        <Labelled label="Old" id="old-password" error={e.old?.message}>
          <Entry id="old-password" type="password" autoComplete="current-password" {...register('old')} />
        </Labelled>
        <Labelled label="New, 8 characters or more" id="my-password" error={e.password?.message}>
          <Entry id="my-password" type="password" autoComplete="new-password" {...register('password')} />
        </Labelled>
        <Act type="submit" disabled={formState.isSubmitting}>
          Change it
        </Act>
      </FieldRow>
      {says && (
        <chakra.p role="status" mt="6px">
          {says}
        </chakra.p>
      )}
    </chakra.form>
  );
}
