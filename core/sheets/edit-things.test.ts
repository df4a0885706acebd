import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { UnitModel } from '#model/unit-model';
import { demoModel } from '../../tests/demo-sheets';
import { allBefore } from '../plan/precedence';
import { makeSheet } from '../archetype/make-sheet';
import { howKnown } from '../known/pointer';
import { openValues } from '../known/values';
import { sheetChanges, sheetProblems } from './edit-model';
import {
  addObstacle,
  addPanel,
  addThing,
  changeDims,
  changeElectrical,
  changeObstacle,
  changeOwnLoad,
  changePanel,
  changeParked,
  changeThing,
  curvePoints,
  moveCurvePoint,
  removeObstacle,
  removePanel,
  removeThing,
  THINGS,
  type ThingList,
} from './edit-things';

const drover = demoModel('drover-4');
const typed = { by: 'ines', at: '2026-03-02T08:00:00.000Z' };
const begun = makeSheet({ body: 'side-by-side-2-open', maker: 'Hollin', name: 'Ridge 8', year: 2024, figures: {} }, typed);

describe('what stands at a place', () => {
  it.each(Object.keys(THINGS) as ThingList[])('a new one of %s is sound, told as new, and gone again', (list) => {
    const { model, id } = addThing(drover, list, 'Behind the seat', 'dash', typed);
    expect(UnitModel.parse(model)).toEqual(model);
    expect(sheetChanges(drover, model)).toEqual([expect.stringMatching(/“Behind the seat”: new$/)]);
    expect(howKnown(model, `/${list}/${id}/volts`)).toMatchObject({ how: 'read', by: 'ines' });
    expect(removeThing(model, list, id)).toEqual(drover);
    expect(() => addThing(model, list, 'behind the SEAT', 'dash', typed)).toThrow('is there already');
    expect(() => addThing(model, list, ' ', 'dash', typed)).toThrow('it needs a name');
  });
  it('what is typed of an assumed one is read off, and asked of nobody any more', () => {
    const feed = begun.powerPoints.find((p) => p.fuseA !== undefined)!;
    const pointer = `/powerPoints/${feed.id}/fuseA`;
    expect(openValues(begun).map((v) => v.pointer)).toContain(pointer);
    const after = changeThing(begun, 'powerPoints', feed.id, { fuseA: 7.5 }, typed);
    expect(howKnown(after, pointer)).toMatchObject({ how: 'read', by: 'ines' });
    expect(openValues(after).map((v) => v.pointer)).not.toContain(pointer);
    // the rest of it stays assumed
    expect(howKnown(after, `/powerPoints/${feed.id}/volts`).how).toBe('assumed');
    const none = changeThing(after, 'powerPoints', feed.id, { fuseA: undefined } as never, typed);
    expect(none.powerPoints.find((p) => p.id === feed.id)).not.toHaveProperty('fuseA');
  });
  it('the last feed stays, and a fuse under what it feeds stops the sheet', () => {
    const last = { ...drover, powerPoints: [drover.powerPoints[0]!] };
    expect(() => removeThing(last, 'powerPoints', last.powerPoints[0]!.id)).toThrow('one feed at the least');
    const wire = drover.factoryWires.find((w) => w.usedA > 0)!;
    expect(sheetProblems(changeThing(drover, 'factoryWires', wire.id, { fuseA: wire.usedA / 2 }, typed))[0]).toMatchObject({
      stops: true,
      place: wire.place,
    });
  });
});

describe('panels', () => {
  it('wait for each other, but none for itself', () => {
    const a = addPanel(drover, 'Bed', typed);
    const b = addPanel(a.model, 'Bed liner', typed);
    const waits = changePanel(b.model, a.id, { after: [b.id] }, typed);
    expect([...allBefore(waits.panels, a.id)]).toEqual([b.id]);
    expect(() => changePanel(waits, b.id, { after: [a.id] }, typed)).toThrow('off before itself');
    expect(() => changePanel(waits, a.id, { after: [a.id] }, typed)).toThrow('off before itself');
    const gone = removePanel(waits, b.id);
    expect(gone.panels.find((p) => p.id === a.id)!.after).toEqual([]);
    expect(removePanel(gone, a.id)).toEqual(drover);
    expect(() => addPanel(drover, drover.panels[0]!.name, typed)).toThrow('is there already');
    // a sheet that came with a circle says so instead of waiting for ever
    const circle = { ...waits, panels: waits.panels.map((p) => (p.id === b.id ? { ...p, after: [a.id] } : p)) };
    expect(
      sheetProblems(circle)
        .filter((p) => p.stops)
        .map((p) => p.says),
    ).toEqual(['Bed: it would have to be off before itself', 'Bed liner: it would have to be off before itself']);
  });
});

describe('source, battery and sizes', () => {
  it('a point of the curve that is dragged anywhere stays between its neighbours', () => {
    fc.assert(
      fc.property(
        fc.nat(),
        fc.double({ min: -1e4, max: 2e4, noNaN: true }),
        fc.double({ min: -50, max: 500, noNaN: true }),
        (i, rpm, a) => {
          const { source } = drover.electrical;
          if (source.kind === 'none') return;
          const moved = moveCurvePoint(drover, i % source.curve.length, [rpm, a], typed);
          expect(UnitModel.safeParse(moved).success).toBe(true);
        },
      ),
    );
  });
  it('has points put in where the gap is widest, and taken off its end, two at the least', () => {
    const curve = (m: UnitModel) => (m.electrical.source.kind === 'none' ? [] : m.electrical.source.curve);
    const more = curvePoints(drover, 1, typed);
    expect(curve(more)).toHaveLength(curve(drover).length + 1);
    expect(UnitModel.safeParse(more).success).toBe(true);
    const few = Array.from({ length: 20 }).reduce<UnitModel>((m) => curvePoints(m, -1, typed), drover);
    expect(curve(few)).toHaveLength(2);
    const cart = demoModel('parkway-48');
    expect(moveCurvePoint(cart, 0, [1, 1], typed)).toBe(cart);
    expect(curvePoints(cart, 1, typed)).toBe(cart);
  });
  it('is told in words, known as read, and stops where it cannot be', () => {
    const m = changeOwnLoad(
      changeParked(changeDims(changeElectrical(begun, 'battery', { capacityAh: 27 }, typed), { lengthMm: 2900 }, typed), 0.02, typed),
      begun.electrical.ownLoads[0]!.id,
      { idleW: 99 },
      typed,
    );
    expect(sheetChanges(begun, m).map((c) => c.split(':')[0])).toEqual([
      `Own load “${begun.electrical.ownLoads[0]!.name}”`,
      'Battery',
      'Electrics',
      'Sizes',
    ]);
    for (const p of ['/electrical/battery/capacityAh', '/dims/lengthMm', '/electrical/parkedMa', '/electrical/ownLoads'])
      expect(howKnown(m, p).how, p).toBe('read');
    expect(sheetProblems(changeDims(drover, { wheelbaseMm: drover.dims.lengthMm + 10 }, typed)).filter((p) => p.stops)[0]!.says).toMatch(
      /longer than the unit/,
    );
    expect(sheetProblems(changeElectrical(drover, 'battery', { voltsEach: 6 }, typed)).some((p) => p.stops)).toBe(true);
  });
});

describe('what hides a light', () => {
  it('is added, moved and taken out, known as read off, and told', () => {
    const { model: put, id } = addObstacle(drover, 'roof rack', 'box', typed);
    const { model: both, id: bar } = addObstacle(put, 'cage bar', 'bar', typed);
    const next = UnitModel.parse(
      changeObstacle(changeObstacle(both, id, { to: { x: 900, y: 400, z: 1900 } }, typed), bar, { mm: 45 }, typed),
    );
    expect(next.obstacles.slice(-2)).toMatchObject([
      { kind: 'box', to: { z: 1900 } },
      { kind: 'bar', mm: 45 },
    ]);
    expect(howKnown(next, `/obstacles/${bar}/mm`)).toMatchObject({ how: 'read', by: typed.by });
    expect(sheetChanges(drover, next)).toEqual(['What hides a light “roof rack”: new', 'What hides a light “cage bar”: new']);
    expect(() => addObstacle(next, 'Roof rack', 'bar', typed)).toThrow('is there already');
    expect(() => addObstacle(next, ' ', 'bar', typed)).toThrow('it needs a name');
    expect(removeObstacle(removeObstacle(next, bar), id)).toEqual(drover);
  });
});
