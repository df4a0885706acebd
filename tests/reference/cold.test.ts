import { describe, expect, it } from 'vitest';
import type { Chemistry } from '#model/common';
import { noLoads } from '#core/energy/bus';
import { cellAt, cellOf, PEUKERT } from '#core/energy/cell';
import { run, type Segment } from '#core/energy/simulate';

// The laws of cold, by what comes of them: battery handbooks and common practice, typed from memory.
const CAPACITY = 60;
const cell = (chemistry: Chemistry) =>
  cellOf({ chemistry, count: 1, voltsEach: 12, capacityAh: CAPACITY, ratedHours: 20, peukert: PEUKERT[chemistry] }, 0);
const segment = (chemistry: Chemistry, tempC: number, more: Partial<Segment>): Segment => ({
  phase: 0,
  hours: 1,
  sourceA: 0,
  regulatedV: 14.4,
  loads: [noLoads()],
  cells: [cellAt(cell(chemistry), tempC)],
  ...more,
});
/** Ampere-hours that an hour at 14.4 V puts into a battery at a charge, from a source of plenty. */
const gains = (chemistry: Chemistry, tempC: number, soc: number): number =>
  run([segment(chemistry, tempC, { sourceA: 200 })], [CAPACITY * soc], null).charge[0]! - CAPACITY * soc;
/** Hours that a full battery gives its rated current for. */
const lasts = (chemistry: Chemistry, tempC: number): number =>
  run([segment(chemistry, tempC, { hours: 60, loads: [{ ...noLoads(), amps: CAPACITY / 20 }] })], [CAPACITY], null).flatAt[0] ?? Infinity;
const DEGREES = [-40, -35, -30, -25, -20, -18, -10, -5, -1, 0, 1, 5, 10, 15, 20, 25, 30, 40, 50];

describe('charging in the cold', () => {
  it.each(['flooded', 'agm'] as const)('%s: a third or less at −18 °C of what it takes at 25, next to nothing at −30', (c) => {
    for (const soc of [0.75, 0.85]) {
      expect(gains(c, -18, soc)).toBeLessThan(gains(c, 25, soc) / 3);
      expect(gains(c, -30, soc)).toBeLessThan(gains(c, 25, soc) / 10);
      expect(gains(c, -18, soc)).toBeGreaterThan(0);
    }
  });
  it.each(['flooded', 'agm'] as const)('%s: acceptance roughly halves every 10 to 15 °C', (c) => {
    for (const t of [25, 10, 0, -10]) {
      const half = gains(c, t - 12.5, 0.9) / gains(c, t, 0.9);
      expect(half).toBeGreaterThan(0.4);
      expect(half).toBeLessThan(0.75);
    }
  });
  it('lithium iron phosphate takes none under 0 °C, and gives none under −20', () => {
    expect(gains('lfp', -0.5, 0.5)).toBe(0);
    expect(gains('lfp', -20, 0.5)).toBe(0);
    expect(gains('lfp', 5, 0.5)).toBeGreaterThan(5);
    const cold = run([segment('lfp', -25, { loads: [{ ...noLoads(), power: 60 }] })], [CAPACITY], null, { detail: true });
    expect(cold.charge[0]).toBeCloseTo(CAPACITY, 9);
    expect(Math.max(...cold.moments.map((m) => m.volts[0]!))).toBe(0);
  });
  it.each(['flooded', 'agm', 'lfp'] as const)('%s: warmer never takes less, at any charge', (c) => {
    for (const soc of [0.75, 0.85, 0.95])
      DEGREES.reduce((before, t) => {
        const now = gains(c, t, soc);
        expect(now).toBeGreaterThanOrEqual(before * 0.999 - 1e-9);
        return now;
      }, 0);
  });
});

describe('capacity in the cold', () => {
  it.each(['flooded', 'agm'] as const)('%s keeps about 60 %% at −18 °C and 35 to 45 %% at −30', (c) => {
    const warm = lasts(c, 25);
    expect(lasts(c, -18) / warm).toBeGreaterThan(0.55);
    expect(lasts(c, -18) / warm).toBeLessThan(0.65);
    expect(lasts(c, -30) / warm).toBeGreaterThan(0.35);
    expect(lasts(c, -30) / warm).toBeLessThan(0.45);
  });
});
