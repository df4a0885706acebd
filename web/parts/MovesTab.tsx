import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { SupplyRow } from '#core/supply/allocate';
import { readItem } from '#core/supply/item-name';
import { isWire, type ShelfMove } from '#model/supply';
import { queries } from '../app/api';
import { useUnits } from '../app/context';
import { Choice } from '../app/ui';
import { promise } from '../order/words';
import { amountWord } from './say-parts';

/** What a move was, in words. */
function sayMove(m: ShelfMove): string {
  switch (m.why) {
    case 'counted':
      return `counted: ${m.ref}`;
    case 'used':
      return `taken for ${m.ref}`;
    case 'put back':
      return `put back from ${m.ref}`;
    case 'received':
      return `came with ${m.ref} to the supplier`;
    case 'moved':
      return m.amount > 0 ? 'put there by hand' : 'taken by hand';
  }
}

/** What came onto the shelf and went from it, the latest first. */
export function MovesTab({ rows }: { rows: readonly SupplyRow[] }) {
  const units = useUnits();
  const [item, setItem] = useState('');
  const { data: moves, error } = useQuery(queries.moves(item));
  const all = useQuery(queries.moves('')).data ?? [];
  const name = (id: string) => rows.find((r) => r.item === id)?.name ?? readItem(id).name;
  const items = [...new Set(all.map((m) => m.item))].sort((a, b) => name(a).localeCompare(name(b)));
  return (
    <chakra.section maxW="1000px" aria-label="Came and went">
      {all.length > 0 && (
        <chakra.label display="flex" gap="10px" alignItems="center" mb="12px">
          Of
          <Choice value={item} onChange={(e) => setItem(e.target.value)} minHeight="44px" maxW="360px">
            <option value="">everything</option>
            {items.map((id) => (
              <option key={id} value={id}>
                {name(id)}
              </option>
            ))}
          </Choice>
        </chakra.label>
      )}
      {error && (
        <chakra.p role="alert" color="fails">
          {error.message}
        </chakra.p>
      )}
      {moves?.length === 0 && (
        <chakra.p color="quiet">
          Nothing has come or gone yet. What is counted, received, taken for an order or put back stands here.
        </chakra.p>
      )}
      {moves?.map((m, i) => (
        <chakra.div
          key={`${m.at}/${m.item}/${i}`}
          display="grid"
          gridTemplateColumns="150px 90px minmax(0, 1.2fr) minmax(0, 1fr) 90px"
          gap="14px"
          alignItems="center"
          borderTopWidth="1px"
          borderColor="rule"
          minH="40px"
        >
          <chakra.span color="quiet">{promise(m.at)}</chakra.span>
          <chakra.span fontFamily="mono" textAlign="right" fontWeight={700}>
            {m.amount > 0 ? '+' : '−'}
            {amountWord(Math.abs(m.amount), isWire(m.item) ? 'm' : 'pieces', units)}
          </chakra.span>
          <span>{name(m.item)}</span>
          <span>{sayMove(m)}</span>
          <chakra.span color="quiet">{m.by}</chakra.span>
        </chakra.div>
      ))}
    </chakra.section>
  );
}
