import { describe, expect, it } from 'vitest';
import { demoIds, demoModel } from '../../tests/demo-sheets';
import { drawEnds } from './kinds';
import { both, mirrored } from './outline';
import type { Pt } from './outline';
import { unitView } from './view';

/** Coordinates of a path in turn; of a circle only its leftmost point. */
const numbers = (d: string) => [...d.replace(/a.*$/, '').matchAll(/-?\d+(?:\.\d+)?/g)].map((m) => Number(m[0]));
const xs = (d: string) => numbers(d).filter((_, i) => i % 2 === 0);
/** Area of a polygon by the shoelace. */
const area = (p: readonly Pt[]) =>
  Math.abs(p.reduce((s, [x, y], i) => s + x * p[(i + 1) % p.length]![1] - p[(i + 1) % p.length]![0] * y, 0) / 2);

describe('a shape mirrored about the centre line', () => {
  it('is closed, symmetrical, and counts points on the line once', () => {
    const half: Pt[] = [
      [0, 10],
      [5, 8],
      [5, 2],
      [0, 0],
    ];
    expect(mirrored(half)).toEqual([
      [0, 10],
      [5, 8],
      [5, 2],
      [0, 0],
      [-5, 2],
      [-5, 8],
    ]);
    expect(both(half, 0).endsWith('Z')).toBe(true);
    const at = xs(both(half, 0)).sort((a, b) => a - b);
    expect(at.map((x) => -x + 0).sort((a, b) => a - b)).toEqual(at.map((x) => x + 0));
  });
});

describe.each(demoIds('models'))('%s end on', (id) => {
  const m = demoModel(id);
  const ends = drawEnds(m);
  it('stands on the ground, or floats, within its own height', () => {
    for (const v of [ends.front, ends.rear]) {
      const ys = v.flatMap((s) => numbers(s.d).filter((_, i) => i % 2 === 1));
      expect(-Math.min(...ys)).toBeLessThanOrEqual(m.dims.heightMm * 1.02);
      if (m.kind !== 'boat') expect(Math.max(...ys)).toBeLessThanOrEqual(60);
      else expect(Math.max(...ys)).toBeGreaterThan(200);
    }
  });
  it('fills its width to scale', () => {
    const widest = Math.max(...ends.front.filter((s) => s.role !== 'ghost').flatMap((s) => xs(s.d).map(Math.abs)));
    expect(widest).toBeGreaterThan(m.dims.widthMm * 0.4);
    expect(widest).toBeLessThan(m.dims.widthMm * 0.56);
  });
  it('puts every lamp of the unit within both pictures, mirrored from one to the other', () => {
    const [front, rear] = [unitView(m, 'front'), unitView(m, 'rear')];
    for (const p of m.places) {
      const [x, y] = front.at(p);
      expect(x >= front.box.x && x <= front.box.x + front.box.w && y >= front.box.y && y <= front.box.y + front.box.h, p.id).toBe(true);
      expect(rear.at(p)).toEqual([-x, y]);
    }
  });
  it('has faces of a size that lamps can be put on', () => {
    const { dims } = m;
    for (const f of ['front', 'rear'] as const) {
      const all = ends.faces[f].reduce((s, p) => s + area(p), 0);
      expect(all).toBeGreaterThan(dims.widthMm * dims.heightMm * 0.015);
      expect(all).toBeLessThan(dims.widthMm * dims.heightMm * 1.1);
    }
    for (const p of ends.faces.side)
      for (const [x, z] of p)
        expect(x >= -dims.rearOverhangMm - 1 && x <= dims.lengthMm - dims.rearOverhangMm + 1 && z >= 0 && z <= dims.heightMm).toBe(true);
  });
});

describe('what tells the kinds apart', () => {
  const tyres = (id: string, v: 'front' | 'rear') => drawEnds(demoModel(id))[v].filter((s) => s.role === 'tyre');
  it('four wheels show two from an end, two wheels one, a boat none, a snow machine its track from behind only', () => {
    expect(['drover-4', 'parkway-48', 'lapwing-500', 'sandbar-21'].map((id) => tyres(id, 'front').length)).toEqual([2, 2, 1, 0]);
    expect([tyres('skarn-600', 'front').length, tyres('skarn-600', 'rear').length]).toEqual([0, 1]);
  });
  it('a full cab has glass in front, a roof alone has not', () => {
    const glass = (id: string) => drawEnds(demoModel(id)).front.filter((s) => s.role === 'glass').length;
    expect([glass('drover-2'), glass('drover-4')]).toEqual([1, 0]);
  });
  it('the tyre’s height is the wheel’s diameter, to scale', () => {
    for (const id of ['drover-4', 'parkway-48', 'lapwing-500']) {
      const ys = tyres(id, 'front').flatMap((s) => numbers(s.d).filter((_, i) => i % 2 === 1));
      expect(-Math.min(...ys)).toBeCloseTo(demoModel(id).dims.wheelMm, 0);
      expect(Math.max(...ys)).toBeCloseTo(0, 6);
    }
  });
});
