import { expect, it } from 'vitest';
import { localTime, sayHere } from './say-here';

it('a recorded moment is told by the shop’s clocks, on both sides of summer time', () => {
  const denver = { units: 'metric' as const, timeZone: 'America/Denver' };
  expect(sayHere('promise 2026-03-04T09:30Z', denver)).toBe('promise 2026-03-04 02:30');
  expect(sayHere('promise 2026-07-04T03:30:00.000Z; volts at rest 12.7 V', denver)).toBe('promise 2026-07-03 21:30; volts at rest 12.7 V');
  expect(localTime('2026-03-08T09:30:00Z', 'America/Denver')).toBe('2026-03-08 03:30');
});
it('and lengths and pulls in its units', () => {
  expect(sayHere('bar 25.4 mm lower than on 2026-01-02T10:00Z', { units: 'imperial', timeZone: 'UTC' })).toMatch(
    /^bar 1 in lower than on 2026-01-02 10:00$/,
  );
  expect(sayHere('order 2026-01-02 10:00', { units: 'imperial', timeZone: 'UTC' })).toBe('order 2026-01-02 10:00');
});
