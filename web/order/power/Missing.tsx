import { chakra } from '@chakra-ui/react';
import { bandKeys } from '#core/circuit/load';
import type { MissingDraw } from '#core/energy/unit-system';
import { Sheet } from '../../app/ui';
import { readWatts } from '../arrive/fields';
import { EditField } from '../EditField';
import { useOrder } from '../useOrder';

/** Draws that nobody knows, each asked for once: one figure, or a band. */
export function Missing({ missing }: { missing: MissingDraw[] }) {
  const { order, record } = useOrder();
  if (!missing.length || order.status !== 'open') return null;
  return (
    <Sheet mb="12px" borderColor="unknown">
      <chakra.h3 fontSize="16px" mb="8px">
        Not known: tell the number, or a band, and the verdict follows
      </chakra.h3>
      <chakra.div display="grid" gridTemplateColumns="repeat(auto-fit, minmax(260px, 1fr))" gap="12px">
        {missing.map((m) => (
          <EditField
            key={m.key}
            id={m.key}
            draft={`${order.id}.${m.key}`}
            label={m.label}
            value=""
            mono
            placeholder="24 W, or 20 to 40 W"
            read={(t): number | [number, number] => {
              const band = /^(.+?)\s*(?:to|–|-|\.\.)\s*(.+)$/.exec(t.trim());
              const [a, b] = band ? [readWatts(band[1]!), readWatts(band[2]!)] : [readWatts(t), null];
              if (a === null || (band && b === null))
                throw new Error('type the watts from the label or a measurement, or a band such as 20 to 40 W');
              if (b !== null && b <= a) throw new Error('the band is upside down: the lower figure first');
              return b === null ? a : [a, b];
            }}
            save={(w) => {
              if (typeof w === 'number') return record({ type: 'fact.told', key: m.key, value: w, label: m.label });
              const [low, high] = bandKeys(m.key);
              return (
                record({ type: 'fact.told', key: low, value: w[0], label: `${m.label}, at least` }) &&
                record({ type: 'fact.told', key: high, value: w[1], label: `${m.label}, at most` })
              );
            }}
          />
        ))}
      </chakra.div>
    </Sheet>
  );
}
