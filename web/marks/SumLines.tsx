import { chakra } from '@chakra-ui/react';
import { sayInUnits, showUnit } from '#core/quantity/quantity';
import type { SumLine } from '#model/common';
import { useUnits } from '../app/context';

/** The arithmetic behind a verdict, line by line, with where each constant comes from. */
export function SumLines({ lines }: { lines: SumLine[] }) {
  const units = useUnits();
  return (
    <chakra.table width="100%" fontSize="15px" borderCollapse="collapse">
      <tbody>
        {lines.map((l, i) => (
          <chakra.tr
            key={i}
            borderTopWidth={l.kind === 'result' ? '2px' : i ? '1px' : 0}
            borderColor={l.kind === 'result' ? 'ink' : 'rule'}
            fontWeight={l.kind === 'result' ? 700 : 400}
            color={l.kind === 'note' ? 'quiet' : 'ink'}
          >
            <chakra.td py="5px" pr="12px">
              {sayInUnits(l.label, units)}
              {l.source && (
                <chakra.span display="block" fontSize="13px" color="quiet" fontWeight={400}>
                  {l.source}
                </chakra.span>
              )}
            </chakra.td>
            <chakra.td
              py="5px"
              textAlign="right"
              fontFamily="mono"
              whiteSpace={typeof l.value === 'number' || l.value.length < 28 ? 'nowrap' : 'normal'}
              verticalAlign="top"
              fontVariantNumeric="tabular-nums"
            >
              {typeof l.value === 'number' ? showUnit(l.value, l.unit ?? '', units) : `${sayInUnits(l.value, units)} ${l.unit ?? ''}`}
            </chakra.td>
          </chakra.tr>
        ))}
      </tbody>
    </chakra.table>
  );
}

/** A verdict's sum, folded until asked for. */
export function Sum({ lines, title = 'The sum' }: { lines: SumLine[]; title?: string }) {
  return (
    <chakra.details mt="6px">
      <chakra.summary cursor="pointer" color="accent" fontWeight={600} py="6px">
        {title}
      </chakra.summary>
      <SumLines lines={lines} />
    </chakra.details>
  );
}
