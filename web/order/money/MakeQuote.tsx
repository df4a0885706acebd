import { chakra } from '@chakra-ui/react';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { choicesOf } from '#core/money/choices';
import { Amount, Rate, type Discount, type OptionChange, type QuotedOption } from '#model/money';
import { call, type ApiError } from '../../app/api';
import { Act, Choice, Entry, Labelled, Lines, ServerAct } from '../../app/ui';
import { useOrder } from '../useOrder';
import { OptionColumn, OptionColumns, OptionPlace } from './OptionColumn';

interface Draft {
  name: string;
  changes: OptionChange[];
}
const PLANNED: Draft = { name: 'As planned', changes: [] };

/** What is typed as taken off: a share or an amount. */
function discountOf(text: string): Discount | null {
  const t = text.trim();
  if (!t) return null;
  if (t.includes('%')) {
    const r = Rate.safeParse(t);
    if (!r.success) throw new Error('a share as 5 %');
    return { rate: r.data };
  }
  const a = Amount.safeParse(t);
  if (!a.success) throw new Error('a share as 5 %, or an amount as 20.00');
  return { amount: a.data };
}

/** A quote in the making: its options as they would be, what has no price yet, and its terms. */
export function MakeQuote({ onDone, onLeave }: { onDone: () => void; onLeave: (() => void) | undefined }) {
  const { order, given, settings, ask } = useOrder();
  const [options, setOptions] = useState<Draft[]>([PLANNED]);
  const [basis, setBasis] = useState<'fixed' | 'time'>('fixed');
  const [off, setOff] = useState('');
  const [note, setNote] = useState('');
  const [prices, setPrices] = useState<Record<string, string>>({});
  const [busy, setBusy] = useState(false);
  let discount: Discount | null = null;
  let offError: string | undefined;
  try {
    discount = discountOf(off);
  } catch (e) {
    offError = (e as Error).message;
  }
  const byHand = Object.fromEntries(Object.entries(prices).filter(([, p]) => Amount.safeParse(p).success));
  const tried = useQuery<{ options: QuotedOption[]; unpriced: { key: string; name: string }[] }, ApiError>({
    queryKey: ['quote-try', order.id, order.version, options, discount, byHand],
    queryFn: ({ signal }) => call(`/api/orders/${order.id}/quote/try`, { json: { options, discount, prices: byHand }, signal }),
    placeholderData: keepPreviousData,
    enabled: order.kits.length + (order.jobs?.length ?? 0) > 0,
  });
  const choices = choicesOf(order, given);
  const put = (i: number, d: Draft | null) => setOptions(options.flatMap((o, k) => (k === i ? (d ?? []) : o)));
  const lacks = tried.data?.unpriced ?? [];
  // what was priced here by hand stays, to be changed
  const asked = [
    ...lacks,
    ...Object.keys(prices)
      .filter((k) => !lacks.some((l) => l.key === k))
      .map((key) => ({ key, name: key })),
  ];
  const give = async () => {
    setBusy(true);
    const done = await ask({ type: 'quote.made', basis, options, discount, note: note.trim(), prices: byHand });
    setBusy(false);
    if (done) onDone();
  };
  if (!order.kits.length && !order.jobs?.length) return <p>Choose kits at Fit first: the quote is made from the plan.</p>;
  return (
    <>
      {tried.error && (
        <chakra.p role="alert" color="fails" mb="8px">
          {tried.error.message}
        </chakra.p>
      )}
      <OptionColumns n={options.length + 1} busy={tried.isFetching}>
        {options.map((d, i) => {
          const o = tried.data?.options.find((x) => x.id === 'abcd'[i]);
          const head = (
            <OptionHead
              n={i + 1}
              draft={d}
              choices={choices}
              onDraft={(x) => put(i, x)}
              onDrop={options.length > 1 ? () => put(i, null) : undefined}
            />
          );
          return o ? (
            <OptionColumn key={i} option={o} currency={settings.currency} name={head} />
          ) : (
            <OptionPlace key={i}>
              {head}
              <chakra.p color="quiet" mt="8px">
                {tried.isFetching ? 'Computing …' : ''}
              </chakra.p>
            </OptionPlace>
          );
        })}
        {options.length < 4 && (
          <Act minHeight="72px" alignSelf="start" onClick={() => setOptions([...options, { name: '', changes: [] }])}>
            <Plus size={18} aria-hidden /> Another option
          </Act>
        )}
      </OptionColumns>
      {asked.length > 0 && (
        <chakra.section mt="16px">
          <chakra.h3 fontSize="17px">No price yet</chakra.h3>
          <chakra.p color="quiet" mb="6px">
            For this quote only; Shop, Prices keeps them for all.
          </chakra.p>
          <chakra.div display="grid" gridTemplateColumns="repeat(3, minmax(0, 1fr))" gap="10px">
            {asked.map((u) => (
              <Labelled
                key={u.key}
                label={u.name}
                id={`price-${u.key}`}
                error={prices[u.key] && !Amount.safeParse(prices[u.key]).success ? 'an amount as 1000.50' : undefined}
              >
                <Entry
                  id={`price-${u.key}`}
                  inputMode="decimal"
                  fontFamily="mono"
                  textAlign="right"
                  value={prices[u.key] ?? ''}
                  onChange={(e) => setPrices({ ...prices, [u.key]: e.target.value })}
                />
              </Labelled>
            ))}
          </chakra.div>
        </chakra.section>
      )}
      <chakra.div display="grid" gridTemplateColumns="220px 160px minmax(0, 1fr)" gap="12px" mt="16px" alignItems="start">
        <Labelled label="Price" id="quote-basis">
          <Choice id="quote-basis" value={basis} onChange={(e) => setBasis(e.target.value as 'fixed' | 'time')}>
            <option value="fixed">is fixed</option>
            <option value="time">of work by its time</option>
          </Choice>
        </Labelled>
        <Labelled label="Taken off" id="quote-off" error={offError}>
          <Entry id="quote-off" value={off} placeholder="5 % or 20.00" fontFamily="mono" onChange={(e) => setOff(e.target.value)} />
        </Labelled>
        <Labelled label="To the owner, if there is more to say" id="quote-note">
          <Lines id="quote-note" minHeight="40px" value={note} maxLength={600} onChange={(e) => setNote(e.target.value)} />
        </Labelled>
      </chakra.div>
      <chakra.div display="flex" gap="10px" alignItems="center" mt="12px">
        <ServerAct
          look="main"
          disabled={busy || !tried.data?.options.length || lacks.length > 0 || !!offError || options.some((o) => !o.name.trim())}
          onClick={() => void give()}
        >
          Give this quote
        </ServerAct>
        {onLeave && (
          <Act look="quiet" onClick={onLeave}>
            Leave the one that stands
          </Act>
        )}
        <chakra.span color="quiet">It stands {settings.charges.quoteDays} days.</chakra.span>
      </chakra.div>
    </>
  );
}

/** What an option is called, and what is otherwise in it than in the plan. */
function OptionHead({
  n,
  draft: d,
  choices,
  onDraft,
  onDrop,
}: {
  n: number;
  draft: Draft;
  choices: readonly OptionChange[];
  onDraft: (d: Draft) => void;
  onDrop: (() => void) | undefined;
}) {
  const called = (changes: readonly OptionChange[]) => changes.map((c) => c.label).join(', ');
  const add = (c: OptionChange) => {
    const changes = [...d.changes, c];
    // a name that nobody gave follows from what it is
    const auto = !d.name || d.name === PLANNED.name || d.name === called(d.changes);
    onDraft({ name: auto ? called(changes).slice(0, 80) : d.name, changes });
  };
  return (
    <>
      <chakra.div display="flex" gap="6px">
        <Entry
          aria-label={`Name of option ${n}`}
          value={d.name}
          maxLength={80}
          fontWeight={700}
          onChange={(e) => onDraft({ ...d, name: e.target.value })}
        />
        {onDrop && (
          <Act look="quiet" aria-label={`Drop option ${n}`} onClick={onDrop}>
            <X size={18} aria-hidden />
          </Act>
        )}
      </chakra.div>
      {d.changes.map((c) => (
        <chakra.p key={c.label} display="flex" alignItems="center" gap="6px" fontSize="15px">
          <chakra.span flex="1">{c.label}</chakra.span>
          <Act look="quiet" aria-label={`Not: ${c.label}`} onClick={() => onDraft({ ...d, changes: d.changes.filter((x) => x !== c) })}>
            <X size={16} aria-hidden />
          </Act>
        </chakra.p>
      ))}
      <Choice
        mt="6px"
        aria-label={`What is otherwise in option ${n}`}
        value=""
        onChange={(e) => {
          const c = choices.find((x) => x.label === e.target.value);
          if (c) add(c);
        }}
      >
        <option value="">Otherwise …</option>
        {choices
          .filter((c) => !d.changes.some((x) => x.label === c.label))
          .map((c) => (
            <option key={c.label} value={c.label}>
              {c.label}
            </option>
          ))}
      </Choice>
    </>
  );
}
