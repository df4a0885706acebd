import { describe, expect, it } from 'vitest';
import { BLADE_COLOURS, chooseFuse, fuseColour } from '#core/wire/fuse';
import { chooseWire, crimpPull } from '#core/wire/choose';
import { allowable, copperShare } from '#core/wire-rules/allowable';
import { fuseFamilyFor } from '#core/wire-rules/fuse-volts';
import { thinInThick } from '#core/wire-rules/terminal-size';
import { guards } from '#core/wire-rules/guards';
import { awgDiameterMm, wireResistance } from '#core/wire/resistance';

// Every published value here was typed from memory: to be confirmed against a copy of its source.
const M_PER_KFT = 304.8;

describe('wire against published tables', () => {
  it.each([
    [18, 6.385],
    [16, 4.016],
    [14, 2.525],
    [12, 1.588],
    [10, 0.9989],
    [8, 0.6282],
    [6, 0.3951],
    [4, 0.2485],
    [2, 0.1563],
    [0, 0.09827],
    [-1, 0.07793],
  ])('NBS Handbook 100: AWG %i is %f ohms per 1000 ft at 20 °C', (awg, ohms) => {
    expect(wireResistance(awg, M_PER_KFT).ohms / ohms).toBeCloseTo(1, 2);
  });
  it.each([
    [18, 1620],
    [16, 2580],
    [14, 4110],
    [12, 6530],
    [10, 10380],
    [8, 16510],
    [6, 26240],
  ])('NBS Handbook 100: AWG %i is %i circular mils', (awg, mils) => {
    expect(wireResistance(awg, 1).circularMils / mils).toBeCloseTo(1, 2);
  });
  it('ASTM B258: AWG 36 is 0.127 mm and 4/0 is 11.684 mm', () => {
    expect(awgDiameterMm(36)).toBeCloseTo(0.127, 6);
    expect(awgDiameterMm(-3)).toBeCloseTo(11.684, 3);
  });
  it('IEC 60028: copper gains 0.393 % a degree', () => {
    expect(wireResistance(12, 10, 70).ohms / wireResistance(12, 10, 20).ohms).toBeCloseTo(1 + 0.00393 * 50, 9);
  });
  it.each([
    [18, 20, 17],
    [16, 25, 21.3],
    [14, 35, 29.8],
    [12, 45, 38.3],
    [10, 60, 51],
    [8, 80, 68],
    [6, 120, 102],
    [4, 160, 136],
    [2, 210, 178.5],
    [1, 245, 208.3],
    [0, 285, 242.3],
    [-1, 330, 280.5],
  ])('ABYC E-11: AWG %i carries %f A, %f A in an engine space', (awg, outside, inside) => {
    expect(allowable({ awg })).toBe(outside);
    expect(allowable({ awg }, { hot: true })).toBe(inside);
  });
  it.each([
    [2, 1],
    [3, 0.7],
    [4, 0.6],
    [6, 0.6],
    [7, 0.5],
    [24, 0.5],
    [25, 0.4],
    [60, 0.4],
  ])('ABYC E-11: %i bundled wires carry %f of it', (n, factor) => {
    expect(allowable({ awg: 10 }, { bundled: n })).toBeCloseTo(60 * factor, 9);
  });
  it.each([
    [60, 14, 20, 0.58],
    [60, 8, 55, 0.58],
    [75, 6, 95, 0.75],
    [80, 12, 35, 0.78],
    [90, 4, 135, 0.82],
    [105, 10, 60, 0.85],
    [125, 2, 225, 0.89],
    [125, -1, 355, 0.89],
  ] as const)('ABYC E-11: %i °C insulation, AWG %i carries %f A, times %f in an engine space', (insulationC, awg, amps, factor) => {
    expect(allowable({ awg, insulationC })).toBe(amps);
    expect(allowable({ awg, insulationC }, { hot: true })).toBeCloseTo(amps * factor, 1);
  });
  it.each([
    [18, 0.76],
    [14, 1.85],
    [10, 4.65],
  ])('SAE J1128: a conductor of %i has %f mm², and carries less than the AWG one', (awg, mm2) => {
    const share = copperShare({ awg, standard: 'sae' });
    expect(share).toBeCloseTo(mm2 / wireResistance(awg, 1).areaMm2, 6);
    expect(share).toBeGreaterThan(0.86);
    expect(allowable({ awg, standard: 'sae' })).toBeLessThan(allowable({ awg }));
  });
  it('thin leads in thick terminals are warned of: 24 AWG beside 18, 18 beside 12; like sizes are not (trade sizes, common practice)', () => {
    expect(thinInThick([18, 24])).toMatch(/24 AWG in a terminal for 22–18 AWG: fold it back/);
    expect(thinInThick([12, 18])).toMatch(/18 AWG in a terminal for 12–10 AWG/);
    for (const alike of [[18, 22], [16, 14], [10, 12], [18]]) expect(thinInThick(alike)).toBeNull();
  });
  it('laws: more bundled never carries more, poorer insulation or a hot place never more, a thinner wire never more', () => {
    const gauges = [-1, 0, 1, 2, 4, 6, 8, 10, 12, 14, 16, 18, 20, 22, 24, 26, 28, 30];
    gauges.forEach((awg, i) => {
      for (const hot of [false, true]) {
        for (let n = 1; n < 40; n++)
          expect(allowable({ awg }, { hot, bundled: n + 1 })).toBeLessThanOrEqual(allowable({ awg }, { hot, bundled: n }));
        const by = ([60, 75, 80, 90, 105, 125] as const).map((insulationC) => allowable({ awg, insulationC }, { hot }));
        by.forEach((a, k) => k && expect(a).toBeGreaterThanOrEqual(by[k - 1]!));
        if (i) expect(allowable({ awg }, { hot })).toBeLessThanOrEqual(allowable({ awg: gauges[i - 1]! }, { hot }));
      }
      expect(allowable({ awg }, { hot: true })).toBeLessThan(allowable({ awg }));
    });
  });
  it('a larger fuse never makes an unsafe wire safe, and the shop’s 150 % (ABYC E-11) is the only way above the wire', () => {
    const unsafe = (fuseA: number, amps: number, fuse150 = false) =>
      guards({ continuousA: 5, fuseA }, amps, { fuse150 }).some((g) => g.unsafe);
    for (const amps of [10, 17, 25, 35])
      for (const [small, large] of [
        [7.5, 15],
        [15, 20],
        [20, 40],
      ] as const)
        if (unsafe(small, amps)) expect(unsafe(large, amps)).toBe(true);
    expect([unsafe(25, 25), unsafe(30, 25), unsafe(30, 25, true), unsafe(40, 25, true)]).toEqual([false, true, false, true]);
  });
  it.each([
    [10, 14.4, 'blade', 32],
    [10, 57.6, 'blade, 58 V', 58],
    [60, 57.6, 'bolt-down, 70 V', 70],
    [60, 14.4, 'bolt-down', 32],
  ])('ISO 8820: a %i A fuse at %f V is a %s one, for %i V', (ratingA, volts, family, ratedV) => {
    expect(fuseFamilyFor(ratingA, volts)).toMatchObject({ name: family, ratedV });
  });
  it('no fuse of 32 V stands on a pack, and none of these on 72 V', () => {
    for (const a of [5, 10, 30, 60, 100]) expect(fuseFamilyFor(a, 57.6).ratedV).toBeGreaterThan(57);
    expect(() => fuseFamilyFor(10, 86)).toThrow(/no blade or bolt-down fuse is made for 86 V/);
    expect(() => fuseFamilyFor(1, 57.6)).toThrow(/no 1 A fuse is made for 57.6 V/);
    expect(() => fuseFamilyFor(10, 14.4, 20_000)).toThrow(/interrupts/);
  });
  it('ABYC E-11 worked example: 10 A over 20 ft there and back at 12 V and 3 % asks for 5972 CM, so 12 AWG', () => {
    const cm = (10.75 * 10 * 20) / (12 * 0.03);
    expect(cm).toBeCloseTo(5972, 0);
    const chosen = chooseWire({ amps: 10, oneWayM: 10 * 0.3048, systemV: 12, maxDropPct: 3 });
    expect(chosen.awg).toBe(12);
    expect(chosen.limitedBy).toBe('drop');
    expect(wireResistance(12, 1).circularMils).toBeGreaterThan(cm);
    expect(wireResistance(14, 1).circularMils).toBeLessThan(cm);
  });
  it.each([
    [18, 10],
    [16, 15],
    [14, 30],
    [12, 35],
    [10, 40],
    [8, 45],
    [6, 50],
    [4, 60],
    [2, 70],
    [0, 80],
    [-1, 85],
  ])('ABYC E-11: a crimp on AWG %i holds %i lbf for a minute', (awg, lbf) => {
    expect(crimpPull(awg).lbf).toBe(lbf);
    expect(crimpPull(awg).newtons / lbf).toBeCloseTo(4.44822, 4);
  });
  it('ISO 8820-3: blade colours', () => {
    expect(Object.fromEntries(BLADE_COLOURS)).toEqual({
      1: 'black',
      2: 'grey',
      3: 'violet',
      4: 'pink',
      5: 'tan',
      7.5: 'brown',
      10: 'red',
      15: 'blue',
      20: 'yellow',
      25: 'clear',
      30: 'green',
      40: 'orange',
    });
    expect(fuseColour(15)).toBe('blue');
  });
  it('common practice, no source: grips of 60 W draw 5 A and take a 7.5 A fuse; a 2 A fuse would blow', () => {
    expect(60 / 12).toBe(5);
    expect(chooseFuse(5, 20).ratingA).toBe(7.5);
    expect(() => chooseFuse(5, 20, 2)).toThrow(/device/);
  });
});
