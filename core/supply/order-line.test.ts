import { describe, expect, it } from 'vitest';
import type { SupplyRow } from './allocate';
import { afterPromise } from './delivered';
import { lastDay, orderLine, sumOfAnswers, typedAmount } from './order-line';

const row = (more: Partial<SupplyRow>): SupplyRow => ({
  item: 'plug',
  kind: 'buy',
  name: 'plug',
  unit: 'pieces',
  need: 1,
  have: 0,
  onOrder: 0,
  lacks: 1,
  least: null,
  suggest: 1,
  shares: [{ order: 'a', need: 1, kept: 0, coming: 0, day: null, lacks: 1, holds: true }],
  ...more,
});
const answer = (price: string, ...days: string[]) => ({ item: 'plug', comes: days.map((day) => ({ day, amount: 1 })), price });

describe('a line of an order', () => {
  it('is one order’s where it alone takes what no shelf has, else the shelf’s', () => {
    const [share] = row({}).shares;
    expect(orderLine(row({}), 2)).toEqual({ item: 'plug', kind: 'buy', name: 'plug', unit: 'pieces', amount: 2, order: 'a' });
    expect(orderLine(row({ kind: 'fuse' }), 2).order).toBeNull();
    expect(orderLine(row({ shares: [share!, { ...share!, order: 'b' }] }), 2).order).toBeNull();
    expect(orderLine(row({ price: 480 }), 1).price).toBe(480);
  });
  it('comes to sums in the currency’s own digits, with no error of floating point', () => {
    expect(
      sumOfAnswers(
        Array.from({ length: 3 }, () => answer('0.10')),
        'USD',
      ),
    ).toBe('0.30');
    expect(sumOfAnswers([answer('1200'), answer('34')], 'JPY')).toBe('1234');
    expect(lastDay([answer('1', '2026-03-04', '2026-03-09'), answer('1', '2026-03-05')])).toBe('2026-03-09');
    expect(lastDay([])).toBeNull();
  });
  it('that comes on the day of a promise is in time where that is after noon, by the clocks of the shop', () => {
    expect(afterPromise('2026-03-04', '2026-03-04T18:00:00.000Z', 'America/Denver')).toBe(true);
    expect(afterPromise('2026-03-04', '2026-03-04T20:00:00.000Z', 'America/Denver')).toBe(false);
  });
});

it.each([
  ['', 'pieces', null],
  [' 9 ', 'pieces', 9],
  ['2.5', 'pieces', undefined],
  ['2,5', 'm', 2.5],
  ['-1', 'm', undefined],
  ['10000', 'pieces', undefined],
  ['some', 'm', undefined],
] as const)('“%s” typed for %s', (text, unit, amount) => {
  expect(typedAmount(text, unit)).toBe(amount);
});
