import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fuseFamily, fuseOhms, fuseOpens } from './fuse-time';

describe('when a fuse opens', () => {
  // ISO 8820-3 and -5, operating times, from memory
  it.each([
    ['blade', 10, 11, 360_000, Infinity],
    ['blade', 10, 13.5, 0.75, 600],
    ['blade', 15, 24, 0.25, 50],
    ['blade', 20, 40, 0.15, 5],
    ['blade', 5, 17.5, 0.04, 0.5],
    ['blade', 5, 30, 0.02, 0.1],
    ['bolt', 100, 135, 120, 1800],
    ['bolt', 100, 200, 1, 15],
    ['bolt', 60, 360, 0.1, 1],
  ] as const)('%s %d A at %d A', (family, rating, amps, soonest, latest) => {
    const t = fuseOpens(family, rating, amps);
    expect(t.soonestS).toBeCloseTo(soonest, 6);
    expect(t.latestS).toBe(latest === Infinity ? Infinity : t.latestS);
    if (latest !== Infinity) expect(t.latestS).toBeCloseTo(latest, 4);
  });
  it('never at its rating, nor backwards differently', () => {
    expect(fuseOpens('blade', 10, 10)).toEqual({ soonestS: Infinity, latestS: Infinity });
    expect(fuseOpens('bolt', 100, -200)).toEqual(fuseOpens('bolt', 100, 200));
  });
  it('a winch’s 150 A stand about half a minute on a 100 A bolt-in fuse, and not on an 80 A one', () => {
    expect(fuseOpens('bolt', 100, 150).soonestS).toBeGreaterThan(20);
    expect(fuseOpens('bolt', 80, 150).soonestS).toBeLessThan(10);
  });
  it('the more amperes the sooner, the soonest never after the latest', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('blade', 'bolt'),
        fc.double({ min: 1, max: 200, noNaN: true }),
        fc.double({ min: 1, max: 9, noNaN: true }),
        fc.double({ min: 1, max: 9, noNaN: true }),
        (f, rating, a, b) => {
          const [lo, hi] = [Math.min(a, b), Math.max(a, b)];
          const [x, y] = [fuseOpens(f as 'blade', rating, rating * lo), fuseOpens(f as 'blade', rating, rating * hi)];
          expect(y.soonestS).toBeLessThanOrEqual(x.soonestS * (1 + 1e-12));
          expect(x.soonestS).toBeLessThanOrEqual(x.latestS);
        },
      ),
    );
  });
  it('refuses a rating of nothing; blades end at 40 A', () => {
    expect(() => fuseOpens('blade', 0, 1)).toThrow(/above zero/);
    expect(fuseFamily(40)).toBe('blade');
    expect(fuseFamily(50)).toBe('bolt');
    expect(fuseOhms(10) * 10).toBeCloseTo(0.09, 9);
  });
});
