import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { runCalculation } from '#core/calc/registry';
import { toldArc } from '#core/lighting/lamp';
import { DEFAULT_SETTINGS } from '#model/settings';
import type { Kit } from '#model/kit';
import { assess } from '#core/order/assess';
import { after, demoOrder, demoPack } from '../demo-sheets';

// 33 CFR 83 and 84, 49 CFR 571.500 and 571.108, UNECE R53: typed from memory, to be confirmed against a copy.
interface L {
  function: string;
  colour?: string;
  xMm?: number;
  yMm?: number;
  zMm?: number;
  arcDeg?: [number, number];
  candela?: number;
  pieces?: number;
}
type Items = Record<string, { verdict: string | null; says: string; basis: string | null }>;
function check(pack: string, unit: object, lamps: L[], readings: object = {}): Items {
  const r = runCalculation('lighting.check', { pack, unit, lamps, readings }) as {
    items: { id: string; verdict: string | null; says: string; basis: string | null }[];
  };
  return Object.fromEntries(r.items.map((i) => [i.id, i]));
}
const SIDES: L[] = [
  { function: 'sidelight-port', colour: 'red', xMm: 6000, yMm: 1000, zMm: 1000, arcDeg: [-112.5, 0], candela: 20 },
  { function: 'sidelight-starboard', colour: 'green', xMm: 6000, yMm: -1000, zMm: 1000, arcDeg: [0, 112.5], candela: 20 },
];
const small = { kind: 'boat', lengthM: 6 };
const large = { kind: 'boat', lengthM: 14, rearOverhangMm: 0 };
const masthead = (zMm: number): L => ({
  function: 'masthead',
  colour: 'white',
  xMm: 5000,
  yMm: 0,
  zMm,
  arcDeg: [-112.5, 112.5],
  candela: 60,
});
const allRound = (zMm: number): L => ({ function: 'all-round', colour: 'white', xMm: 200, yMm: 0, zMm, arcDeg: [0, 360], candela: 10 });
const stern: L = { function: 'stern', colour: 'white', xMm: 0, yMm: 0, zMm: 900, arcDeg: [112.5, 247.5], candela: 10 };

describe('33 CFR 83.23: which lights', () => {
  it('from 12 m on masthead, sidelights and sternlight; an all-round white does not stand for them', () => {
    const white = check('navigation-12-20m', large, [...SIDES, allRound(4000)]);
    expect(white.masthead!.verdict).toBe('fails');
    expect(white['stern-light']!.verdict).toBe('fails');
    const whole = check('navigation-12-20m', large, [...SIDES, masthead(4000), stern, allRound(4500)]);
    expect([whole.masthead!.verdict, whole['stern-light']!.verdict]).toEqual(['holds', 'holds']);
    expect(check('navigation-under-12m', small, [...SIDES, allRound(2500)]).white!.verdict).toBe('holds');
  });
  it('33 CFR 84.02: the masthead 2.5 m above the gunwale from 12 to 20 m; without that figure not known', () => {
    const lamps = [...SIDES, masthead(3600), stern];
    expect(check('navigation-12-20m', large, lamps).above!.verdict).toBe('unknown');
    expect(check('navigation-12-20m', { ...large, gunwaleMm: 1100 }, lamps).above).toMatchObject({ verdict: 'holds', basis: 'told' });
    expect(check('navigation-12-20m', { ...large, gunwaleMm: 1101 }, lamps).above!.verdict).toBe('fails');
  });
  it('a masthead under the sidelights fails, even where an anchor light stands high', () => {
    const low = [...SIDES, masthead(900), stern, allRound(4000)];
    expect(check('navigation-under-12m', small, low).above).toMatchObject({
      verdict: 'fails',
      says: expect.stringMatching(/100 mm under/),
    });
    expect(check('navigation-12-20m', { ...large, gunwaleMm: 500 }, low)['above-sides']!.verdict).toBe('fails');
    expect(check('navigation-under-12m', small, [...SIDES, masthead(2000), stern, allRound(900)]).above!.verdict).toBe('holds');
  });
});

describe('33 CFR 83.21: red to port, green to starboard, each over its own sector', () => {
  const item = (lamps: L[], id: string) => check('navigation-under-12m', small, [...lamps, allRound(2500)])[id]!;
  it('a mirrored boat fails, and so does one whose lights, or their sectors, are exchanged', () => {
    const mirrored = SIDES.map((l) => ({ ...l, yMm: -l.yMm! }));
    expect([item(mirrored, 'port').verdict, item(mirrored, 'starboard').verdict]).toEqual(['fails', 'fails']);
    expect(item(mirrored, 'port').says).toMatch(/stands on the right: it belongs on the left/);
    const colours = SIDES.map((l, i) => ({ ...l, colour: SIDES[1 - i]!.colour }));
    expect([item(colours, 'port').verdict, item(colours, 'starboard').verdict]).toEqual(['fails', 'fails']);
    const sectors = SIDES.map((l, i) => ({ ...l, arcDeg: SIDES[1 - i]!.arcDeg }));
    expect([item(sectors, 'port-sector').verdict, item(sectors, 'starboard-sector').verdict]).toEqual(['fails', 'fails']);
    expect([item(SIDES, 'port').verdict, item(SIDES, 'starboard').verdict, item(SIDES, 'port-sector').verdict]).toEqual([
      'holds',
      'holds',
      'holds',
    ]);
  });
  it('a combined lantern on the centre line is on neither side', () => {
    const both = SIDES.map((l) => ({ ...l, yMm: 0 }));
    expect([item(both, 'port').verdict, item(both, 'starboard').verdict]).toEqual(['holds', 'holds']);
  });
  it.each([
    [[-112.5, 3], 'holds'],
    [[-112.5, 4], 'fails'],
    [[-117.5, 0], 'holds'],
    [[-118.5, 0], 'fails'],
    [[-112.5, 112.5], 'fails'],
    [[0, 360], 'fails'],
    [[-112.5, -5], 'fails'],
  ] as const)('33 CFR 84.17: a port light over %j %s', (arc, verdict) => {
    expect(item([{ ...SIDES[0]!, arcDeg: [...arc] }, SIDES[1]!], 'port-sector').verdict).toBe(verdict);
  });
  it('widening a light’s sector never turns showing too much into holding', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('port-sector', 'starboard-sector'),
        fc.integer({ min: -360, max: 0 }),
        fc.integer({ min: 1, max: 340 }),
        fc.integer({ min: 0, max: 40 }),
        fc.integer({ min: 0, max: 40 }),
        (id, from, width, before, behind) => {
          const k = id === 'port-sector' ? 0 : 1;
          const at = (arcDeg: [number, number]) =>
            item(
              SIDES.map((l, i) => (i === k ? { ...l, arcDeg } : l)),
              id,
            );
          const narrow = at([from, from + width]);
          const to = Math.min(from + width + behind, from - before + 360);
          if (/too much/.test(narrow.says)) expect(at([Math.max(-360, from - before), Math.min(360, to)]).verdict).toBe('fails');
        },
      ),
      { numRuns: 150 },
    );
  });
  it('how it fades at its limits is asked, and the 6° that may be hidden are the all-round light’s alone', () => {
    expect(item(SIDES, 'side-cutoff').verdict).toBe('unknown');
    for (const id of ['navigation-under-12m', 'navigation-12-20m'])
      for (const i of demoPack(id).items) if (i.kind === 'sector') expect(i.hiddenMostDeg).toBe(i.of.join() === 'all-round' ? 6 : 0);
  });
  it('a width that a person tells begins at the light’s own bounds, never centred ahead', () => {
    expect(toldArc('sidelight-port', 112.5)).toEqual([-112.5, 0]);
    expect(toldArc('sidelight-starboard', 112.5)).toEqual([0, 112.5]);
    expect(toldArc('stern', 135)).toEqual([112.5, 247.5]);
    expect(toldArc('masthead', 225)).toEqual([-112.5, 112.5]);
  });
});

describe('every position of the switches', () => {
  const boat = (change: (k: Kit) => void) => {
    const { order, sheets } = demoOrder('sandbar-21', ['nav-lights']);
    const kits = structuredClone(sheets.kits) as Kit[];
    change(kits[0]!);
    return Object.fromEntries(assess(order, { ...sheets, kits }, DEFAULT_SETTINGS).lamps.packs[0]!.items.map((i) => [i.id, i]));
  };
  it('the kit as it is: under way and at anchor', () => {
    const items = boat(() => undefined);
    expect([items['can-under-way']!.verdict, items['can-anchor']!.verdict, items['sides-with-white']!.verdict]).toEqual([
      'holds',
      'holds',
      'holds',
    ]);
  });
  it('bow and anchor light on one switch: fails at anchor, and is not “not known”', () => {
    const items = boat((k) => {
      // one switch, on and off, and all that it feeds together
      const sw = k.devices.find((d) => d.controls.length)!;
      sw.controls = [
        {
          ...sw.controls[0]!,
          id: 'lights',
          does: undefined,
          positions: [
            { id: 'off', name: 'off' },
            { id: 'on', name: 'on' },
          ],
        },
      ];
      sw.inside = sw.inside.map((p) => (p.kind === 'contact' ? { ...p, when: ['lights:on'] } : p));
    });
    expect(items['can-under-way']!.verdict).toBe('holds');
    expect(items['can-anchor']).toMatchObject({ verdict: 'fails', says: expect.stringMatching(/in no position of the switches/) });
    // nothing is marked anchor, so nothing is judged by that mark
    expect(items['anchor-dark']!.verdict).toBeNull();
  });
});

describe('low-speed vehicles and motorcycles', () => {
  const cart = { kind: 'golf-cart', electric: true, topSpeedKmh: 40.2336, gvwrKg: 900, seats: 4, lengthM: 2.6 };
  it('exactly 25 mph holds; four seats ask for four belts, and a person counts them', () => {
    expect(check('low-speed-vehicle', cart, [])['class-speed']!.verdict).toBe('holds');
    const belts = (pieces: number) => check('low-speed-vehicle', cart, [{ function: 'belt', pieces }]).belts!.verdict;
    expect([belts(4), belts(3)]).toEqual(['holds', 'fails']);
    expect(check('low-speed-vehicle', cart, [], { belts: 4 }).belts).toMatchObject({ verdict: 'holds', basis: 'told' });
    expect(check('low-speed-vehicle', cart, [], { belts: 2 }).belts!.says).toBe('2 for 4 seats');
  });
  const bike = { kind: 'motorcycle', lengthM: 2.2, widthMm: 800, rearOverhangMm: 300 };
  const pair = (f: string, xMm: number, y: number, colour: string): L[] =>
    [y, -y].map((yMm) => ({ function: f, colour, xMm, yMm, zMm: 700 }));
  it('49 CFR 571.108: side reflectors amber in front and red behind', () => {
    const right = [...pair('reflector-side', 1500, 150, 'amber'), ...pair('reflector-side', -200, 150, 'red')];
    const wrong = [...pair('reflector-side', 1500, 150, 'red'), ...pair('reflector-side', -200, 150, 'amber')];
    const of = (lamps: L[]) => {
      const i = check('motorcycle-lamps', bike, lamps);
      return [i['reflectors-front']!.verdict, i['reflectors-rear']!.verdict];
    };
    expect([of(right), of(wrong)]).toEqual([
      ['holds', 'holds'],
      ['fails', 'fails'],
    ]);
  });
  it('the 4 in from a single tail lamp are for red signals', () => {
    const near = (colour: string) =>
      check('motorcycle-lamps', bike, [
        ...pair('turn-rear', -200, 60, colour),
        { function: 'tail', colour: 'red', xMm: -250, yMm: 0, zMm: 700 },
      ])['rear-clear']!.verdict;
    expect([near('red'), near('amber')]).toEqual(['fails', null]);
  });
  it('UNECE R53 wants position lamp, side reflectors and main beam too, and its distance from the passing beam', () => {
    const items = check(
      'motorcycle-r53',
      bike,
      [{ function: 'headlamp', colour: 'white', xMm: 1700, yMm: 0, zMm: 700 }, ...pair('turn-front', 1650, 60, 'amber')],
      { 'fact:un-regulations': true },
    );
    for (const id of ['position', 'main-beam', 'side-reflectors']) expect(items[id]!.verdict).toBe('fails');
    expect(items['front-clear']!.verdict).toBe('fails');
  });
});

describe('told and measured', () => {
  it('are told apart wherever they are judged', () => {
    const { order, sheets } = demoOrder('parkway-48', ['cart-road-lamps']);
    const say = (key: string, value: number, origin?: { how: 'meter'; meter: string }) => ({
      type: 'fact.told' as const,
      key,
      value,
      label: 'x',
      ...(origin && { origin }),
    });
    const rate = (o: typeof order) => assess(o, sheets, DEFAULT_SETTINGS).lamps.packs[0]!.items.find((i) => i.id === 'flash-rate')!;
    const told = after(order, say('unit:gvwr-kg', 900), {
      type: 'fact.told',
      key: 'lamp:low-speed-vehicle/rear-visibility',
      value: true,
      label: 'x',
    });
    const visible = (o: typeof order) => assess(o, sheets, DEFAULT_SETTINGS).lamps.packs[0]!.items.find((i) => i.id === 'rear-visibility')!;
    expect(visible(told).basis).toBe('told');
    expect(visible(order).basis).toBeNull();
    const counted = after(order, say('flash:per-minute', 85, { how: 'meter', meter: 'beat meter' }));
    expect(counted.measured).toEqual({ 'flash:per-minute': { how: 'meter', meter: 'beat meter' } });
    expect(rate(counted).basis).toBe('measured');
    const typed = after(counted, say('flash:per-minute', 86));
    expect(typed.measured).toBeUndefined();
    expect(rate(typed).basis).toBe('told');
  });
});
