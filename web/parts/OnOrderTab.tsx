import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { may, whoMay } from '#core/people/permissions';
import type { ListedOrder } from '#core/order/summary';
import { comingOf, isWhole, receivedOf } from '#core/supply/coming';
import { localDay } from '#core/quantity/say-here';
import type { PartLabel } from '#core/supply/label';
import { AMOUNT_WANTED, typedAmount } from '#core/supply/order-line';
import type { Purchase } from '#model/supply';
import { call, queries, type ApiError } from '../app/api';
import { usePerson, useUnits } from '../app/context';
import { useDraft } from '../app/kept';
import { Act, Entry, FileLink, ServerAct, Sheet } from '../app/ui';
import { H3 } from '../order/Station';
import { promise, sayDay } from '../order/words';
import { ScanField } from './ScanField';
import { amountWord, orderWord } from './say-parts';

/** Orders to the supplier: what is on its way, and receiving it. */
export function OnOrderTab({ purchases, orders }: { purchases: readonly Purchase[]; orders: readonly ListedOrder[] }) {
  const open = purchases.filter((p) => p.state !== 'closed');
  const closed = purchases.filter((p) => p.state === 'closed');
  return (
    <>
      {!open.length && <chakra.p color="quiet">Nothing is on order. What is to be ordered stands under Needed.</chakra.p>}
      {open.map((p) => (
        <PurchaseCard key={p.id} p={p} orders={orders} />
      ))}
      {closed.length > 0 && (
        <>
          <H3>Here, or ended</H3>
          {closed.map((p) => (
            <Ended key={p.id} p={p} />
          ))}
        </>
      )}
    </>
  );
}

/** How an order to the supplier stands, in a sentence. */
function sayPurchase(p: Purchase, today: string): string {
  if (p.state === 'waiting') return p.says ? `not heard of yet, ${p.says}` : 'being sent to the supplier';
  const due = comingOf(p, today);
  const overdue = due.filter((c) => c.overdue);
  if (overdue.length) return `${overdue.length} of ${p.lines.length} should be here already`;
  const days = [...new Set(due.flatMap((c) => (c.day === null ? [] : [c.day])))].sort();
  if (!days.length) return 'on its way; nobody knows for when';
  return days.length === 1 ? `comes ${sayDay(days[0]!)}` : `comes in parts, ${days.map(sayDay).join(', ')}`;
}

function PurchaseCard({ p, orders }: { p: Purchase; orders: readonly ListedOrder[] }) {
  const zone = useQuery(queries.settings).data?.settings.timeZone ?? 'UTC';
  const today = localDay(new Date().toISOString(), zone);
  const units = useUnits();
  const client = useQueryClient();
  const [begun] = useDraft(receiptKey(p));
  const [receiving, setReceiving] = useState(false);
  const mayChange = may(usePerson().role, 'purchase.make');
  const change = useMutation<unknown, ApiError, { day?: string | null; closed?: true }>({
    mutationFn: (c) => call(`/api/purchases/${p.id}`, { method: 'PATCH', json: { version: p.version, ...c } }),
    onSettled: () => Promise.all(['purchases', 'supply', 'week'].map((k) => client.invalidateQueries({ queryKey: [k] }))),
  });
  return (
    <Sheet mb="12px" aria-label={`Order ${p.number} to the supplier`}>
      <chakra.div display="flex" gap="12px" alignItems="center" flexWrap="wrap">
        <chakra.h2 fontSize="18px" flex="1" minW="240px">
          Order {p.number}: {sayPurchase(p, today)}
        </chakra.h2>
        {!receiving && p.state === 'sent' && (
          <Act look="main" onClick={() => setReceiving(true)}>
            {begun ? 'Go on counting it' : 'It came: count it'}
          </Act>
        )}
        <FileLink href={`/api/purchases/${p.id}/order.csv`}>As CSV</FileLink>
      </chakra.div>
      <chakra.p color="quiet" fontSize="14px">
        Ordered {promise(p.at)} by {p.by}
        {p.toldDay && `; told for ${sayDay(p.toldDay)}`}
      </chakra.p>
      {receiving ? (
        <Receiving p={p} onDone={() => setReceiving(false)} />
      ) : (
        <>
          {p.lines.map((l, i) => {
            const a = p.answer?.find((x) => x.item === l.item);
            const came = receivedOf(p, l.item);
            return (
              <chakra.div key={i} display="flex" gap="12px" borderTopWidth="1px" borderColor="rule" minH="36px" alignItems="center">
                <chakra.span fontFamily="mono" minW="80px" textAlign="right">
                  {amountWord(l.amount, l.unit, units)}
                </chakra.span>
                <chakra.span flex="1">
                  {l.name}
                  {l.order && <chakra.span color="quiet"> for {orderWord(orders, l.order)}</chakra.span>}
                </chakra.span>
                {came > 0 && <span>{amountWord(came, l.unit, units)} came</span>}
                {a && a.comes.length > 0 && !p.toldDay && came < l.amount && (
                  <chakra.span color="quiet">
                    {a.comes.map((c) => `${amountWord(c.amount, l.unit, units)} ${sayDay(c.day)}`).join(', ')}
                  </chakra.span>
                )}
                {a && <chakra.span fontFamily="mono">{a.price}</chakra.span>}
              </chakra.div>
            );
          })}
          <chakra.div display="flex" gap="12px" alignItems="center" mt="10px" flexWrap="wrap">
            <label>
              Told another day{' '}
              <Entry
                type="date"
                width="170px"
                disabled={!mayChange}
                key={p.toldDay ?? ''}
                defaultValue={p.toldDay ?? ''}
                onBlur={(e) => (e.target.value || null) !== p.toldDay && change.mutate({ day: e.target.value || null })}
              />
            </label>
            <chakra.div flex="1" />
            <ServerAct look="quiet" disabled={!mayChange || change.isPending} onClick={() => change.mutate({ closed: true })}>
              {p.receipts.length ? 'The rest will not come' : 'It will not come'}
            </ServerAct>
          </chakra.div>
          {!mayChange && <chakra.p color="quiet">{whoMay('purchase.make')}</chakra.p>}
          {change.error && (
            <chakra.p role="alert" color="fails">
              {change.error.message}
            </chakra.p>
          )}
        </>
      )}
    </Sheet>
  );
}

/** A receipt as far as it is counted. */
interface Counting {
  /** the same receipt however often it is sent */
  id: string;
  counts: Record<string, string>;
  lots: Record<string, string>;
}
const receiptKey = (p: Purchase) => `receipt.${p.id}`;
function readCounting(text: string | null): Counting | null {
  try {
    return text ? (JSON.parse(text) as Counting) : null;
  } catch {
    return null;
  }
}

/** What came, counted line by line: typed, or scanned label by label; kept on this device until it is on the shelf. */
function Receiving({ p, onDone }: { p: Purchase; onDone: () => void }) {
  const units = useUnits();
  const client = useQueryClient();
  const [draft, setDraft] = useDraft(receiptKey(p));
  const [fresh] = useState((): Counting => ({ id: crypto.randomUUID(), counts: {}, lots: {} }));
  const counting = readCounting(draft) ?? fresh;
  const { id, counts, lots } = counting;
  const put = (item: string, count: string | undefined, lot: string | undefined) =>
    setDraft(
      JSON.stringify({
        id,
        counts: count === undefined ? counts : { ...counts, [item]: count },
        lots: lot === undefined ? lots : { ...lots, [item]: lot },
      }),
    );
  const [said, setSaid] = useState('');
  const items = p.lines.filter((l, i) => p.lines.findIndex((x) => x.item === l.item) === i);
  const amountOf = (l: (typeof items)[number]) => typedAmount(counts[l.item] ?? '', l.unit);
  const bad = items.find((l) => amountOf(l) === undefined);
  const counted = items.flatMap((l) => {
    const amount = amountOf(l);
    return amount ? [{ item: l.item, amount, lot: lots[l.item]?.trim() ?? '' }] : [];
  });
  const scanned = (label: PartLabel) => {
    const line = items.find((l) => l.item === label.item);
    if (!line) return setSaid(`${label.item} was not ordered with order ${p.number}.`);
    const n = (amountOf(line) ?? 0) + (label.amount ?? 1);
    const had = lots[label.item];
    const all = [...new Set([...(had ? [had] : []), ...(label.lot ? [label.lot] : [])])].join(', ').slice(0, 60);
    put(label.item, String(n), label.lot ? all : undefined);
    setSaid(`${line.name}: ${n}`);
  };
  const send = useMutation<unknown, ApiError>({
    mutationFn: () =>
      call(`/api/purchases/${p.id}/receipts`, {
        json: { id, lines: counted },
      }),
    onSuccess: async () => {
      setDraft(null);
      await Promise.all(
        ['purchases', 'supply', 'moves', 'week', 'settings', 'order'].map((k) => client.invalidateQueries({ queryKey: [k] })),
      );
      onDone();
    },
  });
  return (
    <>
      <ScanField onLabel={scanned} said={said} />
      {items.map((l) => {
        const due = p.lines.filter((x) => x.item === l.item).reduce((s, x) => s + x.amount, 0) - receivedOf(p, l.item);
        const n = amountOf(l);
        return (
          <chakra.div
            key={l.item}
            display="grid"
            gridTemplateColumns="minmax(0, 1fr) 120px 120px 200px"
            gap="12px"
            alignItems="center"
            borderTopWidth="1px"
            borderColor="rule"
            minH="52px"
          >
            <span>
              {l.name}
              {typeof n === 'number' && n !== due && (
                <chakra.span color="tightText" display="block" fontSize="14px">
                  {n < due
                    ? `${amountWord(Number((due - n).toFixed(2)), l.unit, units)} still to come`
                    : 'more than was due: keep it, or send it back'}
                </chakra.span>
              )}
            </span>
            <chakra.span color="quiet" textAlign="right">
              {amountWord(Math.max(0, due), l.unit, units)} due
            </chakra.span>
            <Entry
              aria-label={`Came: ${l.name}${l.unit === 'm' ? ', metres' : ''}`}
              inputMode="decimal"
              textAlign="right"
              fontFamily="mono"
              minHeight="48px"
              value={counts[l.item] ?? ''}
              onChange={(e) => put(l.item, e.target.value, undefined)}
            />
            <Entry
              aria-label={`Serial or lot: ${l.name}`}
              placeholder="serial or lot"
              minHeight="48px"
              maxLength={60}
              value={lots[l.item] ?? ''}
              onChange={(e) => put(l.item, undefined, e.target.value)}
            />
          </chakra.div>
        );
      })}
      <chakra.div display="flex" gap="10px" alignItems="center" mt="12px">
        <ServerAct look="main" minHeight="48px" disabled={!counted.length || Boolean(bad) || send.isPending} onClick={() => send.mutate()}>
          Put {counted.length} {counted.length === 1 ? 'thing' : 'things'} on the shelf
        </ServerAct>
        <Act minHeight="48px" onClick={onDone}>
          Leave it for now
        </Act>
        {draft && (
          <Act
            look="quiet"
            minHeight="48px"
            onClick={() => {
              setDraft(null);
              onDone();
            }}
          >
            Forget this count
          </Act>
        )}
        {bad && (
          <chakra.span role="alert" color="fails">
            {bad.name}: count {AMOUNT_WANTED[bad.unit]}.
          </chakra.span>
        )}
        {send.error && (
          <chakra.span role="alert" color="fails">
            {send.error.message} What you counted stands here.
          </chakra.span>
        )}
      </chakra.div>
    </>
  );
}

function Ended({ p }: { p: Purchase }) {
  const units = useUnits();
  return (
    <chakra.details borderTopWidth="1px" borderColor="rule">
      <chakra.summary cursor="pointer" minH="40px" alignContent="center">
        Order {p.number}, made {promise(p.at)} by {p.by}: {p.lines.length} {p.lines.length === 1 ? 'thing' : 'things'},{' '}
        {isWhole(p) ? 'all of it came' : 'not all of it came'}
      </chakra.summary>
      {p.receipts.map((r) => (
        <chakra.p key={r.id} pl="12px" mb="6px">
          {promise(r.at)} {r.by}:{' '}
          {r.lines
            .map((l) => {
              const line = p.lines.find((x) => x.item === l.item)!;
              return `${amountWord(l.amount, line.unit, units)} ${line.name}${l.lot ? ` (${l.lot})` : ''}`;
            })
            .join('; ')}
        </chakra.p>
      ))}
    </chakra.details>
  );
}
