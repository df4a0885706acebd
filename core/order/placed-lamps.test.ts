import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import type { AddedLamp, Point } from '#model/lamp';
import { Kit } from '#model/kit';
import { UnitModel } from '#model/unit-model';
import { after, demoOrder } from '../../tests/demo-sheets';
import { assess } from './assess';
import { lampSheets } from './placed-lamps';

const { order, sheets } = demoOrder('parkway-48', ['reducer-48', 'cart-road-lamps']);
const at: Point = { x: 2080, y: 380, z: 620 };
const placed = (lamp: string, p: Point = at) => lampSheets({ lamps: { placed: { [lamp]: p }, added: [] } }, sheets);
const added = (over: Partial<AddedLamp> = {}): AddedLamp => ({
  id: 'tail-3',
  name: 'Third tail lamp',
  function: 'tail',
  colour: 'red',
  at: { x: -450, y: 0, z: 900 },
  like: 'cart-road-lamps/tail-left',
  ...over,
});

describe('sheets with an order’s lamps where they are to be', () => {
  it('are the very same sheets where nothing was put anywhere', () => {
    expect(lampSheets({ lamps: { placed: {}, added: [] } }, sheets)).toBe(sheets);
  });
  it('a kit’s lamp stands at a place of its own, led to by a run, hidden by what hid it', () => {
    const s = placed('cart-road-lamps/head-left');
    const device = s.kits[1]!.devices.find((d) => d.id === 'head-left')!;
    const place = s.model.places.find((p) => p.id === device.place)!;
    expect(place).toMatchObject({ ...at, name: 'Left headlamp, placed' });
    expect(s.model.runs.at(-1)).toEqual({ from: 'head-left', to: place.id, hazards: [] });
    expect(s.model.panels.find((p) => p.id === 'cowl-panel')!.hides).toContain(place.id);
    // the sheets that came are not touched
    expect(sheets.kits[1]!.devices.find((d) => d.id === 'head-left')!.place).toBe('head-left');
    expect(sheets.model.places.some((p) => p.id === place.id)).toBe(false);
  });
  it('factory equipment is measured where it is, and nothing is wired anew', () => {
    const { sheets: drover } = demoOrder('drover-4', []);
    const s = lampSheets({ lamps: { placed: { 'factory/head-left': { x: 3150, y: 500, z: 870 } }, added: [] } }, drover);
    const e = s.model.equipment.find((x) => x.id === 'head-left')!;
    expect(s.model.places.find((p) => p.id === e.place)).toMatchObject({ y: 500, z: 870, name: 'Left headlamp, measured' });
    expect(s.kits).toBe(drover.kits);
  });
  it('what is no longer on the order is passed over', () => {
    const s = lampSheets({ lamps: { placed: { 'gone/lamp': at, 'factory/gone': at }, added: [added({ like: 'gone/lamp' })] } }, sheets);
    expect(s.model.places).toEqual(sheets.model.places);
    expect(s.kits).toEqual(sheets.kits);
  });
  it('one more like a kit’s is on its circuits and on copies of its leads', () => {
    const s = lampSheets({ lamps: { placed: {}, added: [added()] } }, sheets);
    const kit = s.kits[1]!;
    expect(kit.devices.at(-1)).toMatchObject({ id: 'tail-3', name: 'Third tail lamp', equipment: { function: 'tail' } });
    const of = (id: string) =>
      kit.leads
        .filter((l) => l.from.startsWith(`${id}.`) || l.to.startsWith(`${id}.`))
        .map((l) => ({ ...l, from: l.from.replace(id, 'x'), to: l.to.replace(id, 'x') }));
    // of a loose kit; what a ready harness leads to its like is led on from there
    if (sheets.kits[1]!.leads.some((l) => l.to.startsWith('tail-left.'))) expect(of('tail-3')).toEqual(of('tail-left'));
    else
      expect(of('tail-3').map((l) => [l.from, l.to])).toEqual([
        ['tail-left.plus', 'x.plus'],
        ['x.minus', 'tail-left.minus'],
      ]);
    for (const c of kit.circuits) expect(c.devices.includes('tail-3')).toBe(c.devices.includes('tail-left'));
  });
  it('what it makes is sound by the sheets’ own schemas, wherever the lamps are put', () => {
    const spot = fc.record({
      x: fc.integer({ min: -500, max: 2500 }),
      y: fc.integer({ min: -700, max: 700 }),
      z: fc.integer({ min: 0, max: 2000 }),
    });
    fc.assert(
      fc.property(spot, spot, fc.constantFrom('head-left', 'signal-fr', 'tail-right', 'reflector-left'), (a, b, device) => {
        const s = lampSheets(
          {
            lamps: {
              placed: { [`cart-road-lamps/${device}`]: a, 'factory/vin-plate': b },
              added: [added({ at: b }), added({ id: 'r', like: null, function: 'reflector-rear' })],
            },
          },
          sheets,
        );
        expect(UnitModel.safeParse(s.model).error).toBeUndefined();
        for (const k of s.kits) expect(Kit.safeParse(k).error).toBeUndefined();
      }),
      { numRuns: 40 },
    );
  });
  it('a kit taken off takes its placed and added lamps along', () => {
    const o = after(
      order,
      { type: 'lamp.placed', lamp: 'cart-road-lamps/head-left', at, label: 'x' },
      { type: 'lamp.added', lamp: added() },
      { type: 'lamp.added', lamp: added({ id: 'r', like: null, function: 'reflector-rear' }) },
      { type: 'kit.removed', kit: 'cart-road-lamps' },
    );
    expect(o.lamps).toEqual({ placed: {}, added: [expect.objectContaining({ id: 'r' })] });
  });
  it('an added lamp is moved as it is, and dropped by its id', () => {
    const o = after(
      order,
      { type: 'lamp.added', lamp: added() },
      { type: 'lamp.placed', lamp: 'added/tail-3', at: { x: -450, y: 0, z: 1000 }, label: 'x' },
    );
    expect(o.lamps.added[0]!.at.z).toBe(1000);
    expect(o.lamps.placed).toEqual({});
    expect(after(o, { type: 'lamp.dropped', id: 'tail-3', label: 'x' }).lamps.added).toEqual([]);
    const back = after(after(order, { type: 'lamp.placed', lamp: 'cart-road-lamps/head-left', at, label: 'x' }), {
      type: 'lamp.freed',
      lamp: 'cart-road-lamps/head-left',
      label: 'x',
    });
    expect(back.lamps.placed).toEqual({});
  });
});

describe('lamps marked out at the bench', () => {
  const steps = (o: typeof order) => assess(o, sheets, DEFAULT_SETTINGS).steps;
  it('none while every lamp stands where its sheet says', () => {
    expect(steps(order).some((s) => s.id.startsWith('lamp/'))).toBe(false);
  });
  it('one for each lamp put elsewhere or added, with its place, its hole and the band that its height is judged by', () => {
    const o = after(
      order,
      { type: 'packs.chosen', packs: ['low-speed-vehicle'], label: 'x' },
      { type: 'lamp.placed', lamp: 'cart-road-lamps/head-left', at, label: 'x' },
      { type: 'lamp.added', lamp: added() },
      {
        type: 'lamp.added',
        lamp: added({ id: 'm', like: null, name: 'Mirror', function: 'mirror-inside', colour: undefined, at: { x: 1500, y: 0, z: 1500 } }),
      },
    );
    const marked = ['lamp/cart-road-lamps/head-left', 'lamp/added/tail-3', 'lamp/added/m'].map((id) => steps(o).find((s) => s.id === id)!);
    expect(marked.map((s) => [s.id, s.stage])).toEqual([
      ['lamp/cart-road-lamps/head-left', 'mount'],
      ['lamp/added/tail-3', 'mount'],
      ['lamp/added/m', 'mount'],
    ]);
    expect(marked[0]!.text).toMatch(/380 mm left of the centre line, 620 mm up.*Cut-out 150 by 92 mm, cut inside the line/);
    expect(marked[1]!.text).toMatch(/on the centre line, 900 mm up.*Hole 19 mm/);
    expect(marked.map((s) => s.readings.find((r) => r.id === 'height')?.expected.low)).toEqual([559, 381, undefined]);
    for (const s of marked) expect(s.cautions[0]).toMatch(/harness behind/);
  });
  it('measured factory lamps need no marking out', () => {
    const { order: o, sheets: s } = demoOrder('drover-4', ['front-harness', 'road-kit']);
    const moved = after(o, { type: 'lamp.placed', lamp: 'factory/head-left', at: { x: 3150, y: 500, z: 870 }, label: 'x' });
    expect(assess(moved, s, DEFAULT_SETTINGS).steps.some((x) => x.id.startsWith('lamp/'))).toBe(false);
  });
});
