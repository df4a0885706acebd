import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Source } from '#model/unit-model';
import { demoIds, demoModel } from '../../tests/demo-sheets';
import { carriesFromRpm, ownAmps, sourceAmps } from './source';

const stator: Source = {
  kind: 'stator',
  regulatedV: 14,
  idleRpm: 1200,
  workingRpm: 3000,
  lossPerC: 0.001,
  curve: [
    [1000, 10],
    [2000, 30],
    [4000, 40],
  ],
};

describe('a source over engine speed', () => {
  it.each([
    [0, 0],
    [999, 0],
    [1000, 10],
    [1500, 20],
    [2000, 30],
    [3000, 35],
    [4000, 40],
    [9000, 40],
  ])('at %i rpm gives %f A', (rpm, amps) => expect(sourceAmps(stator, rpm)).toBeCloseTo(amps, 9));
  it('no source gives nothing and never carries anything', () => {
    expect(sourceAmps({ kind: 'none' }, 5000)).toBe(0);
  });
  it('more engine speed never gives less, on every demo unit', () => {
    const sources = demoIds('models').map((m) => demoModel(m).electrical.source);
    fc.assert(
      fc.property(fc.constantFrom(...sources), fc.integer({ min: 0, max: 9000 }), fc.integer({ min: 0, max: 2000 }), (s, rpm, more) => {
        if (s.kind === 'none') return;
        if (rpm >= s.curve[0]![0]) expect(sourceAmps(s, rpm + more)).toBeGreaterThanOrEqual(sourceAmps(s, rpm));
      }),
    );
  });
  it('what the unit itself needs is its sheet’s figure at idle and at working speed', () => {
    const e = demoModel('drover-4').electrical;
    expect(ownAmps(e, 1200)).toBeCloseTo(195 / 14.2, 9);
    expect(ownAmps(e, 3500)).toBeCloseTo(283 / 14.2, 9);
    expect(ownAmps(e, 9000)).toBe(ownAmps(e, 3500));
    expect(ownAmps(demoModel('parkway-48').electrical, 1000)).toBe(0);
  });
  it('carries from where what is left meets what is added: at once below, never beyond its top', () => {
    const e = { ...demoModel('drover-4').electrical, source: stator, ownLoads: [{ id: 'own', name: 'own', idleW: 70, workingW: 140 }] };
    const left = (rpm: number) => sourceAmps(stator, rpm) - ownAmps(e, rpm);
    expect(carriesFromRpm(e, 1)).toBe(1000);
    expect(carriesFromRpm(e, 31)).toBeNull();
    expect(carriesFromRpm({ ...e, source: { kind: 'none' } }, 1)).toBeNull();
    fc.assert(
      fc.property(fc.double({ min: 6, max: 29, noNaN: true }), (amps) => {
        expect(left(carriesFromRpm(e, amps)!)).toBeCloseTo(amps, 6);
      }),
    );
  });
});
