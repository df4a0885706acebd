import { chakra } from '@chakra-ui/react';
import type { LampItem } from '#core/lighting/item';
import { parseQuantity, showQuantity, type QuantityKind } from '#core/quantity/quantity';
import { useUnits } from '../../app/context';
import { Act } from '../../app/ui';
import { EditField } from '../EditField';
import { useOrder, type OpenOrder } from '../useOrder';

const KIND: Record<string, [QuantityKind, string]> = {
  mm: ['smallLength', ''],
  m: ['length', ''],
  kg: ['mass', ''],
  perMin: ['rate', 'a minute'],
  cd: ['plain', 'cd'],
  deg: ['plain', '°'],
  'km/h': ['plain', 'km/h'],
  dB: ['plain', 'dB'],
  N: ['force', ''],
  '': ['plain', ''],
};

type Asked = Pick<LampItem, 'asks' | 'title' | 'rule'>;

/** What a person can say about an item of the order at hand. */
export function Answered({ item }: { item: Asked }) {
  const { order, record } = useOrder();
  return (
    <Say
      item={item}
      order={order.id}
      open={order.status === 'open'}
      told={item.asks ? order.facts[item.asks.key] : undefined}
      record={record}
    />
  );
}

/** What a person can say about an item: yes or no, or the one figure that is lacking. */
export function Say({
  item,
  order,
  open,
  told,
  record,
}: {
  item: Asked;
  order: string;
  open: boolean;
  told: number | boolean | undefined;
  record: OpenOrder['record'];
}) {
  const units = useUnits();
  const { asks } = item;
  if (!asks || !open) return null;
  if (asks.kind === 'boolean') {
    const seen = item.rule?.kind === 'equipment';
    const tell = (value: boolean) => record({ type: 'fact.told', key: asks.key, value, label: item.title });
    return (
      <chakra.div display="flex" gap="6px" role="group" aria-label={asks.question}>
        <Act minHeight="36px" on={told === true} aria-pressed={told === true} onClick={() => tell(true)}>
          {seen ? 'It is there' : item.rule?.kind === 'proof' ? 'Proved' : 'Yes'}
        </Act>
        <Act minHeight="36px" on={told === false} aria-pressed={told === false} onClick={() => tell(false)}>
          {seen ? 'Not there' : item.rule?.kind === 'proof' ? 'Failed' : 'No'}
        </Act>
      </chakra.div>
    );
  }
  const [kind, unit] = KIND[asks.unit ?? ''] ?? ['plain', ''];
  return (
    <chakra.div width="190px">
      <EditField
        id={`ask-${asks.key}`.replace(/[^a-z0-9-]/g, '-')}
        draft={`${order}.${asks.key}`}
        label={`${asks.question}${unit ? ` (${unit})` : ''}`}
        value={typeof told === 'number' ? (kind === 'plain' ? String(told) : showQuantity(told, kind, units)) : ''}
        mono
        read={(t) => {
          const v = parseQuantity(t, kind, units);
          if (v < 0 || v > 100000) throw new Error('from 0 to 100,000');
          return v;
        }}
        save={(v) => record({ type: 'fact.told', key: asks.key, value: v, label: asks.question })}
      />
    </chakra.div>
  );
}
