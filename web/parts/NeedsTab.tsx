import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { ListedOrder } from '#core/order/summary';
import type { Supply, SupplyRow } from '#core/supply/allocate';
import { AMOUNT_WANTED, typedAmount } from '#core/supply/order-line';
import { may, whoMay } from '#core/people/permissions';
import { usePerson, useUnits } from '../app/context';
import { Act, Entry, FileLink } from '../app/ui';
import { VerdictMark } from '../marks/VerdictMark';
import { sayDay } from '../order/words';
import { useSetting } from '../shop/useSetting';
import { OrderDialog } from './OrderDialog';
import { amountWord, orderWord } from './say-parts';

const COLUMNS = '26px minmax(0, 1fr) 96px 96px 150px 130px';

/** Every item over all orders, what is to be ordered first. */
export function NeedsTab({ supply, orders }: { supply: Supply; orders: readonly ListedOrder[] }) {
  const [whole, setWhole] = useState(false);
  const [ordering, setOrdering] = useState(false);
  // what is typed over what is proposed, by item
  const [typed, setTyped] = useState<Record<string, string>>({});
  const mayOrder = may(usePerson().role, 'purchase.make');
  const first = supply.rows.filter((r) => r.suggest > 0 || r.lacks > 0 || r.onOrder > 0 || typed[r.item]);
  const rest = supply.rows.filter((r) => !first.includes(r));
  const amountOf = (r: SupplyRow) => (typed[r.item] === undefined ? r.suggest : typedAmount(typed[r.item]!, r.unit));
  const wrong = supply.rows.find((r) => amountOf(r) === undefined);
  const chosen = supply.rows.flatMap((r) => {
    const amount = amountOf(r);
    return amount ? [{ r, amount }] : [];
  });
  return (
    <>
      <chakra.div display="flex" gap="10px" alignItems="center" flexWrap="wrap" mb="10px">
        <Act look="main" disabled={!mayOrder || !chosen.length || Boolean(wrong)} onClick={() => setOrdering(true)}>
          Order {chosen.length} {chosen.length === 1 ? 'thing' : 'things'} …
        </Act>
        <FileLink href="/api/supply.csv">As CSV</FileLink>
        {!mayOrder && <chakra.span color="quiet">{whoMay('purchase.make')}</chakra.span>}
        {wrong && (
          <chakra.span role="alert" color="fails">
            {wrong.name}: order {AMOUNT_WANTED[wrong.unit]}.
          </chakra.span>
        )}
      </chakra.div>
      <chakra.div display="grid" gridTemplateColumns={COLUMNS} gap="0 12px" color="quiet" fontSize="14px" textAlign="right" aria-hidden>
        <span />
        <span />
        <span>needed</span>
        <span>on the shelf</span>
        <span>on order</span>
        <span>to order</span>
      </chakra.div>
      {[...first, ...(whole ? rest : [])].map((r) => (
        <Row
          key={r.item}
          r={r}
          orders={orders}
          locked={!mayOrder}
          typed={typed[r.item] ?? null}
          onTyped={(text) => setTyped((t) => ({ ...t, [r.item]: text }))}
        />
      ))}
      {rest.length > 0 && (
        <Act look="quiet" mt="6px" aria-expanded={whole} onClick={() => setWhole(!whole)}>
          {whole ? 'Only what is short or on its way' : `${rest.length} more: enough of each, or not counted`}
        </Act>
      )}
      {ordering && (
        <OrderDialog
          lines={chosen}
          onClose={() => setOrdering(false)}
          onDone={() => {
            setOrdering(false);
            setTyped({});
          }}
        />
      )}
    </>
  );
}

function Row({
  r,
  orders,
  locked,
  typed,
  onTyped,
}: {
  r: SupplyRow;
  orders: readonly ListedOrder[];
  locked: boolean;
  typed: string | null;
  onTyped: (text: string) => void;
}) {
  const units = useUnits();
  const [open, setOpen] = useState(false);
  const days = r.shares.flatMap((s) => (s.day ? [s.day] : [])).sort();
  return (
    <chakra.div borderTopWidth="1px" borderColor="rule" data-item={r.item}>
      <chakra.div
        display="grid"
        gridTemplateColumns={COLUMNS}
        gap="0 12px"
        alignItems="center"
        minH="48px"
        textAlign="right"
        fontFamily="mono"
      >
        <VerdictMark
          verdict={r.have === null && r.need > 0 ? 'unknown' : r.lacks > 0 ? 'fails' : days.length || r.suggest > 0 ? 'tight' : 'holds'}
          size={18}
        />
        <chakra.button
          type="button"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
          textAlign="left"
          fontFamily="body"
          minW={0}
          minH="44px"
          overflowWrap="anywhere"
          cursor="pointer"
          _hover={{ color: 'accent' }}
        >
          {r.name}
          {r.least !== null && (
            <chakra.span color="quiet" fontSize="14px" display="block">
              {amountWord(r.least, r.unit, units)} are kept
            </chakra.span>
          )}
        </chakra.button>
        <span>{amountWord(r.need, r.unit, units)}</span>
        <span>{r.have === null ? '?' : amountWord(r.have, r.unit, units)}</span>
        <span>
          {r.onOrder > 0 ? amountWord(r.onOrder, r.unit, units) : '–'}
          {days.length > 0 && (
            <chakra.span color="quiet" fontFamily="body" fontSize="14px" display="block">
              {sayDay(days.at(-1)!)}
            </chakra.span>
          )}
        </span>
        <Entry
          aria-label={`How many to order: ${r.name}${r.unit === 'm' ? ', metres' : ''}`}
          disabled={locked}
          inputMode="decimal"
          textAlign="right"
          fontFamily="mono"
          value={typed ?? (r.suggest || '')}
          onChange={(e) => onTyped(e.target.value)}
        />
      </chakra.div>
      {open && (
        <chakra.div p="2px 0 12px 38px" display="grid" gridTemplateColumns="minmax(0, 1.4fr) minmax(260px, 1fr)" gap="24px">
          <div>
            {r.shares.length === 0 && <chakra.p color="quiet">No open order takes it.</chakra.p>}
            {r.shares.map((s) => (
              <chakra.div key={s.order} display="flex" gap="10px" alignItems="center" minH="36px">
                <chakra.span flex="1">
                  {orderWord(orders, s.order)}: {amountWord(s.need, r.unit, units)}
                  {r.have !== null && s.kept > 0 && `, ${amountWord(s.kept, r.unit, units)} of the shelf`}
                  {s.coming > 0 && `, ${amountWord(s.coming, r.unit, units)} on order${s.day ? `, here ${sayDay(s.day)}` : ''}`}
                  {s.lacks > 0 && <chakra.b color="fails">, {amountWord(s.lacks, r.unit, units)} lacking</chakra.b>}
                </chakra.span>
                <Reserve item={r.item} order={s.order} only={r.shares.length < 2} />
              </chakra.div>
            ))}
          </div>
          <Level item={r.item} metres={r.unit === 'm'} />
        </chakra.div>
      )}
    </chakra.div>
  );
}

/** An item is kept for an order before all others. */
function Reserve({ item, order, only }: { item: string; order: string; only: boolean }) {
  const locked = !may(usePerson().role, 'settings.change');
  const { value = [], ready, save, error } = useSetting('reserved');
  const on = value.some((x) => x.item === item && x.order === order);
  if (only && !on) return null;
  return (
    <>
      <Act
        on={on}
        aria-pressed={on}
        minHeight="36px"
        disabled={locked || !ready}
        onClick={() => save(on ? value.filter((x) => x.item !== item || x.order !== order) : [...value, { item, order }])}
      >
        {on ? 'Kept for it' : 'Keep for it'}
      </Act>
      {error && (
        <chakra.span role="alert" color="fails">
          {error}
        </chakra.span>
      )}
    </>
  );
}

/** How many are kept at hand, and up to how many are ordered. */
function Level({ item, metres }: { item: string; metres: boolean }) {
  const locked = !may(usePerson().role, 'settings.change');
  const { value = [], ready, save, error } = useSetting('levels');
  const level = value.find((l) => l.item === item);
  const [least, setLeast] = useState<string | null>(null);
  const [upTo, setUpTo] = useState<string | null>(null);
  const others = value.filter((l) => l.item !== item);
  const shown = [least ?? String(level?.least ?? ''), upTo ?? String(level?.upTo ?? '')] as const;
  const dirty = least !== null || upTo !== null;
  const [a, b] = shown.map((t) => typedAmount(t, metres ? 'm' : 'pieces'));
  const keep = () => {
    if (a === null && b === null) save(others);
    else save([...others, { item, least: a ?? 0, upTo: b ?? a ?? 0 }]);
    setLeast(null);
    setUpTo(null);
  };
  return (
    <chakra.form
      onSubmit={(e) => {
        e.preventDefault();
        keep();
      }}
    >
      <chakra.div display="grid" gridTemplateColumns="1fr 1fr auto" gap="8px" alignItems="end">
        <label>
          Keep at least{metres ? ', m' : ''}
          <Entry inputMode="decimal" disabled={locked || !ready} value={shown[0]} onChange={(e) => setLeast(e.target.value)} />
        </label>
        <label>
          Order up to{metres ? ', m' : ''}
          <Entry inputMode="decimal" disabled={locked || !ready} value={shown[1]} onChange={(e) => setUpTo(e.target.value)} />
        </label>
        <Act type="submit" disabled={locked || !ready || !dirty || a === undefined || b === undefined}>
          Keep
        </Act>
      </chakra.div>
      {error && (
        <chakra.p role="alert" color="fails">
          {error}
        </chakra.p>
      )}
    </chakra.form>
  );
}
