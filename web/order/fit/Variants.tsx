import { chakra } from '@chakra-ui/react';
import { wrap } from 'comlink';
import { useEffect, useState } from 'react';
import type { OptionRow } from '#core/order/options';
import { figure, sayInUnits } from '#core/quantity/quantity';
import type { Kit } from '#model/kit';
import { chosenOption } from '#model/kit';
import { useUnits } from '../../app/context';
import { Act } from '../../app/ui';
import { VerdictMark } from '../../marks/VerdictMark';
import { Table } from '../../sheets/Table';
import { useOrder } from '../useOrder';
import type { CompareWork } from './compare.worker';

/** What a box leaves open: one choice each, and its options side by side where somebody asks. */
export function Variants({ kit, sealed }: { kit: Kit; sealed: boolean }) {
  return kit.variants.map((v) => <OneVariant key={v.id} kit={kit} variant={v} sealed={sealed} />);
}

function OneVariant({ kit, variant, sealed }: { kit: Kit; variant: Kit['variants'][number]; sealed: boolean }) {
  const { order, record } = useOrder();
  const [asked, setAsked] = useState(false);
  const now = chosenOption(variant, order.variants?.[kit.id] ?? {});
  return (
    <chakra.div mt="8px" data-variant={`${kit.id}/${variant.id}`}>
      <chakra.p fontWeight={600} mb="4px">
        {variant.name}
      </chakra.p>
      <chakra.div display="flex" flexWrap="wrap" gap="6px" role="group" aria-label={variant.name}>
        {variant.options.map((o) => (
          <Act
            key={o.id}
            on={o.id === now}
            aria-pressed={o.id === now}
            disabled={sealed}
            minHeight="48px"
            whiteSpace="normal"
            textAlign="left"
            onClick={() => o.id !== now && record({ type: 'variant.chosen', kit: kit.id, variant: variant.id, option: o.id })}
          >
            {o.name}
          </Act>
        ))}
        <Act look="quiet" aria-expanded={asked} onClick={() => setAsked(!asked)}>
          {asked ? 'Hide the comparison' : 'Compare'}
        </Act>
      </chakra.div>
      {asked && <Compared kit={kit.id} variant={variant.id} />}
    </chakra.div>
  );
}

/** Every option planned on this order, in a worker of its own that ends with the question. */
function Compared({ kit, variant }: { kit: string; variant: string }) {
  const { order, given, settings } = useOrder();
  const units = useUnits();
  const [rows, setRows] = useState<OptionRow[] | null>(null);
  useEffect(() => {
    const worker = new Worker(new URL('./compare.worker.ts', import.meta.url), { type: 'module' });
    let stale = false;
    void wrap<CompareWork>(worker)
      .options(order, given, settings, kit, variant)
      .then((r) => !stale && setRows(r));
    return () => {
      stale = true;
      worker.terminate();
    };
  }, [order, given, settings, kit, variant]);
  if (!rows) return <chakra.p color="quiet">Planning each of them on this unit …</chakra.p>;
  return (
    <chakra.div mt="6px" aria-label="Options side by side">
      <Table
        heads={['', 'Option', 'Fed from', 'Off the shelf, or bought', settings.currency, 'min', 'Parked, mA', 'A left there']}
        num={[4, 5, 6, 7]}
        rows={rows.map((r) => [
          <VerdictMark key="v" verdict={r.verdict} size={20} />,
          <span key="n">
            {r.chosen ? <b>{r.name}</b> : r.name}
            {(r.says || r.note) && (
              <chakra.span display="block" color="quiet" fontSize="14px">
                {r.says || r.note}
              </chakra.span>
            )}
          </span>,
          r.feeds.join(', '),
          r.parts.map((p) => sayInUnits(p, units)).join('; ') || 'nothing',
          figure(r.price, 3),
          figure(r.minutes, 3),
          figure(r.parkedMa, 3),
          r.freeA === null ? '–' : figure(r.freeA, 3),
        ])}
      />
    </chakra.div>
  );
}
