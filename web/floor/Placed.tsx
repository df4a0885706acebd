import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { mayBeside, whoMayBeside } from '#core/people/beside';
import type { ListedOrder } from '#core/order/summary';
import type { Week, WeekPromise } from '#core/shop/week';
import { pinOf, withPin } from '#core/shop/pins';
import type { Pin } from '#model/shop-week';
import { queries } from '../app/api';
import { usePerson } from '../app/context';
import { Act, Choice, Entry } from '../app/ui';

import { promise } from '../order/words';
import { ChanceBar } from './ChanceBar';
import { useSetting } from '../shop/useSetting';

/** How much a late hour counts, in words. */
const WEIGHTS: readonly (readonly [number, string])[] = [
  [1, 'as any other'],
  [3, 'three times as much'],
  [10, 'ten times as much'],
];
const iso = (ms: number) => new Date(ms).toISOString();

const HOW: Record<WeekPromise['saves'][number]['how'], string> = {
  first: 'Before all others',
  hour: 'With an hour more each day',
  second: 'With a second person all the while',
  less: 'Without',
};

/** What would save a promise that does not hold, and who must be called then. */
export function Saves({ p, orders }: { p: WeekPromise; orders: ReadonlyMap<string, ListedOrder> }) {
  const who = (id: string) => {
    const o = orders.get(id);
    return o ? `${o.summary.owner} (${o.number})` : id;
  };
  const kit = (id: string) => orders.get(p.order)?.summary.kits.find((k) => k.id === id)?.name ?? id;
  return (
    <>
      {p.saves.map((s) => (
        <chakra.span key={s.how + (s.kit ?? '')} display="block">
          {HOW[s.how]}
          {s.kit !== undefined && ` ${kit(s.kit)}`} it holds {Math.round(100 * s.chance)} times in 100
          {s.slips.length ? `; then call ${s.slips.map(who).join(', ')}: it slips there` : ', and no other promise slips'}.
        </chakra.span>
      ))}
    </>
  );
}

/** One order’s place in the week: what its promise looks like, what would save it, and what is decided by hand. */
export function Placed({
  o,
  week,
  orders,
  limit,
}: {
  o: ListedOrder;
  week: Week;
  orders: ReadonlyMap<string, ListedOrder>;
  limit: number;
}) {
  const locked = !mayBeside(usePerson().role, 'settings.change');
  const { value: pins, ready, save, error } = useSetting('pins');
  const bays = useQuery(queries.settings).data?.settings.bays ?? [];
  const p = week.promises.find((x) => x.order === o.id);
  const why = week.unplanned.find((x) => x.order === o.id)?.why;
  const pin = pinOf(pins ?? [], o.id);
  const change = (to: Partial<Pin>) => save(withPin(pins ?? [], o.id, to));
  return (
    <chakra.section
      aria-label={`Order ${o.number} in the week`}
      bg="raised"
      borderWidth="1px"
      borderColor="accent"
      borderRadius="kadro"
      p="12px 14px"
      mt="10px"
      display="grid"
      gridTemplateColumns="minmax(220px, 1fr) minmax(300px, 1.4fr)"
      gap="20px"
    >
      <div>
        <b>
          <chakra.span fontFamily="mono">{o.number}</chakra.span> {o.summary.unitName}, {o.summary.owner}
        </b>
        <chakra.p>Promised {promise(o.promisedAt)}.</chakra.p>
        {p && (
          <>
            <chakra.p>
              {p.likely !== null && `Likely ready ${promise(iso(p.likely))}. `}
              {p.holdsBy !== null && `By ${promise(iso(p.holdsBy))} it is ready ${Math.round(100 * limit)} times in 100`}
              {p.sure !== null && `, by ${promise(iso(p.sure))} 95 times`}.
            </chakra.p>
            <ChanceBar p={p} limit={limit} />
            <Saves p={p} orders={orders} />
          </>
        )}
        {why && <chakra.p color="fails">No place in the week: {why}.</chakra.p>}
        <chakra.div mt="8px">
          <Link to={`/orders/${o.id}/${o.summary.station}`}>
            <Act as="span" look="main">
              Open the order
            </Act>
          </Link>
        </chakra.div>
      </div>
      <div>
        <b>Decided by hand</b>
        <chakra.div display="grid" gridTemplateColumns="repeat(2, minmax(0, 1fr))" gap="10px" mt="6px">
          <label>
            Bay
            <Choice disabled={locked || !ready} value={pin.bay ?? ''} onChange={(e) => change({ bay: e.target.value || null })}>
              <option value="">any that takes it</option>
              {bays.map((b) => (
                <option key={b.id} value={b.id}>
                  {b.name}
                </option>
              ))}
            </Choice>
          </label>
          <label>
            Person
            <Choice disabled={locked || !ready} value={pin.person ?? ''} onChange={(e) => change({ person: e.target.value || null })}>
              <option value="">whoever can</option>
              {week.people.map((x) => (
                <option key={x.id} value={x.id}>
                  {x.name}
                </option>
              ))}
            </Choice>
          </label>
          <label>
            Late, it counts
            <Choice disabled={locked || !ready} value={pin.weight} onChange={(e) => change({ weight: Number(e.target.value) })}>
              {WEIGHTS.map(([n, word]) => (
                <option key={n} value={n}>
                  {word}
                </option>
              ))}
            </Choice>
          </label>
          <label>
            Not before
            <Entry
              type="date"
              disabled={locked || !ready}
              defaultValue={pin.notBefore ?? ''}
              key={pin.notBefore ?? ''}
              onBlur={(e) => (e.target.value || null) !== pin.notBefore && change({ notBefore: e.target.value || null })}
            />
          </label>
        </chakra.div>
        {error && (
          <chakra.p role="alert" color="fails" mt="6px">
            {error}
          </chakra.p>
        )}
        <chakra.p color="quiet" mt="6px">
          {locked
            ? whoMayBeside('settings.change')
            : week.pinsCostMin >= 1
              ? `All that is decided by hand costs ${Math.round(week.pinsCostMin)} minutes of lateness.`
              : 'What is decided by hand costs no lateness.'}
        </chakra.p>
      </div>
    </chakra.section>
  );
}
