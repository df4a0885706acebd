import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { OCV, parkedDays, peukertHours, socFromVolts, voltsFromSoc } from './battery';

const chemistry = fc.constantFrom('flooded' as const, 'agm' as const, 'lfp' as const);

describe('battery', () => {
  it('charge from volts and volts from charge are inverse', () => {
    fc.assert(
      fc.property(
        chemistry,
        fc.double({ min: 0, max: 1, noNaN: true }),
        (c, soc) => void expect(socFromVolts(c, voltsFromSoc(c, soc))).toBeCloseTo(soc, 6),
      ),
    );
  });
  it('more volts never mean less charge', () => {
    fc.assert(
      fc.property(
        chemistry,
        fc.double({ min: 8, max: 15.4, noNaN: true }),
        fc.double({ min: 0, max: 0.1, noNaN: true }),
        (c, v, d) => void expect(socFromVolts(c, v + d)).toBeGreaterThanOrEqual(socFromVolts(c, v)),
      ),
    );
  });
  it('is full above its table and empty below', () => {
    expect(socFromVolts('agm', 13.2)).toBe(1);
    expect(socFromVolts('flooded', 11)).toBe(0);
    for (const t of Object.values(OCV)) expect([...t].sort((a, b) => b[1] - a[1])).toEqual(t);
  });
  it('refuses volts that no rested 12 V battery shows', () => {
    expect(() => socFromVolts('agm', 48)).toThrow(/measure again/);
    expect(() => socFromVolts('agm', 1.2)).toThrow(/8 to 15.5/);
  });
  it('a cold lead battery shows less for the same charge', () => {
    expect(socFromVolts('flooded', 12.4, -10)).toBeGreaterThan(socFromVolts('flooded', 12.4, 25));
  });
  it('twice the current lasts less than half as long when the exponent is above one', () => {
    expect(peukertHours(50, 20, 1.2, 10)).toBeLessThan(peukertHours(50, 20, 1.2, 5) / 2);
  });
  it('days parked: nothing to spend is none, more draw is fewer, no draw at all is for ever', () => {
    expect(parkedDays(30, 0.5, 0.5, 10, 4)).toBe(0);
    expect(parkedDays(30, 0.4, 0.5, 10, 4)).toBe(0);
    expect(parkedDays(30, 1, 0.5, 20, 4)).toBeLessThan(parkedDays(30, 1, 0.5, 10, 4));
    expect(parkedDays(30, 1, 0.5, 0, 0)).toBe(Infinity);
    // 15 Ah to spend at 1 Ah a day
    expect(parkedDays(30, 1, 0.5, 1000 / 24, 0)).toBeCloseTo(15, 9);
  });
});
