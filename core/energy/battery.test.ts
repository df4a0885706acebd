import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { OCV, OCV_DEEP_CYCLE, parkedDays, peukertHours, restedCharge, voltsFromSoc } from './battery';

const chemistry = fc.constantFrom('flooded' as const, 'agm' as const, 'lfp' as const);

describe('battery', () => {
  it('charge from volts and volts from charge are inverse, and the charge lies in its band', () => {
    fc.assert(
      fc.property(chemistry, fc.boolean(), fc.double({ min: 0, max: 1, noNaN: true }), (chemistry, deepCycle, soc) => {
        const b = { chemistry, deepCycle };
        const r = restedCharge(b, voltsFromSoc(b, soc));
        expect(r.soc).toBeCloseTo(soc, 6);
        expect(r.low).toBeLessThanOrEqual(r.soc);
        expect(r.high).toBeGreaterThanOrEqual(r.soc);
      }),
    );
  });
  it('more volts never mean less charge', () => {
    fc.assert(
      fc.property(
        chemistry,
        fc.double({ min: 11, max: 13, noNaN: true }),
        fc.double({ min: 0, max: 0.1, noNaN: true }),
        (chemistry, v, d) => void expect(restedCharge({ chemistry }, v + d).soc).toBeGreaterThanOrEqual(restedCharge({ chemistry }, v).soc),
      ),
    );
  });
  it('is full above its table and empty below', () => {
    expect(restedCharge({ chemistry: 'agm' }, 13.1).soc).toBe(1);
    expect(restedCharge({ chemistry: 'flooded' }, 11.2).soc).toBe(0);
    for (const t of [...Object.values(OCV), OCV_DEEP_CYCLE]) expect([...t].sort((a, b) => b[1] - a[1])).toEqual(t);
  });
  it('refuses volts that no rested 12 V battery shows, and those that say nothing of its charge', () => {
    expect(() => restedCharge({ chemistry: 'agm' }, 48)).toThrow(/measure again/);
    expect(() => restedCharge({ chemistry: 'agm' }, 1.2)).toThrow(/8 to 15.5/);
    for (const v of [13.3, 13.8, 14.4]) expect(() => restedCharge({ chemistry: 'flooded' }, v)).toThrow(/on charge, or just off it/);
    // six cells of about 2.1 V, one of them dead
    expect(() => restedCharge({ chemistry: 'flooded' }, 10.5)).toThrow(/dead cell/);
  });
  it('lithium iron phosphate at 13.2 V is 60 %, give or take 20 (common practice, no source)', () => {
    const r = restedCharge({ chemistry: 'lfp' }, 13.2);
    expect(r.soc).toBeCloseTo(0.6, 2);
    expect(r.low).toBeCloseTo(0.4, 2);
    expect(r.high).toBeGreaterThanOrEqual(0.78);
  });
  it('a cold lead battery shows less for the same charge', () => {
    const b = { chemistry: 'flooded' } as const;
    expect(restedCharge(b, 12.4, -10).soc).toBeGreaterThan(restedCharge(b, 12.4, 25).soc);
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
