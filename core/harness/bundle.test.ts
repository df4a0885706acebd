import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bundle, LOOM_MM } from './bundle';

describe('bundles', () => {
  // hexagonal packing (geometry): rings of 6, 12 and 18 round one
  it.each([
    [1, 1],
    [2, 2],
    [3, 1 + 2 / Math.sqrt(3)],
    [4, 1 + Math.SQRT2],
    [5, 2.7013],
    [6, 3],
    [7, 3],
    [19, 5],
    [37, 7],
  ])('%i equal wires make %f diameters', (n, times) => {
    expect(bundle(Array<number>(n).fill(2.5)).bundleMm).toBeCloseTo(2.5 * times, 3);
  });

  it('chooses the next loom, and says when there is none', () => {
    expect(bundle([6.4]).loomMm).toBe(6.4);
    expect(bundle([6.5]).loomMm).toBe(9.5);
    expect(bundle([60]).loomMm).toBeNull();
  });

  it.each([
    ['nothing', []],
    ['no thickness', [0]],
    ['below zero', [2, -1]],
    ['too many', Array<number>(401).fill(1)],
    ['too many thicknesses', Array.from({ length: 25 }, (_, i) => 1 + i / 7)],
  ])('refuses %s', (_, list) => {
    expect(() => bundle(list)).toThrow();
  });

  it('holds any wires within bounds: not thinner than the thickest nor than their copper, not thicker than a row', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0.5, max: 15, noNaN: true }), { minLength: 1, maxLength: 24 }), (list) => {
        const { bundleMm, loomMm } = bundle(list);
        expect(bundleMm).toBeGreaterThanOrEqual(Math.max(...list) - 1e-5);
        expect(bundleMm).toBeGreaterThanOrEqual(Math.sqrt(list.reduce((s, d) => s + d * d, 0)) - 1e-5);
        expect(bundleMm).toBeLessThanOrEqual(list.reduce((s, d) => s + d, 0) + 1e-5);
        if (loomMm !== null) expect(LOOM_MM).toContain(loomMm);
      }),
      { numRuns: 60 },
    );
  });
});
