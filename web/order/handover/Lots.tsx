import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { Barcode, Camera } from 'lucide-react';
import { lazy, Suspense, useState, type RefObject } from 'react';
import { inHandFirst, lotItems, lotsThatCame, nextInHand, readLot } from '#core/order/lots';
import type { PlannedStep } from '#core/plan/planned';
import { queries } from '../../app/api';
import { useDraft } from '../../app/kept';
import { Act, Choice, Entry, FieldRow, Labelled } from '../../app/ui';
import { useOrder } from '../useOrder';

const CameraScan = lazy(() => import('../../parts/CameraScan'));

/**
 * Serial and lot numbers of what is fitted: read by scanner or camera, typed, or taken from what was counted as it came.
 * @param step the step in hand, whose things are asked for first
 * @param field where the number is typed, for a dialog that begins there; what is pressed is large then
 */
export function Lots({ step, field }: { step?: PlannedStep; field?: RefObject<HTMLInputElement | null> }) {
  const { order, sheets, assessment, record } = useOrder();
  const all = lotItems(order, assessment);
  const items = step ? inHandFirst(all, step, sheets.kits) : all;
  const lots = order.lots ?? [];
  const [chosen, setChosen] = useState('');
  const [text, setText] = useDraft(`${order.id}.lot`);
  const [camera, setCamera] = useState(false);
  const tall = field ? '48px' : '40px';
  const open = order.status === 'open';
  const inHand = items.find((i) => i.item === chosen) ?? nextInHand(items, lots);
  const take = (read: string) => {
    if (!inHand || !read.trim()) return;
    const { item, lot } = readLot(read, inHand.item, items);
    setChosen(item);
    if (!lot) setText(null);
    else if (record({ type: 'lot.recorded', item, lot })) {
      setText(null);
      setChosen('');
    }
  };
  return (
    <>
      {lots.length > 0 && (
        <chakra.ul listStyleType="none" p={0} mb="8px">
          {lots.map((l) => (
            <chakra.li
              key={`${l.item} ${l.lot}`}
              display="flex"
              alignItems="center"
              gap="12px"
              minH="44px"
              borderTopWidth="1px"
              borderColor="rule"
            >
              <span>{l.name}</span>
              <chakra.span fontFamily="mono" fontWeight={600} flex="1">
                {l.lot}
              </chakra.span>
              {open && (
                <Act type="button" look="quiet" minHeight={tall} onClick={() => record({ type: 'lot.dropped', item: l.item, lot: l.lot })}>
                  Take off
                </Act>
              )}
            </chakra.li>
          ))}
        </chakra.ul>
      )}
      {open && inHand && (
        <>
          <FieldRow gridTemplateColumns="minmax(0, 1.2fr) minmax(0, 1fr) auto auto">
            <Labelled label="What it stands on" id="lot-item">
              <Choice id="lot-item" minHeight={tall} value={inHand.item} onChange={(e) => setChosen(e.target.value)}>
                {items.map((i) => (
                  <option key={i.item} value={i.item}>
                    {i.name}
                  </option>
                ))}
              </Choice>
            </Labelled>
            <Labelled label="Serial or lot number" id="lot-number">
              <Entry
                id="lot-number"
                fontFamily="mono"
                autoComplete="off"
                maxLength={120}
                ref={field}
                minHeight={tall}
                value={text ?? ''}
                onChange={(e) => setText(e.target.value || null)}
                onKeyDown={(e) => {
                  // a scanner ends what it types so
                  if (e.key !== 'Enter') return;
                  e.preventDefault();
                  take(text ?? '');
                }}
              />
            </Labelled>
            <Act
              type="button"
              minHeight={tall}
              minW="48px"
              aria-label="Read it with the camera"
              aria-pressed={camera}
              on={camera}
              onClick={() => setCamera(!camera)}
            >
              <Camera size={20} aria-hidden />
            </Act>
            <Act type="button" minHeight={tall} disabled={!text?.trim()} onClick={() => take(text ?? '')}>
              <Barcode size={18} aria-hidden /> Record it
            </Act>
          </FieldRow>
          {camera && (
            <Suspense fallback={<p>Opening the camera …</p>}>
              <CameraScan onText={take} />
            </Suspense>
          )}
          <Came item={inHand.item} onLot={(lot) => record({ type: 'lot.recorded', item: inHand.item, lot })} />
        </>
      )}
    </>
  );
}

/** Numbers that were read as the thing came, and are on no line here yet. */
function Came({ item, onLot }: { item: string; onLot: (lot: string) => void }) {
  const { order } = useOrder();
  const came = lotsThatCame(order, item, useQuery({ ...queries.purchases, retry: false }).data ?? []);
  if (!came.length) return null;
  return (
    <chakra.div display="flex" flexWrap="wrap" alignItems="center" gap="8px" mt="8px">
      <chakra.span color="quiet">It came with</chakra.span>
      {came.slice(0, 8).map((lot) => (
        <Act key={lot} type="button" minHeight="48px" fontFamily="mono" onClick={() => onLot(lot)}>
          {lot}
        </Act>
      ))}
    </chakra.div>
  );
}
