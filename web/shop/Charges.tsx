import { chakra } from '@chakra-ui/react';
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { Charges as Model, PRICE_CLASSES, type PriceClass } from '#model/money';
import { Act, Choice, Entry, Labelled } from '../app/ui';
import { H3 } from '../order/Station';
import { Kept } from './Kept';
import { NamedAmounts } from './NamedAmounts';
import { useSetting, type SettingOf } from './useSetting';

const CLASS_WORDS: Record<PriceClass, string> = { labour: 'work', kits: 'kits', parts: 'parts', supplies: 'shop supplies', fees: 'fees' };

/** Taxes, small things, fees, and how sums are made. */
export function Charges({ locked }: { locked: boolean }) {
  const kept = useSetting('charges');
  return kept.value ? <Form key={JSON.stringify(kept.value)} charges={kept.value} kept={kept} locked={locked} /> : null;
}

function Form({ charges, kept, locked }: { charges: Model; kept: SettingOf<'charges'>; locked: boolean }) {
  const { save, saved, error } = kept;
  const [t, setT] = useState(() => ({
    ...charges,
    most: charges.supplies.most ?? '',
    share: charges.supplies.rate,
    days: String(charges.quoteDays),
  }));
  const { most, share, days, ...rest } = t;
  const read = Model.safeParse({ ...rest, quoteDays: Number(days), supplies: { rate: share, most: most.trim() || null } });
  const dirty = JSON.stringify(read.success ? read.data : t) !== JSON.stringify(charges);
  const issue = read.success ? null : read.error.issues[0]!;
  const text = (label: string, id: 'share' | 'most' | 'days' | 'overrun', placeholder = '') => (
    <Labelled label={label} id={`charge-${id}`}>
      <Entry
        id={`charge-${id}`}
        disabled={locked}
        fontFamily="mono"
        textAlign="right"
        placeholder={placeholder}
        value={t[id]}
        onChange={(e) => setT({ ...t, [id]: e.target.value })}
      />
    </Labelled>
  );
  return (
    <chakra.form
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        if (read.success) save(read.data);
      }}
    >
      <H3>Taxes</H3>
      {t.taxes.map((tax, i) => {
        const put = (patch: Partial<(typeof t.taxes)[number]>) =>
          setT({ ...t, taxes: t.taxes.map((x, k) => (k === i ? { ...x, ...patch } : x)) });
        return (
          <chakra.div key={i} display="grid" gridTemplateColumns="minmax(0, 1fr) 100px 190px 44px" gap="8px" mb="8px">
            <Entry aria-label={`Name of tax ${i + 1}`} disabled={locked} value={tax.name} onChange={(e) => put({ name: e.target.value })} />
            <Entry
              aria-label={`Rate of tax ${i + 1}`}
              disabled={locked}
              value={tax.rate}
              fontFamily="mono"
              textAlign="right"
              onChange={(e) => put({ rate: e.target.value })}
            />
            <Choice
              aria-label={`Where tax ${i + 1} is`}
              disabled={locked}
              value={tax.included ? 'in' : 'on'}
              onChange={(e) => put({ included: e.target.value === 'in' })}
            >
              <option value="on">on top of prices</option>
              <option value="in">within prices</option>
            </Choice>
            {locked ? (
              <span />
            ) : (
              <Act
                type="button"
                look="quiet"
                aria-label={`Without tax ${i + 1}`}
                onClick={() => setT({ ...t, taxes: t.taxes.filter((_, k) => k !== i) })}
              >
                <X size={18} aria-hidden />
              </Act>
            )}
            <chakra.div gridColumn="1 / -1" display="flex" flexWrap="wrap" gap="14px">
              {PRICE_CLASSES.map((c) => (
                <chakra.label key={c} display="flex" gap="6px" alignItems="center" minH="36px">
                  <input
                    type="checkbox"
                    disabled={locked}
                    checked={tax.classes.includes(c)}
                    onChange={(e) => put({ classes: e.target.checked ? [...tax.classes, c] : tax.classes.filter((x) => x !== c) })}
                    style={{ width: 20, height: 20 }}
                  />
                  on {CLASS_WORDS[c]}
                </chakra.label>
              ))}
            </chakra.div>
          </chakra.div>
        );
      })}
      {!locked && (
        <Act
          type="button"
          onClick={() => setT({ ...t, taxes: [...t.taxes, { name: '', rate: '', classes: ['kits', 'parts'], included: false }] })}
        >
          <Plus size={18} aria-hidden /> A tax
        </Act>
      )}
      <H3>Fees</H3>
      <NamedAmounts what="fee" amount="Amount" locked={locked} rows={t.fees} onRows={(fees) => setT({ ...t, fees })} />
      <H3>How sums are made</H3>
      <chakra.div display="grid" gridTemplateColumns="repeat(3, minmax(0, 1fr))" gap="12px" alignItems="start">
        {text('Shop supplies, of the work', 'share', '4 %')}
        {text('Supplies at the most', 'most', 'no limit')}
        <Labelled label="Rounded" id="charge-rounding">
          <Choice
            id="charge-rounding"
            disabled={locked}
            value={t.rounding}
            onChange={(e) => setT({ ...t, rounding: e.target.value as 'line' | 'total' })}
          >
            <option value="line">line by line</option>
            <option value="total">in total</option>
          </Choice>
        </Labelled>
        {text('A quote stands, days', 'days')}
        {text('By its time: more than quoted by', 'overrun', '10 %')}
      </chakra.div>
      <Kept
        locked={locked}
        dirty={dirty}
        saved={saved}
        action="Save charges and taxes"
        error={error ?? (dirty && issue ? `${issue.path.filter((x) => typeof x === 'string').join(', ')}: ${issue.message}` : null)}
        ready={read.success}
      />
      <chakra.p color="quiet" mt="8px" fontSize="14px">
        Which taxes apply, and how they are rounded, the law of the place says: ask whoever keeps the books.
      </chakra.p>
    </chakra.form>
  );
}
