import { describe, expect, it } from 'vitest';
import { UnitModel } from '#model/unit-model';
import { demoModel } from '../../tests/demo-sheets';
import { howKnown } from './pointer';
import { ownFound, withOwnFound, type OwnOfOrder } from './own-found';

const m = demoModel('drover-2');
const by = { at: '2026-11-28T10:00:00.000Z', by: 'ines' };
const spot = { id: 'glove-box', name: 'Glove box', x: 1500, y: -300, z: 900, wet: false };
const way = (from: string, to: string, lengthMm: number) => ({ from, to, lengthMm, hazards: [] });
const [a, b] = m.places.flatMap((p) =>
  m.places
    .filter((q) => q.id > p.id && !m.runs.some((r) => [r.from, r.to].sort().join() === [p.id, q.id].sort().join()))
    .map((q) => [p.id, q.id] as const),
)[0]!;
const of: OwnOfOrder = { order: 'o1', number: 12, spots: [spot], ways: [way('dash', 'glove-box', 400), way(a, b, 900)], own: null };

describe('what an order has of its own', () => {
  it('is offered to the sheet: a place with its way, a way between places that are there', () => {
    const found = ownFound(m, [of, { ...of, order: 'o2', number: 13, ways: [] }]);
    expect(found.map((f) => [f.number, f.pointer])).toEqual([
      [12, '/places/glove-box'],
      [12, `/runs/${a}..${b}`],
      [13, '/places/glove-box'],
    ]);
    const taken = UnitModel.parse(withOwnFound(m, of, '/places/glove-box', by));
    expect(taken.places.at(-1)).toEqual(spot);
    expect(taken.runs.at(-1)).toMatchObject({ from: 'dash', to: 'glove-box', lengthMm: 400 });
    expect(howKnown(taken, '/places/glove-box/x')).toMatchObject({ how: 'measured', by: 'ines', note: 'order 12' });
    expect(howKnown(taken, '/runs/dash..glove-box/lengthMm')).toMatchObject({ how: 'measured' });
    // what it has by now, nobody offers again
    expect(ownFound(taken, [of, { ...of, number: 13 }]).map((f) => f.pointer)).toEqual([`/runs/${a}..${b}`, `/runs/${a}..${b}`]);
    const both = UnitModel.parse(withOwnFound(taken, of, `/runs/${a}..${b}`, by));
    expect(ownFound(both, [of])).toEqual([]);
    expect(withOwnFound(both, of, '/places/glove-box', by)).toBe(both);
    expect(withOwnFound(m, of, '/places/none', by)).toBe(m);
  });
});
