import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Obstacle, Point } from '#model/lamp';
import { gapsIn, hiddenPieces, inArc, RAYS, sightOf, STEP_DEG, wholeGaps } from './occlusion';

const deg = (rad: number) => (rad * 180) / Math.PI;
const AT: Point = { x: 0, y: 0, z: 2000 };
const post = (x: number, y: number, mm: number, low = 0, high = 3000): Obstacle => ({
  kind: 'bar',
  id: 'post',
  name: 'post',
  from: { x, y, z: low },
  to: { x, y, z: high },
  mm,
});
const hiddenDeg = (at: Point, obstacles: Obstacle[]) => [...sightOf(at, obstacles, null).hiddenBy].filter((i) => i >= 0).length * STEP_DEG;

describe('what hides a light, against closed forms', () => {
  it('a round post of diameter d at distance D hides 2·asin(d / 2D)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 300, max: 6000, noNaN: true }),
        fc.double({ min: 20, max: 400, noNaN: true }),
        fc.double({ min: 0, max: 360, noNaN: true }),
        (far, mm, bearing) => {
          fc.pre(mm / 2 < far * 0.9);
          const b = (bearing * Math.PI) / 180;
          const got = hiddenDeg(AT, [post(far * Math.cos(b), -far * Math.sin(b), mm)]);
          expect(Math.abs(got - 2 * deg(Math.asin(mm / 2 / far)))).toBeLessThanOrEqual(STEP_DEG + 1e-9);
        },
      ),
      { numRuns: 300 },
    );
  });
  it('a flat wall of width w square ahead at distance D hides 2·atan(w / 2D)', () => {
    fc.assert(
      fc.property(fc.double({ min: 200, max: 5000, noNaN: true }), fc.double({ min: 50, max: 8000, noNaN: true }), (far, w) => {
        const wall: Obstacle = {
          kind: 'box',
          id: 'wall',
          name: 'wall',
          from: { x: far, y: -w / 2, z: 0 },
          to: { x: far + 20, y: w / 2, z: 3000 },
        };
        expect(Math.abs(hiddenDeg(AT, [wall]) - 2 * deg(Math.atan(w / 2 / far)))).toBeLessThanOrEqual(STEP_DEG + 1e-9);
      }),
      { numRuns: 300 },
    );
  });
  it('what is above or below the light hides nothing; a leaning bar stands where it is at the light’s height', () => {
    expect(hiddenDeg(AT, [post(800, 0, 60, 0, 1990), post(800, 0, 60, 2010, 3000)])).toBe(0);
    const leaning: Obstacle = {
      kind: 'bar',
      id: 'l',
      name: 'l',
      from: { x: 1000, y: -500, z: 1000 },
      to: { x: 1000, y: 500, z: 3000 },
      mm: 100,
    };
    // half way up it is dead ahead
    const s = sightOf(AT, [leaning], null);
    expect(s.hiddenBy[0]).toBe(0);
    expect(s.hiddenBy[RAYS - 1]).toBe(0);
    expect(hiddenDeg(AT, [leaning])).toBeCloseTo(2 * deg(Math.asin(50 / 1000)), 0);
  });
  it('the post that a light stands on hides nothing of it', () => {
    expect(
      hiddenDeg(AT, [post(0, 0, 60), { kind: 'box', id: 'b', name: 'b', from: { x: -50, y: -50, z: 0 }, to: { x: 50, y: 50, z: 3000 } }]),
    ).toBe(0);
  });
  it('of two in line the nearer is named, and both together hide no more than the wider', () => {
    const s = sightOf(AT, [post(2000, 0, 400), post(1000, 0, 60)], null);
    expect(s.hiddenBy[0]).toBe(1);
    expect(hiddenDeg(AT, [post(2000, 0, 400), post(1000, 0, 60)])).toBe(hiddenDeg(AT, [post(2000, 0, 400)]));
  });
  it('bearings run clockwise from the bow: something to starboard, y below zero, is at 90°', () => {
    const [p] = hiddenPieces(sightOf(AT, [post(0, -1000, 200)], [0, 360]), [0, 360], [post(0, -1000, 200)]);
    expect((p!.from + p!.to) / 2).toBeCloseTo(90, 0);
  });
});

describe('sectors, 33 CFR 83.21', () => {
  const sides: [number, number][] = [
    [-112.5, 0],
    [0, 112.5],
  ];
  const [masthead, stern]: [number, number][] = [
    [-112.5, 112.5],
    [112.5, 247.5],
  ];
  it('sidelights make the masthead’s 225°, masthead and stern make 360°', () => {
    expect(
      gapsIn(
        masthead!,
        sides.map((a) => sightOf(AT, [], a)),
        [],
      ),
    ).toEqual([]);
    expect(
      gapsIn(
        [0, 360],
        [masthead!, stern!].map((a) => sightOf(AT, [], a)),
        [],
      ),
    ).toEqual([]);
    expect(gapsIn([0, 360], [sightOf(AT, [], masthead!)], [])).toEqual([{ from: 112.5, to: 247.5, by: null }]);
  });
  it('another light that is seen there closes the gap', () => {
    const obstacles = [post(0, -1000, 200)];
    const one = sightOf(AT, obstacles, [0, 360]);
    const two = sightOf({ ...AT, x: 1500 }, obstacles, [0, 360]);
    expect(gapsIn([0, 360], [one], obstacles).length).toBe(1);
    expect(gapsIn([0, 360], [one, two], obstacles)).toEqual([]);
  });
  it('a gap across dead ahead is one gap', () => {
    const obstacles = [post(1000, 0, 200)];
    const pieces = gapsIn([0, 360], [sightOf(AT, obstacles, null)], obstacles);
    expect(pieces.length).toBe(2);
    const [whole, ...more] = wholeGaps([0, 360], pieces);
    expect(more).toEqual([]);
    expect(whole!.to - whole!.from).toBeCloseTo(2 * deg(Math.asin(0.1)), 0);
  });
  it('knows a bearing in an arc, whichever turn it is given in', () => {
    expect([inArc(350, [-112.5, 0]), inArc(10, [-112.5, 0]), inArc(247, [112.5, 247.5]), inArc(5, [0, 360])]).toEqual([
      true,
      false,
      true,
      true,
    ]);
  });
});
