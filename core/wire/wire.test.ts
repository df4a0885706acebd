import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ImpossibleInput } from '../errors';
import { allowable } from '../wire-rules/allowable';
import { chooseWire, pairDropV } from './choose';
import { chooseFuse, FUSE_SIZES } from './fuse';
import { GAUGES } from './tables';
import { awgName, wireResistance } from './resistance';

const load = fc.record({
  amps: fc.double({ min: 0.1, max: 60, noNaN: true }),
  oneWayM: fc.double({ min: 0, max: 8, noNaN: true }),
  systemV: fc.constantFrom(12, 36, 48),
  maxDropPct: fc.double({ min: 1, max: 15, noNaN: true }),
});

describe('choosing a wire', () => {
  it('carries the load, keeps the drop, and the next thinner one would not', () => {
    fc.assert(
      fc.property(load, (q) => {
        let r;
        try {
          r = chooseWire(q);
        } catch (e) {
          expect(e).toBeInstanceOf(ImpossibleInput);
          return;
        }
        expect(r.ampacityA).toBeGreaterThanOrEqual(q.amps);
        expect(r.dropPct).toBeLessThanOrEqual(q.maxDropPct);
        expect(r.dropV).toBeCloseTo((r.dropPct / 100) * q.systemV, 9);
        const i = (GAUGES as readonly number[]).indexOf(r.awg);
        if (i > 0) {
          const thinner = GAUGES[i - 1]!;
          expect(allowable({ awg: thinner }) < q.amps || (pairDropV(thinner, q.amps, q.oneWayM) / q.systemV) * 100 > q.maxDropPct).toBe(
            true,
          );
        } else expect(r.limitedBy).toBe('smallest');
      }),
    );
  });
  it('a longer run never gets a thinner wire', () => {
    fc.assert(
      fc.property(load, fc.double({ min: 1, max: 3, noNaN: true }), (q, k) => {
        const awg = (m: number) => {
          try {
            return chooseWire({ ...q, oneWayM: m }).awg;
          } catch {
            return -9;
          }
        };
        expect(awg(q.oneWayM * k)).toBeLessThanOrEqual(awg(q.oneWayM));
      }),
    );
  });
  it('honours the thinnest gauge asked for', () => {
    expect(chooseWire({ amps: 1, oneWayM: 1, systemV: 12, maxDropPct: 10, awgMin: 14 })).toMatchObject({ awg: 14, limitedBy: 'smallest' });
  });
  it('says which limit no stocked gauge meets', () => {
    expect(() => chooseWire({ amps: 500, oneWayM: 1, systemV: 12, maxDropPct: 10 })).toThrow(/carries 500 A/);
    expect(() => chooseWire({ amps: 100, oneWayM: 60, systemV: 12, maxDropPct: 1 })).toThrow(/drop/);
    expect(() => allowable({ awg: 13 })).toThrow(/13 AWG/);
  });
  it('resistance is proportional to length and refuses a negative one', () => {
    expect(wireResistance(14, 20).ohms).toBeCloseTo(2 * wireResistance(14, 10).ohms, 12);
    expect(() => wireResistance(14, -1)).toThrow(ImpossibleInput);
  });
  it('writes gauges the way the trade does', () => {
    expect([18, 1, 0, -1, -3].map(awgName)).toEqual(['18', '1', '1/0', '2/0', '4/0']);
  });
});

describe('choosing a fuse', () => {
  it('is a standard size, at least 1.25 times the load, never above wire or device, and the least such', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 120, noNaN: true }),
        fc.double({ min: 1, max: 330, noNaN: true }),
        fc.option(fc.double({ min: 1, max: 200, noNaN: true }), { nil: undefined }),
        (a, wire, device) => {
          let r;
          try {
            r = chooseFuse(a, wire, device);
          } catch (e) {
            expect(e).toBeInstanceOf(ImpossibleInput);
            return;
          }
          expect(FUSE_SIZES).toContain(r.ratingA);
          expect(r.ratingA).toBeGreaterThanOrEqual(a * 1.25 - 1e-6);
          expect(r.ratingA).toBeLessThanOrEqual(Math.min(wire, device ?? Infinity));
          expect(FUSE_SIZES.filter((f) => f >= a * 1.25 - 1e-9)[0]).toBe(r.ratingA);
        },
      ),
    );
  });
  it('exactly 1.25 times is enough', () => {
    expect(chooseFuse(8, 20)).toEqual({ ratingA: 10, colour: 'red' });
  });
});
