import { describe, expect, it } from 'vitest';
import { Applies } from '#model/rule-pack';
import { demoModel } from '../../tests/demo-sheets';
import { askKey, judgeApplies } from './applies';
import { bandWords, beyond, marginTo } from './item';
import { unitOf, type Lamp } from './lamp';
import { faceOf, otherSide, startFor } from './placing';

const cart = unitOf(demoModel('parkway-48'), {});
const lamp = (f: Lamp['function'], y: number, z = 700, known = true): Lamp => ({
  id: `k/${f}${y}/${z}`,
  name: f,
  function: f,
  at: { x: 0, y, z },
  where: '',
  from: 'kit',
  known,
  moved: false,
});
const judge = (when: object, facts = {}, uses: string[] = [], lamps?: Lamp[], unit = cart) =>
  judgeApplies(Applies.parse(when), unit, facts, uses, lamps);

describe('whether a condition holds', () => {
  it('without one, always', () => expect(judgeApplies(undefined, cart, {}, [])).toEqual({ applies: true }));
  it.each([
    [{ kinds: ['golf-cart'] }, true],
    [{ power: 'electric' }, true],
    [{ power: 'engine' }, false],
    [{ topSpeedKmh: { min: 38.9, max: 39 } }, true],
    [{ topSpeedKmh: { min: 39 } }, false],
    [{ gvwrKg: { max: 979 } }, false],
    [{ lengthM: { min: 2.6, max: 2.65 } }, true],
    [{ use: ['road', 'night'] }, false],
  ] as const)('%j: %s', (when, holds) => expect(judge(when).applies).toBe(holds));
  it('what the owner wants counts, any of several', () => expect(judge({ use: ['road', 'night'] }, {}, ['night']).applies).toBe(true));
  it('equipment that nobody has seen yet is not there', () => {
    expect(judge({ has: ['tail'] }, {}, [], [lamp('tail', 0, 700, false)]).applies).toBe(false);
    expect(judge({ has: ['tail', 'stop'] }, {}, [], [lamp('stop', 0)]).applies).toBe(true);
    expect(judge({ hasNot: ['tail'] }, {}, [], [lamp('tail', 0)])).toMatchObject({ applies: false, why: 'it has tail' });
    // for a pack's own condition no lamps are looked at
    expect(judge({ has: ['tail'] }).applies).toBe(true);
  });
  it('asks only when nothing at hand rules it out, and one thing only', () => {
    const bare = { ...cart, topSpeedKmh: undefined, gvwrKg: undefined };
    expect(judge({ power: 'engine', topSpeedKmh: { max: 40 } }, {}, [], undefined, bare).applies).toBe(false);
    expect(judge({ topSpeedKmh: { max: 40 }, gvwrKg: { max: 900 } }, {}, [], undefined, bare)).toMatchObject({
      applies: 'ask',
      ask: { key: 'unit:top-speed-kmh' },
    });
    expect(judge({ ask: { key: 'abroad', question: 'Abroad?' } })).toMatchObject({
      applies: 'ask',
      ask: { key: askKey('abroad'), kind: 'boolean', question: 'Abroad?' },
    });
    expect(judge({ ask: { key: 'abroad', question: 'Abroad?' } }, { 'fact:abroad': true }).applies).toBe(true);
    expect(judge({ ask: { key: 'abroad', question: 'Abroad?' }, because: 'at home' }, { 'fact:abroad': false })).toMatchObject({
      applies: false,
      why: 'at home',
    });
  });
});

describe('a figure and its band', () => {
  it('by how much it is beyond, either end open', () => {
    expect([beyond(5, { min: 6 }), beyond(5, { max: 3 }), beyond(5, { min: 5, max: 5 }), beyond(5, {})]).toEqual([-1, 2, 0, 0]);
  });
  it('the nearer end is the limit that is shown', () => {
    expect(marginTo(10, { min: 8, max: 20 }, 'mm')).toEqual({ used: 10, limit: 8, unit: 'mm', atLeast: true });
    expect(marginTo(19, { min: 8, max: 20 }, 'mm')).toEqual({ used: 19, limit: 20, unit: 'mm', atLeast: false });
    expect(marginTo(7, { max: 20 }, 'mm')).toMatchObject({ limit: 20, atLeast: false });
  });
  it('in words', () =>
    expect([bandWords({ min: 1, max: 2 }, 'm'), bandWords({ min: 1 }, 'm'), bandWords({ max: 2 }, 'm')]).toEqual([
      '1 to 2 m',
      'at least 1 m',
      'at most 2 m',
    ]));
});

describe('where a lamp belongs', () => {
  it('front, rear and side by what it does; a work lamp by where it is', () => {
    expect(
      (['headlamp', 'turn-front', 'tail', 'plate', 'reflector-side', 'sidelight-port', 'stern'] as const).map((f) => faceOf(f)),
    ).toEqual(['front', 'front', 'rear', 'rear', 'side', 'front', 'rear']);
    const bar = (x: number) => faceOf('work-lamp', { x, y: 0, z: 1900 }, 3000, 500);
    expect([bar(1500), bar(200)]).toEqual(['front', 'rear']);
  });
  it('its other side is the one nearest to the mirrored place; none on the centre line or alone', () => {
    const [l, near, far] = [lamp('tail', 400), lamp('tail', -410, 710), lamp('tail', -200, 720)];
    expect(otherSide(l, [l, far, near])).toBe(near);
    expect(otherSide(lamp('tail', 10), [near, far])).toBeNull();
    expect(otherSide(l, [l, lamp('stop', -400)])).toBeNull();
    expect(otherSide({ ...l, at: null }, [near])).toBeNull();
  });
  it('something added begins on the right face of the body', () => {
    const places = demoModel('parkway-48').places;
    const at = (f: Parameters<typeof startFor>[0]) => startFor(f, cart, places);
    expect(at('reflector-rear')).toEqual({ x: -465, y: 0, z: 620 });
    expect(at('reflector-side')).toMatchObject({ x: -220, y: 620 });
    expect(at('mirror-driver')).toEqual({ x: 1500, y: 640, z: 1280 });
    expect(at('mirror-passenger').y).toBe(-640);
    expect(at('mirror-inside')).toMatchObject({ x: 2180, y: 0 });
    expect(startFor('reflector-rear', cart, [])).toMatchObject({ x: -470, y: 0 });
  });
});
