import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { intensityForRange, rangeOfIntensity } from './range';

const nm = fc.double({ min: 0.05, max: 30, noNaN: true });
const clear = fc.double({ min: 0.3, max: 0.99, noNaN: true });

describe('photometry, both ways', () => {
  it('range and intensity undo each other in any air', () => {
    fc.assert(
      fc.property(nm, clear, (d, k) => {
        expect(rangeOfIntensity(intensityForRange(d, k), k)).toBeCloseTo(d, 6);
      }),
    );
  });
  it('farther needs more, thicker air needs more', () => {
    fc.assert(
      fc.property(nm, nm, clear, (a, b, k) => {
        fc.pre(Math.abs(a - b) > 1e-3);
        expect(intensityForRange(Math.max(a, b), k)).toBeGreaterThan(intensityForRange(Math.min(a, b), k));
      }),
    );
    fc.assert(
      fc.property(nm, clear, (d, k) => {
        expect(intensityForRange(d, k)).toBeGreaterThan(intensityForRange(d, Math.min(0.999, k + 0.005)));
      }),
    );
  });
  it('in air without loss it is the square of the distance', () => {
    for (const d of [1, 2, 5]) expect(intensityForRange(d, 1) / intensityForRange(1, 1)).toBeCloseTo(d * d, 9);
  });
});
