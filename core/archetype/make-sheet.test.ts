import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { UnitModel } from '#model/unit-model';
import { UnitKind } from '#model/common';
import type { SheetBegun } from '#model/sheet-begun';
import { demoIds, demoKit } from '../../tests/demo-sheets';
import { drawEnds } from '../drawing/kinds';
import type { ViewName } from '#model/unit-model';
import { unitView } from '../drawing/view';
import { fitRule } from '../order/fit';
import { howKnown, restsOnAssumed } from '../known/pointer';
import { openValues, valueAt } from '../known/values';
import { assess } from '../order/assess';
import { demoOrder } from '../../tests/demo-sheets';
import { BODIES, bodiesOf } from './body';
import { makeSheet } from './make-sheet';

const WHEN = { at: '2026-03-02T08:00:00.000Z', by: 'tor' };
const begun = (body: string, figures: SheetBegun['figures'] = {}): SheetBegun => ({
  body,
  maker: 'Hollin',
  name: 'Ridge 8',
  year: 2024,
  figures,
});
const made = (body: string, figures?: SheetBegun['figures']) => makeSheet(begun(body, figures), WHEN);
const numbers = (d: string) => [...d.matchAll(/-?\d+(?:\.\d+)?/g)].map((m) => Number(m[0]));

describe('bodies', () => {
  it('are at least sixteen, of every kind, each by a name of its own', () => {
    expect(BODIES.length).toBeGreaterThanOrEqual(16);
    expect(new Set(BODIES.map((b) => b.id)).size).toBe(BODIES.length);
    for (const kind of UnitKind.options) {
      expect(bodiesOf(kind).length).toBeGreaterThan(0);
      expect(new Set(bodiesOf(kind).map((b) => b.name)).size).toBe(bodiesOf(kind).length);
    }
  });
});

describe.each(BODIES.map((b) => b.id))('a sheet begun as %s', (id) => {
  const body = BODIES.find((b) => b.id === id)!;
  const m = made(id);
  it('is whole, by the same rules as any other, and written out it comes back as it was', () => {
    expect(UnitModel.parse(JSON.parse(JSON.stringify(m)))).toEqual(m);
    expect(m).toMatchObject({ maker: 'Hollin', name: 'Ridge 8', kind: body.kind, years: { from: 2024, to: 2024 } });
  });
  it('says of everything that it is assumed, but of what was said', () => {
    expect(restsOnAssumed(m)).toBe(true);
    for (const p of ['/dims/lengthMm', '/electrical/battery/capacityAh', `/places/${m.places[0]!.id}/x`, '/panels'])
      expect(howKnown(m, p).how, p).toBe('assumed');
    expect(howKnown(m, '/maker')).toMatchObject({ how: 'read', by: 'tor' });
  });
  it('gives each that may be measured its figure within its spread, with how it is taken', () => {
    const open = openValues(m);
    expect(open.length).toBeGreaterThan(6);
    for (const v of open) {
      expect(v.value, v.pointer).toBe(valueAt(m, v.pointer));
      expect(v.spread[0], v.pointer).toBeLessThanOrEqual(v.value);
      expect(v.spread[1], v.pointer).toBeGreaterThanOrEqual(v.value);
      expect(v.minutes).toBeGreaterThan(0);
      expect(v.says).not.toMatch(/undefined|null/);
      if (v.place) expect(m.places.map((p) => p.id)).toContain(v.place);
    }
    // every entry with a spread is of a figure that somebody can take
    expect(open.length).toBe(Object.values(m.known).filter((k) => k.spread && k.spread[0] < k.spread[1]).length);
  });
  it('is the same on both sides', () => {
    for (const p of m.places.filter((x) => /(^|-)left($|-)/.test(x.id))) {
      const other = m.places.find((q) => q.id === p.id.replace('left', 'right'))!;
      expect([other.x, other.y, other.z], p.id).toEqual([p.x, -p.y, p.z]);
    }
  });
  it('is drawn at any reasonable size in all four views, with every place in them', () => {
    const sizes = fc.record({
      l: fc.double({ min: 0.75, max: 1.3, noNaN: true }),
      w: fc.double({ min: 0.8, max: 1.25, noNaN: true }),
      h: fc.double({ min: 0.8, max: 1.25, noNaN: true }),
    });
    fc.assert(
      fc.property(sizes, ({ l, w, h }) => {
        const d = body.dims;
        const x = made(id, { lengthMm: d.lengthMm * l, widthMm: d.widthMm * w, heightMm: d.heightMm * h });
        for (const name of ['side', 'top', 'front', 'rear'] as ViewName[]) {
          const v = unitView(x, name);
          expect(v.shapes.length).toBeGreaterThan(8);
          for (const shape of v.shapes) for (const n of numbers(shape.d)) expect(Number.isFinite(n)).toBe(true);
          for (const p of x.places) {
            const [px, py] = v.at(p);
            expect(px >= v.box.x && px <= v.box.x + v.box.w && py >= v.box.y && py <= v.box.y + v.box.h, `${name} ${p.id}`).toBe(true);
          }
        }
        if (d.wheelbaseMm && body.kind !== 'snow-machine')
          expect(unitView(x, 'side').shapes.filter((s) => s.role === 'tyre')).toHaveLength(2);
        expect(drawEnds(x).faces.front.length + drawEnds(x).faces.rear.length).toBeGreaterThan(0);
      }),
      { numRuns: 12 },
    );
  });
  it('can be worked on: whatever kit its maker lists for any unit of its kind is planned, wired and judged', () => {
    const kits = demoIds('kits')
      .filter((k) => fitRule(demoKit(k), m, 2024, m.builds[0]!.id)?.fits)
      .slice(0, 2);
    const { order, sheets } = demoOrder('drover-2', kits);
    const a = assess({ ...order, unit: { ...order.unit, build: m.builds[0]!.id, year: 2024 } }, { ...sheets, model: m }, DEFAULT_SETTINGS);
    expect(a.power.verdict).toMatch(/holds|tight|fails|unknown/);
    if (!kits.length) return;
    expect(a.work!.leftOut).toEqual([]);
    expect(a.wiring.circuits.every((c) => c.verdict !== 'unknown')).toBe(true);
  });
});

describe('what is given counts', () => {
  it('names that are long, or of no letters, still make an id that tells the years apart', () => {
    const id = (maker: string, name: string, year: number) => makeSheet({ body: 'quad-1', maker, name, year, figures: {} }, WHEN).id;
    expect(id('Hollin', 'Ridge 8', 2024)).toBe('hollin-ridge-8-2024');
    const long = 'A Very Long Name of a Unit That Goes On for as Long';
    expect(id(long, long, 2023)).not.toBe(id(long, long, 2024));
    expect(id(long, long, 2024).length).toBeLessThanOrEqual(60);
    expect(id('?', '!!', 2024)).toMatch(/^[a-z0-9]+(-[a-z0-9]+)*$/);
  });
  it('sizes, the battery’s label and the source’s plate, as read', () => {
    const m = made('side-by-side-4', { lengthMm: 3900, widthMm: 1560, capacityAh: 20, sourceA: 60 });
    expect(m.dims).toMatchObject({ lengthMm: 3900, widthMm: 1560 });
    expect(m.dims.wheelbaseMm).toBeGreaterThan(2900);
    expect(m.electrical.battery.capacityAh).toBe(20);
    expect(m.electrical.battery.cca).toBeLessThan(380);
    const { source } = m.electrical;
    expect(source.kind === 'stator' && source.curve.find(([rpm]) => rpm === source.workingRpm)).toEqual([3200, 60]);
    for (const p of ['/dims/lengthMm', '/electrical/battery/capacityAh', '/electrical/source/curve'])
      expect(howKnown(m, p)).toMatchObject({ how: 'read', by: 'tor', at: WHEN.at });
    expect(howKnown(m, '/dims/heightMm').how).toBe('assumed');
    expect(openValues(m).map((v) => v.pointer)).not.toContain('/electrical/source/curve');
  });
  it('a wheelbase alone makes the unit as much longer', () => {
    const m = made('quad-1', { wheelbaseMm: 1420 });
    expect(m.dims.wheelbaseMm).toBe(1420);
    expect(m.dims.lengthMm / 2110).toBeCloseTo(1420 / 1290, 2);
  });
  it.each<[string, SheetBegun['figures'], string, RegExp]>([
    ['side-by-side-4', { lengthMm: 9000 }, 'lengthMm', /another body is nearer/],
    ['boat-open', { wheelbaseMm: 2000 }, 'wheelbaseMm', /has no wheelbase/],
    ['cart-48-4', { sourceA: 30 }, 'sourceA', /electric/],
    ['motorcycle-road', { lengthMm: 1600, wheelbaseMm: 1500 }, 'wheelbaseMm', /no room for wheels/],
    ['hovercraft', {}, 'body', /no body/],
  ])('what cannot be is told at its field: %s %o', (body, figures, path, says) => {
    expect(() => made(body, figures)).toThrow(expect.objectContaining({ path, message: expect.stringMatching(says) as string }));
  });
  it('a pack is tapped where its batteries let it be, at its own volts, and a lithium one nowhere', () => {
    const taps = (id: string) =>
      made(id)
        .powerPoints.filter((p) => p.kind === 'pack-tap')
        .map((p) => [p.name, p.volts]);
    expect(taps('cart-36-2')).toEqual([['tap of two 6 V batteries', 12]]);
    expect(taps('cart-48-4')).toEqual([
      ['tap of one 8 V battery', 8],
      ['tap of two 8 V batteries', 16],
    ]);
    expect(taps('cart-72-lithium-6')).toEqual([]);
    expect(made('cart-72-lithium-6').powerPoints.map((p) => [p.name, p.volts])).toEqual([
      ['pack ends, 72 V', 72],
      ['key-switch wire, 72 V', 72],
    ]);
  });
});
