import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Wish } from '#model/wish';
import { DEFAULT_SETTINGS } from '#model/settings';
import { after, demoIds, demoModel, demoOrder } from '../../tests/demo-sheets';
import { drawEnds } from '../drawing/kinds';
import { assess } from '../order/assess';
import { recheck } from './check';
import { bandsFor, heightBand, searchPlace } from './placing';

const open = (model: string, kits: string[], wishes: string[] = ['road']) => {
  const { order, sheets } = demoOrder(model, kits);
  const o = after(order, { type: 'arrive.changed', patch: { wishes: wishes as (typeof Wish.options)[number][] } });
  const a = assess(o, sheets, DEFAULT_SETTINGS);
  return { a, lamps: a.lamps, packs: a.lamps.packs.map((p) => p.pack), faces: drawEnds(sheets.model).faces };
};
const item = (r: ReturnType<typeof recheck>, id: string) => r.packs.flatMap((p) => p.items).find((i) => i.id === id)!;

describe('where a lamp may stand', () => {
  it('the cart’s low headlamps: the nearest legal place keeps every limit, with both sides', () => {
    const { lamps, packs, faces } = open('parkway-48', ['reducer-48', 'cart-road-lamps']);
    const left = lamps.lamps.find((l) => l.id === 'cart-road-lamps/head-left')!;
    const found = searchPlace(packs, left, lamps.given, faces);
    expect(found.at!.map((x) => x.lamp).sort()).toEqual(['cart-road-lamps/head-left', 'cart-road-lamps/head-right']);
    const [a, b] = [found.at![0]!.at, found.at![1]!.at];
    expect(a.y).toBe(-b.y);
    expect(a.z).toBe(560);
    // no legal place of the grid is nearer
    for (const [y, z] of found.legal) expect(Math.hypot(y - left.at!.y, z - left.at!.z)).toBeGreaterThanOrEqual(found.movedMm - 1e-9);
    const at = new Map(found.at!.map((x) => [x.lamp, x.at]));
    const moved = recheck(
      lamps,
      lamps.lamps.map((l) => (at.has(l.id) ? { ...l, at: at.get(l.id)! } : l)),
    );
    expect(item(moved, 'headlamps').verdict).toBe('holds');
    expect(item(moved, 'alike-head').verdict).toBe('holds');
  });
  it('every place it calls legal is judged legal, and places beside them that it does not are not', () => {
    const { lamps, packs, faces } = open('lapwing-500', []);
    const left = lamps.lamps.find((l) => l.id === 'factory/fl')!;
    const near = { ...left, at: { ...left.at!, y: 150 } };
    const set = lamps.lamps.map((l) => (l.id === left.id ? near : l.id === 'factory/fr' ? { ...l, at: { ...l.at!, y: -150 } } : l));
    const found = searchPlace(packs, near, { ...lamps.given, lamps: set }, faces);
    expect(found.movedMm).toBeGreaterThan(40);
    fc.assert(
      fc.property(fc.nat(found.legal.length - 1), (i) => {
        const [y, z] = found.legal[i]!;
        const all = set.map((l) =>
          l.id === left.id ? { ...l, at: { ...l.at!, y, z } } : l.id === 'factory/fr' ? { ...l, at: { ...l.at!, y: -y, z } } : l,
        );
        const r = recheck(lamps, all);
        for (const id of ['front-signals', 'front-apart', 'front-clear']) expect(item(r, id).verdict).toBe('holds');
      }),
      { numRuns: 60 },
    );
    expect(Math.min(...found.legal.map(([y]) => Math.abs(y)))).toBeGreaterThanOrEqual(203);
  });
  it('says so where no place on the body will do, and which limit stands in the way', () => {
    const { lamps, packs, faces } = open('parkway-48', ['reducer-48', 'cart-road-lamps']);
    const high = packs.map((p) => ({
      ...p,
      items: p.items.map((i) => (i.id === 'headlamps' && i.kind === 'equipment' ? { ...i, heightMm: { min: 1500, max: 1600 } } : i)),
    }));
    const left = lamps.lamps.find((l) => l.id === 'cart-road-lamps/head-left')!;
    const found = searchPlace(high, left, lamps.given, faces);
    expect(found.at).toBeNull();
    expect(found.tried).toBeGreaterThan(1000);
    expect(found.against).toEqual([{ item: 'headlamps', title: 'Headlamps', says: 'no place on this body keeps it' }]);
  });
  it('bands to draw: height from all packs together, half of what two must be apart', () => {
    const { lamps, packs } = open('lapwing-500', []);
    const l = lamps.lamps.find((x) => x.id === 'factory/fl')!;
    expect(heightBand(packs, l, lamps.given)).toMatchObject({ min: 381, max: 2108 });
    expect(bandsFor(packs, l, lamps.given).find((b) => b.item === 'front-apart')!.y).toEqual({ min: 203.2, max: undefined });
  });
});

describe('a unit seen end on', () => {
  it.each(demoIds('models'))('%s: symmetrical faces within its width, drawn to scale', (id) => {
    const m = demoModel(id);
    const { front, rear, faces } = drawEnds(m);
    for (const v of [front, rear]) {
      expect(v.length).toBeGreaterThan(10);
      for (const s of v) for (const [x] of s.d.matchAll(/-?\d+(?:\.\d+)?/g)) expect(Number.isFinite(Number(x))).toBe(true);
    }
    for (const f of ['front', 'rear'] as const) {
      const ys = faces[f].flatMap((p) => p.map((q) => q[0]));
      expect(Math.max(...ys)).toBeCloseTo(-Math.min(...ys), 6);
      expect(Math.max(...ys)).toBeLessThanOrEqual(m.dims.widthMm / 2 + 20);
    }
  });
});
