import { chakra } from '@chakra-ui/react';
import { zodResolver } from '@hookform/resolvers/zod';
import { Plus, X } from 'lucide-react';
import type { ReactNode } from 'react';
import { useFieldArray, useForm } from 'react-hook-form';
import { awgName } from '#core/wire/resistance';
import { GAUGES } from '#core/wire/tables';
import { Settings } from '#model/settings';
import { Act, Choice, Entry } from '../app/ui';
import { useSetting, type SettingOf } from './useSetting';

const Stocked = Settings.pick({ stock: true });
const COLUMNS = 'minmax(0, 2fr) 90px 110px 110px 40px';

/** Spools and offcuts of wire on hand, kept as a list. */
export function Stock({ locked }: { locked: boolean }) {
  const kept = useSetting('stock');
  return kept.value ? <StockForm key={JSON.stringify(kept.value)} stock={kept.value} kept={kept} locked={locked} /> : null;
}

function StockForm({ stock, kept, locked }: { stock: Settings['stock']; kept: SettingOf<'stock'>; locked: boolean }) {
  const { save, saved, error } = kept;
  const { register, handleSubmit, formState, control } = useForm({ resolver: zodResolver(Stocked), defaultValues: { stock } });
  const list = useFieldArray({ control, name: 'stock', keyName: 'key' });
  const e = formState.errors;
  return (
    <chakra.form noValidate onSubmit={handleSubmit((v) => save(Stocked.parse(v).stock))} maxW="760px">
      {!locked && (
        <chakra.div display="flex" gap="10px" alignItems="center" mb="10px">
          <Act type="submit" look="main" disabled={!formState.isDirty}>
            Save the list
          </Act>
          <Act type="button" onClick={() => list.append({ id: `spool ${list.fields.length + 1}`, awg: 16, colour: 'RD', lengthM: 30 })}>
            <Plus size={18} aria-hidden /> Wire on hand
          </Act>
          {saved && !formState.isDirty && <span role="status">Saved</span>}
          {error && (
            <chakra.span role="alert" color="fails">
              {error} What you typed stands here.
            </chakra.span>
          )}
        </chakra.div>
      )}
      {list.fields.length > 0 && (
        <chakra.div display="grid" gridTemplateColumns={COLUMNS} gap="8px" fontSize="14px" color="quiet" mb="2px" aria-hidden>
          <span>Name</span>
          <span>AWG</span>
          <span>Colour letters</span>
          <span>Metres</span>
        </chakra.div>
      )}
      {list.fields.map((f, i) => (
        <chakra.div key={f.key} display="grid" gridTemplateColumns={COLUMNS} gap="8px" mb="6px" alignItems="start">
          <Cell error={e.stock?.[i]?.id?.message}>
            <Entry aria-label={`Name of wire ${i + 1}`} disabled={locked} {...register(`stock.${i}.id`)} />
          </Cell>
          <Cell error={e.stock?.[i]?.awg?.message}>
            <Choice aria-label={`Gauge of wire ${i + 1}`} disabled={locked} {...register(`stock.${i}.awg`, { valueAsNumber: true })}>
              {GAUGES.map((g) => (
                <option key={g} value={g}>
                  {awgName(g)}
                </option>
              ))}
            </Choice>
          </Cell>
          <Cell error={e.stock?.[i]?.colour?.message}>
            <Entry aria-label={`Colour of wire ${i + 1}`} fontFamily="mono" disabled={locked} {...register(`stock.${i}.colour`)} />
          </Cell>
          <Cell error={e.stock?.[i]?.lengthM?.message}>
            <Entry
              aria-label={`Metres of wire ${i + 1}`}
              type="number"
              step="any"
              fontFamily="mono"
              disabled={locked}
              {...register(`stock.${i}.lengthM`, { valueAsNumber: true })}
            />
          </Cell>
          {!locked && (
            <Act type="button" look="quiet" aria-label={`Take wire ${i + 1} off the list`} onClick={() => list.remove(i)} px="4px">
              <X size={18} aria-hidden />
            </Act>
          )}
        </chakra.div>
      ))}
    </chakra.form>
  );
}

function Cell({ error, children }: { error?: string; children: ReactNode }) {
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
