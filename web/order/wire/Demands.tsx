import { chakra } from '@chakra-ui/react';
import type { FeedConflict, FeedDemand } from '#core/order/demands';
import { Act } from '../../app/ui';
import { VerdictMark } from '../../marks/VerdictMark';
import { useOrder } from '../useOrder';

/** What the rule packs ask of the feeds: what was chosen for it, and what excludes it, with what would resolve that. */
export function Demands({ conflicts, met }: { conflicts: readonly FeedConflict[]; met: readonly FeedDemand[] }) {
  const { order, record } = useOrder();
  if (!conflicts.length && !met.length) return null;
  const tell = (c: FeedConflict, value: boolean) =>
    record({ type: 'fact.told', key: c.asks!.key, value, label: c.asks!.question.slice(0, 160) });
  return (
    <chakra.section aria-label="What the rule packs ask of the feeds" mb="12px" display="grid" gap="6px">
      {conflicts.map((c) => (
        <chakra.div
          key={`${c.circuit} ${c.item}`}
          display="flex"
          gap="10px"
          alignItems="center"
          flexWrap="wrap"
          bg="raised"
          borderWidth="1px"
          borderColor="rule"
          borderRadius="kadro"
          p="8px 12px"
        >
          <VerdictMark verdict="fails" size={20} />
          <chakra.span flex="1 1 320px">
            <b>{c.name}.</b> {c.title}. What resolves it: {c.resolves}.
          </chakra.span>
          {c.asks && order.status === 'open' && (
            <chakra.span display="inline-flex" gap="8px" alignItems="center" flexWrap="wrap">
              {c.asks.question}
              <Act onClick={() => tell(c, true)}>Yes</Act>
              <Act on={order.facts[c.asks.key] === false} onClick={() => tell(c, false)}>
                No
              </Act>
            </chakra.span>
          )}
        </chakra.div>
      ))}
      {met.map((d) => (
        <chakra.p key={`${d.circuit} ${d.item}`} display="flex" gap="10px" alignItems="center" fontSize="15px" color="quiet">
          <VerdictMark verdict="holds" size={18} />
          <span>
            {d.name}: {d.says}.
          </span>
        </chakra.p>
      ))}
    </chakra.section>
  );
}
