import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoModel } from '../../tests/demo-sheets';
import { fromSegment } from '../distance';
import { touchedPlace, touchedRun } from './touched';
import { unitView } from './view';

const model = demoModel('drover-2');
const nobody = { id: null, nearer: 0 };

describe('distance from a line between two points', () => {
  it('is the least of all its points, in two dimensions and in three', () => {
    const point = fc.tuple(fc.integer({ min: -99, max: 99 }), fc.integer({ min: -99, max: 99 }), fc.integer({ min: -99, max: 99 }));
    fc.assert(
      fc.property(point, point, point, fc.constantFrom(2, 3), (p, a, b, n) => {
        const [q, from, to] = [p.slice(0, n), a.slice(0, n), b.slice(0, n)];
        const steps = Array.from({ length: 2001 }, (_, k) => from.map((x, i) => x + (k / 2000) * (to[i]! - x)));
        const least = Math.min(...steps.map((s) => Math.hypot(...s.map((x, i) => x - q[i]!))));
        expect(fromSegment(q, from, to)).toBeLessThanOrEqual(least + 1e-9);
        expect(fromSegment(q, from, to)).toBeGreaterThan(least - 0.2);
      }),
      { numRuns: 60 },
    );
  });
});

describe('a touch on a view', () => {
  it.each(['side', 'top', 'front', 'rear'] as const)('means the place that it falls on, %s', (name) => {
    const view = unitView(model, name);
    for (const p of model.places) {
      const found = touchedPlace(model, view, view.at(p), 30, nobody)!;
      // another may lie exactly there in this view
      expect(view.at(found)).toEqual(view.at(p));
      expect(touchedPlace(model, view, view.at(p), 30, { id: p.id, nearer: 1 })!.id).toBe(p.id);
    }
  });
  it('beside all places means the way under it, and nothing where there is none', () => {
    const view = unitView(model, 'side');
    const [a, b] = ['pillar', 'roof-front'].map((id) => view.at(model.places.find((p) => p.id === id)!)) as [
      [number, number],
      [number, number],
    ];
    const on: [number, number] = [a[0] + 0.7 * (b[0] - a[0]), a[1] + 0.7 * (b[1] - a[1])];
    expect(touchedRun(model, view, on, 5)).toMatchObject({ from: 'pillar', to: 'roof-front' });
    expect(touchedRun(model, view, [view.box.x, view.box.y], 5)).toBeNull();
    expect(touchedPlace(model, view, [view.box.x, view.box.y], 5, nobody)).toBeNull();
  });
});
