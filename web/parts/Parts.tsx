import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { queries } from '../app/api';
import { Tabs } from '../order/Tabs';
import { CutsTab } from './CutsTab';
import { MovesTab } from './MovesTab';
import { NeedsTab } from './NeedsTab';
import { OnOrderTab } from './OnOrderTab';
import { sayParts } from './say-parts';
import { StockTakeTab } from './StockTakeTab';

const TABS = [
  ['needs', 'Needed'],
  ['ordered', 'On order'],
  ['cuts', 'Wire to cut'],
  ['count', 'Count'],
  ['moves', 'Came and went'],
] as const;
/** How often what others did is looked for, ms. */
const LOOK_MS = 10_000;
type Tab = (typeof TABS)[number][0];

/** The parts of the shop: what all orders take, what is to be bought, what is on its way, and what is on the shelf. */
export function Parts() {
  const [params, setParams] = useSearchParams();
  const asked = params.get('see');
  const on: Tab = TABS.find(([t]) => t === asked)?.[0] ?? 'needs';
  // what others count, order and receive is not told by the stream of orders
  const supply = useQuery({ ...queries.supply, refetchInterval: LOOK_MS });
  const purchases = useQuery({ ...queries.purchases, refetchInterval: LOOK_MS }).data ?? [];
  const orders = useQuery(queries.floor).data?.orders ?? [];
  const timeZone = useQuery(queries.settings).data?.settings.timeZone ?? 'UTC';
  const open = purchases.filter((p) => p.state !== 'closed');
  const toOrder = supply.data?.rows.filter((r) => r.suggest > 0).length ?? 0;
  return (
    <chakra.main height="100%" overflowY="auto" p="20px 24px 60px" tabIndex={0}>
      <chakra.h1 fontSize="26px">Parts</chakra.h1>
      {supply.error && (
        <chakra.p role="alert" color="fails">
          {supply.error.message}
        </chakra.p>
      )}
      {supply.data && (
        <chakra.div role="status" fontSize="18px" mb="18px">
          {sayParts(supply.data, orders, timeZone).map((line) => (
            <p key={line}>{line}</p>
          ))}
        </chakra.div>
      )}
      <Tabs
        label="Parts"
        tabs={TABS}
        on={on}
        onShow={(t) => setParams({ see: t }, { replace: true })}
        mark={{ ...(toOrder && { needs: toOrder }), ...(open.length && { ordered: open.length }) }}
      />
      {on === 'needs' && supply.data && <NeedsTab supply={supply.data} orders={orders} />}
      {on === 'ordered' && <OnOrderTab purchases={purchases} orders={orders} />}
      {on === 'cuts' && supply.data && <CutsTab cuts={supply.data.cuts} orders={orders} />}
      {on === 'moves' && <MovesTab rows={supply.data?.rows ?? []} />}
      {on === 'count' && supply.data && <StockTakeTab rows={supply.data.rows} />}
    </chakra.main>
  );
}
