import { chakra } from '@chakra-ui/react';
import { endOfMonth, format, startOfMonth, subDays, subMonths } from 'date-fns';
import type { ReactNode } from 'react';
import { Choice, Entry } from '../app/ui';

/** From one day to another, both whole, as yyyy-MM-dd. */
export type Days = readonly [from: string, to: string];
const day = (d: Date) => format(d, 'yyyy-MM-dd');
export const lastDays = (): Days => [day(subDays(new Date(), 89)), day(new Date())];
const PERIODS: readonly (readonly [string, () => Days])[] = [
  ['the last 90 days', lastDays],
  ['this month', () => [day(startOfMonth(new Date())), day(new Date())]],
  ['last month', () => [day(startOfMonth(subMonths(new Date(), 1))), day(endOfMonth(subMonths(new Date(), 1)))]],
];

/** Hours as they are told beside one another. */
export const hours = (minutes: number) => (minutes / 60).toFixed(1);

/** A period, usual or by its days, and what is made of it. */
export function PeriodChoice({
  period: [from, to],
  onPeriod,
  children,
}: {
  period: Days;
  onPeriod: (p: Days) => void;
  children: ReactNode;
}) {
  return (
    <chakra.div display="flex" gap="10px" alignItems="center" flexWrap="wrap" mb="10px">
      <Choice
        width="190px"
        aria-label="Period"
        value={PERIODS.findIndex(([, p]) => p().join() === [from, to].join())}
        onChange={(e) => onPeriod(PERIODS[Number(e.target.value)]![1]())}
      >
        <option value={-1} disabled>
          from a day to a day
        </option>
        {PERIODS.map(([word], i) => (
          <option key={word} value={i}>
            {word}
          </option>
        ))}
      </Choice>
      <Entry type="date" width="160px" aria-label="From" value={from} max={to} onChange={(e) => onPeriod([e.target.value, to])} />
      <Entry type="date" width="160px" aria-label="To" value={to} min={from} onChange={(e) => onPeriod([from, e.target.value])} />
      {children}
    </chakra.div>
  );
}
