import { describe, expect, it } from 'vitest';
import { freezesAt, parkedDays, peukertHours, restedCharge } from '#core/energy/battery';
import { intensityForRange, rangeOfIntensity } from '#core/lighting/range';

// Published values typed from memory: to be confirmed against a copy of each source.
describe('battery against published values', () => {
  it('Peukert 1897, the handbook example: 100 Ah at 20 h, exponent 1.2, 10 A lasts 8.71 h', () => {
    expect(peukertHours(100, 20, 1.2, 10)).toBeCloseTo(8.71, 2);
  });
  it('at the rated current a battery lasts its rated hours, whatever the exponent', () => {
    for (const k of [1, 1.05, 1.2, 1.4]) expect(peukertHours(80, 20, k, 4)).toBeCloseTo(20, 9);
    // under the rated current nothing is gained: 100 Ah give at most 100 Ah
    for (const amps of [0.1, 1, 3, 4.99]) expect(peukertHours(100, 20, 1.2, amps) * amps).toBeCloseTo(100, 9);
  });
  it.each([
    [12.65, 1],
    [12.45, 0.75],
    [12.24, 0.5],
    [12.06, 0.25],
    [11.89, 0],
  ])('BCI service manual: a flooded battery at %f V rested is at %f', (volts, soc) => {
    expect(restedCharge({ chemistry: 'flooded' }, volts).soc).toBeCloseTo(soc, 6);
  });
  it.each([
    [12.73, 1],
    [12.5, 0.8],
    [12.24, 0.6],
    [12.1, 0.5],
    [11.96, 0.4],
    [11.66, 0.2],
  ])('makers’ tables: a deep-cycle one at %f V rested is at %f', (volts, soc) => {
    expect(restedCharge({ chemistry: 'flooded', deepCycle: true }, volts).soc).toBeCloseTo(soc, 6);
  });
  it.each([
    [1, -60],
    [0.75, -37],
    [0.5, -24],
    [0, -7],
  ])('battery handbooks: at a charge of %f the acid freezes at %f °C; lithium iron phosphate does not', (soc, atC) => {
    expect(freezesAt('flooded', soc)).toBeCloseTo(atC, 6);
    expect(freezesAt('agm', soc)).toBeCloseTo(atC, 6);
    expect(freezesAt('lfp', soc)).toBeNull();
  });
  it('between two published points charge lies straight between', () => {
    expect(restedCharge({ chemistry: 'flooded' }, (12.45 + 12.65) / 2).soc).toBeCloseTo(0.875, 6);
  });
  it('common practice, no source: a standby lamp that needs two years to flatten 30 Ah draws under 2 mA', () => {
    const mA = (30 / (2 * 365 * 24)) * 1000;
    expect(mA).toBeLessThan(2);
    expect(parkedDays(30, 1, 0, mA, 0)).toBeCloseTo(730, 0);
  });
});

describe('navigation lights against 33 CFR 84, Annex I', () => {
  it.each([
    [1, 0.9, 1],
    [2, 4.3, 1],
    [3, 12, 0],
    [4, 27, 0],
    [5, 52, 0],
    [6, 94, 0],
  ])('%i nm needs %f cd', (nm, cd, digits) => {
    const factor = 10 ** digits;
    expect(Math.round(intensityForRange(nm) * factor) / factor).toBe(cd);
    expect(rangeOfIntensity(intensityForRange(nm))).toBeCloseTo(nm, 9);
  });
});
