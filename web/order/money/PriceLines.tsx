import { chakra } from '@chakra-ui/react';
import type { PricedLine, PricedTax, Totals } from '#model/money';
import type { z } from 'zod';

/** A sum with its currency, never broken in two. */
export const Sum = ({ of, currency, size = '16px' }: { of: string; currency: string; size?: string }) => (
  <chakra.span fontFamily="mono" fontSize={size} whiteSpace="nowrap">
    {of}{' '}
    <chakra.span fontSize="0.7em" color="quiet">
      {currency}
    </chakra.span>
  </chakra.span>
);

/** Lines with what they come to; each opens into how it came about. */
export function PriceLines({
  lines,
  taxes,
  totals,
  currency,
}: {
  lines: readonly PricedLine[];
  taxes: readonly z.infer<typeof PricedTax>[];
  totals: Totals;
  currency: string;
}) {
  return (
    <chakra.div fontSize="15px">
      {lines.map((l) => (
        <chakra.details key={l.id} borderTopWidth="1px" borderColor="rule">
          <chakra.summary display="flex" gap="8px" alignItems="center" minH="36px" cursor="pointer" listStyleType="none">
            <chakra.span flex="1" minW={0}>
              {l.name}
            </chakra.span>
            <chakra.span fontFamily="mono">{l.gross}</chakra.span>
          </chakra.summary>
          <chakra.p color="quiet" pb="6px" fontSize="14px">
            <chakra.span fontFamily="mono">
              {l.quantity}
              {l.unit && ` ${l.unit}`} × {l.unitPrice}
            </chakra.span>{' '}
            → net <chakra.span fontFamily="mono">{l.net}</chakra.span>, tax <chakra.span fontFamily="mono">{l.tax}</chakra.span>.{' '}
            {l.says[0]?.toUpperCase()}
            {l.says.slice(1)}.
          </chakra.p>
        </chakra.details>
      ))}
      <chakra.div borderTopWidth="2px" borderColor="ink" pt="4px">
        {Number(totals.discount) !== 0 && (
          <Row label="Taken off, within the lines">
            <chakra.span fontFamily="mono">−{totals.discount.replace('-', '')}</chakra.span>
          </Row>
        )}
        {taxes.map((t) => (
          <Row key={`${t.name}${t.rate}`} label={`Of it ${t.name}, ${t.rate} of ${t.base}`}>
            <chakra.span fontFamily="mono">{t.tax}</chakra.span>
          </Row>
        ))}
        <Row label="Comes to" strong>
          <Sum of={totals.gross} currency={currency} />
        </Row>
      </chakra.div>
    </chakra.div>
  );
}

const Row = ({ label, strong, children }: { label: string; strong?: boolean; children: React.ReactNode }) => (
  <chakra.div display="flex" gap="8px" fontWeight={strong ? 700 : 400} color={strong ? 'ink' : 'quiet'} minH="26px" alignItems="center">
    <chakra.span flex="1" minW={0}>
      {label}
    </chakra.span>
    {children}
  </chakra.div>
);
