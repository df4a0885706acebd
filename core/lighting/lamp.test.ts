import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { after, demoModel, demoOrder } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { flasherOf, sideWatts, tally } from './check';
import { lampFact, lampsOf, outside, unitOf, type Lamp } from './lamp';

const fittedBeacon = {
  id: 'beacon',
  name: 'Rear reflector, aftermarket',
  watts: 0,
  standbyMa: 0,
  function: 'reflector-rear' as const,
  colour: 'red' as const,
};

describe('what a unit has', () => {
  it('lists factory, fitted and kit equipment with where it is and where it comes from', () => {
    const { order, sheets } = demoOrder('drover-4', ['front-harness', 'road-kit'], { fitted: [fittedBeacon] });
    const lamps = lampsOf(order, sheets);
    const of = (id: string) => lamps.find((l) => l.id === id)!;
    expect(of('factory/head-left')).toMatchObject({
      from: 'factory',
      known: true,
      at: { x: 3150, y: 480, z: 860 },
      where: 'left headlamp',
      litMm: { w: 170, h: 70 },
    });
    expect(of('factory/inside-mirror')).toMatchObject({ known: false, at: null });
    expect(of('fitted/beacon')).toMatchObject({ from: 'fitted', at: null, where: 'place not known' });
    expect(of('road-kit/front-left')).toMatchObject({ from: 'kit', kit: 'Road kit', colour: 'amber', watts: 6 });
    expect(lamps.some((l) => l.id === 'road-kit/module')).toBe(false);
  });
  it('something fitted before is placed by measuring it', () => {
    const { order, sheets } = demoOrder('drover-4', [], { fitted: [fittedBeacon] });
    const o = after(order, { type: 'lamp.placed', lamp: 'fitted/beacon', at: { x: -450, y: 0, z: 650 }, label: 'r' });
    expect(lampsOf(o, sheets).find((l) => l.id === 'fitted/beacon')).toMatchObject({ at: { x: -450, y: 0, z: 650 }, where: 'measured' });
  });
  it('facts fill what a maker does not say, and never overrule what it does', () => {
    const { order, sheets } = demoOrder('sandbar-21', ['nav-lights']);
    const bare = {
      ...sheets,
      kits: sheets.kits.map((k) => ({
        ...k,
        devices: k.devices.map((d) =>
          d.id === 'white' ? { ...d, equipment: { function: 'all-round' as const, colour: 'white' as const } } : d,
        ),
      })),
    };
    const told = (key: string, value: number) => ({ type: 'fact.told' as const, key, value, label: key });
    const o = after(
      order,
      told(lampFact('candela', 'nav-lights/white'), 5),
      told(lampFact('arc', 'nav-lights/white'), 360),
      told(lampFact('lit', 'nav-lights/white'), 40),
    );
    expect(lampsOf(o, bare).find((l) => l.id === 'nav-lights/white')).toMatchObject({
      candela: 5,
      arcDeg: [-180, 180],
      litMm: { w: 40, h: 40 },
    });
    const over = after(order, told(lampFact('candela', 'nav-lights/white'), 99));
    expect(lampsOf(over, sheets).find((l) => l.id === 'nav-lights/white')!.candela).toBe(5.2);
  });
  it('a unit’s own figures come from its sheet, else from what was told', () => {
    const m = demoModel('greenway-36');
    expect(unitOf(m, {})).toMatchObject({ electric: true, gvwrKg: undefined, topSpeedKmh: 24 });
    expect(unitOf(m, { 'unit:gvwr-kg': 800, 'unit:top-speed-kmh': 99 })).toMatchObject({ gvwrKg: 800, topSpeedKmh: 24 });
    expect(unitOf(demoModel('drover-4'), {}).electric).toBe(false);
  });
});

describe('a point that cannot be on the unit', () => {
  const car = unitOf(demoModel('parkway-48'), {});
  const boat = unitOf(demoModel('sandbar-21'), {});
  it.each([
    [{ x: 0, y: 0, z: 500 }, null],
    [{ x: 0, y: 0, z: -1 }, '1 mm under the ground'],
    [{ x: 0, y: 920, z: 500 }, null],
    [{ x: 0, y: 921, z: 500 }, '301 mm beyond the unit’s left side'],
    [{ x: 0, y: -1000, z: 500 }, '380 mm beyond the unit’s right side'],
    [{ x: 2580, y: 0, z: 500 }, null],
    [{ x: 2700, y: 0, z: 500 }, '520 mm ahead of the unit'],
    [{ x: -900, y: 0, z: 500 }, '430 mm behind the unit'],
    [{ x: 0, y: 0, z: 3900 }, '2080 mm over the unit’s top'],
  ])('a cart at %j', (at, says) => expect(outside(car, at)).toBe(says));
  it('a boat’s light may stand under the water’s line a little, not deep', () => {
    expect(outside(boat, { x: 0, y: 0, z: -200 })).toBeNull();
    expect(outside(boat, { x: 0, y: 0, z: -400 })).toBe('400 mm under the water');
  });
  it('nothing is said where the unit’s size is not known', () => {
    expect(outside({ ...car, widthMm: undefined, lengthMm: undefined, heightMm: undefined }, { x: 1e6, y: 1e6, z: 1e6 })).toBeNull();
  });
});

describe('signals and their flasher', () => {
  const signal = (y: number, watts?: number): Lamp => ({
    id: `k/${y}`,
    name: 's',
    function: 'turn-front',
    at: { x: 0, y, z: 700 },
    where: '',
    watts,
    from: 'kit',
    known: true,
    moved: false,
  });
  it('the heavier side counts, and lamps without watts count nothing', () => {
    expect(sideWatts([signal(400, 5), signal(300, 5), signal(-400, 21)])).toBe(21);
    expect(sideWatts([signal(400), signal(-400)])).toBe(0);
  });
  it('a kit’s flasher comes before the unit’s own', () => {
    const bike = demoOrder('lapwing-500', ['aux-lamps']).sheets;
    expect(flasherOf(bike)).toMatchObject({ of: 'Lapwing 500', flasher: { kind: 'load-sensing' } });
    const cart = demoOrder('parkway-48', ['reducer-48', 'cart-road-lamps']).sheets;
    expect(flasherOf(cart)).toMatchObject({ of: 'Column switch, Cart lamp and signal kit', flasher: { kind: 'fixed' } });
    expect(flasherOf({ ...cart, kits: [] })).toBeNull();
  });
  it('LED lamps on the motorcycle’s load-sensing flasher fail before they are fitted, with the resistor sized', () => {
    const { order, sheets } = demoOrder('lapwing-500', []);
    const led = {
      ...sheets.model,
      equipment: sheets.model.equipment.map((e) =>
        e.function.startsWith('turn-') && e.function !== 'turn-indicator' ? { ...e, lampW: 2 } : e,
      ),
    };
    const a = assess(order, { ...sheets, model: led }, DEFAULT_SETTINGS);
    const item = a.lamps.packs[0]!.items.find((i) => i.id === 'flash-rate')!;
    expect(item).toMatchObject({ verdict: 'fails', says: expect.stringMatching(/^will flash 170 a minute: 11 W too little/) });
    expect(item.remedies[0]).toMatch(/load resistor on each side: 13 Ω ± 5 %/);
  });
  it('a lamp that a kit puts in the place of the unit’s own leaves the sum: 2 W in the place of 10 W', () => {
    const { order, sheets } = demoOrder('lapwing-500', ['aux-lamps']);
    const side = (replaces: boolean) => {
      const kits = structuredClone(sheets.kits);
      kits[0]!.devices.push({
        ...kits[0]!.devices[0]!,
        id: 'small',
        name: 'Small signal',
        place: 'front-left-signal',
        equipment: { function: 'turn-front', colour: 'amber', lampW: 2, replaces },
        load: undefined,
        terminals: [],
        inside: [],
        controls: [],
      });
      return assess(order, { ...sheets, kits }, DEFAULT_SETTINGS).lamps;
    };
    expect(side(false).flasher!.sideW).toBe(22);
    const left = side(true).lamps.filter((l) => l.function.startsWith('turn-') && (l.at?.y ?? 0) > 0);
    expect(left.reduce((w, l) => w + (l.watts ?? 0), 0)).toBe(12);
  });
  it('a count at the bench is used until one at Lamps takes its place', () => {
    const { order, sheets } = demoOrder('drover-4', ['front-harness', 'road-kit']);
    const chosen = after(order, { type: 'packs.chosen', packs: ['road-general'], label: 'x' });
    const read = after(chosen, {
      type: 'reading.taken',
      step: 'road-kit/rate',
      reading: 'rate',
      label: 'Rate',
      value: 140,
      expected: { low: 60, high: 120, unit: 'perMin', why: '' },
      verdict: 'fails',
      origin: { how: 'typed' },
      settles: null,
    });
    const of = (o: typeof read) => assess(o, sheets, DEFAULT_SETTINGS).lamps.packs[0]!.items.find((i) => i.id === 'flash-rate')!;
    expect(of(read)).toMatchObject({ verdict: 'fails', says: '20 a minute too fast' });
    const told = after(
      read,
      { type: 'fact.told', key: 'flash:per-minute', value: 90, label: 'x' },
      { type: 'fact.told', key: 'flash:on-share', value: 50, label: 'x' },
    );
    expect(of(told)).toMatchObject({ verdict: 'holds', says: '90 a minute, lit 50 % of each' });
  });
});

describe('the count of what is met', () => {
  it('leaves out what does not apply, and counts tight as met', () => {
    const item = (verdict: 'holds' | 'tight' | 'fails' | 'unknown' | null) => ({ verdict }) as never;
    const t = tally([{ pack: {} as never, items: [item('holds'), item('tight'), item(null), item('unknown')] }]);
    expect([t.met, t.required, t.verdict]).toEqual([2, 3, 'unknown']);
    expect(tally([]).required).toBe(0);
  });
});
