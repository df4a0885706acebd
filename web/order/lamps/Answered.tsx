import { chakra } from '@chakra-ui/react';
import type { LampItem } from '#core/lighting/item';
import { parseQuantity, showQuantity, type QuantityKind } from '#core/quantity/quantity';
import { useUnits } from '../../app/context';
import { Act } from '../../app/ui';
import { EditField } from '../EditField';
import { useOrder } from '../useOrder';

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

/** What a person can say about an item: yes or no, or the one figure that is lacking. */
export function Answered({ item }: { item: Pick<LampItem, 'asks' | 'title' | 'rule'> }) {
  const { order, record } = useOrder();
  const units = useUnits();
  const { asks } = item;
  if (!asks || order.status !== 'open') return null;
  const told = order.facts[asks.key];
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
        draft={`${order.id}.${asks.key}`}
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
