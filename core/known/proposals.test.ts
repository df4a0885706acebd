import { describe, expect, it } from 'vitest';
import { UnitModel } from '#model/unit-model';
import { makeSheet } from '../archetype/make-sheet';
import { demoModel } from '../../tests/demo-sheets';
import { combined, proposals, withProposal, type Evidence } from './proposals';
import { howKnown } from './pointer';
import { openValue, valueAt, valued, withBuildValue } from './values';

const model = makeSheet(
  { body: 'motorcycle-road', maker: 'Hollin', name: 'Reed', year: 2024, figures: {} },
  { at: '2026-03-01T08:00:00.000Z', by: 'tor' },
);
const CURVE = '/electrical/source/curve';
const found = (value: number, number: number, pointer = CURVE, build = 'any'): Evidence => ({
  pointer,
  value,
  how: 'measured',
  at: `2026-03-${String(number).padStart(2, '0')}T10:00:00.000Z`,
  by: 'tor',
  order: `o${number}`,
  number,
  build,
});
const v = openValue(model, CURVE)!;

describe('what several orders found of one value', () => {
  it('alike well measured, is their mean, and nearer than any by itself', () => {
    const one = combined(v, [found(14, 2)]);
    const three = combined(v, [found(14, 2), found(14, 3), found(14, 4)]);
    expect([one.value, three.value]).toEqual([14, 14]);
    const width = (c: typeof one) => c.spread![1] - c.spread![0];
    // independent errors: three are known 1.73 times as well as one
    expect(width(one) / width(three)).toBeCloseTo(Math.sqrt(3), 1);
    expect(width(one) / 14).toBeCloseTo(2 * v.within, 2);
  });
  it('is as wide as units differ among themselves, where that is more', () => {
    const c = combined(v, [found(13.2, 2), found(14.2, 3), found(13.7, 4)]);
    expect(c.value).toBeCloseTo(13.7, 0);
    expect(c.spread![1] - c.spread![0]).toBeGreaterThan(2 * 0.5);
  });
  it('one that contradicts the others is shown, not averaged', () => {
    const c = combined(v, [found(14, 2), found(14.3, 3), found(21, 4)]);
    expect(c.evidence.map((e) => e.contradicts)).toEqual([false, false, true]);
    expect(c.value).toBeLessThan(14.4);
  });
  it('and where nobody has most on their side nothing is said', () => {
    const c = combined(v, [found(10, 2), found(21, 4)]);
    expect(c).toMatchObject({ value: null, spread: null });
    expect(c.evidence.every((e) => e.contradicts)).toBe(true);
    expect(withProposal(model, { of: v, ...c, builds: [] }, { at: '2026-03-09T08:00:00.000Z', by: 'ines' })).toBe(model);
  });
});

describe('back to the sheet', () => {
  it('a value taken stands there with its spread and from whom, the sheet is sound, and the same orders propose it no more', () => {
    const evidence = [found(13.8, 2), found(14.2, 3), found(9, 5, '/electrical/battery/capacityAh')];
    const list = proposals(model, evidence);
    expect(list.map((p) => p.of.pointer)).toEqual(['/electrical/battery/capacityAh', CURVE]);
    const taken = UnitModel.parse(withProposal(model, list[1]!, { at: '2026-03-09T08:00:00.000Z', by: 'ines' }));
    expect(valueAt(taken, CURVE)).toBeCloseTo(14, 1);
    expect(howKnown(taken, CURVE)).toMatchObject({ how: 'measured', by: 'ines', note: 'orders 2, 3' });
    expect(proposals(taken, evidence).map((p) => p.of.pointer)).toEqual(['/electrical/battery/capacityAh']);
    // what is measured after that is news
    expect(
      proposals(taken, [...evidence, found(15, 12)])
        .find((p) => p.of.pointer === CURVE)!
        .evidence.map((e) => e.number),
    ).toEqual([12]);
  });
  it('a value narrowed to a build stands on its units alone, and the others keep what the model says', () => {
    const drover = demoModel('drover-2');
    const ofAll = valueAt(drover, CURVE)!;
    // two builds that contradict each other: nobody knows which is right, and each is right
    const evidence = [found(24, 2, CURVE, 'cab'), found(24.4, 3, CURVE, 'cab'), found(33, 4, CURVE, 'open'), found(33.4, 5, CURVE, 'open')];
    const [p] = proposals(drover, evidence);
    expect(p).toMatchObject({ value: null, builds: [{ build: 'cab' }, { build: 'open' }] });
    const by = { at: '2026-03-09T08:00:00.000Z', by: 'ines' };
    const taken = UnitModel.parse(withProposal(drover, p!, by, 'cab'));
    expect(valueAt(taken, CURVE)).toBe(ofAll);
    expect(valueAt(valued(taken, 'cab'), CURVE)).toBeCloseTo(24.2, 1);
    expect(howKnown(valued(taken, 'cab'), CURVE)).toMatchObject({ how: 'measured', by: 'ines', note: 'orders 2, 3' });
    expect(valueAt(valued(taken, 'open'), CURVE)).toBe(ofAll);
    // put in once, and what is read on a unit stands above it
    expect(valued(valued(taken, 'cab'), 'cab')).toEqual(valued(taken, 'cab'));
    const read = { [CURVE]: { value: 22, how: 'measured' as const, at: by.at, by: 'tor' } };
    expect(valueAt(valued(taken, 'cab', read), CURVE)).toBeCloseTo(22, 6);
    // what its units found is no news any more; what the others found still is
    expect(proposals(taken, evidence).map((x) => x.builds.map((b) => b.build))).toEqual([['open']]);
    expect(withBuildValue(taken, 'cab', CURVE, null)).toEqual(drover);
    expect(withProposal(drover, p!, by, 'none')).toBe(drover);
  });
  it('a maker’s figure may be put right by the bench too, and what is on no unit of it is left out', () => {
    const drover = demoModel('drover-2');
    expect(proposals(drover, [found(24, 2), found(5, 2, '/runs/x..y/lengthMm')]).map((p) => p.of.pointer)).toEqual([CURVE]);
  });
});
