import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoIds, demoModel } from '../../tests/demo-sheets';
import { BODIES } from '../archetype/body';
import { makeSheet } from '../archetype/make-sheet';
import { howKnown } from '../known/pointer';
import {
  addPlace,
  addRun,
  changeRun,
  movePlace,
  removePlace,
  removeRun,
  sheetChanges,
  sheetProblems,
  snapped,
  whatStandsAt,
} from './edit-model';

const INES = { by: 'ines', at: '2026-03-02T08:00:00.000Z' };
const m = demoModel('drover-2');
const at = (model: typeof m, id: string) => {
  const { x, y, z } = model.places.find((p) => p.id === id)!;
  return { x, y, z };
};

describe('places', () => {
  it('move with their other side while both stand alike, and by themselves once they do not', () => {
    const wide = movePlace(m, 'front-left-signal', { y: 600, z: 870 });
    expect(at(wide, 'front-left-signal')).toMatchObject({ y: 600, z: 870 });
    expect(at(wide, 'front-right-signal')).toMatchObject({ y: -600, z: 870 });
    // from the right side it is the same
    expect(at(movePlace(m, 'front-right-signal', { y: -600, z: 870 }), 'front-left-signal')).toMatchObject({ y: 600, z: 870 });
    const odd = { ...m, places: m.places.map((p) => (p.id === 'front-right-signal' ? { ...p, z: p.z - 40 } : p)) };
    expect(at(movePlace(odd, 'front-left-signal', { z: 900 }), 'front-right-signal')).toEqual(at(odd, 'front-right-signal'));
  });
  it('typed, their figures are known from then on; dragged by eye they are not', () => {
    expect(movePlace(m, 'dash', { x: 1810 }).known).toEqual({});
    const typed = movePlace(m, 'head-left', { z: 830 }, INES);
    expect(howKnown(typed, '/places/head-right/z')).toMatchObject({ how: 'measured', by: 'ines' });
  });
  it('come to lie on the lines of others that are near, and of the middle', () => {
    const s = snapped(m, 'horn-place', { y: 14, z: 817 }, 25);
    expect(s.to).toEqual({ y: 0, z: 820 });
    expect(s.on[0]).toBe('the centre line');
    expect(snapped(m, 'horn-place', { y: -240, z: 770 }, 2).to).toEqual({ y: -240, z: 770 });
    // neither itself nor its other side holds it back
    expect(snapped(m, 'head-left', { z: at(m, 'head-left').z + 3 }, 4).on).not.toContain('right headlamp');
  });
  it('are added by a name of their own, and go only when nothing stands there, with their ways', () => {
    const added = addPlace(m, 'Glove box', { x: 1800, y: -300, z: 1000 });
    expect(added.id).toBe('glove-box');
    expect(() => addPlace(added.model, ' glove BOX ', { x: 0, y: 0, z: 0 })).toThrow(/already/);
    expect(() => addPlace(m, '  ', { x: 0, y: 0, z: 0 })).toThrow(/name/);
    const joined = addRun(added.model, 'dash', added.id);
    expect(() => addRun(joined, added.id, 'dash')).toThrow(/already/);
    expect(() => addRun(joined, 'dash', 'dash')).toThrow(/another/);
    expect(removePlace(joined, added.id)).toEqual(m);
    expect(whatStandsAt(m, 'battery')).toContain('battery positive post');
    expect(() => removePlace(m, 'battery')).toThrow(/battery positive post/);
  });
});

describe('ways', () => {
  it('are as long as they were taped, and known then; without, as their places lie', () => {
    const taped = changeRun(m, 'battery', 'bus-bar', { lengthMm: 900 }, INES);
    expect(taped.runs.find((r) => r.from === 'battery')!.lengthMm).toBe(900);
    expect(howKnown(taped, '/runs/battery..bus-bar/lengthMm').how).toBe('measured');
    expect(changeRun(taped, 'battery', 'bus-bar', { lengthMm: null }, INES)).toEqual(m);
    expect(changeRun(m, 'battery', 'bus-bar', { hazards: ['heat'] }, INES).runs[0]).toMatchObject({ hazards: ['heat'] });
    expect(removeRun(taped, 'battery', 'bus-bar').known).toEqual({});
  });
});

describe('what is wrong with a sheet', () => {
  it.each(demoIds('models'))('nothing stops %s', (id) => {
    expect(sheetProblems(demoModel(id)).filter((p) => p.stops)).toEqual([]);
  });
  it.each(BODIES.map((b) => b.id))('nothing at all is wrong with one begun as %s', (id) => {
    expect(sheetProblems(makeSheet({ body: id, maker: 'Hollin', name: 'R', year: 2024, figures: {} }, { ...INES }))).toEqual([]);
  });
  it('is said by name, at its place', () => {
    const short = changeRun(m, 'bus-bar', 'dash', { lengthMm: 100 }, INES);
    expect(sheetProblems(short)).toContainEqual(
      expect.objectContaining({ place: 'bus-bar', stops: false, says: expect.stringMatching(/straight line/) }),
    );
    const lost = { ...m, runs: m.runs.filter((r) => r.from !== 'front-harness' && r.to !== 'front-harness') };
    expect(sheetProblems(lost).map((p) => p.says)).toContain('front harness plug: no way leads there for a wire');
    const far = movePlace(m, 'dash', { x: 9000 });
    expect(sheetProblems(far)).toContainEqual(expect.objectContaining({ place: 'dash', says: 'dash, centre lies far outside the unit' }));
    const broken = { ...m, places: m.places.filter((p) => p.id !== 'battery') };
    expect(sheetProblems(broken)[0]).toMatchObject({ stops: true });
    expect(sheetProblems(lost).every((p) => !p.stops)).toBe(true);
  });
});

describe('what is otherwise', () => {
  it('is told a line each, and nothing where nothing is', () => {
    expect(sheetChanges(m, structuredClone(m))).toEqual([]);
    const next = addRun(
      addPlace(movePlace(m, 'head-left', { z: 840 }), 'Glove box', { x: 1800, y: -300, z: 1000 }).model,
      'dash',
      'glove-box',
    );
    expect(sheetChanges(m, next)).toEqual([
      'left headlamp: 2380 mm ahead, 500 mm left, 820 mm up; now 2380 mm ahead, 500 mm left, 840 mm up',
      'right headlamp: 2380 mm ahead, -500 mm left, 820 mm up; now 2380 mm ahead, -500 mm left, 840 mm up',
      'Glove box: new, 1800 mm ahead, -300 mm left, 1000 mm up',
      'Way from dash, centre to Glove box: new',
    ]);
    expect(sheetChanges(next, m)).toContain('Glove box: gone');
  });
  it('whatever is moved and moved back leaves the sheet as it was', () => {
    const step = fc.record({
      id: fc.constantFrom(...m.places.map((p) => p.id)),
      dx: fc.integer({ min: -90, max: 90 }),
      dz: fc.integer({ min: -90, max: 90 }),
    });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 6 }), (steps) => {
        const there = steps.reduce((x, s) => movePlace(x, s.id, { x: at(x, s.id).x + s.dx, z: at(x, s.id).z + s.dz }), m);
        const back = [...steps].reverse().reduce((x, s) => movePlace(x, s.id, { x: at(x, s.id).x - s.dx, z: at(x, s.id).z - s.dz }), there);
        expect(back).toEqual(m);
      }),
      { numRuns: 60 },
    );
  });
});
