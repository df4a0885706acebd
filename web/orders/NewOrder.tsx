import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { addDays, set } from 'date-fns';
import { useEffect, useMemo } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { restCharge } from '#core/energy/unit-system';
import { checkIdentity } from '#core/identity/check';
import { mayFit } from '#core/order/fit';
import { modelYear } from '#core/identity/model-year';
import type { FittedItem } from '#model/fitted';
import type { OrderOpening } from '#model/opening';
import type { SheetRef } from '#model/sheet';
import type { SheetBegun } from '#model/sheet-begun';
import { WISHES, wishesFor, type WishId } from '#model/wish';
import { ApiError, call, offered, queries } from '../app/api';
import { useAbout, useOutbox, usePerson, useUnits } from '../app/context';
import { draftKey } from '../app/kept';
import { readKept, writeKept } from '../app/storage';
import { Act, Choice, Entry, Labelled } from '../app/ui';
import { UnitDrawing } from '../drawing/UnitDrawing';
import { VerdictMark } from '../marks/VerdictMark';
import { FittedForm } from '../order/arrive/FittedForm';
import { SaidWires } from '../order/arrive/FittedWires';
import { NO_UNIT, readBegun, type BegunForm } from './begun';
import { Earlier } from './Earlier';
import { NewUnit } from './NewUnit';
import { fromLocal, readMeter, readPhone, readVolts, readWords, readYear, toLocal } from '../order/arrive/fields';
import { H3 } from '../order/Station';

/** Chosen in place of a model: nobody has a sheet for it. */
const NOT_IN_SHEETS = '+';

interface Form {
  model: string;
  unit: BegunForm;
  build: string;
  year: string;
  identity: string;
  meter: string;
  owner: string;
  phone: string;
  promised: string;
  rest: string;
  condition: string;
  wishes: WishId[];
  fitted: FittedItem[];
  practice: boolean;
  /** kits that were asked for at the desk: the order begins with them */
  kits: string[];
}

const EMPTY = (): Form => ({
  model: '',
  unit: NO_UNIT,
  build: '',
  year: '',
  identity: '',
  meter: '',
  owner: '',
  phone: '',
  promised: toLocal(set(addDays(new Date(), 1), { hours: 16, minutes: 0 }).toISOString()),
  rest: '',
  condition: '',
  wishes: [],
  fitted: [],
  practice: false,
  kits: [],
});
/** Years that a unit nobody has a sheet for may be of. */
const ANY_YEAR = [1950, new Date().getFullYear() + 2] as const;
const says = (read: (t: string) => unknown) => (t: string) => {
  try {
    read(t);
    return true;
  } catch (e) {
    return (e as Error).message;
  }
};

/** Takes a unit in. What is typed is kept until the order stands in the record. */
export function NewOrder() {
  const units = useUnits();
  const sheets = useQuery(queries.sheets).data;
  const navigate = useNavigate();
  const client = useQueryClient();
  const { standIns } = useAbout();
  const outbox = useOutbox();
  const me = usePerson().id;
  const [draftAt, keyAt] = [draftKey(me, 'new-order'), draftKey(me, 'new-order-key')];
  const form = useForm<Form>({ defaultValues: { ...EMPTY(), ...readKept<Partial<Form>>(draftAt, {}) }, mode: 'onTouched' });
  const { register, control, watch, handleSubmit, setValue, formState, setError, reset } = form;
  const { errors } = formState;
  const values = watch();
  useEffect(() => {
    const sub = watch((v) => void (writeKept(draftAt, v) || outbox.noRoom()));
    return () => sub.unsubscribe();
  }, [draftAt, outbox, watch]);
  const isNew = values.model === NOT_IN_SHEETS;
  const begun = useMemo(() => readBegun(values.unit, values.year, units, true), [values.unit, values.year, units]);
  const picked = sheets?.models.find((m) => m.ref.id === values.model);
  const model = isNew ? (begun.model ?? undefined) : picked?.sheet;
  const open = useMutation({
    networkMode: 'always',
    retry: (n, e) => e instanceof ApiError && e.passing && n < 12,
    retryDelay: (n) => Math.min(4000, 500 * 1.6 ** n),
    mutationFn: async ({ begun, kits, ...opening }: OrderOpening & { begun: SheetBegun | null; kits: string[] }) => {
      // one key for one filled-in form, so that a second try is the same order
      const key = readKept<string | null>(keyAt, null) ?? crypto.randomUUID();
      writeKept(keyAt, key);
      // asked twice, the sheet is begun once
      const started = begun && (await call<{ ref: SheetRef }>('/api/sheets/begun', { json: begun }));
      const json = started ? { ...opening, model: started.ref } : opening;
      const opened = await call<{ id: string; version: number }>('/api/orders', { json, headers: { 'Idempotency-Key': key } });
      // each under a key of its own: a second try adds none twice
      for (const [i, kit] of kits.entries())
        await call(`/api/orders/${opened.id}/events`, {
          json: { type: 'kit.added', kit },
          headers: { 'If-Match': `"${opened.version + i}"`, 'Idempotency-Key': `${key}-${i}` },
        });
      return opened;
    },
    onSuccess: ({ id }, { begun }) => {
      if (begun) void client.invalidateQueries({ queryKey: ['sheets'] });
      writeKept(draftAt, null);
      writeKept(keyAt, null);
      reset(EMPTY());
      writeKept(draftAt, null);
      navigate(`/orders/${id}/fit`);
    },
    onError: (e) => {
      // only what the rules refused is another request when it is sent again
      if (e instanceof ApiError && e.body.refused) writeKept(keyAt, null);
      if (e instanceof ApiError) e.body.fields?.forEach((f) => f.path in EMPTY() && setError(f.path as keyof Form, { message: f.message }));
    },
  });
  const submit = handleSubmit((v) => {
    if (isNew && !begun.begun) return;
    open.mutate({
      begun: isNew ? begun.begun : null,
      // another unit may have been chosen since: what does not fit it is not taken along
      kits: v.kits.filter((id) => {
        const kit = sheets?.kits.find((k) => k.ref.id === id)?.sheet;
        return kit && mayFit(kit, model!, Number(v.year), v.build);
      }),
      model: picked?.ref ?? { id: model!.id, revision: 1 },
      build: v.build,
      year: readYear(...(isNew ? ANY_YEAR : ([model!.years.from, model!.years.to] as const)))(v.year),
      identity: v.identity.trim(),
      meterValue: readMeter(v.meter, model!.meter, units),
      owner: v.owner.trim(),
      ...(v.phone.trim() && { phone: v.phone.trim() }),
      promisedAt: fromLocal(v.promised),
      // another model may have been chosen since
      wishes: v.wishes.filter((w) => wishesFor(model!.kind).includes(w)),
      restVolts: readVolts(v.rest),
      condition: v.condition.trim(),
      fitted: v.fitted,
      ...(standIns && v.practice && { trial: 'practice' as const }),
    });
  });
  const pick = (id: string) => {
    setValue('model', id, { shouldValidate: true });
    if (id === NOT_IN_SHEETS) setValue('build', 'as-it-stands');
    const m = sheets?.models.find((x) => x.ref.id === id)?.sheet;
    if (!m) return;
    if (!m.builds.some((b) => b.id === values.build)) setValue('build', m.builds[0]!.id);
    if (!values.year || Number(values.year) < m.years.from || Number(values.year) > m.years.to)
      setValue('year', String(Math.min(m.years.to, new Date().getFullYear())));
  };
  const id = model ? checkIdentity(model.identity, values.identity) : null;
  // the number names the year: nobody types it twice
  const [from, to] = isNew ? ANY_YEAR : [model?.years.from ?? 0, model?.years.to ?? 0];
  const named = model ? modelYear(model.identity, values.identity, { from, to }) : null;
  useEffect(() => {
    if (named !== null) setValue('year', String(named), { shouldValidate: true });
  }, [named, setValue]);
  let charge: string | undefined;
  try {
    const v = readVolts(values.rest);
    if (model && v !== null) {
      const r = restCharge({ model, kits: [], packs: [] }, v);
      charge = r.problem ?? `${Math.round(r.soc! * 100)} % charged`;
    }
  } catch {
    charge = undefined;
  }
  return (
    <chakra.main height="100%" overflowY="auto" p="20px">
      <chakra.form onSubmit={submit} noValidate maxW="1040px">
        <chakra.h1 fontSize="26px" mb="12px">
          Take a unit in
        </chakra.h1>
        {values.kits.length > 0 && (
          <chakra.p mb="10px">
            With {values.kits.map((id) => sheets?.kits.find((k) => k.ref.id === id)?.sheet.name ?? id).join(', ')}.{' '}
            <Act type="button" look="quiet" minHeight="28px" onClick={() => setValue('kits', [])}>
              Without them
            </Act>
          </chakra.p>
        )}
        <chakra.div display="grid" gridTemplateColumns="repeat(auto-fit, minmax(240px, 1fr))" gap="14px 16px">
          <Labelled label="Model, from the sheets" id="model" error={errors.model?.message}>
            <Controller
              control={control}
              name="model"
              rules={{ required: 'choose the model' }}
              render={({ field }) => (
                <Choice
                  id="model"
                  ref={field.ref}
                  value={field.value}
                  onBlur={field.onBlur}
                  aria-invalid={!!errors.model}
                  onChange={(e) => pick(e.target.value)}
                >
                  <option value="">choose</option>
                  <option value={NOT_IN_SHEETS}>Not in the sheets…</option>
                  {offered(sheets?.models).map((m) => (
                    <option key={m.ref.id} value={m.ref.id}>
                      {m.sheet.maker} {m.sheet.name}
                    </option>
                  ))}
                </Choice>
              )}
            />
          </Labelled>
          {isNew && (
            <Controller
              control={control}
              name="unit"
              render={({ field }) => <NewUnit value={field.value} onChange={field.onChange} read={begun} told={formState.isSubmitted} />}
            />
          )}
          {!isNew && (
            <Labelled label="Build" id="build" error={errors.build?.message} note={model?.builds.find((b) => b.id === values.build)?.note}>
              <Controller
                control={control}
                name="build"
                rules={{ required: 'choose the build' }}
                render={({ field }) => (
                  <Choice id="build" {...field} disabled={!model}>
                    {(model?.builds ?? []).map((b) => (
                      <option key={b.id} value={b.id}>
                        {b.name}
                      </option>
                    ))}
                  </Choice>
                )}
              />
            </Labelled>
          )}
          <Labelled
            label={model && !isNew ? `Year, ${model.years.from} to ${model.years.to}` : 'Year'}
            id="year"
            error={errors.year?.message}
            note={named !== null && String(named) === values.year ? 'as its number says' : undefined}
          >
            <Entry
              id="year"
              inputMode="numeric"
              fontFamily="mono"
              {...register('year', {
                validate: (t) =>
                  isNew ? says(readYear(...ANY_YEAR))(t) : model ? says(readYear(model.years.from, model.years.to))(t) : true,
              })}
              aria-invalid={!!errors.year}
            />
          </Labelled>
          <Labelled
            label={model?.identity === 'hin' ? 'HIN' : model?.identity === 'maker' ? 'Maker’s number' : 'VIN'}
            id="identity"
            error={errors.identity?.message}
            note={
              id && (
                <chakra.span display="inline-flex" gap="6px" alignItems="center">
                  <VerdictMark verdict={id.verdict} size={18} /> {id.says}
                </chakra.span>
              )
            }
          >
            <Entry
              id="identity"
              fontFamily="mono"
              autoCapitalize="characters"
              maxLength={30}
              {...register('identity')}
              aria-invalid={!!errors.identity}
            />
          </Labelled>
          <Labelled
            label={model?.meter === 'hours' ? 'Hours' : `Distance, ${units === 'imperial' ? 'mi' : 'km'}`}
            id="meter"
            error={errors.meter?.message}
          >
            <Entry
              id="meter"
              inputMode="decimal"
              fontFamily="mono"
              {...register('meter', { validate: says((t: string) => readMeter(t, model?.meter, units)) })}
              aria-invalid={!!errors.meter}
            />
          </Labelled>
          <Labelled label="Owner" id="owner" error={errors.owner?.message}>
            <Entry id="owner" autoComplete="off" {...register('owner', { validate: says(readWords(80)) })} aria-invalid={!!errors.owner} />
          </Labelled>
          <Labelled label="Telephone" id="phone" error={errors.phone?.message}>
            <Entry
              id="phone"
              type="tel"
              autoComplete="off"
              {...register('phone', { validate: says(readPhone) })}
              aria-invalid={!!errors.phone}
            />
          </Labelled>
          <Labelled label="Promised" id="promised" error={errors.promised?.message}>
            <Entry
              id="promised"
              type="datetime-local"
              {...register('promised', { validate: says(fromLocal) })}
              aria-invalid={!!errors.promised}
            />
          </Labelled>
          <Labelled
            label={`${model?.electrical.battery.name ?? 'Battery'}: volts at rest`}
            id="rest"
            error={errors.rest?.message}
            note={charge}
          >
            <Entry
              id="rest"
              fontFamily="mono"
              placeholder="12.6 V"
              {...register('rest', { validate: says(readVolts) })}
              aria-invalid={!!errors.rest}
            />
          </Labelled>
          <Labelled label="Condition as it came" id="condition" error={errors.condition?.message}>
            <Entry id="condition" maxLength={500} {...register('condition')} />
          </Labelled>
        </chakra.div>
        <Earlier identity={values.identity} owner={values.owner} />
        {model && <UnitDrawing model={model} height={170} />}
        <H3>What must it be able to do when it leaves?</H3>
        <Controller
          control={control}
          name="wishes"
          render={({ field }) => (
            <chakra.div display="flex" flexWrap="wrap" gap="8px">
              {(model ? wishesFor(model.kind) : (Object.keys(WISHES) as WishId[])).map((w) => {
                const on = field.value.includes(w);
                return (
                  <Act
                    type="button"
                    key={w}
                    on={on}
                    aria-pressed={on}
                    onClick={() => field.onChange(on ? field.value.filter((x) => x !== w) : [...field.value, w])}
                  >
                    {WISHES[w]}
                  </Act>
                );
              })}
            </chakra.div>
          )}
        />
        <H3>Already fitted: it draws too</H3>
        <Controller
          control={control}
          name="fitted"
          render={({ field }) => (
            <>
              {field.value.map((f) => (
                <chakra.div key={f.id} display="flex" gap="12px" alignItems="center" borderBottomWidth="1px" borderColor="rule">
                  <chakra.span flex="1">
                    {f.name} <SaidWires wires={f.wires} />
                  </chakra.span>
                  <chakra.span fontFamily="mono">{f.watts === null ? '? W' : `${f.watts} W`}</chakra.span>
                  <Act type="button" look="quiet" onClick={() => field.onChange(field.value.filter((x) => x.id !== f.id))}>
                    Take off
                  </Act>
                </chakra.div>
              ))}
              <FittedForm
                draftKey="new.fitted"
                places={model?.places ?? []}
                taken={field.value.map((f) => f.id)}
                onAdd={(f) => field.onChange([...field.value, f])}
              />
            </>
          )}
        />
        {standIns && (
          <chakra.label display="flex" gap="10px" alignItems="center" minHeight="48px" mt="8px">
            <input id="practice" type="checkbox" style={{ width: 22, height: 22 }} {...register('practice')} />
            To practise on: no customer’s unit. Simulated readings may be recorded, and screens and paper say so.
          </chakra.label>
        )}
        {open.error && (
          <chakra.p role="alert" color="fails" mt="12px">
            {open.error.message}
          </chakra.p>
        )}
        {open.isPending && open.failureCount > 0 && (
          <chakra.p color="tightText" mt="12px">
            The record is out of reach; trying again. What you typed is kept.
          </chakra.p>
        )}
        <chakra.div mt="20px" display="flex" gap="10px">
          <Act look="main" big type="submit" disabled={open.isPending}>
            Take it in
          </Act>
          <Act
            type="button"
            big
            onClick={() => {
              writeKept(draftAt, null);
              writeKept(keyAt, null);
              reset(EMPTY());
            }}
          >
            Clear
          </Act>
        </chakra.div>
      </chakra.form>
    </chakra.main>
  );
}
