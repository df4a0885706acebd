import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { RuleItem, type RulePack } from '#model/rule-pack';
import { demoPack, packIds } from '../../tests/demo-sheets';
import type { Given } from './item';
import { judgeItem, judgePack } from './judge';
import type { Lamp, LampUnit } from './lamp';
import { readPack } from './pack';

const UNIT: LampUnit = {
  name: 'a unit',
  kind: 'motorcycle',
  electric: false,
  lengthMm: 2200,
  widthMm: 800,
  heightMm: 1200,
  rearOverhangMm: 300,
  wheelbaseMm: 1400,
  seats: 2,
  massKg: 200,
  gvwrKg: 400,
  topSpeedKmh: 140,
  obstacles: [],
};
const lamp = (f: Lamp['function'], y: number, z: number, over: Partial<Lamp> = {}): Lamp => ({
  id: `kit/${f}-${y}-${z}`,
  name: `${f} at ${y}`,
  function: f,
  colour: f.startsWith('turn') ? 'amber' : f === 'headlamp' ? 'white' : 'red',
  at: { x: 1000, y, z },
  where: 'there',
  from: 'kit',
  known: true,
  moved: false,
  ...over,
});
const given = (lamps: Lamp[], over: Partial<Given> = {}): Given => ({
  unit: UNIT,
  lamps,
  facts: {},
  uses: [],
  table: null,
  flash: { measured: null, forecast: null },
  weight: null,
  ...over,
});
const PACK = { id: 'p', edition: 'an edition' };
const judge = (rule: object, lamps: Lamp[], over: Partial<Given> = {}) =>
  judgeItem(RuleItem.parse({ id: 'i', title: 'T', source: 'S', ...rule }), PACK, given(lamps, over));
const v = (rule: object, lamps: Lamp[], over: Partial<Given> = {}) => judge(rule, lamps, over).verdict;

describe('each kind of rule at, just inside and just outside its limit', () => {
  const height = { kind: 'equipment', anyOf: ['headlamp'], heightMm: { min: 559, max: 1372 } };
  it.each([
    [558.9, 'fails', /too low/],
    [559, 'holds', /met by/],
    [1372, 'holds', /met by/],
    [1372.1, 'fails', /too high/],
  ])('height %f mm %s', (z, verdict, says) => {
    const i = judge(height, [lamp('headlamp', 0, z)]);
    expect(i.verdict).toBe(verdict);
    expect(i.says).toMatch(says);
  });
  it('separation of centres, 16 in', () => {
    const rule = { kind: 'separation', of: ['turn-front'], apartMm: { min: 406.4 } };
    const pair = (half: number) => [lamp('turn-front', half, 800), lamp('turn-front', -half, 800)];
    expect([v(rule, pair(203.1)), v(rule, pair(203.2)), v(rule, pair(203.3))]).toEqual(['fails', 'holds', 'holds']);
    expect(judge(rule, pair(180)).says).toBe('46 mm too close together');
    expect(v(rule, [lamp('turn-front', 200, 800)])).toBe('fails');
  });
  it('separation of edges takes the lit width off; unknown widths are asked for unless it cannot matter', () => {
    const rule = { kind: 'separation', of: ['turn-front'], apartMm: { min: 240 }, measure: 'edges' };
    const pair = (half: number, w?: number) => [half, -half].map((y) => lamp('turn-front', y, 800, w ? { litMm: { w, h: 40 } } : {}));
    expect([v(rule, pair(150, 60)), v(rule, pair(149.9, 60))]).toEqual(['holds', 'fails']);
    expect(judge(rule, pair(150))).toMatchObject({ verdict: 'unknown', asks: { kind: 'number', unit: 'mm' } });
    expect([v(rule, pair(119)), v(rule, pair(220))]).toEqual(['fails', 'holds']);
  });
  it('clearance is between the edges of what lights, slantwise too, and is called for with a single lamp only', () => {
    const rule = { kind: 'clearance', of: ['turn-rear'], from: ['tail'], leastMm: 101.6, measure: 'edges', single: true };
    const lit = (w: number, h: number) => ({ litMm: { w, h } });
    const at = (y: number) => [lamp('turn-rear', y, 700, lit(60, 50)), lamp('tail', 0, 700, lit(100, 50))];
    expect([v(rule, at(181.5)), v(rule, at(181.7))]).toEqual(['fails', 'holds']);
    // 30 aside and 40 up clear: 50
    expect(
      judge({ ...rule, leastMm: 50 }, [lamp('turn-rear', 110, 790, lit(60, 50)), lamp('tail', 0, 700, lit(100, 50))]).margin?.used,
    ).toBeCloseTo(50, 9);
    expect(judge(rule, [...at(150), lamp('tail', 300, 700)]).verdict).toBeNull();
  });
  it('edge, symmetry and height above', () => {
    const edge = { kind: 'edge', of: ['tail'], mostMm: 100 };
    expect([v(edge, [lamp('tail', 300, 700), lamp('tail', -300, 700)]), v(edge, [lamp('tail', 299.9, 700)])]).toEqual(['holds', 'fails']);
    const same = { kind: 'symmetry', of: ['tail'], withinMm: 20 };
    expect([
      v(same, [lamp('tail', 300, 700), lamp('tail', -280, 700)]),
      v(same, [lamp('tail', 300, 700), lamp('tail', -300, 721)]),
    ]).toEqual(['holds', 'fails']);
    expect(v(same, [lamp('tail', 300, 700)])).toBe('fails');
    const above = { kind: 'above', of: ['all-round'], over: ['sidelight-port'], leastMm: 1000 };
    const boat = (z: number) => [lamp('all-round', 0, z), lamp('sidelight-port', 300, 1000)];
    expect([v(above, boat(2000)), v(above, boat(1999))]).toEqual(['holds', 'fails']);
  });
  it('intensity by range: the published 4.3 cd is enough for 2 nm, less is not, and an unknown one is asked for', () => {
    const rule = { kind: 'intensity', of: ['all-round'], rangeNm: 2 };
    const c = (candela?: number) => [lamp('all-round', 0, 2000, { candela })];
    expect([v(rule, c(4.3)), v(rule, c(4.2))]).toEqual(['holds', 'fails']);
    expect(judge(rule, c())).toMatchObject({ verdict: 'unknown', asks: { unit: 'cd' } });
  });
  it('sector: nothing hidden, hidden within what is allowed, and beyond it', () => {
    const rule = (most: number) => ({ kind: 'sector', of: ['all-round'], arcDeg: [0, 360], hiddenMostDeg: most });
    const light = [lamp('all-round', 0, 1100, { at: { x: 0, y: 0, z: 1100 }, arcDeg: [0, 360] })];
    const bar = { kind: 'bar' as const, id: 'm', name: 'mast', from: { x: 1000, y: 0, z: 0 }, to: { x: 1000, y: 0, z: 3000 }, mm: 100 };
    const unit = { ...UNIT, obstacles: [bar] };
    expect(v(rule(0), light)).toBe('holds');
    expect(judge(rule(6), light, { unit })).toMatchObject({
      verdict: 'holds',
      says: expect.stringMatching(/mast hides 5\.5°|mast hides 6°/),
    });
    expect(judge(rule(5), light, { unit })).toMatchObject({ verdict: 'fails', says: expect.stringMatching(/mast hides/) });
    expect(judge(rule(6), [lamp('all-round', 0, 1100)], { unit })).toMatchObject({ verdict: 'unknown', asks: { unit: 'deg' } });
  });
  it('flash: measured within, too fast, too slow, lit too long; forecast to fail; not counted yet', () => {
    const rule = { kind: 'flash', perMinute: { min: 60, max: 120 }, onSharePct: { min: 30, max: 75 } };
    const m = (perMinute: number, onSharePct: number | null) => ({
      flash: { measured: { perMinute, onSharePct, from: 'tapped', basis: 'told' as const }, forecast: null },
    });
    expect([
      v(rule, [], m(60, 30)),
      v(rule, [], m(120, 75)),
      v(rule, [], m(59.9, 50)),
      v(rule, [], m(120.1, 50)),
      v(rule, [], m(90, 76)),
      v(rule, [], m(90, null)),
    ]).toEqual(['holds', 'holds', 'fails', 'fails', 'fails', 'unknown']);
    const forecast = (perMinute: number) => ({
      flash: {
        measured: null,
        forecast: { perMinute, onSharePct: 50, says: 's', tight: false, remedies: [{ says: 'a resistor' }], sum: [] },
      },
    });
    expect(judge(rule, [], forecast(170))).toMatchObject({ verdict: 'fails', remedies: ['a resistor'] });
    expect(v(rule, [], forecast(85))).toBe('unknown');
    expect(v(rule, [])).toBe('unknown');
  });
  it('limits of a class: above, at most, under', () => {
    const speed = { kind: 'limit', of: 'topSpeedKmh', above: 32.2, atMost: 40.2 };
    const at = (topSpeedKmh?: number) => ({ unit: { ...UNIT, topSpeedKmh } });
    expect([v(speed, [], at(32.2)), v(speed, [], at(32.3)), v(speed, [], at(40.2)), v(speed, [], at(40.3)), v(speed, [], at())]).toEqual([
      'fails',
      'holds',
      'holds',
      'fails',
      'unknown',
    ]);
    const under = { kind: 'limit', of: 'lengthM', below: 12 };
    expect([v(under, [], { unit: { ...UNIT, lengthMm: 11_999 } }), v(under, [], { unit: { ...UNIT, lengthMm: 12_000 } })]).toEqual([
      'holds',
      'fails',
    ]);
  });
  it('a reading with its figure, a proof by a person', () => {
    const horn = { kind: 'reading', question: 'How far?', unit: 'm', band: { min: 60.9 } };
    const told = (x: number | boolean) => ({ facts: { 'lamp:p/i': x } });
    expect([v(horn, []), v(horn, [], told(61)), v(horn, [], told(60)), v(horn, [], told(false))]).toEqual([
      'unknown',
      'holds',
      'fails',
      'fails',
    ]);
    expect([v({ kind: 'proof', question: 'Is it?' }, []), v({ kind: 'proof', question: 'Is it?' }, [], told(true))]).toEqual([
      'unknown',
      'holds',
    ]);
  });
});

describe('what was not judged is never counted as met', () => {
  const rule = { kind: 'equipment', anyOf: ['tail'], count: 2, eachSide: true, colour: ['red'], heightMm: { min: 381, max: 1829 } };
  it.each([
    ['no place', [lamp('tail', 300, 700), lamp('tail', -300, 700, { at: null })], /its place is not known/],
    ['a place outside the unit', [lamp('tail', 300, 700), lamp('tail', -1200, 700)], /800 mm beyond the unit’s right side/],
    ['under the ground', [lamp('tail', 300, 700), lamp('tail', -300, -50)], /50 mm under the ground/],
    ['nobody looked', [lamp('tail', 300, 700), lamp('tail', -300, 700, { known: false })], /depends on how/],
    ['no colour', [lamp('tail', 300, 700), lamp('tail', -300, 700, { colour: undefined })], /colour is not known/],
  ])('%s', (_, lamps, says) => {
    const i = judge(rule, lamps);
    expect(i.verdict).toBe('unknown');
    expect(i.says).toMatch(says);
  });
  it('seen by a person but not measured', () => {
    expect(judge(rule, [], { facts: { 'lamp:p/i': true } })).toMatchObject({ verdict: 'unknown', asks: { kind: 'number' } });
    expect(v(rule, [], { facts: { 'lamp:p/i': true, 'height:p/i': 700 } })).toBe('holds');
    expect(v(rule, [], { facts: { 'lamp:p/i': true, 'height:p/i': 300 } })).toBe('fails');
  });
  it('too many where a most is named', () => {
    expect(
      judge({ kind: 'equipment', anyOf: ['sidelight-port'], most: 1 }, [lamp('sidelight-port', 500, 900), lamp('sidelight-port', 600, 900)])
        .says,
    ).toBe('2 there, at most 1 allowed');
  });
  it('moving a lamp toward its band never makes the verdict worse', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1200, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (z, t) => {
        const band = { kind: 'equipment', anyOf: ['headlamp'], heightMm: { min: 559, max: 1100 } };
        const middle = 830;
        const rank = { fails: 0, unknown: 1, tight: 2, holds: 3 } as const;
        expect(rank[v(band, [lamp('headlamp', 0, z + (middle - z) * t)])!]).toBeGreaterThanOrEqual(
          rank[v(band, [lamp('headlamp', 0, z)])!],
        );
      }),
    );
  });
});

describe('a pack with bad items', () => {
  const pack = (items: unknown[]) => ({
    id: 'mine',
    name: 'Mine',
    place: 'Here',
    edition: 'Today',
    kinds: ['motorcycle'],
    caution: 'Careful',
    items,
  });
  const good = { id: 'head', kind: 'equipment', title: 'Headlamp', anyOf: ['headlamp'], source: 'S' };
  it.each([
    ['an unknown kind', { id: 'x', kind: 'brightness', title: 'X', source: 'S' }, /item 2, “x”: “brightness” is no kind of rule/],
    ['a band upside down', { ...good, id: 'x', heightMm: { min: 900, max: 500 } }, /item 2, “x”: heightMm: the band is upside down/],
    ['a missing field', { id: 'x', kind: 'separation', title: 'X', of: ['tail'], source: 'S' }, /item 2, “x”: apartMm: is missing/],
    [
      'an arc upside down',
      { id: 'x', kind: 'sector', title: 'X', of: ['stern'], arcDeg: [90, 20], source: 'S' },
      /arcDeg: the arc is upside down/,
    ],
    ['a name that is there already', good, /an item “head” is there already/],
    ['no object at all', 7, /item 2, “item-2”/],
    ['a limit without a figure', { id: 'x', kind: 'limit', title: 'X', of: 'gvwrKg', source: 'S' }, /has no figure/],
  ])('%s: named with its place, the others judged', (_, bad, says) => {
    const read = readPack(pack([good, bad, { ...good, id: 'last' }]));
    const items = judgePack(read, given([lamp('headlamp', 0, 800)]));
    expect(items.map((i) => i.verdict)).toEqual(['holds', 'unknown', 'holds']);
    expect(items[1]!.says).toMatch(says);
  });
  it('refuses a pack without a head, or without one good item', () => {
    expect(() => readPack({ items: [good] })).toThrow(/pack: id: is missing/);
    expect(() => readPack(pack([{ kind: 'nothing' }]))).toThrow(/no item can be judged/);
    expect(() => readPack(7)).toThrow(/pack/);
  });
  it('all packs that ship are sound, and every item names a source', () => {
    for (const id of packIds()) {
      const p: RulePack = demoPack(id);
      expect(p.bad).toBeUndefined();
      for (const i of p.items) expect(i.source.length).toBeGreaterThan(3);
    }
  });
});

describe('when an item applies', () => {
  const proof = { kind: 'proof', question: 'Is it?' };
  it.each([
    [{ power: 'electric' }, null, /for electric units/],
    [{ kinds: ['boat'] }, null, /not for this kind/],
    [{ has: ['headlamp'], because: 'dark' }, null, /does not apply: dark/],
    [{ topSpeedKmh: { max: 100 } }, null, /top speed above 100/],
    [{ lengthM: { max: 12 } }, 'unknown', /not proved yet/],
    [{ ask: { key: 'abroad', question: 'Abroad?' } }, 'unknown', /whether it applies/],
  ])('%j', (when, verdict, says) => {
    const i = judge({ ...proof, when }, []);
    expect(i.verdict).toBe(verdict);
    expect(i.says).toMatch(says);
  });
});
