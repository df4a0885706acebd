import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { BoxHarness } from '#model/box';
import type { UnitModel } from '#model/unit-model';
import { demoModel } from '../../tests/demo-sheets';
import { route } from '../circuit/route';
import { EASE_MM, layHarness, type Spot } from './lay';

type Tree = Pick<BoxHarness, 'legs' | 'ends'>;
const leg = (id: string, from: string, to: string, lengthMm: number) => ({ id, from, to, lengthMm });
const end = (id: string) => ({ id, name: id, end: { kind: 'bare' as const }, wires: [{ wire: 'w' }] });
const at = (...places: string[]): Spot[] => places.map((place) => ({ place, extraMm: 0 }));

/** A unit of a few places in a row and to the side, with runs of drawn lengths. */
const unit = (lengths: readonly number[]): UnitModel => {
  const whole = demoModel('drover-4');
  const ids = ['a', 'b', 'c', 'd', 'e'];
  return {
    ...whole,
    places: ids.map((id, i) => ({ id, name: id, x: i * 100, y: 0, z: 0, wet: false })),
    runs: [
      { from: 'a', to: 'b', lengthMm: lengths[0]!, hazards: [] },
      { from: 'b', to: 'c', lengthMm: lengths[1]!, hazards: ['heat'] },
      { from: 'c', to: 'd', lengthMm: lengths[2]!, hazards: [] },
      { from: 'b', to: 'e', lengthMm: lengths[3]!, hazards: ['moving'] },
    ],
  };
};

/** By how much a harness is short with its points at given places, told afresh. */
function shortAt(model: UnitModel, h: Tree, place: ReadonlyMap<string, string>, extra: ReadonlyMap<string, number>): number {
  const isEnd = (p: string) => h.ends.some((e) => e.id === p);
  const leaf = (p: string) => h.legs.filter((l) => l.from === p || l.to === p).length === 1;
  return h.legs.reduce((sum, l) => {
    const [p, q] = [place.get(l.from)!, place.get(l.to)!];
    const r = p === q ? { lengthMm: 0, slackMm: 0 } : route(model, p, q)!;
    const need = r.lengthMm + r.slackMm + [l.from, l.to].filter(isEnd).length * EASE_MM;
    const has = l.lengthMm + [l.from, l.to].filter(leaf).reduce((s, x) => s + (extra.get(x) ?? 0), 0);
    return sum + Math.max(0, need - has);
  }, 0);
}

/** The least by which a harness can be short, by trying every place for every point. */
function least(model: UnitModel, h: Tree, spots: ReadonlyMap<string, Spot[]>): number {
  const points = [...new Set(h.legs.flatMap((l) => [l.from, l.to]))];
  const all = model.places.map((p) => p.id);
  let best = Infinity;
  const place = new Map<string, string>();
  const extra = new Map<string, number>();
  const go = (i: number): void => {
    if (i === points.length) {
      best = Math.min(best, shortAt(model, h, place, extra));
      return;
    }
    const p = points[i]!;
    for (const s of spots.get(p) ?? at(...all)) {
      place.set(p, s.place);
      extra.set(p, s.extraMm);
      go(i + 1);
    }
  };
  go(0);
  return best;
}

describe('a harness on a unit', () => {
  const length = fc.integer({ min: 50, max: 3000 });
  it('is short by no more than any placing of its points at places makes it: every placing tried', () => {
    const spot = fc.record({ place: fc.constantFrom('a', 'b', 'c', 'd', 'e'), extraMm: fc.integer({ min: 0, max: 400 }) });
    const one = fc.uniqueArray(spot, { minLength: 1, maxLength: 3, selector: (s) => s.place });
    fc.assert(
      fc.property(
        fc.array(length, { minLength: 4, maxLength: 4 }),
        fc.array(length, { minLength: 4, maxLength: 4 }),
        one,
        one,
        one,
        (runs, legs, plug, left, right) => {
          const model = unit(runs);
          const h: Tree = {
            legs: [
              leg('trunk', 'plug', 'hub', legs[0]!),
              leg('left', 'hub', 'left', legs[1]!),
              leg('on', 'hub', 'far', legs[2]!),
              leg('right', 'far', 'right', legs[3]!),
            ],
            ends: ['plug', 'left', 'right'].map(end),
          };
          const spots = new Map([
            ['plug', plug],
            ['left', left],
            ['right', right],
          ]);
          const laid = layHarness(model, h, spots)!;
          expect(laid.shortMm).toBeLessThanOrEqual(least(model, h, spots) + 2);
        },
      ),
      { numRuns: 120 },
    );
  });
  it('says for each leg what it has and what its way asks, and never calls a leg long enough that is not', () => {
    fc.assert(
      fc.property(fc.array(length, { minLength: 4, maxLength: 4 }), length, length, (runs, a, b) => {
        const h: Tree = { legs: [leg('one', 'plug', 'hub', a), leg('two', 'hub', 'lamp', b)], ends: ['plug', 'lamp'].map(end) };
        const laid = layHarness(
          unit(runs),
          h,
          new Map([
            ['plug', at('a')],
            ['lamp', at('d')],
          ]),
        )!;
        for (const l of laid.legs) {
          expect(l.shortMm).toBe(Math.max(0, Math.round(l.needMm - l.hasMm)));
          expect(l.places[0]).toBe(laid.at.get(l.from));
          expect(l.places.at(-1)).toBe(laid.at.get(l.to));
        }
        const way = runs[0]! + runs[1]! + runs[2]!;
        // where they part may lie between two places
        expect(laid.shortMm).toBeCloseTo(Math.max(0, way + 2 * EASE_MM - a - b), -0.6);
      }),
    );
  });
  it('prefers a ground near the battery to one that uses its lead up', () => {
    const h: Tree = { legs: [leg('lead', 'lamp', 'ground', 900)], ends: ['lamp', 'ground'].map(end) };
    const spots = new Map<string, Spot[]>([
      ['lamp', at('a')],
      [
        'ground',
        [
          { place: 'a', extraMm: 0, cost: 3 },
          { place: 'b', extraMm: 0, cost: 20 },
        ],
      ],
    ]);
    expect(layHarness(unit([500, 500, 500, 500]), h, spots)!.at.get('ground')).toBe('a');
  });
  it('ties back what goes nowhere, and is null where nothing of it is joined', () => {
    const h: Tree = {
      legs: [leg('lead', 'plug', 'hub', 500), leg('spare', 'hub', 'spare', 500), leg('lamp', 'hub', 'lamp', 500)],
      ends: ['plug', 'spare', 'lamp'].map(end),
    };
    const laid = layHarness(
      unit([300, 300, 300, 300]),
      h,
      new Map([
        ['plug', at('a')],
        ['lamp', at('b')],
      ]),
    )!;
    const spare = laid.legs.find((l) => l.id === 'spare')!;
    expect([spare.needMm, spare.shortMm]).toEqual([0, 0]);
    expect(laid.at.get('spare')).toBe(laid.at.get('hub'));
    expect(layHarness(unit([300, 300, 300, 300]), h, new Map())).toBeNull();
  });
});
