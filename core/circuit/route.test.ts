import { describe, expect, it } from 'vitest';
import type { UnitModel } from '#model/unit-model';
import { demoModel } from '../../tests/demo-sheets';
import { findRun, hazardsAlong, lengthAlong, PROTECTION, route, runKey, runLength } from './route';

/** A square of four places: the short side hot, the long way round clear. */
function square(hot: boolean, detourMm: number): UnitModel {
  const m = structuredClone(demoModel('drover-4'));
  m.places = ['a', 'b', 'c', 'd'].map((id, i) => ({ id, name: id, x: i * 100, y: 0, z: 0, wet: false }));
  m.runs = [
    { from: 'a', to: 'b', lengthMm: 1000, hazards: hot ? ['heat'] : [] },
    { from: 'a', to: 'c', lengthMm: detourMm / 2, hazards: [] },
    { from: 'c', to: 'b', lengthMm: detourMm / 2, hazards: [] },
  ];
  return m;
}

describe('routes', () => {
  it('go the short way, round a hazard when the detour is worth it, and through it named when it is not', () => {
    expect(route(square(false, 1500), 'a', 'b')).toMatchObject({ places: ['a', 'b'], lengthMm: 1000, hazards: [] });
    expect(route(square(true, 1500), 'a', 'b')).toMatchObject({ places: ['a', 'c', 'b'], lengthMm: 1500, hazards: [] });
    expect(route(square(true, 2500), 'a', 'b')).toMatchObject({ places: ['a', 'b'], hazards: ['heat'] });
  });
  it('go by the run that a hand chose, from either end, and stay when it is on the way already', () => {
    const m = square(false, 3000);
    expect(route(m, 'a', 'b', 'c>b')).toMatchObject({ places: ['a', 'c', 'b'], lengthMm: 3000 });
    expect(route(m, 'b', 'a', 'a>c')!.places).toEqual(['b', 'c', 'a']);
    expect(route(m, 'a', 'b', 'a>b')!.places).toEqual(['a', 'b']);
    expect(route(m, 'a', 'b', 'nowhere>b')!.places).toEqual(['a', 'b']);
  });
  it('keep slack where a bar turns or a hood opens', () => {
    const bike = demoModel('lapwing-500');
    const r = route(bike, 'fuse-box', 'bars')!;
    expect(r.hazards).toContain('steering');
    expect(r.slackMm).toBe(150);
    expect(lengthAlong(bike, r.places)).toEqual({ lengthMm: r.lengthMm, slackMm: 150 });
    expect(hazardsAlong(bike, r.places).sort()).toEqual([...r.hazards].sort());
  });
  it('every hazard has its protection, every run its name and length', () => {
    for (const id of ['drover-4', 'sandbar-21', 'parkway-48']) {
      const m = demoModel(id);
      for (const run of m.runs) {
        expect(findRun(m, runKey(run))).toBe(run);
        expect(runLength(m, run)).toBeGreaterThan(0);
        run.hazards.forEach((h) => expect(PROTECTION[h].length).toBeGreaterThan(5));
      }
    }
  });
});
