import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { UnitModel } from '#model/unit-model';
import { demoKit, demoModel } from '../../tests/demo-sheets';
import { withAt } from '../known/pointer';
import { movePlace, sheetChanges } from './edit-model';
import { addThing, changePanel, removePanel } from './edit-things';
import { merge } from './merge';

const typed = { by: 'ines', at: '2026-11-28T10:00:00.000Z' };
const m = demoModel('drover-2');
const [first, second] = m.panels as [UnitModel['panels'][number], UnitModel['panels'][number]];

/** Changes to a sheet that may be made one after another. */
const CHANGES: ((x: UnitModel) => UnitModel)[] = [
  (x) => movePlace(x, 'bus-bar', { z: 700 }, typed),
  (x) => movePlace(x, 'dash', { x: 1500 }, typed),
  (x) => changePanel(x, first.id, { offMinutes: 9 }, typed),
  (x) => (x.panels.some((p) => p.id === second.id) ? removePanel(x, second.id) : x),
  (x) => (x.grounds.some((g) => g.name === 'spare stud') ? x : addThing(x, 'grounds', 'spare stud', 'dash', typed).model),
  (x) => withAt(x, '/massKg', 777),
  (x) => ({ ...x, panels: [...x.panels].reverse() }),
];
const some = fc.uniqueArray(fc.integer({ min: 0, max: CHANGES.length - 1 }));
const changed = (which: readonly number[]) => which.reduce((x, i) => CHANGES[i]!(x), m);

describe('a draft whose sheet moved on meanwhile', () => {
  it('where one of both did nothing is the other’s, and where both did the same is that', () => {
    fc.assert(
      fc.property(some, (a) => {
        const x = changed(a);
        for (const [mine, theirs] of [
          [x, m],
          [m, x],
          [x, x],
        ] as const)
          expect(merge(m, mine, theirs)).toEqual({ value: x, both: [] });
      }),
      { numRuns: 60 },
    );
  });
  it('changes that are not about the same come together, whoever made them, and neither is lost', () => {
    fc.assert(
      fc.property(some, fc.integer({ min: 1, max: 127 }), (all, split) => {
        // panels put in another order are a change to the list as a whole
        const list = all.filter((i) => i !== 6);
        const [a, b] = [list.filter((_, i) => split & (1 << i)), list.filter((_, i) => !(split & (1 << i)))];
        const { value, both } = merge(m, changed(a), changed(b));
        expect(both).toEqual([]);
        expect(sheetChanges(m, value).sort()).toEqual(sheetChanges(m, changed(list)).sort());
        expect(UnitModel.parse(value)).toBeTruthy();
      }),
      { numRuns: 100 },
    );
  });
  it('where both changed the same, mine stands and it is said', () => {
    const mine = movePlace(changePanel(m, first.id, { offMinutes: 9 }, typed), 'dash', { z: 900 }, typed);
    const theirs = movePlace(changePanel(m, first.id, { offMinutes: 4, onMinutes: 6 }, typed), 'dash', { x: 1400 }, typed);
    const { value, both } = merge(m, mine, theirs);
    expect(both).toEqual([`/panels/${first.id}/offMinutes`]);
    expect(value.panels[0]).toMatchObject({ offMinutes: 9, onMinutes: 6 });
    expect(value.places.find((p) => p.id === 'dash')).toMatchObject({ x: 1400, z: 900 });
    // what one took out and the other changed is out, or stays, by who is asked
    const gone = removePanel(m, first.id);
    expect(merge(m, gone, theirs).value.panels.some((p) => p.id === first.id)).toBe(false);
    expect(merge(m, gone, theirs).both).toEqual([`/panels/${first.id}`]);
    expect(merge(m, theirs, gone).value.panels.find((p) => p.id === first.id)).toMatchObject({ offMinutes: 4 });
  });
  it('lists without names are of one piece', () => {
    const kit = demoKit('roof-bar');
    const a = { ...kit, contents: [...kit.contents, { item: 'nut', count: 2, of: [] }] };
    const b = { ...kit, contents: kit.contents.slice(1), name: 'Bar lamp' };
    expect(merge(kit, a, b)).toEqual({ value: { ...a, name: 'Bar lamp' }, both: ['/contents'] });
  });
});
