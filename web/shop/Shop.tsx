import { INSULATIONS } from '#core/wire-rules/tables';
import { chakra } from '@chakra-ui/react';
import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Plus, X } from 'lucide-react';
import type { ReactNode } from 'react';
import { useFieldArray, useForm } from 'react-hook-form';
import { may, whoMay } from '#core/people/permissions';
import { awgName } from '#core/wire/resistance';
import { GAUGES } from '#core/wire/tables';
import { Settings } from '#model/settings';
import { call, queries } from '../app/api';
import { usePerson } from '../app/context';
import { Act, Choice, Entry, Labelled } from '../app/ui';
import { H3 } from '../order/Station';
import { People } from './People';

export function Shop() {
  const kept = useQuery(queries.settings).data;
  const person = usePerson();
  return (
    <chakra.main height="100%" overflowY="auto" p="20px">
      <chakra.h1 fontSize="26px">Shop</chakra.h1>
      <People mayChange={may(person.role, 'people.change')} />
      {kept && <SettingsForm key={JSON.stringify(kept.versions)} kept={kept} locked={!may(person.role, 'settings.change')} />}
    </chakra.main>
  );
}

/** Settings that are figures. */
type Figure = { [K in keyof Settings]: Settings[K] extends number ? K : never }[keyof Settings];

function SettingsForm({ kept, locked }: { kept: { settings: Settings; versions: Record<string, number> }; locked: boolean }) {
  const { settings, versions } = kept;
  const client = useQueryClient();
  const { register, handleSubmit, formState, control } = useForm({ resolver: zodResolver(Settings), defaultValues: settings });
  const stock = useFieldArray({ control, name: 'stock', keyName: 'key' });
  const save = useMutation({
    // only what was changed here is sent, each on the version that this page shows
    mutationFn: (s: Settings) => {
      const dirty = Object.keys(formState.dirtyFields) as (keyof Settings)[];
      const changes = dirty.filter((f) => f !== 'shelf').map((field) => ({ field, value: s[field], version: versions[field] ?? 0 }));
      return call('/api/settings', { method: 'PATCH', json: { changes } });
    },
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ['settings'] });
      await client.invalidateQueries({ queryKey: ['order'] });
    },
  });
  const e = formState.errors;
  const num = (name: Figure, label: string) => (
    <Labelled label={label} id={name} error={e[name]?.message}>
      <Entry
        id={name}
        type="number"
        step="any"
        fontFamily="mono"
        disabled={locked}
        {...register(name, { valueAsNumber: true })}
        aria-invalid={!!e[name]}
      />
    </Labelled>
  );
  return (
    <chakra.form maxW="760px" noValidate onSubmit={handleSubmit((v) => save.mutate(Settings.parse(v)))}>
      <H3>Settings</H3>
      {locked && (
        <chakra.p color="quiet" mb="8px">
          {whoMay('settings.change')}
        </chakra.p>
      )}
      <chakra.div display="grid" gridTemplateColumns="repeat(auto-fit, minmax(230px, 1fr))" gap="14px">
        <Labelled label="Name of the shop" id="shop" error={e.shop?.message}>
          <Entry id="shop" disabled={locked} {...register('shop')} aria-invalid={!!e.shop} />
        </Labelled>
        <Labelled label="Units shown; either may be typed" id="units">
          <Choice id="units" disabled={locked} {...register('units')}>
            <option value="imperial">imperial (ft, in, lbf)</option>
            <option value="metric">metric (m, mm, N)</option>
          </Choice>
        </Labelled>
        {num('tightShare', 'Tight above this share of what is left')}
        {num('parkedDays', 'Days parked that must still start')}
        {num('reserveSoc', 'Reserve of charge for the start, 0 to 1')}
        {num('engineOffHours', 'Hours wanted with the engine off')}
        {num('selfDischargePctPerMonth', 'Self-discharge in 30 days, %')}
        {num('repeatDays', 'Days in a row without a charger')}
        {num('crankSpareV', 'Volts to spare at a start: fewer is Tight')}
        {num('packReserveSoc', 'Charge a pack should keep, 0 to 1')}
        {num('noStartTightPct', 'Days without a start, %: Tight above')}
        {num('noStartFailPct', 'Days without a start, %: Fails above')}
        <Labelled label="A shortage with everything on that the day makes up" id="steadyMustCarry">
          <chakra.label display="flex" gap="10px" alignItems="center" minHeight="40px">
            <input
              id="steadyMustCarry"
              type="checkbox"
              disabled={locked}
              style={{ width: 22, height: 22 }}
              {...register('steadyMustCarry')}
            />{' '}
            fails all the same
          </chakra.label>
        </Labelled>
        <Labelled label="Wire cut here: its insulation" id="wireInsulationC">
          <Choice id="wireInsulationC" disabled={locked} {...register('wireInsulationC', { valueAsNumber: true })}>
            {INSULATIONS.map((c) => (
              <option key={c} value={c}>
                {c} °C
              </option>
            ))}
          </Choice>
        </Labelled>
        <Labelled label="Wire cut here: its conductor" id="wireStandard">
          <Choice id="wireStandard" disabled={locked} {...register('wireStandard')}>
            <option value="awg">AWG</option>
            <option value="sae">SAE, the thinner one</option>
          </Choice>
        </Labelled>
        <Labelled label="Fuse up to 150 % of the wire’s amperes (ABYC E-11)" id="fuse150">
          <chakra.label display="flex" gap="10px" alignItems="center" minHeight="40px">
            <input id="fuse150" type="checkbox" disabled={locked} style={{ width: 22, height: 22 }} {...register('fuse150')} /> allowed
          </chakra.label>
        </Labelled>
      </chakra.div>
      <H3>What remedies are priced with</H3>
      <chakra.div display="grid" gridTemplateColumns="repeat(auto-fit, minmax(160px, 1fr))" gap="14px">
        <Labelled label="Money" id="currency" error={e.currency?.message}>
          <Entry id="currency" disabled={locked} {...register('currency')} aria-invalid={!!e.currency} />
        </Labelled>
        {num('labourPerHour', 'An hour of work')}
        {num('batteryPerAh', 'A battery, per Ah')}
        {num('isolatorPrice', 'An isolator')}
        {num('relayPrice', 'A relay with its socket')}
        {num('reducerPerA', 'A reducer, per A')}
      </chakra.div>
      <H3>Times and choices that plans use</H3>
      <chakra.div display="grid" gridTemplateColumns="repeat(auto-fill, minmax(260px, 1fr))" gap="14px">
        {num('moveMinutes', 'Minutes from one end of a unit to another')}
        {num('fishMinutes', 'Minutes to fish a wire under a panel')}
      </chakra.div>
      <H3>Wire on hand</H3>
      <chakra.p color="quiet" fontSize="14px" mb="6px">
        Spools and offcuts, from which the cut list of each unit is laid out with the least waste.
      </chakra.p>
      {stock.fields.length > 0 && (
        <chakra.div
          display="grid"
          gridTemplateColumns="minmax(0, 2fr) 90px 110px 110px 40px"
          gap="8px"
          fontSize="14px"
          color="quiet"
          mb="2px"
          aria-hidden
        >
          <span>Name</span>
          <span>AWG</span>
          <span>Colour letters</span>
          <span>Metres</span>
        </chakra.div>
      )}
      {stock.fields.map((f, i) => (
        <chakra.div
          key={f.key}
          display="grid"
          gridTemplateColumns="minmax(0, 2fr) 90px 110px 110px 40px"
          gap="8px"
          mb="6px"
          alignItems="start"
        >
          <StockEntry error={e.stock?.[i]?.id?.message}>
            <Entry aria-label={`Name of wire ${i + 1}`} disabled={locked} {...register(`stock.${i}.id`)} />
          </StockEntry>
          <StockEntry error={e.stock?.[i]?.awg?.message}>
            <Choice aria-label={`Gauge of wire ${i + 1}`} disabled={locked} {...register(`stock.${i}.awg`, { valueAsNumber: true })}>
              {GAUGES.map((g) => (
                <option key={g} value={g}>
                  {awgName(g)}
                </option>
              ))}
            </Choice>
          </StockEntry>
          <StockEntry error={e.stock?.[i]?.colour?.message}>
            <Entry aria-label={`Colour of wire ${i + 1}`} fontFamily="mono" disabled={locked} {...register(`stock.${i}.colour`)} />
          </StockEntry>
          <StockEntry error={e.stock?.[i]?.lengthM?.message}>
            <Entry
              aria-label={`Metres of wire ${i + 1}`}
              type="number"
              step="any"
              fontFamily="mono"
              disabled={locked}
              {...register(`stock.${i}.lengthM`, { valueAsNumber: true })}
            />
          </StockEntry>
          {!locked && (
            <Act look="quiet" aria-label={`Take wire ${i + 1} off the list`} onClick={() => stock.remove(i)} px="4px">
              <X size={18} aria-hidden />
            </Act>
          )}
        </chakra.div>
      ))}
      {!locked && (
        <Act onClick={() => stock.append({ id: `spool ${stock.fields.length + 1}`, awg: 16, colour: 'RD', lengthM: 30 })}>
          <Plus size={18} aria-hidden /> Wire on hand
        </Act>
      )}
      <div />
      {!locked && (
        <Act type="submit" mt="14px" disabled={save.isPending || !formState.isDirty}>
          Save the settings
        </Act>
      )}
      {save.isSuccess && !formState.isDirty && (
        <chakra.span role="status" ml="12px">
          Saved.
        </chakra.span>
      )}
      {save.error && (
        <chakra.p role="alert" color="fails" mt="8px">
          {save.error.message} What you typed stands here; what stands in the shop now:{' '}
          <Act type="button" look="quiet" onClick={() => void client.invalidateQueries({ queryKey: ['settings'] })}>
            show it
          </Act>
        </chakra.p>
      )}
    </chakra.form>
  );
}

function StockEntry({ error, children }: { error?: string; children: ReactNode }) {
  return (
    <div>
      {children}
      {error && (
        <chakra.p role="alert" color="fails" fontSize="14px">
          {error}
        </chakra.p>
      )}
    </div>
  );
}
