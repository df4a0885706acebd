import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { UnitModel } from '#model/unit-model';
import { demoIds, demoModel } from '../../tests/demo-sheets';
import { BODIES } from '../archetype/body';
import { makeSheet } from '../archetype/make-sheet';
import { sourceAmps } from '../energy/source';
import { wayDoubt, sayAssumed, workDoubt } from './doubt';
import { seeded } from '../random';
import { drawValue } from './draw';
import { at, howKnown, restsOnAssumed, withAt } from './pointer';
import { openValue, openValues, valueAt, valued, withValue } from './values';

const WHEN = { at: '2026-03-02T08:00:00.000Z', by: 'tor' };
const made = (body: string) => makeSheet({ body, maker: 'Hollin', name: 'Ridge', year: 2024, figures: {} }, WHEN);
const read = (value: number, how: 'read' | 'measured' = 'measured') => ({ value, how, ...WHEN });

describe('a pointer', () => {
  const m = demoModel('drover-2');
  it('names items of lists by their id and runs by their ends, whatever stands before them', () => {
    expect(at(m, '/electrical/battery/capacityAh')).toBe(m.electrical.battery.capacityAh);
    expect(at(m, '/places/dash/z')).toBe(m.places.find((p) => p.id === 'dash')!.z);
    expect(at(m, '/runs/pillar..roof-front/lengthMm')).toBe(1200);
    expect(at({ ...m, places: [...m.places].reverse() }, '/places/dash/z')).toBe(at(m, '/places/dash/z'));
    for (const p of ['/nothing', '/places/none/z', '/maker/x']) expect(at(m, p), p).toBeUndefined();
  });
  it('puts something else there and leaves the rest as it was, itself included', () => {
    const before = structuredClone(m);
    const after = withAt(m, '/powerPoints/port-1/fuseA', 7.5);
    expect(at(after, '/powerPoints/port-1/fuseA')).toBe(7.5);
    expect(withAt(after, '/powerPoints/port-1/fuseA', 10)).toEqual(m);
    expect(m).toEqual(before);
    expect(after.places).toBe(m.places);
  });
  it('says how a value is known by its own entry or the nearest above; what has none is the maker’s', () => {
    const known = {
      '': { how: 'assumed' },
      '/electrical': { how: 'maker' },
      '/electrical/parkedMa': { how: 'measured', spread: [1, 2] },
    } as const;
    const of = (p: string) => howKnown({ known } as never, p);
    expect(of('/electrical/parkedMa')).toEqual({ how: 'measured', spread: [1, 2] });
    expect(of('/electrical/battery/cca').how).toBe('maker');
    expect(of('/dims/widthMm').how).toBe('assumed');
    expect(howKnown(m, '/dims/widthMm')).toEqual({ how: 'maker' });
    expect(demoIds('models').some((id) => restsOnAssumed(demoModel(id)))).toBe(false);
  });
});

describe.each(BODIES.map((b) => b.id))('values of a %s', (id) => {
  const m = made(id);
  it('each may be put in, is there then, leaves a sheet that is sound, and stays when put in again', () => {
    for (const v of openValues(m))
      for (const value of v.spread) {
        const x = withValue(m, v.pointer, value);
        expect(valueAt(x, v.pointer), v.pointer).toBeCloseTo(value, 6);
        expect(UnitModel.safeParse(x).success, v.pointer).toBe(true);
        const again = withValue(x, v.pointer, value);
        expect(valueAt(again, v.pointer)).toBeCloseTo(value, 6);
        expect(again.places).toEqual(x.places);
      }
  });
  it('once read or measured they count, are not asked for again, and say by whom', () => {
    const v = openValues(m)[0]!;
    const x = valued(m, 'any', { [v.pointer]: read(v.spread[1], v.how) });
    expect(valueAt(x, v.pointer)).toBeCloseTo(v.spread[1], 6);
    expect(howKnown(x, v.pointer)).toMatchObject({ how: v.how, by: 'tor' });
    expect(openValues(x).map((o) => o.pointer)).toEqual(
      openValues(m)
        .map((o) => o.pointer)
        .filter((p) => p !== v.pointer),
    );
  });
});

describe('what goes with a value', () => {
  it('a source keeps the shape of its curve, and a unit’s own loads their shares', () => {
    const m = made('side-by-side-4');
    const x = withValue(m, '/electrical/source/curve', 30);
    const [a, b] = [m.electrical.source, x.electrical.source];
    for (const rpm of [1000, 2500, 5000]) expect(sourceAmps(b, rpm) / sourceAmps(a, rpm)).toBeCloseTo(30 / 23, 6);
    const y = withValue(m, '/electrical/ownLoads', 300);
    const shares = (u: UnitModel) => u.electrical.ownLoads.map((l) => l.idleW / u.electrical.ownLoads[0]!.idleW);
    expect(shares(y).map((s) => Number(s.toFixed(6)))).toEqual(shares(m).map((s) => Number(s.toFixed(6))));
  });
  it('places follow the width until they are measured, and both sides are alike until one is', () => {
    const m = made('side-by-side-2-open');
    const y = (u: UnitModel, p: string) => u.places.find((q) => q.id === p)!.y;
    const wide = valued(m, 'any', { '/dims/widthMm': read(1738) });
    expect(y(wide, 'head-left')).toBeGreaterThan(y(m, 'head-left'));
    const held = valued(m, 'any', { '/dims/widthMm': read(1738), '/places/head-left/y': read(500) });
    expect([y(held, 'head-left'), y(held, 'head-right')]).toEqual([500, -500]);
    const high = valued(m, 'any', { '/places/head-left/z': read(900), '/places/head-right/z': read(880) });
    expect(['head-left', 'head-right'].map((p) => high.places.find((q) => q.id === p)!.z)).toEqual([900, 880]);
  });
  it('whatever is read in whatever order, the sheet is the same', () => {
    const m = made('quad-1');
    const list = openValues(m).slice(0, 12);
    fc.assert(
      fc.property(fc.shuffledSubarray(list, { minLength: 2, maxLength: 6 }), (some) => {
        const of = (l: typeof some) => valued(m, 'any', Object.fromEntries(l.map((v) => [v.pointer, read(v.spread[0])])));
        expect(of([...some].reverse())).toEqual(of(some));
      }),
      { numRuns: 30 },
    );
  });
  it('what is not on a unit is no value of it', () => {
    const m = made('boat-pontoon');
    for (const p of ['/dims/wheelbaseMm', '/runs/a..b/lengthMm', '/powerPoints/none/fuseA', '/maker', '/electrical']) {
      const v = openValue(m, p);
      expect(v === null || v.value === 0, p).toBe(true);
    }
  });
});

describe('draws', () => {
  it('lie in the band 8 times in 10, on both sides of what is assumed, and are the same for a seed', () => {
    const random = seeded(11);
    const v = { pointer: '/electrical/source/curve', value: 20, spread: [15, 30] as const };
    const list = Array.from({ length: 4000 }, () => drawValue(v, random));
    const inside = list.filter((x) => x >= 15 && x <= 30).length / list.length;
    // the share’s own doubt is 0.6 % in one standard deviation
    expect(inside).toBeGreaterThan(0.775);
    expect(inside).toBeLessThan(0.825);
    expect(list.filter((x) => x < 20).length / list.length).toBeGreaterThan(0.46);
    expect(Math.min(...list)).toBeGreaterThan(0);
    const again = seeded(11);
    expect(list.slice(0, 5)).toEqual(Array.from({ length: 5 }, () => drawValue(v, again)));
  });
  it('fuses come in sizes', () => {
    const random = seeded(5);
    const v = { pointer: '/powerPoints/port/fuseA', value: 10, spread: [7.5, 15] as const };
    const list = Array.from({ length: 500 }, () => drawValue(v, random));
    expect([...new Set(list)].sort((a, b) => a - b)).toEqual([7.5, 10, 15]);
    expect(list.filter((x) => x === 10).length).toBeGreaterThan(250);
  });
});

describe('a way that is only assumed', () => {
  const m = made('side-by-side-2-open');
  const places = ['battery', 'tunnel', 'dash', 'pillar', 'roof-front'];
  it('is between less and more than its length, and nearer than its runs’ bands laid end to end', () => {
    const [low, high] = wayDoubt(m, places)!;
    const bands = [
      ['battery', 'tunnel'],
      ['tunnel', 'dash'],
      ['dash', 'pillar'],
      ['pillar', 'roof-front'],
    ].map(([a, b]) => openValue(m, `/runs/${a}..${b}/lengthMm`)!);
    const sum = (f: (v: (typeof bands)[number]) => number) => bands.reduce((s, v) => s + f(v), 0) / 1000;
    expect(low).toBeLessThan(sum((v) => v.value));
    expect(high).toBeGreaterThan(sum((v) => v.value));
    expect(low).toBeGreaterThan(sum((v) => v.spread[0]));
    expect(high).toBeLessThan(sum((v) => v.spread[1]));
    // laid the other way round it is the same
    expect(wayDoubt(m, [...places].reverse())![0]).toBeCloseTo(low, 9);
  });
  it('and known once each of its runs was taped; a maker’s sheet has no doubt', () => {
    const taped = valued(m, 'any', Object.fromEntries(m.runs.map((r) => [`/runs/${r.from}..${r.to}/lengthMm`, read(900)])));
    expect(wayDoubt(taped, places)).toBeNull();
    expect(wayDoubt(demoModel('drover-2'), ['battery', 'bus-bar', 'dash'])).toBeNull();
    expect(sayAssumed(demoModel('drover-2'))).toBe('');
    expect(sayAssumed(m)).toMatch(/known only by its kind: \d+ of its values are assumed/);
  });
});

describe('minutes of work on a unit that is known only by its kind', () => {
  const m = makeSheet(
    { body: 'side-by-side-2-open', maker: 'Hollin', name: 'Ridge 8', year: 2024, figures: {} },
    { at: '2026-03-01T08:00:00.000Z', by: 'tor' },
  );
  const [a, b] = m.panels as [(typeof m.panels)[number], (typeof m.panels)[number]];
  const of = (panel: typeof a, minutes: number) => ({ panel, minutes });
  it('lie between a panel done quicker and slower; of two, nearer than both at their worst; a step without a panel says nothing', () => {
    const one = workDoubt(m, [of(a, 10), { panel: null, minutes: 50 }], 60)!;
    expect(one[0]).toBeCloseTo(60 - 10 * (1 - 1 / 1.6), 9);
    expect(one[1]).toBeCloseTo(66, 9);
    const two = workDoubt(m, [of(a, 6), of(b, 8), of(a, 4)], 60)!;
    expect(two[1]).toBeGreaterThan(66);
    expect(two[1]).toBeLessThan(60 + 18 * 0.6);
    // off and on of one panel are off together
    expect(workDoubt(m, [of(a, 6), of(a, 4)], 60)).toEqual(workDoubt(m, [of(a, 10)], 60));
  });
  it('are known where the panels are: of a maker’s sheet, or read off', () => {
    const drover = demoModel('drover-2');
    expect(workDoubt(drover, [of(drover.panels[0]!, 10)], 60)).toBeNull();
    const known = { ...m, known: { ...m.known, [`/panels/${a.id}`]: { how: 'read' as const } } };
    expect(workDoubt(known, [of(a, 10)], 60)).toBeNull();
    expect(workDoubt(known, [of(a, 10), of(b, 5)], 60)).not.toBeNull();
  });
});
