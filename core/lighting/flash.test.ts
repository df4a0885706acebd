import fc from 'fast-check';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import { describe, expect, it } from 'vitest';
import { Flasher } from '#model/lamp';
import { flashRate, forecastFlash } from './flash';
import { meterBeats } from './flash-meter';

describe('flash rate from beats', () => {
  it('known lists', () => {
    expect(flashRate([0, 1, 2, 3])).toMatchObject({ perMinute: 60, jitterPct: 0, onSharePct: null, beats: 4 });
    expect(flashRate([10, 10.5, 11]).perMinute).toBeCloseTo(120, 9);
    // gaps 0.6, 0.8: mean 0.7, spread 0.1
    expect(flashRate([0, 0.6, 1.4])).toMatchObject({ perMinute: expect.closeTo(60 / 0.7, 9), jitterPct: expect.closeTo(100 / 7, 9) });
    expect(flashRate([0, 1, 2], [0.3, 1.3]).onSharePct).toBeCloseTo(30, 9);
  });
  it('is the same whenever the count began, and scales with time', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.3, max: 2, noNaN: true }), { minLength: 2, maxLength: 40 }),
        fc.double({ min: 0, max: 1000, noNaN: true }),
        (gaps, start) => {
          const beats = gaps.reduce((t, g) => [...t, t.at(-1)! + g], [0]);
          const a = flashRate(beats);
          const b = flashRate(beats.map((t) => t + start));
          expect(b.perMinute).toBeCloseTo(a.perMinute, 6);
          expect(flashRate(beats.map((t) => t * 2)).perMinute).toBeCloseTo(a.perMinute / 2, 6);
        },
      ),
    );
  });
  it('refuses what cannot be a flasher, saying which beat', () => {
    expect(() => flashRate([1])).toThrow(/at least two/);
    expect(() => flashRate([0, 1, 1])).toThrow(/beat 3 is not after beat 2/);
    expect(() => flashRate([0, 1, 1.01])).toThrow(/no flasher is that fast/);
  });
  it('the simulated meter reads what was forecast', () => {
    const rng = xoroshiro128plus(7);
    const m = meterBeats({ perMinute: 85, onSharePct: 45 }, 60, () => uniformFloat64(rng));
    const r = flashRate(m.onS, m.offS);
    expect(r.perMinute).toBeGreaterThan(83);
    expect(r.perMinute).toBeLessThan(87);
    expect(r.onSharePct).toBeCloseTo(45, 0);
    expect(r.jitterPct).toBeGreaterThan(0.1);
    expect(r.jitterPct).toBeLessThan(4);
  });
});

describe('the beat to expect; hurrying and sizes: common practice, no source', () => {
  const f = (over: Partial<Flasher>) => Flasher.parse({ kind: 'load-sensing', perMinute: 85, ratedW: 42, leastW: 25, ...over });
  it('a flasher with a clock does not mind its load', () => {
    for (const w of [0, 5, 50]) expect(forecastFlash(f({ kind: 'fixed' }), w)).toMatchObject({ perMinute: 85, remedies: [] });
  });
  it('one that feels its load hurries with LED lamps, and the resistor makes up what is lacking', () => {
    expect(forecastFlash(f({}), 42).perMinute).toBe(85);
    const led = forecastFlash(f({}), 8);
    expect(led.perMinute).toBe(170);
    const { ohms, watts, tolerancePct } = led.remedies[0]!;
    // with resistor and lamps at the bad ends of their tolerance it still draws what the flasher asks for
    expect(12.8 ** 2 / (ohms! * (1 + tolerancePct! / 100)) + 8 * 0.95).toBeGreaterThanOrEqual(25 - 1e-9);
    expect(watts).toBeGreaterThan(12.8 ** 2 / ohms!);
    expect(Number(/rated (\d+) W/.exec(led.remedies[0]!.says)![1])).toBeGreaterThanOrEqual(2 * watts!);
    expect(led.remedies[0]!.says).toMatch(/± 5 %.*too hot to touch.*from plastic, loom, fuel/);
    expect(forecastFlash(f({}), 8 + watts!).perMinute).toBe(85);
  });
  it('exactly at its threshold it is tight, and a 13 W lamp in the place of a 21 W one makes it hurry', () => {
    expect(forecastFlash(f({}), 25)).toMatchObject({ perMinute: 85, tight: true });
    expect(forecastFlash(f({}), 24.9)).toMatchObject({ perMinute: 170, tight: false });
    expect(forecastFlash(f({}), 42).tight).toBe(false);
    // two of 21 W keep it going, one of them changed for 13 W does not where it asks for 40
    expect(forecastFlash(f({ leastW: 40 }), 42).perMinute).toBe(85);
    expect(forecastFlash(f({ leastW: 40 }), 21 + 13).perMinute).toBe(170);
  });
  it('a heated strip slows with less load and stops with too little', () => {
    const t = f({ kind: 'thermal' });
    expect(forecastFlash(t, 42).perMinute).toBeCloseTo(85, 9);
    expect(forecastFlash(t, 30).perMinute).toBeLessThan(85);
    for (const w of [200, 500, 5000]) expect(forecastFlash(t, w).perMinute).toBeLessThan(200);
    expect(forecastFlash(t, 5)).toMatchObject({ perMinute: 0, says: expect.stringMatching(/stay lit/) });
  });
});
