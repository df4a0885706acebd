import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import type { ListedOrder } from '#core/order/summary';
import { showQuantity } from '#core/quantity/quantity';
import type { WeekCuts } from '#core/supply/allocate';
import { awgName } from '#core/wire/resistance';
import { queries } from '../app/api';
import { usePerson, useUnits } from '../app/context';
import { may } from '#core/people/permissions';
import { Act, FileLink } from '../app/ui';
import { useSetting } from '../shop/useSetting';
import { H3 } from '../order/Station';
import { orderWord } from './say-parts';

/** The wire of all open orders, spool by spool, as it wastes least. */
export function CutsTab({ cuts, orders }: { cuts: WeekCuts; orders: readonly ListedOrder[] }) {
  const units = useUnits();
  const kept = useSetting('cuts');
  const locked = !may(usePerson().role, 'settings.change');
  const stock = useQuery(queries.settings).data?.settings.stock ?? [];
  const show = (m: number) => showQuantity(m, 'length', units);
  const unmet = cuts.rows.filter((r) => r.stock === null);
  const used = [...new Set(cuts.rows.flatMap((r) => r.stock ?? []))]
    .map((id) => stock.find((s) => s.id === id) ?? { id, awg: 18, colour: '', lengthM: 0 })
    .sort((a, b) => b.awg - a.awg || a.colour.localeCompare(b.colour) || a.lengthM - b.lengthM);
  const saved = cuts.aloneWasteM - cuts.plan.wasteM;
  return (
    <>
      <chakra.div display="flex" gap="12px" alignItems="center" mb="6px">
        <chakra.p flex="1">
          {cuts.rows.length} pieces of wire for all open orders
          {unmet.length
            ? `; ${unmet.length} of them from nothing that is on hand, so who comes first is served first`
            : `, from ${used.length} spools and offcuts`}
          .{' '}
          {!unmet.length &&
            saved > 0.05 &&
            `Cut together, ${show(saved)} less is left over on pieces that were cut from than order by order.`}
        </chakra.p>
        {kept.value && kept.value.length > 0 ? (
          <Act disabled={locked || !kept.ready} onClick={() => kept.save([])}>
            Lay it out anew
          </Act>
        ) : (
          !unmet.length &&
          cuts.rows.length > 0 && (
            <Act
              look="main"
              disabled={locked || !kept.ready}
              onClick={() => kept.save(cuts.rows.flatMap(({ order, wire, stock: from }) => (from ? [{ order, wire, stock: from }] : [])))}
            >
              Cut it like this
            </Act>
          )
        )}
        <FileLink href="/api/supply/cuts.csv">As CSV</FileLink>
      </chakra.div>
      {kept.value && kept.value.length > 0 && (
        <chakra.p mb="6px">
          It is laid out like this: the cut list of each order, and what the bench takes off the spools, follow it.
        </chakra.p>
      )}
      {kept.error && (
        <chakra.p role="alert" color="fails">
          {kept.error}
        </chakra.p>
      )}
      {unmet.length > 0 && (
        <>
          <H3>Nothing long enough</H3>
          {unmet.map((r) => (
            <chakra.p key={r.id}>
              <chakra.span fontFamily="mono">
                {awgName(r.awg)} AWG {r.colour} {show(r.lengthM)}
              </chakra.span>{' '}
              for {orderWord(orders, r.order)}
            </chakra.p>
          ))}
        </>
      )}
      {used.map((s) => {
        const rows = cuts.rows.filter((r) => r.stock === s.id).sort((a, b) => b.lengthM - a.lengthM);
        const left = Math.max(0, s.lengthM - rows.reduce((n, r) => n + r.lengthM, 0));
        return (
          <chakra.section key={s.id} aria-label={s.id} borderTopWidth="1px" borderColor="rule" py="8px">
            <chakra.div display="flex" gap="12px">
              <chakra.b flex="1">
                {s.id}{' '}
                <chakra.span fontFamily="mono" fontWeight={400}>
                  {awgName(s.awg)} AWG {s.colour}
                </chakra.span>
              </chakra.b>
              <chakra.span color="quiet">
                {show(left)} left of {show(s.lengthM)}
              </chakra.span>
            </chakra.div>
            <chakra.div display="flex" height="10px" my="4px" bg="sunk" borderRadius="kadro" overflow="hidden" aria-hidden>
              {rows.map((r) => (
                <chakra.span
                  key={r.id}
                  flex="none"
                  bg="accent"
                  borderRightWidth="1px"
                  borderColor="raised"
                  style={{ width: `${(100 * r.lengthM) / Math.max(s.lengthM, 0.01)}%` }}
                />
              ))}
            </chakra.div>
            <chakra.ul listStyleType="none" p={0} display="flex" flexWrap="wrap" gap="4px 18px">
              {byOrder(rows).map(([order, list]) => (
                <li key={order}>
                  {orderWord(orders, order)}: <chakra.span fontFamily="mono">{list.map((r) => show(r.lengthM)).join(', ')}</chakra.span>
                </li>
              ))}
            </chakra.ul>
          </chakra.section>
        );
      })}
    </>
  );
}

function byOrder(rows: WeekCuts['rows']): [string, WeekCuts['rows']][] {
  const out = new Map<string, WeekCuts['rows']>();
  for (const r of rows) out.set(r.order, [...(out.get(r.order) ?? []), r]);
  return [...out];
}
