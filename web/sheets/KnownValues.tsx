import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Evidence, Proposal } from '#core/known/proposals';
import { HOW_WORD, restsOnAssumed } from '#core/known/pointer';
import { openValue, openValues, type OpenValue } from '#core/known/values';
import { parseQuantity } from '#core/quantity/quantity';
import { may } from '#core/people/permissions';
import type { UnitModel } from '#model/unit-model';
import { call, queries } from '../app/api';
import { usePerson, useUnits } from '../app/context';
import { Act, Choice, Entry, Labelled, ServerAct, Sheet } from '../app/ui';
import { EACH, KIND, shown } from '../order/known/shown';
import { H3 } from '../order/Station';
import { LeaveOut } from './LeaveOut';
import { OwnFoundList } from './OwnFound';
import { Table } from './Table';

/** A figure that stays with its unit. */
const Figure = chakra('span', { base: { whiteSpace: 'nowrap' } });

/** What orders found of a model, to be taken into its sheet or left out, and how its values are known. */
export function KnownValues({ model, revision }: { model: UnitModel; revision: number }) {
  const units = useUnits();
  const list = useQuery(queries.proposals(model.id)).data ?? [];
  const known = Object.keys(model.known).flatMap((pointer) => {
    const { how, by, note } = model.known[pointer]!;
    const v = how === 'assumed' ? null : openValue(model, pointer);
    return v ? [{ v, how, by, note }] : [];
  });
  const ofBuilds = model.builds.flatMap((build) =>
    Object.entries(build.values ?? {}).flatMap(([pointer, { value, known: k }]) => {
      const v = openValue(model, pointer);
      return v ? [{ build, v, value, k }] : [];
    }),
  );
  const open = openValues(model);
  const lead = may(usePerson().role, 'sheets.import');
  return (
    <>
      {list.length > 0 && (
        <>
          <H3>Found on units of this model</H3>
          {list.map((p) => (
            <OneProposal key={p.of.pointer} model={model} p={p} />
          ))}
        </>
      )}
      <OwnFoundList model={model} />
      {known.length > 0 && (
        <>
          <H3>Known of it</H3>
          <Table
            heads={['Value', 'Is', 'How', 'By', 'From']}
            num={[1]}
            rows={known.map(({ v, how, by, note }) => [v.name, shown(v.value, v.unit, units), HOW_WORD[how], by ?? '', note ?? ''])}
          />
        </>
      )}
      {ofBuilds.length > 0 && (
        <>
          <H3>Otherwise on one build</H3>
          <Table
            heads={['Build', 'Value', 'Is', 'Other builds', 'How', 'By', 'From', '']}
            num={[2, 3]}
            rows={ofBuilds.map(({ build, v, value, k }) => [
              build.name,
              v.name,
              shown(value, v.unit, units),
              shown(v.value, v.unit, units),
              HOW_WORD[k.how],
              k.by ?? '',
              k.note ?? '',
              lead ? <AsTheOthers key="o" model={model} revision={revision} build={build} v={v} /> : '',
            ])}
          />
        </>
      )}
      {restsOnAssumed(model) && (
        <>
          <H3>Only assumed, as units of its kind commonly are</H3>
          <Table
            heads={['Value', 'Assumed', '8 of 10 from', 'to', 'How it is taken', '']}
            num={[1, 2, 3]}
            rows={open.map((v) => [
              v.name,
              <Figure key="v">{shown(v.value, v.unit, units)}</Figure>,
              <Figure key="l">{shown(v.spread[0], v.unit, units)}</Figure>,
              <Figure key="h">{shown(v.spread[1], v.unit, units)}</Figure>,
              v.says,
              lead ? <TypeValue key="t" model={model} revision={revision} v={v} /> : '',
            ])}
          />
        </>
      )}
    </>
  );
}

/** Takes out of a sheet what one build had otherwise. */
function AsTheOthers({
  model,
  revision,
  build,
  v,
}: {
  model: UnitModel;
  revision: number;
  build: UnitModel['builds'][number];
  v: OpenValue;
}) {
  const client = useQueryClient();
  const put = useMutation({
    mutationFn: () =>
      call(`/api/sheets/model/${model.id}/values`, { json: { pointer: v.pointer, value: null, how: v.how, revision, build: build.id } }),
    onSettled: () => client.invalidateQueries({ queryKey: ['sheets'] }),
  });
  return (
    <>
      <ServerAct
        look="quiet"
        minHeight="36px"
        disabled={put.isPending}
        aria-label={`${build.name} as the others: ${v.name}`}
        onClick={() => put.mutate()}
      >
        As the others
      </ServerAct>
      {put.error && (
        <chakra.span role="alert" color="fails">
          {put.error.message}
        </chakra.span>
      )}
    </>
  );
}

/** Types a figure that somebody knows by now into the sheet. */
function TypeValue({ model, revision, v }: { model: UnitModel; revision: number; v: OpenValue }) {
  const units = useUnits();
  const client = useQueryClient();
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  const [how, setHow] = useState<'maker' | 'read' | 'measured'>(v.how);
  const [wrong, setWrong] = useState('');
  const put = useMutation({
    mutationFn: (value: number) => call(`/api/sheets/model/${model.id}/values`, { json: { pointer: v.pointer, value, how, revision } }),
    onSuccess: () => setOpen(false),
    onError: (e) => setWrong(e.message),
    onSettled: () => client.invalidateQueries({ queryKey: ['sheets'] }),
  });
  const id = `value-${v.pointer.replaceAll('/', '-')}`;
  if (!open)
    return (
      <Act look="quiet" minHeight="36px" aria-label={`Type it: ${v.name}`} onClick={() => setOpen(true)}>
        Type it
      </Act>
    );
  return (
    <chakra.form
      display="grid"
      gap="6px"
      minW="180px"
      onSubmit={(e) => {
        e.preventDefault();
        try {
          const bare = text.trim().replace(/\s*Ah$/i, '');
          put.mutate(Number((parseQuantity(bare, KIND[v.unit], units) * (EACH[v.unit] ?? 1)).toPrecision(6)));
        } catch (x) {
          setWrong((x as Error).message);
        }
      }}
    >
      <Labelled id={id} label={v.name} error={wrong || null}>
        <Entry id={id} value={text} fontFamily="mono" autoComplete="off" onChange={(e) => (setText(e.target.value), setWrong(''))} />
      </Labelled>
      <Choice aria-label="How it is known" value={how} onChange={(e) => setHow(e.target.value as typeof how)}>
        {(['maker', 'read', 'measured'] as const).map((h) => (
          <option key={h} value={h}>
            {HOW_WORD[h]}
          </option>
        ))}
      </Choice>
      <chakra.div display="flex" gap="6px">
        <ServerAct type="submit" minHeight="36px" disabled={!text.trim() || put.isPending}>
          Put it in
        </ServerAct>
        <Act type="button" look="quiet" minHeight="36px" onClick={() => setOpen(false)}>
          Leave it
        </Act>
      </chakra.div>
    </chakra.form>
  );
}

function OneProposal({ model, p }: { model: UnitModel; p: Proposal }) {
  const units = useUnits();
  const client = useQueryClient();
  const person = usePerson();
  const lead = may(person.role, 'sheets.import');
  const [declining, setDeclining] = useState<Evidence | null>(null);
  const settle = useMutation({
    mutationFn: ({ what, json }: { what: 'taken' | 'declined'; json: object }) =>
      call(`/api/sheets/model/${model.id}/proposals/${what}`, { json }),
    onSettled: async () => {
      setDeclining(null);
      await client.invalidateQueries({ queryKey: ['proposals', model.id] });
      await client.invalidateQueries({ queryKey: ['sheets'] });
    },
  });
  const as = (x: number) => shown(x, p.of.unit, units);
  const named = (build: string) => model.builds.find((b) => b.id === build)?.name ?? build;
  return (
    <Sheet mb="8px" p="10px 14px" data-proposal={p.of.pointer}>
      <chakra.div display="flex" gap="12px" alignItems="center" flexWrap="wrap">
        <chakra.div flex="1" minW="260px">
          <b>{p.of.name}</b>:{' '}
          {p.value === null ? (
            'the measurements contradict each other, and none of them has most on its side.'
          ) : (
            <>
              <chakra.span fontFamily="mono">{as(p.value)}</chakra.span>, between {as(p.spread![0])} and {as(p.spread![1])}; the sheet says{' '}
              {as(p.of.value)}.
            </>
          )}
        </chakra.div>
        {lead && p.value !== null && (
          <ServerAct
            disabled={settle.isPending}
            onClick={() => settle.mutate({ what: 'taken', json: { pointer: p.of.pointer, value: p.value } })}
          >
            Take it into the sheet
          </ServerAct>
        )}
        {lead &&
          model.builds.length > 1 &&
          p.builds.map((b) => (
            <ServerAct
              key={b.build}
              look="quiet"
              disabled={settle.isPending}
              onClick={() => settle.mutate({ what: 'taken', json: { pointer: p.of.pointer, value: b.value, build: b.build } })}
            >
              {named(b.build)} only: {as(b.value)}
            </ServerAct>
          ))}
      </chakra.div>
      <chakra.ul listStyleType="none" p={0} fontSize="15px">
        {p.evidence.map((e) => (
          <chakra.li
            key={e.order}
            display="flex"
            gap="10px"
            alignItems="center"
            flexWrap="wrap"
            color={e.contradicts ? 'fails' : undefined}
          >
            <span>
              <Link to={`/orders/${e.order}/log`}>
                <chakra.span textDecoration="underline">Order {e.number}</chakra.span>
              </Link>
              , {e.by}
              {model.builds.length > 1 ? `, ${named(e.build)}` : ''}: <chakra.span fontFamily="mono">{as(e.value)}</chakra.span>,{' '}
              {HOW_WORD[e.how]}
              {e.contradicts ? '; contradicts the others' : ''}
            </span>
            {lead && (
              <ServerAct look="quiet" minHeight="36px" onClick={() => setDeclining(declining?.order === e.order ? null : e)}>
                Leave it out
              </ServerAct>
            )}
          </chakra.li>
        ))}
      </chakra.ul>
      {declining && (
        <LeaveOut
          label={`Why what order ${declining.number} found is left out`}
          busy={settle.isPending}
          onReason={(reason) => settle.mutate({ what: 'declined', json: { pointer: p.of.pointer, order: declining.order, reason } })}
        />
      )}
      {settle.error && (
        <chakra.p role="alert" color="fails">
          {settle.error.message}
        </chakra.p>
      )}
    </Sheet>
  );
}
