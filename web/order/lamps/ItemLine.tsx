import { chakra } from '@chakra-ui/react';
import type { LampItem } from '#core/lighting/item';
import { sayInUnits, showQuantity } from '#core/quantity/quantity';
import { useUnits } from '../../app/context';
import { MarginBar } from '../../marks/MarginBar';
import { Sum } from '../../marks/SumLines';
import { VERDICT_COLOUR, VerdictMark } from '../../marks/VerdictMark';
import { Answered } from './Answered';

/** An item's figure beside its limit, in the shop's units; nothing where there is no figure. */
export function ItemMargin({ item }: { item: LampItem }) {
  const units = useUnits();
  const { margin } = item;
  if (!margin || margin.used === null || (margin.used <= 0 && (margin.limit ?? 0) <= 0)) return null;
  const kind = margin.unit === 'mm' ? 'smallLength' : margin.unit === 'kg' ? 'mass' : null;
  return (
    <MarginBar
      margin={kind ? { ...margin, unit: '' } : margin}
      atLeast={margin.atLeast}
      verdict={item.verdict ?? 'unknown'}
      label={item.title}
      show={kind ? (x) => showQuantity(x, kind, units, 4) : undefined}
    />
  );
}

/** What an item says of itself: its title and how the unit stands to it. */
export function ItemWords({ item }: { item: LampItem }) {
  const units = useUnits();
  return (
    <p>
      <b>{item.title}</b>:{' '}
      <chakra.span color={item.verdict ? VERDICT_COLOUR[item.verdict] : 'quiet'}>{sayInUnits(item.says, units)}</chakra.span>
      {item.basis && (
        <chakra.span color="quiet" fontSize="14px" whiteSpace="nowrap">
          {` · ${item.basis}`}
        </chakra.span>
      )}
    </p>
  );
}

/** One item with its verdict, figure, source and what a person may say of it. */
export function ItemLine({ item, pack }: { item: LampItem; pack?: string }) {
  return (
    <chakra.div
      display="grid"
      gridTemplateColumns="28px minmax(0, 1fr)"
      gap="10px"
      py="8px"
      borderTopWidth="1px"
      borderColor="rule"
      alignItems="start"
    >
      <VerdictMark verdict={item.verdict} />
      <div>
        <ItemWords item={item} />
        <ItemMargin item={item} />
        <chakra.p fontSize="14px" color="quiet">
          {pack && `${pack}, `}
          {item.source}
        </chakra.p>
        {item.sum.length > 1 && <Sum lines={item.sum} />}
        <Answered item={item} />
      </div>
    </chakra.div>
  );
}
