import { describe, expect, it } from 'vitest';
import { fromLocal, readMeter, readVolts, showMeter, readWatts, readWords, readYear, toLocal } from './fields';
import { slugOf } from '#core/slug';

describe('what is typed at Arrive', () => {
  it.each([
    ['', null],
    ['61', 61],
    ['1,840 km', 1840],
    ['15 230', 15230],
    ['12.5 h', 12.5],
  ])('meter “%s”', (t, v) => expect(readMeter(t)).toBe(v));
  it('a distance is typed in the shop’s unit or with its own, and shown so again', () => {
    expect(readMeter('1,000', 'distance', 'imperial')).toBe(1609.3);
    expect(readMeter('1000 km', 'distance', 'imperial')).toBe(1000);
    expect(readMeter('100', 'hours', 'imperial')).toBe(100);
    expect(showMeter(1609.3, 'distance', 'imperial')).toBe('1000 mi');
    expect([showMeter(12.5, 'hours', 'imperial'), showMeter(null, 'distance', 'metric')]).toEqual(['12.5 h', '']);
  });
  it.each(['x', '-4', '1e9'])('meter refuses “%s”', (t) => expect(() => readMeter(t)).toThrow());
  it.each([
    ['', null],
    ['12.6', 12.6],
    ['12,6 V', 12.6],
    ['50.1v', 50.1],
    ['twelve point four', 12.4],
  ])('volts “%s”', (t, v) => expect(readVolts(t)).toBe(v));
  it.each(['0', '-12', '121', '12 A', 'lots'])('volts refuse “%s”', (t) => expect(() => readVolts(t)).toThrow());
  it('watts may be honestly unknown', () => {
    expect([readWatts(''), readWatts('?'), readWatts('18 W'), readWatts('0.12 kW')]).toEqual([null, null, 18, 120]);
    expect(() => readWatts('9000')).toThrow(/5000/);
  });
  it('years and words have their bounds', () => {
    expect(readYear(2020, 2027)('2025')).toBe(2025);
    expect(() => readYear(2020, 2027)('2019')).toThrow(/2020 to 2027/);
    expect(() => readYear(2020, 2027)('20x5')).toThrow();
    expect(readWords(5)(' abc ')).toBe('abc');
    expect(() => readWords(5)('abcdef')).toThrow('6 characters, at most 5');
    expect(() => readWords(5)('  ')).toThrow(/empty/);
  });
  it('a local day and hour goes to the record and back', () => {
    expect(toLocal(fromLocal('2026-03-02T16:30'))).toBe('2026-03-02T16:30');
    expect(() => fromLocal('')).toThrow();
  });
  it.each([
    ['Roof beacon', 'roof-beacon'],
    ['  12 V (old) ', '12-v-old'],
    ['Träger', 'trager'],
    ['///', 'item'],
  ])('“%s” is kept as %s', (name, id) => expect(slugOf(name)).toBe(id));
});
