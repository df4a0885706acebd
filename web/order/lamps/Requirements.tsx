import { chakra } from '@chakra-ui/react';
import { memo } from 'react';
import { Link } from 'react-router';
import { RANK } from '#core/verdict';
import type { LampItem } from '#core/lighting/item';
import type { PackCheck } from '#core/lighting/judge';
import type { Lamp } from '#core/lighting/lamp';
import { Act } from '../../app/ui';
import { Sum } from '../../marks/SumLines';
import { VerdictMark } from '../../marks/VerdictMark';
import { H3 } from '../Station';
import { useOrder, type OpenOrder } from '../useOrder';
import { Say } from './Answered';
import { ItemMargin, ItemWords } from './ItemLine';
import { stateQuery } from './stateQuery';

const rank = (i: LampItem) => (i.verdict === null ? -1 : RANK[i.verdict]);

/** Every item of the chosen packs: met, short by how much, not known, or not applicable and why. */
export function Requirements({
  packs,
  picked,
  onPick,
}: {
  packs: readonly PackCheck[];
  picked: Lamp | null;
  onPick: (lamp: string) => void;
}) {
  const { order, record } = useOrder();
  return packs.map(({ pack, items }) => (
    <chakra.section key={pack.id}>
      <H3 mb="2px">{pack.name}</H3>
      <chakra.p color="quiet" fontSize="14px" mb="6px">
        {pack.place}. {pack.edition}.
      </chakra.p>
      <chakra.ul listStyleType="none" p={0} borderTopWidth="1px" borderColor="rule">
        {[...items]
          .sort((a, b) => rank(b) - rank(a))
          .map((i) => (
            <Row
              key={i.id}
              item={i}
              on={!!picked && i.lamps.some((f) => f.lamp.id === picked.id)}
              onPick={onPick}
              order={order.id}
              open={order.status === 'open'}
              told={i.asks ? order.facts[i.asks.key] : undefined}
              record={record}
            />
          ))}
      </chakra.ul>
    </chakra.section>
  ));
}

const same = (a: LampItem, b: LampItem) =>
  a === b ||
  (a.id === b.id &&
    a.verdict === b.verdict &&
    a.says === b.says &&
    a.basis === b.basis &&
    a.asks?.key === b.asks?.key &&
    a.margin?.used === b.margin?.used);

interface RowProps {
  item: LampItem;
  on: boolean;
  onPick: (lamp: string) => void;
  order: string;
  open: boolean;
  told: number | boolean | undefined;
  record: OpenOrder['record'];
}

// what a fact changes of one item repaints that item alone: nothing here reads the whole order
const Row = memo(
  function Row({ item, on, onPick, order, open, told, record }: RowProps) {
    const bad = item.lamps.find((f) => f.verdict !== 'holds' && f.lamp.at) ?? item.lamps.find((f) => f.lamp.at);
    return (
      <chakra.li
        display="grid"
        gridTemplateColumns="30px minmax(0, 1fr) minmax(0, 190px) minmax(0, auto)"
        gap="12px"
        py="7px"
        borderBottomWidth="1px"
        borderColor="rule"
        alignItems="start"
        bg={on ? 'accentWash' : undefined}
      >
        <VerdictMark verdict={item.verdict} />
        <div>
          <ItemWords item={item} />
          {item.remedies.map((r) => (
            <chakra.p key={r} fontSize="15px">
              {r}
            </chakra.p>
          ))}
          <chakra.p color="quiet" fontSize="14px">
            {item.source}
            {item.note && `. ${item.note}`}
            {item.failing && (
              <>
                {' · '}
                <Link to={`/orders/${order}/wire?${stateQuery(item.failing)}`}>
                  <chakra.span color="accent" textDecoration="underline">
                    show that state on the schematic
                  </chakra.span>
                </Link>
              </>
            )}
          </chakra.p>
          {item.sum.length > 1 && <Sum lines={item.sum} />}
        </div>
        <div>
          <ItemMargin item={item} />
        </div>
        <chakra.div display="flex" gap="6px" justifyContent="flex-end" flexWrap="wrap">
          {bad && (
            <Act minHeight="36px" onClick={() => onPick(bad.lamp.id)}>
              Show
            </Act>
          )}
          <Say item={item} order={order} open={open} told={told} record={record} />
        </chakra.div>
      </chakra.li>
    );
  },
  (a, b) => a.on === b.on && a.told === b.told && a.open === b.open && a.order === b.order && a.record === b.record && same(a.item, b.item),
);
