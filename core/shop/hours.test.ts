import { expect, it } from 'vitest';
import { DayHours } from '#model/shop-week';
import { readHours, writeHours } from './hours';

it.each([
  ['8-12, 12:45-17', '08:00-12:00, 12:45-17:00'],
  ['9.30 to 13; 14–18:15', '09:30-13:00, 14:00-18:15'],
  ['', ''],
])('“%s” is read, and written as “%s”', (typed, written) => {
  expect(writeHours(readHours(typed))).toBe(written);
  expect(readHours(written)).toEqual(readHours(typed));
});
it('says what is no shift, and leaves hours that are none to the day they would be of', () => {
  expect(() => readHours('eight to five')).toThrow(/“eight to five” is no shift/);
  expect(DayHours.safeParse(readHours('25-26')).success).toBe(false);
});
