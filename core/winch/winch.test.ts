import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoKit, demoOrder } from '../../tests/demo-sheets';
import { audioLevel, audioSupply } from '../audio/audio';
import { ImpossibleInput } from '../errors';
import { assess } from '../order/assess';
import { winchLayers } from './layers';
import { winchPull } from './pull';
import { judgePull } from './judge-pull';
import { recovery, type Recovery } from './recovery';

const W = 1000 * 9.80665;

describe('pull needed', () => {
  it('at 30 degrees the field’s rule, W/60 a degree, gives half the weight, as mechanics does (US Army FM 4-30.31, from memory)', () => {
    const p = winchPull(1000, 30, 'hard', 'no');
    expect(p.fieldSlopeN).toBeCloseTo(W / 2, 9);
    expect(p.slopeN).toBeCloseTo(W / 2, 9);
  });
  it.each([
    ['hard', 1 / 25],
    ['grass', 1 / 7],
    ['wetSand', 1 / 5],
    ['softSand', 1 / 4],
    ['mud', 1 / 3],
    ['bog', 1 / 2],
  ] as const)('on the level over %s it is %f of the weight (recovery handbooks, from memory)', (surface, share) =>
    expect(winchPull(1000, 0, surface, 'no').pullN).toBeCloseTo(W * share, 6),
  );
  it.each([
    ['wheel', 1],
    ['fender', 2],
    ['hood', 3],
  ] as const)('stuck to the %s adds %i times the weight (US Army FM 4-30.31, from memory)', (stuck, times) =>
    expect(winchPull(1000, 0, 'hard', stuck).stuckN).toBeCloseTo(W * times, 6),
  );
  it('a sheave halves the line’s load but for its tenth', () => {
    const p = winchPull(1000, 20, 'grass', 'no', 1);
    expect(p.lineN).toBeCloseTo((p.pullN * 1.1) / 2, 9);
    expect(winchPull(1000, 20, 'grass', 'no').lineN).toBe(p.pullN);
    expect(p.recommendedRatedN).toBeCloseTo(1.5 * W, 9);
    // both parts of the line pull on what the sheave hangs from
    expect(p.anchorN).toBeCloseTo(2 * p.lineN, 9);
    expect(winchPull(1000, 20, 'grass', 'no').anchorN).toBe(0);
  });
  it('never recommends a winch under its own line: stuck to the hood it is over three times the weight', () => {
    for (const stuck of ['no', 'wheel', 'fender', 'hood'] as const)
      for (const slope of [0, 20, 45]) {
        const p = winchPull(1000, slope, 'mud', stuck);
        expect(p.recommendedRatedN).toBeGreaterThanOrEqual(p.lineN);
      }
    expect(winchPull(1000, 0, 'hard', 'hood').recommendedRatedN).toBeGreaterThan(3 * W);
  });
  it('refuses what cannot be', () => {
    expect(() => winchPull(0, 10, 'hard', 'no')).toThrow(ImpossibleInput);
    expect(() => winchPull(10, 80, 'hard', 'no')).toThrow(/60 degrees/);
  });
});

describe('layers of rope', () => {
  const drum = { ratedN: 14000, drumDiameterMm: 50, drumWidthMm: 80, ropeDiameterMm: 5, ropeLengthM: 15 };
  it('follow geometry: 16 turns of 2πr a layer, torque the same on each (SAE J706 for the first)', () => {
    const layers = winchLayers(drum);
    expect(layers[0]!.pullN).toBe(14000);
    expect(layers[0]!.ropeToM).toBeCloseTo((2 * Math.PI * 27.5 * 16) / 1000, 9);
    expect(layers[1]!.pullN).toBeCloseTo((14000 * 27.5) / 32.5, 9);
    expect(layers.at(-1)!.ropeToM).toBe(15);
  });
  it('hold all of the rope, pull less the higher, for any drum', () => {
    fc.assert(
      fc.property(fc.integer({ min: 30, max: 120 }), fc.integer({ min: 40, max: 300 }), fc.integer({ min: 3, max: 12 }), (d, w, r) => {
        const layers = winchLayers({ ratedN: 9000, drumDiameterMm: d, drumWidthMm: w, ropeDiameterMm: r, ropeLengthM: 6 });
        layers.forEach((l, i) => {
          expect(l.ropeFromM).toBe(i ? layers[i - 1]!.ropeToM : 0);
          expect(l.pullN * l.radiusMm).toBeCloseTo(9000 * layers[0]!.radiusMm, 4);
        });
        expect(layers.at(-1)!.ropeToM).toBe(6);
      }),
    );
  });
  it('refuses a drum narrower than its rope', () => expect(() => winchLayers({ ...drum, drumWidthMm: 3 })).toThrow(/narrower/));
});

describe('a recovery on the unit', () => {
  const { order, sheets } = demoOrder('drover-4', ['front-harness', 'winch-32']);
  const { system } = assess(order, sheets, DEFAULT_SETTINGS).power;
  const spec = demoKit('winch-32').devices.find((d) => d.winch)!.winch!;
  const at = (lineN: number, more: object = {}) =>
    recovery(system, spec, { lineN, outM: 14, pullM: 5, restMinutes: 3, rpm: 1200, cableOhms: 0.003, ...more }, 0.5);
  it('takes amperes between none and rated by the line’s load, and leaves fewer volts for more', () => {
    const light = at(1000);
    const heavy = at(12_000);
    expect(light.amps).toBeGreaterThan(spec.noLoadA);
    expect(heavy.amps).toBeLessThan(spec.ratedA);
    expect(heavy.volts).toBeLessThan(light.volts);
    expect(heavy.secondsPerPull).toBeGreaterThan(light.secondsPerPull);
    expect(at(spec.ratedN, { outM: 15 }).amps).toBeCloseTo(spec.ratedA, 6);
  });
  it('on an outer layer the same load asks more', () => {
    expect(at(9000, { outM: 1 }).layer).toBeGreaterThan(at(9000, { outM: 14 }).layer);
    expect(at(9000, { outM: 1 }).share).toBeGreaterThan(at(9000, { outM: 14 }).share);
    expect(at(9000, { outM: 1 }).neededRatedN).toBeGreaterThan(9000);
    // its heat: the longer and the harder, the longer it cools
    expect(at(9000).coolMinutes).toBeGreaterThan(at(3000).coolMinutes);
    expect(at(9000, { pullM: 5 }).coolMinutes).toBeGreaterThan(at(9000, { pullM: 1 }).coolMinutes);
  });
  it('rest between pulls gives more of them; without rest the reserve comes', () => {
    const none = at(12_000, { restMinutes: 0, pullM: 1 });
    expect(none.pulls).toBeGreaterThan(0);
    expect(none.pulls).toBeLessThan(40);
    const rested = at(12_000, { restMinutes: 10, pullM: 1 });
    expect(rested.pulls ?? 100).toBeGreaterThan(none.pulls!);
    expect(rested.restMinutes).toBeGreaterThan(0);
  });
});

describe('sound', () => {
  it('twice the power is 3 dB, twice the distance 6 dB less, ten times the power 10 dB', () => {
    const base = audioLevel(90, 10, 2);
    expect(audioLevel(90, 20, 2) - base).toBeCloseTo(3.01, 2);
    expect(audioLevel(90, 10, 4) - base).toBeCloseTo(-6.02, 2);
    expect(audioLevel(90, 100, 2) - base).toBeCloseTo(10, 9);
    expect(audioLevel(88, 1, 1)).toBe(88);
  });
  it('music averages an eighth of rated power (IEC 60065 test condition, from memory)', () => {
    expect(audioSupply(160, 0.8, 1 / 8, 12.5)).toEqual({ averageA: expect.closeTo(2, 9), peakA: expect.closeTo(16, 9) });
  });
  it('heated grips of 60 W are 5 A at 12 V (common practice, no source)', () => {
    const grips = demoKit('heated-grips').devices.reduce((a, d) => a + (d.load?.watts ?? 0) / (d.load?.volts ?? 12), 0);
    expect(grips).toBe(5);
  });
});

describe('a winch put to a pull', () => {
  const pull = winchPull(800, 20, 'grass', 'no');
  const r = { share: 0.5, neededRatedN: 6000, coolMinutes: 4 } as Recovery;
  it.each([
    [20_000, 0.5, 5, { verdict: 'holds', under: false, hurried: false }],
    [20_000, 0.9, 5, { verdict: 'tight', under: false, hurried: false }],
    [20_000, 1.1, 3, { verdict: 'fails', under: false, hurried: true }],
    // it could do this pull, and is too small for what the unit weighs
    [8000, 0.5, 5, { verdict: 'tight', under: true, hurried: false }],
  ])('rated %i N, at %f of it, with %i minutes of rest', (ratedN, share, rest, says) =>
    expect(judgePull({ ratedN }, pull, { ...r, share }, rest)).toMatchObject(says),
  );
});
