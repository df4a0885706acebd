import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { format } from 'date-fns';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import type { PersonInShop, Role } from '#model/person';
import { call, queries } from '../app/api';
import { usePerson } from '../app/context';
import { putBeside } from '../app/wrong-fields';
import { Act, Choice, Entry, Labelled } from '../app/ui';
import { H3 } from '../order/Station';
import { Table } from '../sheets/Table';

const ROLE: Record<Role, string> = { installer: 'installer', desk: 'front desk', lead: 'lead', owner: 'owner' };
const roles = Object.entries(ROLE).map(([r, w]) => (
  <option key={r} value={r}>
    {w}
  </option>
));

/** Who works here and may do what; an owner changes it where it is seen. */
export function People({ mayChange }: { mayChange: boolean }) {
  const people = useQuery(queries.people).data ?? [];
  const here = people.filter((p) => !p.ended);
  const gone = people.filter((p) => p.ended);
  return (
    <>
      {mayChange ? (
        <chakra.div maxW="900px" display="grid" gap="0">
          {here.map((p) => (
            <PersonRow key={p.id} p={p} />
          ))}
        </chakra.div>
      ) : (
        <chakra.div maxW="640px">
          <Table heads={['Name', 'Signs in as', 'Role']} rows={here.map((p) => [p.name, p.id, ROLE[p.role]])} />
        </chakra.div>
      )}
      {mayChange && <AddPerson />}
      {gone.length > 0 && (
        <>
          <H3>No longer here</H3>
          <chakra.p color="quiet" fontSize="14px">
            What they did stays in the record under their names.
          </chakra.p>
          <chakra.div maxW="900px">
            {gone.map((p) =>
              mayChange ? (
                <PersonRow key={p.id} p={p} />
              ) : (
                <p key={p.id}>
                  {p.name} ({p.id})
                </p>
              ),
            )}
          </chakra.div>
        </>
      )}
      {mayChange && <Rights />}
    </>
  );
}

function PersonRow({ p }: { p: PersonInShop }) {
  const client = useQueryClient();
  const me = usePerson().id;
  const [code, setCode] = useState<{ code: string; until: string } | null>(null);
  const [ending, setEnding] = useState(false);
  const after = () => Promise.all([client.invalidateQueries({ queryKey: ['people'] }), client.invalidateQueries({ queryKey: ['rights'] })]);
  const change = useMutation({
    mutationFn: (c: { role?: Role; ended?: boolean }) =>
      call(`/api/people/${p.id}`, { method: 'PATCH', json: { version: p.version, ...c } }),
    onSettled: after,
  });
  const give = useMutation({
    mutationFn: () => call<{ code: string; until: string }>(`/api/people/${p.id}/code`, { method: 'POST', json: {} }),
    onSuccess: (c) => (setCode(c), after()),
  });
  const trouble = change.error ?? give.error;
  return (
    <chakra.div borderBottomWidth="1px" borderColor="rule" py="6px" data-person={p.id}>
      <chakra.div display="grid" gridTemplateColumns="minmax(0, 1fr) 130px 150px 170px" gap="12px" alignItems="center">
        <chakra.span minW={0}>
          <b>{p.name}</b>{' '}
          <chakra.span color="quiet" fontFamily="mono">
            {p.id}
          </chakra.span>
        </chakra.span>
        {p.ended ? (
          <span>{ROLE[p.role]}</span>
        ) : (
          <Choice
            aria-label={`Role of ${p.name}`}
            value={p.role}
            disabled={change.isPending}
            onChange={(e) => change.mutate({ role: e.target.value as Role })}
          >
            {roles}
          </Choice>
        )}
        {p.ended ? (
          <span />
        ) : (
          <Act onClick={() => give.mutate()} disabled={give.isPending}>
            New password
          </Act>
        )}
        {p.ended ? (
          <Act onClick={() => change.mutate({ ended: false })}>Let in again</Act>
        ) : ending ? (
          <chakra.span display="flex" gap="6px">
            <Act look="grave" onClick={() => change.mutate({ ended: true })}>
              End it
            </Act>
            <Act look="quiet" onClick={() => setEnding(false)}>
              Leave it
            </Act>
          </chakra.span>
        ) : (
          <Act look="quiet" onClick={() => setEnding(true)}>
            {p.id === me ? 'End my access' : 'End access'}
          </Act>
        )}
      </chakra.div>
      {ending && (
        <chakra.p color="quiet" fontSize="14px">
          {p.name} is signed out everywhere at once. What {p.name} recorded stays.
        </chakra.p>
      )}
      {code && (
        <chakra.p mt="4px" role="status">
          Give {p.name} this code; with it a new password is set once, until {format(new Date(code.until), 'EEE HH:mm')}:{' '}
          <chakra.b fontFamily="mono" fontSize="20px" letterSpacing="0.08em">
            {code.code.slice(0, 5)} {code.code.slice(5)}
          </chakra.b>
        </chakra.p>
      )}
      {trouble && (
        <chakra.p role="alert" color="fails">
          {trouble.message}
        </chakra.p>
      )}
    </chakra.div>
  );
}

function AddPerson() {
  const client = useQueryClient();
  const [trouble, setTrouble] = useState<string | null>(null);
  const { register, handleSubmit, reset, setError, formState } = useForm({
    defaultValues: { name: '', id: '', role: 'installer', password: '' },
  });
  const e = formState.errors;
  const submit = handleSubmit(async (v) => {
    setTrouble(null);
    try {
      await call('/api/people', { json: v });
      reset();
      await client.invalidateQueries({ queryKey: ['people'] });
      await client.invalidateQueries({ queryKey: ['rights'] });
    } catch (err) {
      const t = err as Error;
      if (!putBeside(t, ['name', 'id', 'role', 'password'], setError)) setTrouble(t.message);
    }
  });
  return (
    <chakra.form onSubmit={submit} noValidate maxW="900px">
      <H3>Add a person</H3>
      <chakra.div display="grid" gridTemplateColumns="repeat(auto-fit, minmax(180px, 1fr))" gap="12px" alignItems="start">
        <Labelled label="First name" id="person-name" error={e.name?.message}>
          <Entry id="person-name" {...register('name')} />
        </Labelled>
        <Labelled label="Signs in as" id="person-id" error={e.id?.message}>
          <Entry id="person-id" {...register('id')} autoCapitalize="none" />
        </Labelled>
        <Labelled label="Role" id="person-role">
          <Choice id="person-role" {...register('role')}>
            {roles}
          </Choice>
        </Labelled>
        <Labelled label="Password, 8 characters or more" id="person-password" error={e.password?.message}>
          <Entry id="person-password" type="password" autoComplete="new-password" {...register('password')} />
        </Labelled>
      </chakra.div>
      {trouble && (
        <chakra.p role="alert" color="fails">
          {trouble}
        </chakra.p>
      )}
      <Act type="submit" mt="12px">
        Add
      </Act>
    </chakra.form>
  );
}

/** What was changed of who may do what. */
function Rights() {
  const rights = useQuery(queries.rights).data ?? [];
  if (!rights.length) return null;
  return (
    <>
      <H3>What was changed of people’s rights</H3>
      <chakra.div maxW="900px">
        <Table
          heads={['When', 'Who', 'What', 'By']}
          rows={rights.slice(0, 40).map((r) => [format(new Date(r.at), 'd MMM yyyy HH:mm'), r.person, r.says, r.by])}
        />
      </chakra.div>
    </>
  );
}
