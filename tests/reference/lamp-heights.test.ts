import { describe, expect, it } from 'vitest';
import type { Place } from '#model/unit-model';
import { DEFAULT_SETTINGS } from '#model/settings';
import { assess } from '#core/order/assess';
import { after, demoOrder, demoPack } from '../demo-sheets';

// 49 CFR 571.108, mounting heights in inches from the ground to lamp centre; 571.3 and 571.500 for the class.
// Typed from memory: to be confirmed against a copy.
const MM = 25.4;
const HEIGHTS: [item: string, low: number, high: number, places: string[]][] = [
  ['headlamps', 22, 54, ['head-left', 'head-right']],
  ['front-signals', 15, 83, ['front-left-signal', 'front-right-signal']],
  ['rear-signals', 15, 83, ['tail-left', 'tail-right']],
  ['tail', 15, 72, ['tail-left', 'tail-right']],
  ['stop', 15, 72, ['tail-left', 'tail-right']],
  ['rear-reflector', 15, 60, ['rear-plate']],
];

/** The verdict of one item of a pack with some places put at a height. */
function verdict(pack: string, item: string, places: string[], z: number): string | null {
  const { order, sheets } = demoOrder('parkway-48', ['reducer-48', 'cart-road-lamps', 'signal-mirrors']);
  const move = (p: Place): Place => (places.includes(p.id) ? { ...p, z } : p);
  const model = { ...sheets.model, places: sheets.model.places.map(move) };
  const at = model.places.find((p) => p.id === 'rear-plate')!;
  const with_ = after(
    order,
    { type: 'packs.chosen', packs: [pack], label: pack },
    {
      type: 'lamp.added',
      lamp: { id: 'r', name: 'Rear reflector', function: 'reflector-rear', colour: 'red', at: { x: at.x, y: 0, z: at.z }, like: null },
    },
  );
  const a = assess(with_, { ...sheets, model, packs: [demoPack(pack)] }, DEFAULT_SETTINGS);
  return a.lamps.packs[0]!.items.find((i) => i.id === item)!.verdict;
}

describe.each(['low-speed-vehicle', 'road-general'])('mounting heights of %s against 49 CFR 571.108', (pack) => {
  for (const [item, low, high, places] of HEIGHTS) {
    // 571.500 sets no heights: there they stand as advice, in items of their own
    const id = pack === 'low-speed-vehicle' ? `${item}-height` : item;
    it(`${item}: from ${low} to ${high} in, and not a millimetre beyond`, () => {
      expect(verdict(pack, id, places, Math.ceil(low * MM))).toBe('holds');
      expect(verdict(pack, id, places, Math.floor(high * MM))).toBe('holds');
      expect(verdict(pack, id, places, Math.floor(low * MM) - 1)).toBe('fails');
      expect(verdict(pack, id, places, Math.ceil(high * MM) + 1)).toBe('fails');
    });
  }
});

describe('the low-speed class, 49 CFR 571.3', () => {
  const judge = (over: { topSpeedKmh?: number; gvwrKg?: number }, item: string) => {
    const { order, sheets } = demoOrder('parkway-48', []);
    const a = assess(order, { ...sheets, model: { ...sheets.model, ...over } }, DEFAULT_SETTINGS);
    return a.lamps.packs[0]!.items.find((i) => i.id === item)!;
  };
  const MPH = 1.609344;
  it.each([
    [20, 'fails'],
    [20.1, 'holds'],
    [24.9, 'holds'],
    [25, 'holds'],
    [25.1, 'fails'],
  ])('a unit that reaches %f mph %s', (mph, word) => expect(judge({ topSpeedKmh: mph * MPH }, 'class-speed').verdict).toBe(word));
  it.each([
    [2990, 'holds'],
    [3001, 'fails'],
  ])('a gross rating of %i lb %s', (lb, word) => expect(judge({ gvwrKg: lb * 0.45359237 }, 'class-mass').verdict).toBe(word));
  it('a rating that the sheet does not give is not known', () => {
    expect(judge({ gvwrKg: undefined }, 'class-mass')).toMatchObject({
      verdict: 'unknown',
      says: expect.stringMatching(/not on the sheet/),
    });
  });
});

describe('colours', () => {
  it('a white lamp is no tail lamp, and it is said so', () => {
    const { order, sheets } = demoOrder('parkway-48', ['reducer-48', 'cart-road-lamps']);
    const kit = structuredClone(sheets.kits[1]!);
    for (const d of kit.devices) if (d.equipment?.function === 'tail') d.equipment.colour = 'white';
    const a = assess(order, { ...sheets, kits: [sheets.kits[0]!, kit] }, DEFAULT_SETTINGS);
    expect(a.lamps.packs[0]!.items.find((i) => i.id === 'tail')).toMatchObject({
      verdict: 'fails',
      says: expect.stringMatching(/wrong colour: red is called for/),
    });
  });
});

describe('navigation lights, 33 CFR 83.23', () => {
  const items = (kits: string[]) => {
    const { order, sheets } = demoOrder('sandbar-21', kits);
    return Object.fromEntries(assess(order, sheets, DEFAULT_SETTINGS).lamps.packs[0]!.items.map((i) => [i.id, i.verdict]));
  };
  it('none on a bare boat, all with the kit, and what only a person can see is not known', () => {
    expect(items([])).toMatchObject({
      port: 'fails',
      starboard: 'fails',
      white: 'fails',
      above: 'unknown',
      'can-anchor': null,
      'anchor-dark': null,
      sound: 'fails',
    });
    const fitted = items(['nav-lights', 'boat-horn']);
    expect(Object.entries(fitted).filter(([, v]) => v !== 'holds')).toEqual([
      ['stern-light', null],
      ['side-cutoff', 'unknown'],
      ['masthead-sector', null],
      ['stern-sector', null],
      ['dark-look', 'unknown'],
    ]);
  });
});
