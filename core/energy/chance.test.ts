import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoOrder } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { ChanceRun, doubtsOf, explained, triangle, wilson } from './chance';
import { daysFor } from './templates';

const powerOf = (model: string, kits: string[], restVolts?: number | null) => {
  const { order, sheets } = demoOrder(model, kits, restVolts === undefined ? {} : { restVolts });
  return { ...assess(order, sheets, DEFAULT_SETTINGS).power, sheets };
};
const chanceOf = (p: ReturnType<typeof powerOf>, days: number, seed = 1, system = p.system) => {
  const c = new ChanceRun(system, p.days[0]!.day, DEFAULT_SETTINGS, days, xoroshiro128plus(seed));
  c.step(days);
  return c.result();
};

describe('statistics', () => {
  it('Wilson’s interval (Wilson 1927): 10 of 100 is 5.5 to 17.4 %, none of 1000 is up to 0.38 %', () => {
    expect(wilson(10, 100).low).toBeCloseTo(0.0552, 3);
    expect(wilson(10, 100).high).toBeCloseTo(0.1744, 3);
    expect(wilson(0, 1000)).toMatchObject({ share: 0, low: expect.closeTo(0, 12), high: expect.closeTo(0.0038, 4) });
    expect(wilson(1000, 1000).high).toBe(1);
  });
  it('a triangle has its ends, its middle and its mean', () => {
    expect(triangle(2, 3, 5, 0)).toBe(2);
    expect(triangle(2, 3, 5, 1)).toBe(5);
    expect(triangle(2, 3, 5, 1 / 3)).toBeCloseTo(3, 12);
    let sum = 0;
    for (let i = 0; i < 20_000; i++) sum += triangle(2, 3, 5, (i + 0.5) / 20_000);
    expect(sum / 20_000).toBeCloseTo(10 / 3, 4);
  });
  it('a guess that makes the outcome explains it, one that does not explains nothing', () => {
    const n = 4000;
    const x = Float64Array.from({ length: n }, (_, i) => ((i * 7919) % n) / n);
    const noise = Float64Array.from({ length: n }, (_, i) => ((i * 104_729) % n) / n);
    expect(explained(x, x)).toBeGreaterThan(0.98);
    expect(explained(noise, x)).toBeLessThan(0.02);
    const half = x.map((v, i) => v + noise[i]!);
    expect(explained(x, half)).toBeGreaterThan(0.42);
    expect(explained(x, half)).toBeLessThan(0.58);
  });
});

describe('many days', () => {
  const drover = powerOf('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']);
  it('are the same for the same seed and go on where they stopped', () => {
    const a = chanceOf(drover, 300);
    expect(chanceOf(drover, 300)).toEqual(a);
    expect(chanceOf(drover, 300, 2)).not.toEqual(a);
    const c = new ChanceRun(drover.system, drover.days[0]!.day, DEFAULT_SETTINGS, 300, xoroshiro128plus(1));
    c.step(120);
    expect(c.result().days).toBe(120);
    c.step(1000);
    expect(c.result()).toEqual(a);
  });
  it('hold the likely day within their band, in order', () => {
    const r = chanceOf(drover, 600);
    const day = drover.days[0]!;
    for (const b of r.bands) {
      const [low, mid, high] = b.soc[0]!;
      expect(low).toBeLessThanOrEqual(mid);
      expect(mid).toBeLessThanOrEqual(high);
    }
    const end = r.bands.at(-1)!;
    expect(end.hour).toBeCloseTo(day.day.phases.reduce((s, p) => s + p.minutes, 0) / 60, 1);
    expect(day.endSoc[0]!).toBeGreaterThan(end.soc[0]![0] - 0.05);
    expect(day.endSoc[0]!).toBeLessThan(end.soc[0]![2] + 0.05);
  });
  it('almost never fail where the day holds with room, and nearly always where it fails', () => {
    expect(chanceOf(drover, 600).fails.share).toBeLessThan(0.01);
    const lapwing = powerOf('lapwing-500', ['heated-grips', 'aux-lamps', 'navigator']);
    expect(chanceOf(lapwing, 400).fails.share).toBeGreaterThan(0.9);
  });
  it('judge a pack by what it should keep', () => {
    const cart = powerOf('parkway-48', ['reducer-48', 'cart-road-lamps']);
    expect(chanceOf(cart, 300).fails.share).toBeLessThan(0.2);
    const long = { ...cart.days[0]!.day, phases: cart.days[0]!.day.phases.map((p) => ({ ...p, driveKm: p.driveKm * 2.5 })) };
    const c = new ChanceRun(cart.system, long, DEFAULT_SETTINGS, 200, xoroshiro128plus(3));
    c.step(200);
    expect(c.result().fails.share).toBeGreaterThan(0.9);
  });
  it('doubt what was not measured more', () => {
    const read = doubtsOf(drover.system, true);
    const unread = doubtsOf(powerOf('drover-4', [], null).system, false);
    const width = (list: typeof read, key: string) => list.find((d) => d.key === key)!.high - list.find((d) => d.key === key)!.low;
    expect(width(unread, 'startSoc')).toBeGreaterThan(3 * width(read, 'startSoc'));
    expect(width(unread, 'capacity')).toBeGreaterThan(width(read, 'capacity'));
    expect(daysFor(drover.sheets.model, true)[0]!.id).toBe(drover.days[0]!.day.id);
  });
});
