import { describe, expect, it } from 'vitest';
import { demoIds, demoModel } from '../../tests/demo-sheets';
import { placeIn, unitView } from './view';

const numbers = (d: string) => [...d.matchAll(/-?\d+(?:\.\d+)?/g)].map((m) => Number(m[0]));

describe('the unit drawing', () => {
  it('a point of a view and the place that lies there are the same, in all four', () => {
    const m = demoModel('drover-4');
    for (const name of ['side', 'top', 'front', 'rear'] as const)
      for (const p of m.places) expect(p).toMatchObject(placeIn[name](...unitView(m, name).at(p)));
  });
  it.each(demoIds('models'))('%s: both views are finite, within bounds, and hold every place', (id) => {
    const m = demoModel(id);
    for (const name of ['side', 'top'] as const) {
      const v = unitView(m, name);
      expect(v.shapes.length).toBeGreaterThan(8);
      for (const s of v.shapes) for (const x of numbers(s.d)) expect(Number.isFinite(x)).toBe(true);
      for (const p of m.places) {
        const [x, y] = v.at(p);
        expect(x >= v.box.x && x <= v.box.x + v.box.w && y >= v.box.y && y <= v.box.y + v.box.h, `${name} ${p.id}`).toBe(true);
      }
    }
  });
  it('is to scale: wheels stand the wheelbase apart on the ground', () => {
    const m = demoModel('drover-4');
    const wheels = unitView(m, 'side')
      .shapes.filter((s) => s.role === 'tyre')
      .map((s) => numbers(s.d));
    const r = m.dims.wheelMm / 2;
    expect(wheels).toHaveLength(2);
    expect(wheels.map((w) => w[0]! + r).sort((a, b) => a - b)).toEqual([0, m.dims.wheelbaseMm]);
    expect(wheels.every((w) => w[1] === -r)).toBe(true);
  });
  it('in the top view the unit’s left is up and front is right', () => {
    const v = unitView(demoModel('parkway-48'), 'top');
    expect(v.at({ x: 100, y: 50, z: 0 })).toEqual([100, -50]);
  });
});
