import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import type { QuotedOption } from '#model/money';
import { VERDICT_WORD } from '#core/verdict';
import { sayInUnits } from '#core/quantity/quantity';
import { VerdictMark } from '../../marks/VerdictMark';
import { useOrder } from '../useOrder';
import { PriceLines, Sum } from './PriceLines';

/** So many options side by side: what each comes to, what is done with it, and its lines, each in a row of their own. */
export const OptionColumns = ({ n, busy, children }: { n: number; busy?: boolean; children: ReactNode }) => (
  <chakra.div
    display="grid"
    gridTemplateColumns={`repeat(${Math.min(4, Math.max(2, n))}, minmax(0, 1fr))`}
    columnGap="12px"
    aria-busy={busy}
  >
    {children}
  </chakra.div>
);
/** The place of one of them. */
export const OptionPlace = chakra('article', {
  base: {
    bg: 'raised',
    borderWidth: '1px',
    borderColor: 'rule',
    borderRadius: 'kadro',
    p: '12px',
    mb: '12px',
    minW: 0,
    display: 'grid',
    gridRow: 'span 3',
    gridTemplateRows: 'subgrid',
    alignItems: 'start',
  },
});

/** One option of a quote: what it comes to, how it is judged, how long it takes, and its lines. */
export function OptionColumn({
  option: o,
  currency,
  name,
  on = false,
  children,
}: {
  option: QuotedOption;
  currency: string;
  /** what it is called, where that may be changed here */
  name?: ReactNode;
  on?: boolean;
  children?: ReactNode;
}) {
  const { settings } = useOrder();
  const hours = Math.floor(o.minutes / 60);
  return (
    <OptionPlace aria-label={o.name} borderWidth={on ? '2px' : '1px'} borderColor={on ? 'accent' : 'rule'}>
      <div>
        {name ?? <chakra.h3 fontSize="17px">{o.name}</chakra.h3>}
        <chakra.p my="6px">
          <Sum of={o.totals.gross} currency={currency} size="28px" />
        </chakra.p>
        <chakra.p color="quiet" mb="6px">
          {hours ? `${hours} h ` : ''}
          {o.minutes % 60} min of work
        </chakra.p>
        {(
          [
            ['Charging', o.power],
            ['Wiring', o.wire],
            ['Lamps', o.lamps],
          ] as const
        ).map(
          ([what, j]) =>
            j.verdict && (
              <chakra.p key={what} display="flex" gap="8px" alignItems="flex-start" fontSize="15px" mb="4px">
                <VerdictMark verdict={j.verdict} size={20} />
                <span>
                  <b>{what}</b>{' '}
                  {j.says
                    ? sayInUnits(j.says.replace(`${VERDICT_WORD[j.verdict]}: `, ''), settings.units)
                    : VERDICT_WORD[j.verdict].toLowerCase()}
                </span>
              </chakra.p>
            ),
        )}
      </div>
      <div>{children}</div>
      <chakra.details mt="8px">
        <chakra.summary cursor="pointer" color="accent" minH="36px" fontWeight={600}>
          {o.lines.length} lines
        </chakra.summary>
        <PriceLines lines={o.lines} taxes={o.taxes} totals={o.totals} currency={currency} />
      </chakra.details>
    </OptionPlace>
  );
}
