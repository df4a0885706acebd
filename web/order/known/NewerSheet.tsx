import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { queries } from '../../app/api';
import { Act, ServerAct, Sheet } from '../../app/ui';
import { useOrder } from '../useOrder';
import { changesBy } from './changes';

/** A newer revision of the model’s sheet than the order was begun with: what it would change, and taking it. */
export function NewerSheet() {
  const { order, given, settings, ask } = useOrder();
  const newest = useQuery(queries.sheets).data?.models.find((m) => m.ref.id === order.unit.model.id);
  const newer = newest && newest.ref.revision > order.unit.model.revision && order.status === 'open' ? newest : null;
  const [shown, setShown] = useState(false);
  const changes = useQuery({
    queryKey: ['changes', order.id, order.version, newer?.ref.revision],
    enabled: newer !== null && shown,
    networkMode: 'always',
    queryFn: () => changesBy(order, given, { ...given, model: newer!.sheet }, settings),
  }).data;
  if (!newer) return null;
  return (
    <Sheet aria-label="A newer sheet" mb="14px" p="10px 14px">
      <chakra.div display="flex" gap="12px" alignItems="center" flexWrap="wrap">
        <chakra.p flex="1" minW="260px">
          <b>A newer sheet of this model is there</b>, revision {newer.ref.revision}; this order was begun with revision{' '}
          {order.unit.model.revision} and keeps it until somebody takes the newer one.
        </chakra.p>
        <Act aria-expanded={shown} onClick={() => setShown(!shown)}>
          What it would change
        </Act>
        <ServerAct onClick={() => void ask({ type: 'model.renewed' })}>Take it</ServerAct>
      </chakra.div>
      {shown &&
        changes &&
        (changes.length ? (
          <chakra.ul p="6px 0 0 20px" fontSize="15px">
            {changes.map((c) => (
              <li key={c}>{c}</li>
            ))}
          </chakra.ul>
        ) : (
          <p>Nothing that is judged here would come out otherwise.</p>
        ))}
    </Sheet>
  );
}
